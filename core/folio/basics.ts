import { z } from 'zod'

/** A teacher's line of text: any characters but control ones, trimmed of nothing, bounded in length. */
export const line = (max: number) => z.string().max(max)
export const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/)
export const finite = z.number().finite()

/** A rectangle on a page in points (1/72 in), origin top left, y down. */
export const Box = z.object({ x: finite, y: finite, w: finite.positive(), h: finite.positive() })
export type Box = z.infer<typeof Box>

/** What a stroke is for; it sets colour, width and line style, and travels with the stroke into every export. */
export const PEN_ROLES = ['working', 'given', 'carry', 'answer', 'aside'] as const
export type PenRole = typeof PEN_ROLES[number]
