import { z } from 'zod'
import { id } from '../../folio/basics'
import { time } from './fields'

/** A pause for the student: asks to try for a suggested time (s); the video holds still for `hold` s. */
export const TurnEvent = z.object({
  type: z.literal('turn'),
  t: time,
  id,
  seconds: z.number().int().positive().max(3600),
  hold: z.number().int().nonnegative().max(600),
})
export type TurnEvent = z.infer<typeof TurnEvent>
