import { inkOf } from '../take/meaning'
import type { Edition } from './edition'

/** How an edition goes along. Times are lesson ms. */
export interface Pacing {
  /** The longest stretch in which nothing new comes to the board, pauses for the student left out. */
  still: { from: number; to: number } | null
  /** Words a minute where words are known; null where none are. */
  wordsAMinute: number | null
}

/** How an edition goes along: where the board stands still longest, and how fast is spoken where words are known. */
export function pacingOf(edition: Edition): Pacing {
  const marks = edition.events
    .flatMap(e => (inkOf(e).length || e.type === 'frame' || e.type === 'look' ? [e.t] : []))
    .sort((a, b) => a - b)
  const turns = edition.turns()
  let still: Pacing['still'] = null
  let last = 0
  for (const t of [...marks, edition.duration]) {
    const held = turns.reduce((n, u) => n + Math.max(0, Math.min(t, u.to) - Math.max(last, u.t)), 0)
    if (t - last - held > (still ? still.to - still.from : 0)) still = { from: last, to: t - held }
    last = Math.max(last, t)
  }
  let words = 0
  let ms = 0
  for (const { step, from, to } of edition.time.steps) {
    const said = step.words.trim().split(/\s+/).filter(Boolean).length
    if (!said) continue
    words += said
    ms += to - from
  }
  return { still, wordsAMinute: ms ? Math.round((words * 60_000) / ms) : null }
}
