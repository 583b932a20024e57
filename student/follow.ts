/** A place on the student page that holds a stretch of the video, ms. */
export interface Place {
  from: number
  to: number
}

/** The index of the place that holds a moment, ms; -1 when none does. */
export function placeAt(places: readonly Place[], ms: number): number {
  return places.findIndex(p => ms >= p.from && ms < p.to)
}

/** The index of the pause for the student that was reached between two looks at the clock, ms; -1 when none was. */
export function turnReached(turns: readonly Place[], before: number, now: number): number {
  return turns.findIndex(t => before < t.from && now >= t.from)
}

/** The index of the step, not the last, that ended between two looks at the clock, ms; -1 when none did. */
export function stepEnded(steps: readonly { to: number }[], before: number, now: number): number {
  return steps.findIndex((s, i) => i < steps.length - 1 && before < s.to && now >= s.to)
}

/** Thousands as one number, whatever stands between them: "11 547" and "11,547" as "11547". */
const GROUPS = /(?<![\d.,])(\d{1,3})((?:[\s\u00a0\u2009\u202f'’,]\d{3})+)(?!\d)/g
/** A text as it is searched: numbers however they are spaced are one, and so are small and large letters. */
export const searchable = (text: string): string =>
  text
    .toLowerCase()
    .replace(GROUPS, (_, first: string, rest: string) => first + rest.replace(/\D/g, ''))
    .replace(/\s+/g, ' ')

/** Whether a text holds what is searched for, however it is written; nothing holds nothing. */
export function holdsWords(text: string, words: string): boolean {
  const wanted = searchable(words).trim()
  return wanted !== '' && searchable(text).includes(wanted)
}

/** The question and the moment, ms, that an address leads to: "q-2", "q-2&t=43.5"; what cannot be read leads nowhere. */
export function readAddress(hash: string): { name: string; t: number | null } {
  try {
    const [name = '', at] = decodeURIComponent(hash.replace(/^#/, '')).split('&t=')
    const t = at === undefined || !at.trim() ? Number.NaN : Number(at) * 1000
    return { name, t: Number.isFinite(t) && t >= 0 ? t : null }
  } catch {
    return { name: '', t: null }
  }
}

/** What is said of a search, in words; nothing while nothing is searched for. */
export function saidOfSearch(words: string, hits: number): string {
  if (words.trim() === '') return ''
  return hits === 0 ? 'Nothing is found.' : `${hits} ${hits === 1 ? 'place' : 'places'}`
}

export type QuestionState = 'unseen' | 'begun' | 'done'
/** What a question's mark in a strip says. */
export const SAID_OF_STATE: Record<QuestionState, string> = { unseen: '', begun: ', begun', done: ', done' }

/** How far a question of some length is seen, ms; `done` is seen to its end, whose last second is often silence. */
export const stateAfter = (farthest: number, duration: number): QuestionState =>
  farthest <= 0 ? 'unseen' : farthest >= duration - LAST_SECOND ? 'done' : 'begun'
const LAST_SECOND = 1000
