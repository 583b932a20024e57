import type { PageText, TextPiece, Word } from './model'
import { labelsAt } from './labels'
import { baselines, wordsOf } from './words'

const PAGE_WORDS =
  'page|seite|s\\.|página|pagina|pág\\.?|pag\\.?|strona|str\\.?|sida|side|sivu|стр\\.?|страница|bladzijde|blz\\.?|p\\.?|pg\\.?|folio|oldal|sayfa'
const OF_WORDS = 'of|von|de|sur|di|van|z|av|af|ud af|из|/|\\|'
const PAGE_NUMBER = new RegExp(
  `^[-–—\\s|]*((${PAGE_WORDS})\\s*)?\\d{1,3}(\\s*(${OF_WORDS})\\s*(\\d{1,3}|\\?))?[-–—\\s|.]*$`,
  'iu',
)
const TURN_OVER =
  /^\W*(turn over|please turn over|turn the page|continue(d)? (on|overleaf).*|go on to the next page.*|p\.?t\.?o\.?|end of (questions|quiz|test|paper|exam).*|bitte wenden|siguiente página.*|tournez la page.*|t\.s\.v\.p\.?|girare|z\.o\.z\.?|verte)\W*$/iu
const RIGHTS = /(©|\(c\)\s*\d{4}|copyright|all rights reserved)/iu

/** Words of each page without what runs along its head and foot (page numbers, repeated titles, rights). */
export function bodyWords(pages: readonly PageText[]): TextPiece[][] {
  const split = pages.map(page =>
    wordsOf(page.pieces.filter(p => p.x > -20 && p.x < page.width + 20 && p.y > 0 && p.y < page.height + 10)),
  )
  const lines = split.map(words => baselines(words.map(w => ({ ...w }))))
  const edges = lines.map((all, p) =>
    all.flatMap((line, i) => {
      const fromTop = i < 4,
        fromBottom = i >= all.length - 4
      return fromTop || fromBottom
        ? [{ line, text: textOf(line), y: line[0]!.y, page: p, labelled: labelsAt(line, 0).length > 0 }]
        : []
    }),
  )
  const seen = new Map<string, Set<number>>()
  for (const page of edges)
    for (const edge of page) {
      for (const near of [0, -6, 6].map(d => keyOf(edge.text, edge.y + d, edge.labelled)))
        seen.set(near, (seen.get(near) ?? new Set()).add(edge.page))
    }
  return split.map((words, p) => {
    const page = pages[p]!
    const gone = new Set<string>()
    for (const { line, text, y, labelled } of edges[p]!) {
      const atEdge = y < 0.1 * page.height || y > 0.9 * page.height
      const least = Math.max(labelled ? 3 : 2, Math.ceil(pages.length * (labelled ? 0.6 : 0.4)))
      const often = pages.length > 1 && (seen.get(keyOf(text, y, labelled))?.size ?? 0) >= least
      const numbers = /^\W*#\W*$|^(\W*#\W|[a-z]+ #\W*$)/iu.test(shape(text))
      const nearEdge = y < 0.16 * page.height || y > 0.84 * page.height
      const repeated = often && nearEdge && !numbers && /\p{L}{3}|^\W*$/u.test(text)
      // A bare number close over more text is a question's, not the page's.
      const near = lines[p]!.some(
        o => o !== line && Math.abs(o[0]!.y - y) < 1.9 * line[0]!.size && Math.abs(o[0]!.x - line[0]!.x) < 80,
      )
      const edgeWords =
        atEdge &&
        ((PAGE_NUMBER.test(text) && !(near && /^\W*\d+\W*$/.test(text))) ||
          (RIGHTS.test(text) && y > 0.5 * page.height))
      if (repeated || edgeWords || (TURN_OVER.test(text) && y > 0.5 * page.height)) line.forEach(w => gone.add(spot(w)))
      else if (atEdge) corners(line, page.width).forEach(w => gone.add(spot(w)))
    }
    const starts = [...gone].map(s => s.split('@').map(Number) as [number, number, number])
    return withoutLeaders(words, lines[p]!).filter(
      w => !starts.some(([x, y, right]) => Math.abs(w.y - y) < 5 && w.x >= x - 1 && w.x + w.w <= right + 1),
    )
  })
}

/** Words without the single dots of dotted answer lines, which some programs set one by one. */
function withoutLeaders(words: TextPiece[], lines: readonly Word[][]): TextPiece[] {
  const dotted = lines.filter(line => line.filter(w => /^[.·_]$/.test(w.text)).length >= 6).map(line => line[0]!.y)
  return dotted.length ? words.filter(w => !/^[.·_]$/.test(w.text) || !dotted.some(y => Math.abs(y - w.y) < 3)) : words
}

/** "Page 3" at the end of an otherwise lone running line: a bare page word and number in a corner. */
function corners(line: readonly Word[], width: number): Word[] {
  const last = line.at(-1)!,
    before = line.at(-2)
  if (
    before &&
    /\d{1,3}$/.test(last.text) &&
    new RegExp(`^(${PAGE_WORDS})$`, 'iu').test(before.text) &&
    last.x > 0.75 * width
  )
    return [before, last]
  return []
}

const spot = (w: TextPiece) => `${w.x}@${w.y}@${w.x + w.w}`
const textOf = (line: readonly Word[]) => line.map(w => w.text).join(' ')
const shape = (text: string) => text.replace(/\d+/g, '#').replace(/\s+/g, ' ').trim().toLowerCase()
/**
 * What begins like a question's label only runs along when it is the same to the letter: its number must not be a
 * page's.
 */
const keyOf = (text: string, y: number, exact: boolean) => `${exact ? text : shape(text)}@${Math.round(y / 6)}`
