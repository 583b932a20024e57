import type { PagePicture } from '#core/scene'
import { loadDocument } from '../data/folios'
import { Lately } from '../data/lately'

/**
 * Pictures on boards, those shown lately. One that is let go of may still be drawn somewhere: it is left to the browser
 * to free it.
 */
const bitmaps = new Lately<ImageBitmap | Promise<void>>(12)

/**
 * A picture that was put on the board, or undefined while it is being decoded.
 * @param ready called when it is there
 */
export function pictureOfDocument(documentId: string, ready: () => void): PagePicture | undefined {
  const kept = bitmaps.get(documentId)
  if (kept instanceof ImageBitmap)
    return {
      box: { x: 0, y: 0, w: kept.width, h: kept.height },
      draw: (context, b) => (context as unknown as CanvasRenderingContext2D).drawImage(kept, b.x, b.y, b.w, b.h),
    }
  if (!kept)
    bitmaps.set(
      documentId,
      decodedDocument(documentId).then(
        () => ready(),
        () => {},
      ),
    )
  return undefined
}

/** Decodes a picture of the folio's documents, to be drawn at once from then on. */
export async function decodedDocument(documentId: string): Promise<ImageBitmap> {
  const kept = bitmaps.get(documentId)
  if (kept instanceof ImageBitmap) return kept
  const bitmap = await createImageBitmap((await loadDocument(documentId)) ?? new Blob([]), {
    imageOrientation: 'from-image',
  })
  bitmaps.set(documentId, bitmap)
  return bitmap
}
