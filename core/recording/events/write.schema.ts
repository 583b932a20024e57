import { z } from 'zod'
import { id } from '../../folio/basics'
import { strokeFields, time } from './fields'

/**
 * Ink that is written for the teacher from `t` on, one operation for undo; `guide` and `move` tell which move of a
 * layout guide it is.
 */
export const WriteEvent = z.object({
  type: z.literal('write'),
  t: time,
  id,
  strokes: z.array(z.object(strokeFields)),
  guide: id.optional(),
  move: z.number().int().nonnegative().optional(),
})
export type WriteEvent = z.infer<typeof WriteEvent>
