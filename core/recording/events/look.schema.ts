import { z } from 'zod'
import { Box } from '../../folio/basics'
import { over, time } from './fields'

/** Students see this piece of the page, going there in `over` ms; null for the frame again. */
export const LookEvent = z.object({ type: z.literal('look'), t: time, box: Box.nullable(), over })
export type LookEvent = z.infer<typeof LookEvent>
