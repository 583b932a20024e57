import { onPage, type Box, type Folio, type Page } from '#core/folio'
import { wordsOf, type PageText, type TextPiece } from '#core/questions'
import { pictureOfPage, seenTextOfPage } from './pageStore'

/** A word that is seen on a page: where its base line begins, how wide it is, the size of its letters; points. */
export type SeenWord = Pick<TextPiece, 'text' | 'x' | 'y' | 'w' | 'size'>

/** A piece of a page as it is drawn. */
interface DrawnPiece {
  box: Box
  pixels: ImageData
}

/** How much darker than the lightest spot around it letters are at least, of 255; anything less cannot be seen. */
const SEEN = 40
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

/**
 * The words of a page that can be seen: not those under a patch, nor those that are painted over or have the paper's
 * colour.
 */
export function wordsSeen(text: PageText | null, page: Page, piece: DrawnPiece): SeenWord[] {
  const words = wordsOf(text?.pieces ?? []).map(w => ({
    text: w.text,
    x: w.x,
    y: onPage(page, w.y),
    w: w.w,
    size: w.size,
  }))
  const covered = (w: SeenWord) =>
    page.patches.some(
      ({ box }) => w.x + w.w > box.x && w.x < box.x + box.w && w.y > box.y && w.y - 0.7 * w.size < box.y + box.h,
    )
  const patched = page.patches.flatMap(({ text: lines, box, size }) =>
    lines.split('\n').map((line, i) => ({
      text: line,
      x: box.x + 1,
      y: box.y + (i + 1) * size,
      w: Math.max(1, Math.min(box.w, 0.5 * size * line.length)),
      size,
    })),
  )
  return [...words.filter(w => !covered(w) && isSeen(w, piece)), ...patched.filter(w => w.text)]
}

function isSeen({ x, y, w, size }: SeenWord, { box, pixels: { data, width, height } }: DrawnPiece): boolean {
  const scale = width / box.w
  let low = 255,
    high = 0
  const clamp = (v: number, most: number) => Math.max(0, Math.min(most - 1, Math.round(v * scale)))
  const [left, right] = [clamp(x - box.x, width), clamp(x + w - box.x, width)]
  for (let py = clamp(y - 0.75 * size - box.y, height); py <= clamp(y + 0.1 * size - box.y, height); py++) {
    for (let px = left; px <= right; px++) {
      const green = data[4 * (py * width + px) + 1]!
      low = Math.min(low, green)
      high = Math.max(high, green)
      if (high - low > SEEN) return true
    }
  }
  return false
}
