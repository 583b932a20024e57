import { z } from 'zod'
import { id } from '../../folio/basics'
import { Thing } from '../../folio/thing'
import { over, time } from './fields'

/**
 * An object put on the board; it is drawn in the course of `over` ms. `held` names the held line it was; `instead` what
 * it takes the place of.
 */
export const PlaceEvent = z.object({
  type: z.literal('place'),
  t: time,
  id,
  thing: Thing,
  over,
  held: id.optional(),
  instead: z.array(id).optional(),
})
export type PlaceEvent = z.infer<typeof PlaceEvent>
