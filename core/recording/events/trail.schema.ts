import { z } from 'zod'
import { id } from '../../folio/basics'
import { Points, time } from './fields'

/** A pointer that leaves a fading trail; `points` as those of a stroke. */
export const TrailEvent = z.object({ type: z.literal('trail'), t: time, id, points: Points })
export type TrailEvent = z.infer<typeof TrailEvent>
