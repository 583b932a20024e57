import { z } from 'zod'
import { id } from '../folio/basics'
import { Points, TakeEvent } from './events/schemas'
import { wholeTimes } from './storable'

/** Further samples of a stroke or trail that is still being written; only in the journal, never in a settled log. */
export const MoreInk = z.object({ type: z.literal('more'), id, points: Points })
/** An entry of a stored log under the names of this version: until schema 6 the event of an eraser was `cut`. */
export const underNewName = (entry: unknown): unknown =>
  (entry as { type?: unknown } | null)?.type === 'cut' ? { ...(entry as object), type: 'split' } : entry
/** An entry with whole milliseconds: some versions stored others, where a step was said again more than once. */
const inWholeMs = (entry: unknown): unknown => (typeof entry === 'object' && entry !== null ? wholeTimes(entry) : entry)
/** What the journal holds: events as they happened, strokes in pieces. */
export const JournalEntry = z.preprocess(entry => inWholeMs(underNewName(entry)), z.union([TakeEvent, MoreInk]))
export type JournalEntry = z.infer<typeof JournalEntry>

/** Joins the pieces of strokes; pieces of a stroke that never began are left out. */
export function settleJournal(entries: Iterable<JournalEntry>): TakeEvent[] {
  const strokes = new Map<string, { points: number[] }>()
  const events: TakeEvent[] = []
  for (const entry of entries) {
    if (entry.type === 'more') {
      const into = strokes.get(entry.id)?.points
      if (into) for (const n of entry.points) into.push(n)
      continue
    }
    if ('points' in entry) {
      const stroke = { ...entry, points: [...entry.points] }
      strokes.set(entry.id, stroke)
      events.push(stroke)
    } else events.push(entry)
  }
  return events
}

/** The events that count after going back: what was taken back is left out. */
export function pathOf(events: Iterable<TakeEvent>): TakeEvent[] {
  const path: TakeEvent[] = []
  for (const event of events) {
    if (event.type === 'back') while (path.length && (path[path.length - 1]!.t > event.to || event.to === 0)) path.pop()
    else path.push(event)
  }
  return path
}
