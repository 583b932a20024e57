import { all, one, put } from './dom'
import { holdsWords, saidOfSearch } from './follow'
import type { Front } from './front'
import type { QuestionView } from './question'

/** So many places are listed. */
const MOST_HITS = 40

/** An element's words; those of the elements in it stay apart. What is not reached yet is not told. */
const wordsOf = (place: HTMLElement): string =>
  [...place.childNodes]
    .filter(n => !(n instanceof HTMLElement) || !n.matches('.later, canvas'))
    .map(n => n.textContent ?? '')
    .join(' ')
    .replace(/\s+/g, ' ')
    .trim()

/** Search over all that is said, written, printed and typed. */
export function search(views: readonly QuestionView[], front: Front): void {
  const find = one<HTMLInputElement>(document, '#find')
  const list = one(document, '#hits')
  one<HTMLFormElement>(document, '.find').addEventListener('submit', e => e.preventDefault())
  const found = (view: QuestionView, place: HTMLElement, text: string) => {
    const button = Object.assign(document.createElement('button'), { type: 'button' })
    const isLater = place.classList.contains('unreached')
    const number = view.section.dataset.number
    button.textContent = isLater
      ? `${number}: later, at ${place.querySelector('.t')?.textContent ?? 'a moment to come'}`
      : `${number}: ${text.slice(0, 90)}`
    button.addEventListener('click', () => front.goTo(view, Number(place.dataset.t ?? 0), false))
    const item = document.createElement('li')
    item.append(button)
    return item
  }
  const run = () => {
    list.replaceChildren()
    let hits = 0
    for (const view of views)
      for (const place of all(view.section, '.steps button, .said, h2, .print p, .reply p')) {
        const text = wordsOf(place)
        const isHit = holdsWords(`${text} ${place.dataset.also ?? ''}`, find.value)
        place.classList.toggle('hit', isHit)
        if (isHit && ++hits <= MOST_HITS) list.append(found(view, place, text))
      }
    list.hidden = hits === 0
    put(one(document, '#found'), saidOfSearch(find.value, hits))
  }
  find.addEventListener('input', run)
  find.addEventListener('keydown', e => {
    if (e.key !== 'Escape') return
    find.value = ''
    run()
    find.blur()
  })
}
