import { FRAME_RATIO, newId, onPage, Question, type Folio, type Instruction, type Page } from '../folio'
import { shortTitle } from './title'
import type { FoundPaper, FoundQuestion, PageText, Place, TextPiece } from './model'

/** Room left between a question's region and the edge of its column, points. */
const AIR = 6
/** Least width of a region with room to write in, points. */
const LEAST_WIDTH = 380

/**
 * Puts what the finder found on some pages of a folio as proposals: regions reach down to the next question, so that
 * there is room to write.
 * @param pages the folio's pages that were read, in the order in which the finder had them
 */
export function propose(folio: Folio, pages: readonly Page[], paper: FoundPaper, texts: readonly PageText[]): void {
  const instructions: Instruction[] = paper.instructions.map(i => ({
    id: newId(),
    text: i.text.slice(0, 2000),
    pageId: pages[i.place.page]!.id,
    box: laid(pages, i.place),
  }))
  const after = folio.pages.findIndex(p => p.id === pages[0]?.id)
  const questions = paper.questions.map((q, n) =>
    Question.parse({
      id: newId(),
      number: q.label,
      title: shortTitle(q.text, q.shared === null ? '' : (paper.instructions[q.shared]?.text ?? ''), q.parts.length),
      proposal: q.confidence,
      marks: q.marks,
      letters: smallest(q, texts),
      regions: q.places.map((place, k) => ({
        id: newId(),
        pageId: pages[place.page]!.id,
        box: laid(pages, withRoom(paper, n, k, texts[place.page]!)),
        gaps: gapsIn(place, texts[place.page]!).map(y => onPage(pages[place.page]!, y)),
      })),
      parts: q.parts.map(p => ({
        id: newId(),
        label: p.label,
        marks: p.marks,
        place: { pageId: pages[p.place.page]!.id, box: laid(pages, p.place) },
      })),
      options: q.options.map(o => ({
        id: newId(),
        label: o.label,
        text: o.text.slice(0, 500),
        place: { pageId: pages[o.place.page]!.id, box: laid(pages, o.place) },
      })),
      instruction: q.shared === null ? null : (instructions[q.shared]?.id ?? null),
    }),
  )
  const at = folio.questions.findIndex(q => folio.pages.findIndex(p => p.id === q.regions[0]?.pageId) > after)
  folio.questions.splice(at < 0 ? folio.questions.length : at, 0, ...questions)
  folio.instructions.push(...instructions.filter(i => questions.some(q => q.instruction === i.id)))
}

/** A place of the picture on the page as it is laid out. */
function laid(pages: readonly Page[], { page, box }: Place) {
  const on = pages[page]!
  const y = onPage(on, box.y)
  return { ...box, y, h: Math.max(1, onPage(on, box.y + box.h) - y) }
}

/** A found place with the room below it that belongs to nothing else, in its own column; the page's foot stays free. */
function withRoom(paper: FoundPaper, n: number, k: number, page: PageText): Place {
  const { page: number, box } = paper.questions[n]!.places[k]!
  const others = [
    // Its own other places, too: the regions of a question do not lie over each other.
    ...paper.questions.flatMap((q, i) => (i === n ? q.places.filter((_, m) => m !== k) : q.places)),
    ...paper.instructions.map(i => i.place),
  ].filter(p => p.page === number)
  const across = (b: typeof box) => Math.min(b.x + b.w, box.x + box.w) - Math.max(b.x, box.x) > 0
  const beside = others.filter(p => p.box.y < box.y + box.h && p.box.y + p.box.h > box.y && p.box.x >= box.x + box.w)
  const right = Math.min(
    page.width - 24,
    ...beside.map(p => p.box.x - AIR),
    ...others.filter(p => p.box.x > box.x + box.w && !across(p.box)).map(p => p.box.x - AIR),
  )
  const free = right - box.x
  const below = others.filter(
    p =>
      p.box.y >= box.y + box.h - 2 &&
      Math.min(p.box.x + p.box.w, box.x + Math.max(box.w, free)) > Math.max(p.box.x, box.x),
  )
  const bottom = Math.min(page.height - 36, ...below.map(p => p.box.y - 2))
  const h = Math.max(box.h, bottom - box.y)
  // As wide as the picture's shape asks for, not the whole page: what is smaller is shown larger.
  return {
    page: number,
    box: { ...box, w: Math.max(box.w, Math.min(free, Math.max(h * FRAME_RATIO, LEAST_WIDTH))), h },
  }
}

/** Heights between the printed lines of a place, where nothing would be cut; points on the picture, ascending. */
export function gapsIn({ box }: Pick<Place, 'box'>, { pieces }: Pick<PageText, 'pieces'>): number[] {
  const rows = pieces
    .filter(p => p.text.trim() && p.x + p.w > box.x && p.x < box.x + box.w && p.y > box.y && p.y <= box.y + box.h + 1)
    .map(p => ({ top: p.y - p.size * 0.8, bottom: p.y + p.size * 0.25 }))
    .sort((a, b) => a.top - b.top)
  const gaps: number[] = []
  let end = -Infinity
  for (const { top, bottom } of rows) {
    if (top > end + 1 && Number.isFinite(end)) gaps.push(Math.round((top + end) * 5) / 10)
    end = Math.max(end, bottom)
  }
  return gaps.slice(0, 400)
}

/** Smallest letters of a question's lines that are not raised or lowered ones, points. */
function smallest(q: FoundQuestion, texts: readonly PageText[]): number {
  return smallestSize(
    q.places.flatMap(({ page, box }) =>
      texts[page]!.pieces.filter(
        p => p.x >= box.x - 1 && p.x < box.x + box.w && p.y > box.y && p.y <= box.y + box.h + 1,
      ),
    ),
  )
}

/**
 * Letter size of the smallest running words among some pieces, points; 0 when there are none. Raised and lowered signs
 * do not count.
 */
export function smallestSize(pieces: readonly TextPiece[]): number {
  const sizes = pieces
    .filter(p => p.text.trim().length > 2)
    .map(p => p.size)
    .sort((a, b) => a - b)
  return Math.round((sizes[Math.floor(sizes.length * 0.05)] ?? 0) * 10) / 10
}
