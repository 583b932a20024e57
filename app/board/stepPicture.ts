import type { StepPicture } from '#core/edition'
import type { Box, Folio, Frame, Page } from '#core/folio'
import { Lately } from '../data/lately'
import { pictureOfFrame } from '../paper/pageStore'
import { paintStep as paint } from '#core/lesson'
import { OutlineCache } from '#core/scene'

const outlines = new OutlineCache()
/** Print under the ink, drawn once for all rows: pixels a point. */
const PRINT_SCALE = 1.6
const prints = new Lately<Promise<CanvasImageSource>>(6)

/** The print of a frame, as it is seen under the ink. */
export function printOf(folio: Folio, frame: Frame, page: Page): Promise<CanvasImageSource> {
  const key = JSON.stringify([folio.id, page, frame])
  const made = prints.get(key) ?? pictureOfFrame(folio, frame, PRINT_SCALE, frame.box)
  prints.set(key, made)
  made.catch(() => prints.delete(key))
  return made
}

/** Paints what was written in a step over what was there before. @param scale pixels a point, as it is laid out */
export function paintStep(
  canvas: HTMLCanvasElement,
  picture: StepPicture,
  page: Page,
  scale: number,
  density: number,
  print: { picture: CanvasImageSource; box: Box } | null,
): void {
  const of = { id: page.id, width: page.width, height: page.height, dark: page.kind === 'blank' && page.dark }
  paint(canvas, picture, of, scale * density, print, outlines, (w, h) => new OffscreenCanvas(w, h))
}
