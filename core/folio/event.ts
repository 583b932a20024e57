import { z } from 'zod'
import { Box, Frame, id, PEN_ROLES } from './basics'
import { Thing } from './thing'

const t = z.number().int().nonnegative()
/** Flat samples: x, y in points, pressure 0…1, t in take ms. */
export const Points = z.custom<number[]>(isSamples, 'whole samples of four numbers')
/** One look at each number: a schema for each of the millions in a long take would take half a minute. */
function isSamples(value: unknown): boolean {
  if (!Array.isArray(value) || value.length % 4 !== 0) return false
  for (const n of value as unknown[]) if (typeof n !== 'number' || !(n >= -1e9 && n <= 1e9)) return false
  return true
}

/** How long something takes to appear or to move, ms; bounded, as it is drawn moment by moment. */
const over = z.number().int().nonnegative().max(600_000)

/** A stroke from pen down to pen up. `id` names the operation, so that it can be undone. */
const stroke = {
  id,
  role: z.enum(PEN_ROLES),
  tool: z.enum(['pen', 'touch', 'mouse']),
  size: z.number().positive().max(20).optional(),
  points: Points,
}
export const StrokeEvent = z.object({ type: z.literal('stroke'), t, ...stroke })
/** Strokes and things taken off the board in one sweep. */
export const EraseEvent = z.object({ type: z.literal('erase'), t, id, strokes: z.array(id) })
/** Takes back the operation `target`; never an earlier undo. */
export const UndoEvent = z.object({ type: z.literal('undo'), t, target: id })
export const RedoEvent = z.object({ type: z.literal('redo'), t, target: id })
/** The step so far ends here and the next begins. */
export const StepEvent = z.object({ type: z.literal('step'), t, id })
/** The take paused here (its clock stands still meanwhile) for `away` ms of the wall clock. */
export const PauseEvent = z.object({ type: z.literal('pause'), t, away: z.number().int().nonnegative() })

/**
 * A thing put on the board; it is drawn in the course of `over` ms. `held` names the held line it was; `instead` what
 * it takes the place of.
 */
export const PlaceEvent = z.object({
  type: z.literal('place'),
  t,
  id,
  thing: Thing,
  over,
  held: id.optional(),
  instead: z.array(id).optional(),
})
/** A thing that is another from here on. */
export const ChangeEvent = z.object({ type: z.literal('change'), t, id, target: id, thing: Thing })
/** Strokes and things moved, grown or given another role. */
export const AlterEvent = z.object({
  type: z.literal('alter'),
  t,
  id,
  targets: z.array(id),
  matrix: z.array(z.number().min(-1e9).max(1e9)).length(6).optional(),
  role: z.enum(PEN_ROLES).optional(),
})
/** What an eraser left of strokes: ranges of their samples. */
export const SplitEvent = z.object({
  type: z.literal('split'),
  t,
  id,
  strokes: z.array(
    z.object({ id, keep: z.array(z.tuple([z.number().int().nonnegative(), z.number().int().nonnegative()])) }),
  ),
})
/**
 * Ink that is written for the teacher from `t` on, one operation for undo; `guide` and `move` tell which move of a
 * layout guide it is.
 */
export const WriteEvent = z.object({
  type: z.literal('write'),
  t,
  id,
  strokes: z.array(z.object(stroke)),
  guide: id.optional(),
  move: z.number().int().nonnegative().optional(),
})
/** Students see this piece of the page, going there in `over` ms; null for the frame again. */
export const LookEvent = z.object({ type: z.literal('look'), t, box: Box.nullable(), over })
/** Everything but this piece of the page steps back; null ends it. */
export const SpotEvent = z.object({ type: z.literal('spot'), t, box: Box.nullable() })
/** A pointer that leaves a fading trail; `points` as those of a stroke. */
export const TrailEvent = z.object({ type: z.literal('trail'), t, id, points: Points })

/** Events of which nothing stays on the board: students see them for a while, and undo passes them over. */
const SEEN = [LookEvent, SpotEvent, TrailEvent] as const
export type SeenEvent = z.infer<(typeof SEEN)[number]>
/** Such an event before it has its moment; what the pen draws of it comes sample by sample instead. */
export type Shown = Untimed<Exclude<SeenEvent, { points: unknown }>>
type Untimed<E> = E extends unknown ? Omit<E, 't'> : never

/** The teacher went back: the board stands again as it stood at `to`, and what came since is out of the cut. */
export const BackEvent = z.object({ type: z.literal('back'), t, to: t })
/** A pause for the student: asks to try for a suggested time (s); the video holds still for `hold` s. */
export const TurnEvent = z.object({
  type: z.literal('turn'),
  t,
  id,
  seconds: z.number().int().positive().max(3600),
  hold: z.number().int().nonnegative().max(600),
})

/** From here on students see this frame; what is written goes on its page. */
export const FrameEvent = z.object({ type: z.literal('frame'), t, frame: Frame })

export const TakeEvent = z.discriminatedUnion('type', [
  StrokeEvent,
  EraseEvent,
  UndoEvent,
  RedoEvent,
  StepEvent,
  PauseEvent,
  FrameEvent,
  PlaceEvent,
  ChangeEvent,
  AlterEvent,
  SplitEvent,
  WriteEvent,
  ...SEEN,
  BackEvent,
  TurnEvent,
])
export type TakeEvent = z.infer<typeof TakeEvent>
export type StrokeEvent = z.infer<typeof StrokeEvent>
