/** A key and what it does here; `label` is what the list of keys says. */
export interface Key {
  key: string
  label: string
  run: () => void
  when?: () => boolean
}

/** All keys that work at the moment, by the part of the screen that brought them. */
export const useKeys = defineStore('keys', () => {
  const groups = ref<{ name: string; keys: Key[] }[]>([])
  const listOpen = ref(false)

  function add(name: string, keys: Key[]) {
    groups.value = [...groups.value, { name, keys }]
  }
  function remove(name: string) {
    groups.value = groups.value.filter(g => g.name !== name)
  }

  /** Finds what a key press does; fields that take text keep their keys. */
  function press(event: KeyboardEvent) {
    const target = event.target as HTMLElement | null
    const typing = target?.closest(
      'input:not([type=checkbox]):not([type=range]), textarea, select, [contenteditable=true]',
    )
    if (typing && event.key === 'Escape') (typing as HTMLElement).blur()
    if (typing) return
    // An open list or panel takes its own keys: letters find an entry, Escape closes it and nothing else.
    if (
      target?.closest('[role=listbox], [role=menu]') ||
      (event.key === 'Escape' && document.querySelector('[data-dismissable-layer]:not([role=tooltip])'))
    )
      return
    if (
      target?.closest('button, a, [role=option], [role=combobox], [role=menuitem]') &&
      (event.key === 'Enter' || event.key === ' ')
    )
      return
    const pressed = nameOf(event)
    // Tab walks through the screen as everywhere; only a hand that is on the board itself has other use for it.
    if (event.key === 'Tab' && target !== document.body) return
    const found = [...groups.value]
      .reverse()
      .flatMap(g => g.keys)
      .find(k => k.key === pressed && (k.when?.() ?? true))
    if (!found) return
    event.preventDefault()
    found.run()
  }

  return { groups, listOpen, add, remove, press }
})

/** "ctrl+z", "Space", "r". The command key of Apple keyboards counts as Control. */
function nameOf(event: KeyboardEvent): string {
  const base = event.key === ' ' ? 'Space' : event.key.length === 1 ? event.key.toLowerCase() : event.key
  const parts = [
    event.ctrlKey || event.metaKey ? 'ctrl' : '',
    event.shiftKey && (event.key.length > 1 || /[a-z]/i.test(event.key)) ? 'shift' : '',
    event.altKey ? 'alt' : '',
  ]
  return [...parts.filter(Boolean), base].join('+')
}
