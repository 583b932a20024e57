import type { Box } from '../folio/basics'
import type { StepPicture } from '../edition/stepPicture'
import { ScenePainter, type Context2D } from '../scene/canvas'
import { PAPER, sceneOf, type OutlineCache, type ScenePage } from '../scene/scene'
import type { Board } from '../recording/board'

/** How much of what was there before is seen, of ink and of print. */
const FAINT = 0.28
const PRINT = 0.45
const DARK_PAPER = '#1d2b26'

/** What is drawn on: the browser's canvas, on a page or off it. */
interface Sheet<Context> {
  width: number
  height: number
  getContext(kind: '2d'): Context | null
}
interface SheetContext extends Context2D {
  drawImage(image: never, x: number, y: number, w?: number, h?: number): void
}

/**
 * Paints what was written in a step over what was there before, faint.
 * @param scale pixels a point
 * @param newSheet gives another canvas
 */
export function paintStep(
  canvas: Sheet<unknown>,
  { board, own, box }: StepPicture,
  page: ScenePage,
  scale: number,
  print: { picture: unknown; box: Box } | null,
  outlines: OutlineCache,
  newSheet: (width: number, height: number) => Sheet<unknown>,
): void {
  if (!box) return
  canvas.width = Math.round(box.w * scale)
  canvas.height = Math.round(box.h * scale)
  const context = canvas.getContext('2d') as SheetContext
  const layer = (of: Board) => {
    const sheet = newSheet(canvas.width, canvas.height)
    const scene = sceneOf(of, page, box, outlines)
    // Ink alone: neither page nor squares, nor what moves over them.
    const ink = { ...scene, drawings: scene.drawings.filter(d => d.kind === 'ink' || d.kind === 'marks') }
    new ScenePainter(sheet.getContext('2d') as Context2D, sheet).paint(ink, () => undefined)
    return sheet
  }
  context.fillStyle = page.dark ? DARK_PAPER : PAPER
  context.fillRect(0, 0, canvas.width, canvas.height)
  context.globalAlpha = PRINT
  if (print)
    context.drawImage(
      print.picture as never,
      (print.box.x - box.x) * scale,
      (print.box.y - box.y) * scale,
      print.box.w * scale,
      print.box.h * scale,
    )
  context.globalAlpha = FAINT
  context.drawImage(layer(board) as never, 0, 0)
  context.globalAlpha = 1
  context.drawImage(layer(own) as never, 0, 0)
}
