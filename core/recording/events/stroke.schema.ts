import { z } from 'zod'
import { strokeFields, time } from './fields'

/** A stroke from pen down to pen up. `id` names the operation, so that it can be undone. */
export const StrokeEvent = z.object({ type: z.literal('stroke'), t: time, ...strokeFields })
export type StrokeEvent = z.infer<typeof StrokeEvent>
