import type { Folio, Frame } from '#core/folio'
import { ScenePainter, sceneOf, type Context2D } from '#core/scene'
import type { Board } from '#core/recording'
import { decodedDocument } from '../board/pictures'
import { pictureOfFrame } from '../paper/pageStore'

/** One moment of the board as a picture of `width` pixels, by the same scene as the video. */
export async function pictureOfMoment(
  folio: Folio,
  frame: Frame,
  board: Board,
  width: number,
  type: 'image/png' | 'image/webp' = 'image/png',
): Promise<Blob> {
  return (await canvasOfMoment(folio, frame, board, width)).convertToBlob({ type, quality: 0.75 })
}

/** The same, to be looked at here. */
export async function canvasOfMoment(
  folio: Folio,
  frame: Frame,
  board: Board,
  width: number,
): Promise<OffscreenCanvas> {
  const view = board.look ?? frame.box
  const picture = await pictureOfFrame(folio, frame, width / view.w, view)
  const placed = new Map(
    await Promise.all(
      board.things
        .flatMap(t => (t.thing.kind === 'picture' ? [t.thing.documentId] : []))
        .map(async id => [id, await decodedDocument(id)] as const),
    ),
  )
  const page = folio.pages.find(p => p.id === frame.pageId)!
  const canvas = new OffscreenCanvas(width, Math.round((width * 9) / 16))
  const context = canvas.getContext('2d', { alpha: false })!
  context.imageSmoothingQuality = 'high'
  new ScenePainter(context as unknown as Context2D, canvas).paint(sceneOf(board, page, view), id => ({
    box: view,
    draw: (c, b) =>
      (c as unknown as OffscreenCanvasRenderingContext2D).drawImage(
        id === page.id ? picture : placed.get(id)!,
        b.x,
        b.y,
        b.w,
        b.h,
      ),
  }))
  return canvas
}
