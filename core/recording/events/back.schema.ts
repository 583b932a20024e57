import { z } from 'zod'
import { time } from './fields'

/** The teacher went back: the board stands again as it stood at `to`, and what came since is out of the timeline. */
export const BackEvent = z.object({ type: z.literal('back'), t: time, to: time })
export type BackEvent = z.infer<typeof BackEvent>
