import { z } from 'zod'
import { id } from '../../folio/basics'
import { time } from './fields'

/** Strokes and objects taken off the board in one sweep. */
export const EraseEvent = z.object({ type: z.literal('erase'), t: time, id, strokes: z.array(id) })
export type EraseEvent = z.infer<typeof EraseEvent>
