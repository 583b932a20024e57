import { clamp, unionOf } from '../geometry'
import { FRAME_RATIO } from './known'
import type { Box, Frame, Inset, Question } from './model'
import type { Page } from './page'

export { clamp, unionOf } from '../geometry'

/** Narrowest frame in points: below this, handwriting of usual size fills the picture. */
const MIN_WIDTH = 260
const MARGIN = 8

/** Height of a video in pixels for which letters are reckoned, and the least height that letters should have in it. */
const PICTURE = { height: 720, letters: 22 }

/** The widest frame in which letters of a size (points) can be read: at least 22 px high in a picture of 720 lines. */
export function widestFrame(letters: number): number {
  return letters > 0 ? Math.max(MIN_WIDTH, (letters * PICTURE.height * FRAME_RATIO) / PICTURE.letters) : Infinity
}

/**
 * The frames of a question in the order in which they are stepped through: those that were set, or the proposed ones.
 * Proposed is the
 * smallest 16:9 rectangle round its regions on each page, with a small margin; where its letters would be too small,
 * a few one below the other, each beginning at a part.
 * A frame may reach over the edge of the page; squared paper is shown there.
 * @param others questions whose first lines are kept out of the frame where the page allows it
 */
export function framesOf(question: Question, pages: readonly Page[], others: readonly Question[] = []): Frame[] {
  const set = question.frames.filter(f => pages.some(p => p.id === f.pageId))
  if (set.length) return set
  const pageIds = [...new Set(question.regions.map(r => r.pageId))].filter(id => pages.some(p => p.id === id))
  const frames: Frame[] = pageIds.flatMap(pageId => {
    const page = pages.find(p => p.id === pageId)!
    const around = unionOf(question.regions.filter(r => r.pageId === pageId).map(r => r.box))
    const tops = [...question.parts, ...question.options].flatMap(p =>
      p.place?.pageId === pageId ? [p.place.box.y] : [],
    )
    const here = question.regions.filter(r => r.pageId === pageId)
    const gaps = here.flatMap(r => r.gaps ?? [])
    // Room below the last line needs no frame of its own.
    const end = here.every(r => r.gaps)
      ? Math.max(...here.map(r => printEnd(question, pageId, r.box, r.gaps!)))
      : around.y + around.h
    const boxes = tiled(around, page, widestFrame(question.letters), { tops, gaps, end })
    return boxes.map(box => ({
      pageId,
      box: boxes.length > 1 ? box : before(box, around, neighbours(question, others, pageId, around)),
    }))
  })
  const scratch = pages.find(p => p.id === question.scratch)
  return scratch ? [...frames, scratchFrame(question, scratch, pages)] : frames
}

/** The frame of a question's scratch page, with the problem in sight above or beside the work. */
function scratchFrame(question: Question, scratch: Page, pages: readonly Page[]): Frame {
  const box = fitRatio(
    {
      x: MARGIN,
      y: MARGIN,
      w: scratch.width - 2 * MARGIN,
      h: Math.min(scratch.height, scratch.width / FRAME_RATIO) - 2 * MARGIN,
    },
    scratch,
  )
  const region = question.regions.find(r => pages.some(p => p.id === r.pageId))
  if (question.sight === 'off' || !region) return { pageId: scratch.id, box }
  return {
    pageId: scratch.id,
    box,
    inset: insetOf(region.pageId, problemOf(question, region.pageId), box, question.sight),
  }
}

/** The part of a question's region that is printed: from its top to the end of its last part or option. */
function problemOf(question: Question, pageId: string): Box {
  const box = unionOf(question.regions.filter(r => r.pageId === pageId).map(r => r.box))
  const ends = [...question.parts, ...question.options].flatMap(p =>
    p.place?.pageId === pageId ? [p.place.box.y + p.place.box.h + 6] : [],
  )
  const h = clamp(Math.max(64, ...ends.map(e => e - box.y)), 20, box.h)
  return { ...box, h }
}

/** Where a problem is shown in a frame: across its top, at most two fifths high, or down its left third. */
function insetOf(pageId: string, from: Box, frame: Box, sight: 'above' | 'beside'): Inset {
  const room =
    sight === 'above' ? { w: frame.w - 2 * MARGIN, h: frame.h * 0.4 } : { w: frame.w * 0.36, h: frame.h - 2 * MARGIN }
  const scale = Math.min(room.w / from.w, room.h / from.h)
  return { pageId, from, box: { x: frame.x + MARGIN, y: frame.y + MARGIN, w: from.w * scale, h: from.h * scale } }
}

/** The frame in which a question begins; null when it has no region on any of the pages. */
export function frameOf(question: Question, pages: readonly Page[], others: readonly Question[] = []): Frame | null {
  return framesOf(question, pages, others)[0] ?? null
}

/** Where the next question below begins, and where the print of the one above ends, in the same column. */
function neighbours(question: Question, others: readonly Question[], pageId: string, around: Box) {
  const column = others
    .filter(q => q.id !== question.id)
    .flatMap(q => q.regions.map(({ pageId: on, box }) => ({ q, on, box })))
    .filter(r => r.on === pageId && r.box.x < around.x + around.w && r.box.x + r.box.w > around.x)
  return {
    next: Math.min(Infinity, ...column.filter(r => r.box.y >= around.y + around.h - 4).map(r => r.box.y)),
    last: Math.max(0, ...column.filter(r => r.box.y + r.box.h <= around.y + 4).map(r => printEnd(r.q, pageId, r.box))),
  }
}

/** A few lines: what a question's own words take where nothing tells how far they reach. */
const WORDS = 54
/** Where the print of a question ends in one of its regions; below it is room to write. @param gaps between its lines */
function printEnd(question: Question, pageId: string, region: Box, gaps: readonly number[] = []): number {
  const ends = [...question.parts, ...question.options].flatMap(p =>
    p.place?.pageId === pageId && p.place.box.y < region.y + region.h ? [p.place.box.y + p.place.box.h] : [],
  )
  return Math.min(region.y + region.h, Math.max(region.y + WORDS, ...gaps.map(g => g + 2 * question.letters), ...ends))
}

/** A frame moved up so that it ends before the next question, as far as that shows nothing of the one above. */
function before(frame: Box, around: Box, { next, last }: { next: number; last: number }): Box {
  const over = frame.y + frame.h - (next - 2)
  if (over <= 0) return frame
  const room = Math.max(0, frame.y - Math.min(last, around.y - MARGIN))
  return { ...frame, y: frame.y - Math.min(over, room) }
}

/** Where parts begin, heights between printed lines, and where the last one ends; points, ascending. */
interface Print {
  tops: readonly number[]
  gaps: readonly number[]
  end: number
}

/** How much smaller than they should be letters may get before there is another frame. */
const SOFT = 1.12
const MOST_FRAMES = 8

/**
 * One frame round a box; where its letters would be too small, a few across and down. Frames one below the other begin
 * at a part where there is one, and end between two lines, so that none is cut by their edges.
 */
function tiled(box: Box, page: Page, widest: number, print: Print): Box[] {
  const whole = fitRatio(box, page)
  if (whole.w <= widest * SOFT) return [whole]
  const [w0, h0] = [box.w + 2 * MARGIN, box.h + 2 * MARGIN]
  const across = Math.ceil(w0 / (widest * SOFT))
  // As wide as its column, but never with letters larger than they need to be.
  const w = Math.max(widest, w0 / across)
  const h = w / FRAME_RATIO
  const rows = rowsOf(box.y - MARGIN, Math.min(box.y - MARGIN + h0, print.end + MARGIN), h, print)
  const onPage = (v: number, size: number, whole: number) =>
    size >= whole ? (whole - size) / 2 : clamp(v, 0, whole - size)
  const columns = Array.from({ length: across }, (_, i) =>
    across === 1 ? box.x + box.w / 2 - w / 2 : box.x - MARGIN + (i * (w0 - w)) / (across - 1),
  )
  return rows
    .flatMap(row =>
      columns.map(x => {
        const wide = row.h * FRAME_RATIO
        return {
          x: onPage(x - (wide - w) / 2, wide, page.width),
          y: onPage(row.y, row.h, page.height),
          w: wide,
          h: row.h,
        }
      }),
    )
    .slice(0, MOST_FRAMES)
}

/** Where frames one below the other stand: each begins at the last part that it can hold the rest from. */
function rowsOf(top: number, bottom: number, h: number, { tops, gaps }: Print): { y: number; h: number }[] {
  const rows: { y: number; h: number }[] = []
  for (let y = top; rows.length < MOST_FRAMES; ) {
    // A little higher where it then ends between two lines.
    const end = gaps.find(g => g >= y + h && g <= y + h * SOFT)
    const row = { y, h: end === undefined || y + h >= bottom - 1 ? h : end - y }
    rows.push(row)
    if (y + row.h >= bottom - 1) break
    const parts = tops.map(t => t - 4).filter(t => t > y + h * 0.35 && t < y + row.h - 8)
    const next = parts.length ? Math.max(...parts) : (end ?? y + h * 0.88)
    y = Math.min(next, Math.max(y + h * 0.35, atGap(bottom - h, gaps)))
  }
  return rows
}

/** The gap between two lines just above a height, or the height where there is none near. */
const atGap = (y: number, gaps: readonly number[]) => gaps.findLast(g => g <= y && g > y - 40) ?? y

/** A box brought to 16:9 about its own place, for a frame that is drawn by hand. */
export function asFrame(box: Box): Box {
  const w = Math.max(box.w, box.h * FRAME_RATIO, 120)
  return { x: box.x - (w - box.w) / 2, y: box.y - (w / FRAME_RATIO - box.h) / 2, w, h: w / FRAME_RATIO }
}

/**
 * Grows a box to 16:9. It keeps to the page where it fits, grows downwards first (room to work), and is centred where
 * it is wider than the page.
 */
function fitRatio(box: Box, page: Page): Box {
  const w = Math.max(box.w + 2 * MARGIN, (box.h + 2 * MARGIN) * FRAME_RATIO, MIN_WIDTH)
  const h = w / FRAME_RATIO
  const x = w >= page.width ? (page.width - w) / 2 : clamp(box.x - (w - box.w) / 2, 0, page.width - w)
  const y = h >= page.height ? (page.height - h) / 2 : clamp(box.y - MARGIN, 0, page.height - h)
  return { x, y, w, h }
}

/** A box from two corners in any order, cut to the page; null when nothing of at least `least` points is left. */
export function boxBetween(
  a: { x: number; y: number },
  b: { x: number; y: number },
  page: { width: number; height: number },
  least = 12,
): Box | null {
  const x0 = clamp(Math.min(a.x, b.x), 0, page.width)
  const y0 = clamp(Math.min(a.y, b.y), 0, page.height)
  const w = clamp(Math.max(a.x, b.x), 0, page.width) - x0
  const h = clamp(Math.max(a.y, b.y), 0, page.height) - y0
  return w >= least && h >= least ? { x: x0, y: y0, w, h } : null
}
