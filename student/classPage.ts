import type { ClassWords } from '../core/publish/listing'
import { findIn, searchIndex, type ClassHit, type Searched } from './classSearch'
import { all, one, put } from './dom'
import { SAID_OF_STATE, saidOfSearch, stateAfter } from './follow'
import { keptOfLesson } from './kept'

/** The class page's own script: how far this browser got, what is new, and the search over all lessons. */

document.documentElement.classList.add('scripted')

/** Marks a lesson's questions, and says how many are done. @returns whether it is new, or has changed since she saw it */
function marked(row: HTMLElement): 'new' | 'changed' | null {
  const { lesson } = row.dataset
  if (lesson === undefined) return null
  const visited = Date.parse(keptOfLesson(lesson, 'visited') ?? '')
  const links = all<HTMLAnchorElement>(row, '.strip li:not(.closed) a')
  let done = 0
  for (const link of links) {
    const { question, duration } = link.dataset
    const state = stateAfter(Number(keptOfLesson(lesson, `seen ${question}`)) || 0, Number(duration))
    if (state === 'done') done++
    link.dataset.state = state
    put(one(link, '.state'), SAID_OF_STATE[state])
  }
  if (done) put(one(row, '.far'), `${done} of ${links.length} done`)
  const changed = [row.dataset.changed, ...links.map(l => l.dataset.changed)].some(at => Date.parse(at ?? '') > visited)
  const what = Number.isNaN(visited) ? 'new' : changed ? 'changed' : null
  const badge = one(row, '.new')
  badge.hidden = !what
  put(badge, what ?? '')
  return what
}

const rows = all(document, '.lesson-row')
const news = rows.map(marked)
const count = (what: string) => news.filter(n => n === what).length
// On a first visit everything is new, which says nothing.
if (news.some(n => n !== 'new')) {
  const parts = [
    count('new') ? `${count('new')} ${count('new') === 1 ? 'lesson is' : 'lessons are'} new` : '',
    count('changed') ? `${count('changed')} ${count('changed') === 1 ? 'has' : 'have'} changed` : '',
  ].filter(Boolean)
  const line = one(document, '.since')
  put(line, parts.length ? `Since you were here: ${parts.join('; ')}.` : '')
  line.hidden = !parts.length
} else for (const badge of all(document, '.new')) badge.hidden = true

for (const time of all<HTMLTimeElement>(document, 'time[datetime]')) {
  const style = time.closest('.ahead') ? ({ timeStyle: 'short' } as const) : {}
  time.textContent = new Date(time.dateTime).toLocaleString('en-GB', { dateStyle: 'long', ...style })
}

const field = document.querySelector<HTMLInputElement>('#find')
if (field) search(field)

/** Words come when she begins to search: most visits are for one lesson. */
function search(find: HTMLInputElement): void {
  const list = one(document, '#hits')
  const line = one(document, '#found')
  let words: Promise<Searched[]> | null = null
  const load = () =>
    (words ??= fetch('search.json')
      .then(async r => searchIndex((await r.json()) as ClassWords, keptOfLesson))
      .catch((error: unknown) => {
        words = null
        throw error
      }))
  const run = async () => {
    const wanted = find.value
    try {
      if (!wanted.trim()) return show([], 0, wanted)
      const index = await load()
      if (find.value !== wanted) return
      const { hits, count: found } = findIn(index, wanted)
      show(hits, found, wanted)
    } catch {
      put(line, 'The search cannot be reached now. Try it again in a moment.')
    }
  }
  function show(hits: readonly ClassHit[], found: number, wanted: string) {
    list.replaceChildren(
      ...hits.map(({ address, text }) => {
        const item = document.createElement('li')
        item.append(Object.assign(document.createElement('a'), { href: address, textContent: text }))
        return item
      }),
    )
    list.hidden = hits.length === 0
    put(line, saidOfSearch(wanted, found))
  }
  one<HTMLFormElement>(document, '.find').addEventListener('submit', e => {
    e.preventDefault()
    list.querySelector('a')?.click()
  })
  find.addEventListener('focus', () => void load().catch(() => {}))
  find.addEventListener('input', () => void run())
  find.addEventListener('keydown', e => {
    if (e.key === 'Escape') {
      find.value = ''
      void run()
      find.blur()
    }
    if (e.key === 'ArrowDown') list.querySelector('a')?.focus()
  })
  list.addEventListener('keydown', e => {
    const links = all<HTMLAnchorElement>(list, 'a')
    const i = links.indexOf(document.activeElement as HTMLAnchorElement)
    if (e.key === 'ArrowDown') links[i + 1]?.focus()
    else if (e.key === 'ArrowUp') (links[i - 1] ?? find).focus()
    else if (e.key === 'Escape') find.focus()
    else return
    e.preventDefault()
  })
  document.addEventListener('keydown', e => {
    if (e.key !== '/' || document.activeElement === find) return
    e.preventDefault()
    find.focus()
  })
}
