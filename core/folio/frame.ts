import { FRAME_RATIO, type Box, type Frame, type Page, type Question } from './model'

/** Narrowest frame in points: below this, handwriting of usual size fills the picture. */
const MIN_WIDTH = 260
const MARGIN = 8

/**
 * The frame of a question: the smallest 16:9 rectangle round its regions on the page of the first one, with a small margin.
 * It may reach over the edge of the page; squared paper is shown there.
 * @returns null when the question has no region on any of the pages
 */
export function frameOf(question: Question, pages: readonly Page[]): Frame | null {
  const first = question.regions.find(r => pages.some(p => p.id === r.pageId))
  if (!first) return null
  const page = pages.find(p => p.id === first.pageId)!
  const around = unionOf(question.regions.filter(r => r.pageId === first.pageId).map(r => r.box))
  return { pageId: first.pageId, box: fitRatio(around, page) }
}

/** The smallest box that holds all of `boxes` (at least one). */
export function unionOf(boxes: readonly Box[]): Box {
  const x = Math.min(...boxes.map(b => b.x))
  const y = Math.min(...boxes.map(b => b.y))
  return { x, y, w: Math.max(...boxes.map(b => b.x + b.w)) - x, h: Math.max(...boxes.map(b => b.y + b.h)) - y }
}

/** Grows a box to 16:9. It keeps to the page where it fits, grows downwards first (room to work), and is centred where it is wider than the page. */
function fitRatio(box: Box, page: Page): Box {
  const w = Math.max(box.w + 2 * MARGIN, (box.h + 2 * MARGIN) * FRAME_RATIO, MIN_WIDTH)
  const h = w / FRAME_RATIO
  const x = w >= page.width ? (page.width - w) / 2 : clamp(box.x - (w - box.w) / 2, 0, page.width - w)
  const y = h >= page.height ? (page.height - h) / 2 : clamp(box.y - MARGIN, 0, page.height - h)
  return { x, y, w, h }
}

/** `value` held between `low` and `high`. */
export function clamp(value: number, low: number, high: number): number {
  return Math.min(Math.max(value, low), high)
}

/** A box from two corners in any order, cut to the page; null when nothing of at least `least` points is left. */
export function boxBetween(a: { x: number, y: number }, b: { x: number, y: number }, page: { width: number, height: number }, least = 12): Box | null {
  const x0 = clamp(Math.min(a.x, b.x), 0, page.width)
  const y0 = clamp(Math.min(a.y, b.y), 0, page.height)
  const w = clamp(Math.max(a.x, b.x), 0, page.width) - x0
  const h = clamp(Math.max(a.y, b.y), 0, page.height) - y0
  return w >= least && h >= least ? { x: x0, y: y0, w, h } : null
}
