import type { Box, Page, Spot } from '#core/folio'
import { boxesMeet, grownBox } from '#core/geometry'
import { wordBox, type PlacedWord } from '#core/things'

/** Side of the squares of squared paper, points (5 mm). */
export const SQUARE = (5 * 72) / 25.4

/** What stands on a page already. */
export interface Around {
  frame: Box
  words: readonly PlacedWord[]
  things: readonly Box[]
  ink: readonly Box[]
}

/** A place on the lines of squared paper, where the page has such: the nearest crossing. */
export function onSquares(page: Page | null, at: Spot): Spot {
  const squared = page && ((page.kind === 'blank' && page.paper === 'squared') || page.spaces.length > 0)
  if (!squared) return at
  const snap = (v: number) => Math.round(v / SQUARE) * SQUARE
  return { x: snap(at.x), y: snap(at.y) }
}

const meets = (a: Box, b: Box) => boxesMeet(a, b, 0.5)

/** What something that is to be placed would lie over or run out of; null when it has room. */
export function inTheWay(box: Box, { frame, words, things, ink }: Around): 'frame' | 'print' | 'writing' | null {
  const inFrame =
    box.x >= frame.x - 1 &&
    box.y >= frame.y - 1 &&
    box.x + box.w <= frame.x + frame.w + 1 &&
    box.y + box.h <= frame.y + frame.h + 1
  if (!inFrame) return 'frame'
  if (words.some(w => meets(box, grownBox(wordBox(w), 2)))) return 'print'
  return things.some(t => meets(box, t)) || ink.some(t => meets(box, t)) ? 'writing' : null
}

/**
 * The nearest place of the frame where something has room: below, in its own column first, then further left.
 * @param box what it takes up when it stands somewhere
 * @returns null where there is none
 */
export function freeSpot(page: Page | null, at: Spot, box: (at: Spot) => Box, around: Around): Spot | null {
  const { frame } = around
  const own = box({ x: 0, y: 0 })
  const columns = [at.x, frame.x + 12, frame.x + frame.w - own.w - 10]
  for (const x of columns)
    for (const from of [at.y, frame.y - own.y + 4])
      for (let y = from; y <= frame.y + frame.h; y += SQUARE / 2) {
        const spot = onSquares(page, { x, y })
        const placed = x === at.x ? { x, y: spot.y } : spot
        if (!inTheWay(box(placed), around)) return placed
      }
  return null
}

/** From one line of working to the next, points. */
const LINE = 26
/** Share of a line's width that print may take without taking the line. */
const TAKEN = 0.45

/** How many lines of working the print of a frame leaves room for. */
export function linesOfRoom(frame: Box, words: readonly PlacedWord[]): number {
  const boxes = words.map(wordBox)
  let lines = 0
  for (let y = frame.y; y + LINE <= frame.y + frame.h; y += LINE) {
    const row = { x: frame.x, y, w: frame.w, h: LINE }
    const taken = boxes.filter(b => meets(b, row)).reduce((w, b) => w + b.w, 0)
    if (taken < TAKEN * frame.w) lines++
  }
  return lines
}
