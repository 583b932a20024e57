/** A key and what it does here; `label` is what the list of keys says. */
export interface Key {
  key: string
  label: string
  /** What it does; a sentence where it can do nothing now, which is said. */
  run: () => unknown
  when?: () => boolean
  /** A key of a running take: it works wherever the focus is, and with Alt also in a text that is typed. */
  take?: boolean
}

const TEXT = 'input:not([type=checkbox]):not([type=range]):not([type=radio]), textarea, select, [contenteditable=true]'

/** All keys that work at the moment, by the part of the screen that brought them. */
export const useKeys = defineStore('keys', () => {
  const notices = useNotices()
  const groups = ref<{ name: string; keys: Key[] }[]>([])
  const listOpen = ref(false)
  /** The text that is being typed on the board: what is typed anywhere else goes there, and is never a key. */
  const typed = shallowRef<HTMLInputElement | null>(null)

  function add(name: string, keys: Key[]) {
    groups.value = [...groups.value, { name, keys }]
  }
  function remove(name: string) {
    groups.value = groups.value.filter(g => g.name !== name)
  }
  const find = (pressed: string, only: (k: Key) => boolean = () => true) =>
    [...groups.value]
      .reverse()
      .flatMap(g => g.keys)
      .find(k => k.key === pressed && only(k) && (k.when?.() ?? true))

  function run(key: Key, event: KeyboardEvent) {
    event.preventDefault()
    const why = key.run()
    if (typeof why === 'string') notices.say(why)
  }

  /** Finds what a key press does; texts that are typed keep their keys. */
  function press(event: KeyboardEvent) {
    const target = event.target as HTMLElement | null
    const pressed = nameOf(event)
    if (target?.closest(TEXT)) return pressInText(target, pressed, event)
    if (typed.value?.isConnected && event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey)
      return typed.value.focus()
    // An open list or panel takes its own keys: letters find an entry, Escape closes it and nothing else.
    if (
      target?.closest('[role=listbox], [role=menu]') ||
      (event.key === 'Escape' && document.querySelector('[data-dismissable-layer]:not([role=tooltip])'))
    )
      return
    const ofTake = find(pressed, k => k.take === true)
    const pressesButton =
      target?.closest('button, a, [role=option], [role=combobox], [role=menuitem]') &&
      (event.key === 'Enter' || event.key === ' ')
    if (pressesButton && !ofTake) return
    // Tab walks through the screen as everywhere; only a hand that is on the board itself has other use for it.
    if (event.key === 'Tab' && target !== document.body) return
    const found = (pressesButton && ofTake) || find(pressed)
    if (found) run(found, event)
  }

  /** In a text: the take's keys with Alt; Escape leaves the text, and puts the tool down that it belongs to. */
  function pressInText(target: HTMLElement, pressed: string, event: KeyboardEvent) {
    if (event.key === 'Escape') {
      target.blur()
      const down = target.closest('[data-part=tool-options]') && find('Escape')
      if (down) run(down, event)
      return
    }
    if (!event.altKey) return
    const found = find(pressed.replace('alt+', ''), k => k.take === true)
    if (found) run(found, event)
  }

  return { groups, listOpen, typed, add, remove, press }
})

/** "ctrl+z", "Space", "r". The command key of Apple keyboards counts as Control; with Alt, the key's own letter counts. */
function nameOf(event: KeyboardEvent): string {
  const letter = event.altKey ? /^Key([A-Z])$/.exec(event.code)?.[1]?.toLowerCase() : undefined
  const base = letter ?? (event.key === ' ' ? 'Space' : event.key.length === 1 ? event.key.toLowerCase() : event.key)
  const parts = [
    event.ctrlKey || event.metaKey ? 'ctrl' : '',
    event.shiftKey && (event.key.length > 1 || /[a-z]/i.test(event.key)) ? 'shift' : '',
    event.altKey ? 'alt' : '',
  ]
  return [...parts.filter(Boolean), base].join('+')
}
