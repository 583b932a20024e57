import { z } from 'zod'

/** A teacher's line of text: any characters but control ones, trimmed of nothing, bounded in length. */
export const line = (max: number) => z.string().max(max)
export const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/)
/** Any number that a folio needs; far larger ones come of damage, and what is reckoned from them would never end. */
export const finite = z.number().min(-1e9).max(1e9)
/** A place on a page or a length there, points: the largest page with the most room is smaller by far. */
export const coordinate = z.number().min(-2e6).max(2e6)

/** A rectangle on a page in points (1/72 in), origin top left, y down. */
export const Box = z.object({ x: coordinate, y: coordinate, w: coordinate.positive(), h: coordinate.positive() })
export type Box = z.infer<typeof Box>

export { PEN_ROLES, type PenRole } from './roles'

/** A piece of a page (`from`) that is shown in a frame of another place (`box`), so that the problem stays in sight. */
export const Inset = z.object({ pageId: id, from: Box, box: Box })
export type Inset = z.infer<typeof Inset>

/** The rectangle of a page that students see, 16:9. */
export const Frame = z.object({ pageId: id, box: Box, inset: Inset.optional() })
export type Frame = z.infer<typeof Frame>
