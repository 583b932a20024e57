import { z } from 'zod'
import { time } from './fields'

/** The take paused here (its clock stands still meanwhile) for `away` ms of the wall clock. */
export const PauseEvent = z.object({ type: z.literal('pause'), t: time, away: z.number().int().nonnegative() })
export type PauseEvent = z.infer<typeof PauseEvent>
