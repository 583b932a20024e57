import { z } from 'zod'
import { Frame } from '../../folio/basics'
import { time } from './fields'

/** From here on students see this frame; what is written goes on its page. */
export const FrameEvent = z.object({ type: z.literal('frame'), t: time, frame: Frame })
export type FrameEvent = z.infer<typeof FrameEvent>
