import { all, one } from './dom'
import { JUMP } from './controls'
import type { Front } from './front'
import type { SharedSettings } from './settings'

/** Keys of what plays; not in a field, and not where they mean something else. */
export function keys(front: Front, settings: SharedSettings): void {
  document.addEventListener('keydown', e => {
    const target = e.target as HTMLElement
    if (e.ctrlKey || e.metaKey || e.altKey) return
    if (e.key === 'Escape') return closeMenus()
    if (/^(TEXTAREA|SELECT)$/.test(target.tagName) || (target.matches('input') && !target.matches('[type=range]')))
      return
    if (e.key === ' ' && /^(BUTTON|A|SUMMARY)$/.test(target.tagName)) return
    const run = actionOf(e, front, settings)
    if (!run) return
    e.preventDefault()
    run()
  })
}

function closeMenus(): void {
  for (const menu of all<HTMLDetailsElement>(document, 'details.menu[open]')) {
    menu.open = false
    one(menu, 'summary').focus()
  }
}

function actionOf(e: KeyboardEvent, front: Front, settings: SharedSettings): (() => void) | undefined {
  const view = front.current
  const anywhere: Record<string, () => void> = {
    '/': () => one(document, '#find').focus(),
    '?': () => {
      one<HTMLDetailsElement>(document, '#about').open = true
      one<HTMLDetailsElement>(document, '.keys').open = true
    },
    's': () => settings.change({ stops: !settings.now.stops }),
    'c': () => settings.change({ captions: !settings.now.captions }),
  }
  const key = e.key.length === 1 ? e.key.toLowerCase() : e.key
  if (anywhere[key]) return anywhere[key]
  if (/^[1-9]$/.test(key)) {
    const place = front.places[Number(key) - 1]
    return place === undefined ? undefined : () => front.show(place)
  }
  if (!view) return undefined
  const playing: Record<string, () => void> = {
    ' ': () => void view.toggle(),
    'ArrowRight': () => (e.shiftKey ? void view.toStep(1) : view.jump(JUMP)),
    'ArrowLeft': () => (e.shiftKey ? void view.toStep(-1) : view.jump(-JUMP)),
    'f': () => view.full(),
  }
  return playing[key]
}
