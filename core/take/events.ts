import { z } from 'zod'
import { Frame } from '../folio/model'
import { PEN_ROLES } from '../ink/roles'

const t = z.number().int().nonnegative()
const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/)
/** Flat samples: x, y in points, pressure 0…1, t in take ms. */
const points = z.array(z.number().finite()).refine(p => p.length % 4 === 0, 'whole samples of four numbers')

/** A stroke from pen down to pen up. `id` names the operation, so that it can be undone. */
export const StrokeEvent = z.object({ type: z.literal('stroke'), t, id, role: z.enum(PEN_ROLES), tool: z.enum(['pen', 'touch', 'mouse']), points })
/** Strokes taken off the board in one sweep of the eraser. */
export const EraseEvent = z.object({ type: z.literal('erase'), t, id, strokes: z.array(id) })
/** Takes back the operation `target`; never an earlier undo. */
export const UndoEvent = z.object({ type: z.literal('undo'), t, target: id })
export const RedoEvent = z.object({ type: z.literal('redo'), t, target: id })
/** The step so far ends here and the next begins. */
export const StepEvent = z.object({ type: z.literal('step'), t, id })
/** The take paused here (its clock stands still meanwhile) for `away` ms of the wall clock. */
export const PauseEvent = z.object({ type: z.literal('pause'), t, away: z.number().int().nonnegative() })

/** From here on students see this frame; what is written goes on its page. */
export const FrameEvent = z.object({ type: z.literal('frame'), t, frame: Frame })

export const TakeEvent = z.discriminatedUnion('type', [StrokeEvent, EraseEvent, UndoEvent, RedoEvent, StepEvent, PauseEvent, FrameEvent])
export type TakeEvent = z.infer<typeof TakeEvent>
export type StrokeEvent = z.infer<typeof StrokeEvent>

/** Further samples of a stroke that is still being written; only in the journal, never in a settled log. */
export const MoreInk = z.object({ type: z.literal('more'), id, points })
/** What the journal holds: events as they happened, strokes in pieces. */
export const JournalEntry = z.union([TakeEvent, MoreInk])
export type JournalEntry = z.infer<typeof JournalEntry>

/** Joins the pieces of strokes; pieces of a stroke that never began are left out. */
export function settleJournal(entries: Iterable<JournalEntry>): TakeEvent[] {
  const strokes = new Map<string, StrokeEvent>()
  const events: TakeEvent[] = []
  for (const entry of entries) {
    if (entry.type === 'more') {
      const into = strokes.get(entry.id)?.points
      if (into) for (const n of entry.points) into.push(n)
      continue
    }
    if (entry.type === 'stroke') {
      const stroke = { ...entry, points: [...entry.points] }
      strokes.set(entry.id, stroke)
      events.push(stroke)
    }
    else events.push(entry)
  }
  return events
}

/** The moment an event is over, take ms: the last sample of a stroke, the time of anything else. */
export function endOf(event: TakeEvent): number {
  return event.type === 'stroke' && event.points.length ? event.points[event.points.length - 1]! : event.t
}
