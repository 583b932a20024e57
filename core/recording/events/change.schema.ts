import { z } from 'zod'
import { id } from '../../folio/basics'
import { Thing } from '../../folio/thing'
import { time } from './fields'

/** An object that is another from here on. */
export const ChangeEvent = z.object({ type: z.literal('change'), t: time, id, target: id, thing: Thing })
export type ChangeEvent = z.infer<typeof ChangeEvent>
