import { seededRandom } from '#core/ink'
import type { Folio } from '#core/folio'
import type { SiteCut } from './package'
import { canvasOfMoment } from './still'

/** Pictures are compared at this width, pixels. */
export const WIDTH = 480
/** Share of pixels that may be clearly unlike: edges of letters that fall otherwise. */
export const MOST_UNLIKE = 0.012
/** Moments of each cut that are compared. */
export const MOMENTS = 3

/** @returns lesson ms, spread over the lesson, the same for the same lesson */
export function momentsOf({ lesson: { edition } }: Pick<SiteCut, 'lesson'>, count: number): number[] {
  const random = seededRandom(Math.round(edition.duration))
  return Array.from({ length: count }, (_, i) => ((i + random()) / count) * Math.max(0, edition.duration - 100))
}

/** What is seen of pictures that lie over each other, RGBA. */
export function pixelsOf(...layers: readonly CanvasImageSource[]): Uint8ClampedArray {
  const height = Math.round((WIDTH * 9) / 16)
  const context = new OffscreenCanvas(WIDTH, height).getContext('2d', { willReadFrequently: true })!
  context.imageSmoothingQuality = 'high'
  for (const layer of layers) context.drawImage(layer, 0, 0, WIDTH, height)
  return context.getImageData(0, 0, WIDTH, height).data
}

/** The board of the edition at that moment. */
export async function wantedAt({ lesson: { edition } }: SiteCut, t: number, folio: Folio): Promise<Uint8ClampedArray> {
  const board = edition.boardAt(t)
  return pixelsOf(await canvasOfMoment(folio, board.frame ?? edition.first, board, 2 * WIDTH))
}
