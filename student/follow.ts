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

/** Whether a text holds what is searched for, however it is written; nothing holds nothing. */
export function holdsWords(text: string, words: string): boolean {
  const wanted = words.trim().toLowerCase()
  return wanted !== '' && text.toLowerCase().includes(wanted)
}

/** What is said of a search, in words; nothing while nothing is searched for. */
export function saidOfSearch(words: string, hits: number): string {
  if (words.trim() === '') return ''
  return hits === 0 ? 'Nothing is found.' : `${hits} ${hits === 1 ? 'place' : 'places'}`
}
