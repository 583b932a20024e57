import type { Box } from '#core/folio'

/** Most pixels of one page picture, so that a poster-sized page cannot take all memory. */
const MOST_PIXELS = 16_000_000

/** The scale (pixels a point) at which a box keeps within the pixels of one picture. */
export const fitScale = (box: Box, scale: number) => Math.min(scale, Math.sqrt(MOST_PIXELS / (box.w * box.h)))
