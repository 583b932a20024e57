import type { StepPicture } from '#core/edition/proofing'
import type { Box, Folio, Frame, Page } from '#core/folio'
import { Lately } from '../data/lately'
import { pictureOfFrame } from '../paper/pageStore'
import { ScenePainter, sceneOf, OutlineCache, type Context2D } from '#core/scene'

/** How much of what was there before is seen. */
const FAINT = 0.28
const PRINT = 0.45
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

/** Paints what was written in a step over what was there before. @param scale pixels a point */
export function paintStep(
  canvas: HTMLCanvasElement,
  { board, own, box }: StepPicture,
  page: Page,
  scale: number,
  density: number,
  print: { picture: CanvasImageSource; box: Box } | null,
): void {
  if (!box) return
  canvas.width = Math.round(box.w * scale * density)
  canvas.height = Math.round(box.h * scale * density)
  const context = canvas.getContext('2d')!
  const of = { id: page.id, width: page.width, height: page.height, dark: page.kind === 'blank' && page.dark }
  const layer = (of_: typeof board) => {
    const sheet = new OffscreenCanvas(canvas.width, canvas.height)
    const scene = sceneOf(of_, of, box, outlines)
    // Ink alone: neither page nor squares, nor what moves over them.
    const ink = { ...scene, drawings: scene.drawings.filter(d => d.kind === 'ink' || d.kind === 'marks') }
    new ScenePainter(sheet.getContext('2d') as unknown as Context2D, sheet).paint(ink, () => undefined)
    return sheet
  }
  context.fillStyle = of.dark ? '#1d2b26' : '#ffffff'
  context.fillRect(0, 0, canvas.width, canvas.height)
  context.globalAlpha = PRINT
  if (print)
    context.drawImage(
      print.picture,
      (print.box.x - box.x) * scale * density,
      (print.box.y - box.y) * scale * density,
      print.box.w * scale * density,
      print.box.h * scale * density,
    )
  context.globalAlpha = FAINT
  context.drawImage(layer(board), 0, 0)
  context.globalAlpha = 1
  context.drawImage(layer(own), 0, 0)
}
