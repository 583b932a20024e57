import { saveFile } from './files'
import { allKept, forget, keep, kept, onRefused } from './kept'
import { one, press, stoodAt } from './dom'
import type { SharedSettings } from './settings'

/** What she made here is hers: to be saved, and to be cleared. @param stop lets nothing be kept on the way out */
export function mine(stop: () => void): void {
  onRefused(() => {
    const line = one(document, '#kept-word')
    line.textContent = 'This browser keeps nothing for this page: what you write here is gone when you leave it.'
    line.hidden = false
  })
  one(document, '#save-mine').addEventListener('click', () => {
    saveFile('my-work.json', { form: 'orthograph-own', of: document.title, kept: allKept() })
  })
  one(document, '#clear-mine').addEventListener('click', e => {
    const button = e.target as HTMLButtonElement
    if (button.dataset.sure) {
      stop()
      for (const name of Object.keys(allKept())) forget(name)
      location.reload()
      return
    }
    button.dataset.sure = 'yes'
    button.textContent = 'Really clear it all'
  })
}

/** Light and dark, as she chose; else as her machine is. What is not reached yet is shown, or not. */
export function look(settings: SharedSettings): void {
  const theme = one<HTMLSelectElement>(document, '#theme')
  const wear = () => {
    if (theme.value === 'auto') delete document.documentElement.dataset.theme
    else document.documentElement.dataset.theme = theme.value
  }
  theme.value = kept('theme') ?? 'auto'
  if (!theme.value) theme.value = 'auto'
  wear()
  theme.addEventListener('change', () => {
    keep('theme', theme.value)
    wear()
  })
  const all = one(document, '#show-all')
  all.addEventListener('click', () => settings.change({ showsAll: !settings.now.showsAll }))
  settings.watch(({ showsAll }) => press(all, showsAll))
}

/** What was kept by a question's place, before it was kept by its id, is hers still. */
export function keptByIds(sections: readonly HTMLElement[]): void {
  for (const [name, value] of Object.entries(allKept())) {
    const [, kind, place, rest] = /^(attempt|choice) q(\d+)(.*)$/.exec(name) ?? []
    if (!place) continue
    const section = stoodAt(sections, place)
    if (!section) continue
    const renamed = `${kind} ${section.dataset.question}${rest}`
    if (kept(renamed) === null && !keep(renamed, value)) return
    forget(name)
  }
}
