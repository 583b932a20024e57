import { z } from 'zod'
import { Box } from '../../folio/basics'
import { time } from './fields'

/** Everything but this piece of the page steps back; null ends it. */
export const SpotEvent = z.object({ type: z.literal('spot'), t: time, box: Box.nullable() })
export type SpotEvent = z.infer<typeof SpotEvent>
