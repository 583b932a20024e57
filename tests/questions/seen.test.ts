import { describe, expect, it } from 'vitest'
import { Page } from '../../core/folio'
import { wordsSeen, type PageText, type TextPiece } from '../../core/questions'

const piece = (text: string, x: number, y: number): TextPiece =>
  ({ text, x, y, w: 6 * text.length, size: 10, font: '' }) as unknown as TextPiece
const text = (...pieces: TextPiece[]) => ({ width: 200, height: 100, pieces }) as unknown as PageText
/** White paper on which something dark is drawn in a box, a pixel a point. */
function drawn(...dark: { x: number; y: number; w: number; h: number }[]) {
  const data = new Uint8ClampedArray(200 * 100 * 4).fill(255)
  for (const d of dark)
    for (let y = d.y; y < d.y + d.h; y++) for (let x = d.x; x < d.x + d.w; x += 2) data[4 * (y * 200 + x) + 1] = 0
  return { data, width: 200, height: 100 }
}
const page = (patches: object[] = []) =>
  Page.parse({ id: 'p', kind: 'pdf', documentId: 'd', index: 0, width: 200, height: 100, patches })
const box = { x: 0, y: 0, w: 200, h: 100 }

describe('the words of a page', () => {
  it('are those that are seen: none in the colour of the paper, none under a patch; the patch says its own', () => {
    const words = text(piece('Find', 10, 30), piece('hidden', 60, 30), piece('misprint', 10, 60))
    const pixels = drawn({ x: 10, y: 22, w: 24, h: 8 }, { x: 10, y: 52, w: 48, h: 8 })
    expect(wordsSeen(words, page(), { box, pixels }).map(w => w.text)).toEqual(['Find', 'misprint'])
    const patched = page([{ id: 'x', box: { x: 8, y: 50, w: 60, h: 14 }, text: 'put right', before: '', size: 10 }])
    expect(wordsSeen(words, patched, { box, pixels }).map(w => w.text)).toEqual(['Find', 'put right'])
  })
  it('are those of patches alone where the page has no text', () => {
    const patched = page([{ id: 'x', box: { x: 8, y: 50, w: 60, h: 14 }, text: 'new', before: '', size: 10 }])
    expect(wordsSeen(null, patched, { box, pixels: drawn() }).map(w => w.text)).toEqual(['new'])
  })
})
