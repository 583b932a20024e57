import { BoardFollower, kindOf, type OperationRef } from '../recording/events'
import type { Edition } from './edition'

/** How an edition goes along. Times are lesson ms. */
export interface Pacing {
  /** The longest stretch in which nothing new comes to the board, pauses for the student left out. */
  still: { from: number; to: number } | null
  /** Words a minute where words are known; null where none are. */
  wordsAMinute: number | null
}

/** Notes when something new comes to the board or into view, ms. */
class NewsFollower extends BoardFollower {
  readonly times: number[] = []

  override addStrokes({ t }: OperationRef): void {
    this.times.push(t)
  }
  override addObject({ t }: OperationRef): void {
    this.times.push(t)
  }
  override setFrame(t: number): void {
    this.times.push(t)
  }
  override zoom(t: number): void {
    this.times.push(t)
  }
}

/** How an edition goes along: where the board stands still longest, and how fast is spoken where words are known. */
export function pacingOf(edition: Edition): Pacing {
  const news = new NewsFollower()
  for (const event of edition.events) kindOf(event).apply(event, news)
  const marks = news.times.sort((a, b) => a - b)
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
