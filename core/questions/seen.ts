import { onPage } from '../folio/layout'
import type { Box } from '../folio/basics'
import type { Page } from '../folio/page'
import type { PageText, TextPiece } from './model'
import { wordsOf } from './words'

/** A word that is seen on a page: where its base line begins, how wide it is, the size of its letters; points. */
export type SeenWord = Pick<TextPiece, 'text' | 'x' | 'y' | 'w' | 'size'>

/** A piece of a page as it is drawn: rows of RGBA samples of 8 bit. */
export interface DrawnPiece {
  box: Box
  pixels: { data: ArrayLike<number>; width: number; height: number }
}

/** How much darker than the lightest spot around it letters are at least, of 255; anything less cannot be seen. */
const SEEN = 40

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

/** Whether something is drawn where a word stands. */
export function isSeen({ x, y, w, size }: SeenWord, { box, pixels: { data, width, height } }: DrawnPiece): boolean {
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
