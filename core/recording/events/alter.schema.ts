import { z } from 'zod'
import { id, PEN_ROLES } from '../../folio/basics'
import { time } from './fields'

/** Strokes and objects moved, grown or given another role. */
export const AlterEvent = z.object({
  type: z.literal('alter'),
  t: time,
  id,
  targets: z.array(id),
  matrix: z.array(z.number().min(-1e9).max(1e9)).length(6).optional(),
  role: z.enum(PEN_ROLES).optional(),
})
export type AlterEvent = z.infer<typeof AlterEvent>
