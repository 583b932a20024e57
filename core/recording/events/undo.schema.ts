import { z } from 'zod'
import { id } from '../../folio/basics'
import { time } from './fields'

/** Takes back the operation `target`; never an earlier undo. */
export const UndoEvent = z.object({ type: z.literal('undo'), t: time, target: id })
export type UndoEvent = z.infer<typeof UndoEvent>
