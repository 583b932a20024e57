import { z } from 'zod'
import { id } from '../../folio/basics'
import { time } from './fields'

/** What an eraser left of strokes: ranges of their samples. */
export const SplitEvent = z.object({
  type: z.literal('split'),
  t: time,
  id,
  strokes: z.array(
    z.object({ id, keep: z.array(z.tuple([z.number().int().nonnegative(), z.number().int().nonnegative()])) }),
  ),
})
export type SplitEvent = z.infer<typeof SplitEvent>
