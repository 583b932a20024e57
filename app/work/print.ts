import { onPage, type Folio, type Question } from '#core/folio'
import { textOfPage } from '../paper/pageStore'

/** Pieces of print on one height are one line, points. */
const LINE = 4

/** What is printed of a question, line by line; nothing on a page without text. */
export async function printOf(folio: Folio, question: Question): Promise<string[]> {
  const lines: string[] = []
  for (const { pageId, box } of question.regions) {
    const page = folio.pages.find(p => p.id === pageId)
    const text = page ? await textOfPage(page, folio).catch(() => null) : null
    if (!page || !text) continue
    const inside = text.pieces
      .map(p => ({ ...p, y: onPage(page, p.y) }))
      .filter(p => p.x + p.w > box.x && p.x < box.x + box.w && p.y > box.y && p.y < box.y + box.h)
      .sort((a, b) => (Math.abs(a.y - b.y) < LINE ? a.x - b.x : a.y - b.y))
    let last: number | null = null
    for (const piece of inside) {
      if (last !== null && Math.abs(piece.y - last) < LINE) lines[lines.length - 1] += piece.text
      else lines.push(piece.text)
      last = piece.y
    }
  }
  return lines.map(l => l.replace(/\s+/g, ' ').trim()).filter(Boolean)
}
