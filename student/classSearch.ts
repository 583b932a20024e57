import type { ClassWords } from '../core/publish/listing'
import { clockTime } from '../core/publish/names'
import { searchable, stateAfter } from './follow'

/** A place in a lesson that may be found. @property text what is searched, ready for it @property says what is shown of it */
export interface Searched {
  text: string
  address: string
  says: string
}
export interface ClassHit {
  address: string
  text: string
}

/** So many places are listed. */
const MOST_HITS = 40
/** Letters of what was found that are shown. */
const MOST_LETTERS = 90

/**
 * All places of all lessons. Of a step that this student has not reached, only its moment is shown: what it says may be
 * the answer.
 * @param kept what her browser keeps of a lesson, by name
 */
export function searchIndex(words: ClassWords, kept: (lesson: string, name: string) => string | null): Searched[] {
  return words.flatMap(({ address, lesson, title, questions }) => [
    { text: searchable(title), address, says: title },
    ...questions.flatMap(q => {
      const seen = Number(kept(lesson, `seen ${q.id}`)) || 0
      const isDone = stateAfter(seen, q.duration) === 'done'
      const of = `${title}, ${q.number}`
      const to = `${address}#q-${q.id}`
      const name = q.title ? `${of}: ${q.title}` : of
      return [
        {
          text: searchable(`${q.title}\n${q.print}`),
          address: to,
          says: q.title ? name : `${of}: ${firstLine(q.print)}`,
        },
        ...q.steps.map(([t, said]) => ({
          text: searchable(said),
          address: `${to}&t=${t / 1000}`,
          says: isDone || t < seen ? `${of}: ${firstLine(said)}` : `${name}, at ${clockTime(t)}`,
        })),
      ]
    }),
  ])
}

const firstLine = (text: string) => text.split('\n', 1)[0]!.slice(0, MOST_LETTERS)

/** What is found of some words, the first of it to be listed, and how much there is in all. */
export function findIn(index: readonly Searched[], words: string): { hits: ClassHit[]; count: number } {
  const wanted = searchable(words).trim()
  if (!wanted) return { hits: [], count: 0 }
  const found = index.filter(place => place.text.includes(wanted))
  return {
    hits: found.slice(0, MOST_HITS).map(({ address, says }) => ({ address, text: says })),
    count: found.length,
  }
}
