import { z } from 'zod'
import { id } from '../../folio/basics'
import { time } from './fields'

/** Brings back the operation `target` that was undone. */
export const RedoEvent = z.object({ type: z.literal('redo'), t: time, target: id })
export type RedoEvent = z.infer<typeof RedoEvent>
