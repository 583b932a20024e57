import { onPage, type Box, type Folio, type Page } from '#core/folio'
import { isSeen, wordsOf, wordsSeen, type SeenWord } from '#core/questions'
import { pictureOfPage, seenTextOfPage } from './pageStore'

/** Pixels a point at which it is looked at whether words are seen. */
export const GLANCE = 1.5

export const pixelsOf = (canvas: HTMLCanvasElement): ImageData =>
  canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)

/**
 * The words that are seen in a piece of a page: those of a file that can be seen there, and those of its patches.
 * @param box of the page, points
 */
export async function seenWordsIn(page: Page, folio: Folio, box: Box): Promise<SeenWord[]> {
  const text = await seenTextOfPage(page, folio)
  const pixels = pixelsOf(await pictureOfPage(page, folio, box, GLANCE))
  return wordsSeen(text, page, { box, pixels }).filter(
    w => w.x + w.w > box.x && w.x < box.x + box.w && w.y > box.y && w.y - 0.7 * w.size < box.y + box.h,
  )
}

/** Whether all words in a piece of a page of a file are seen, so that its shapes can go out as they are. */
export async function hidesNothing(page: Page, folio: Folio, box: Box): Promise<boolean> {
  const text = await seenTextOfPage(page, folio)
  if (!text) return false
  const pixels = pixelsOf(await pictureOfPage(page, folio, box, GLANCE))
  const inside = wordsOf(text.pieces).filter(w => {
    const y = onPage(page, w.y)
    return w.x >= box.x && w.x + w.w <= box.x + box.w && y - w.size >= box.y && y <= box.y + box.h
  })
  return inside.every(w => isSeen({ ...w, y: onPage(page, w.y) }, { box, pixels }))
}
