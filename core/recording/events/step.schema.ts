import { z } from 'zod'
import { id } from '../../folio/basics'
import { time } from './fields'

/** The step so far ends here and the next begins. */
export const StepEvent = z.object({ type: z.literal('step'), t: time, id })
export type StepEvent = z.infer<typeof StepEvent>
