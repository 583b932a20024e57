import type { Box } from '../folio/basics'
import type { Spot } from '../folio/thing'
import { unionOf } from '../folio/frame'

/** A word of a page: baseline start, width and letter size in points. */
export interface PlacedWord {
  text: string
  x: number
  y: number
  w: number
  size: number
}

/** The rectangle of a word's letters. */
export const wordBox = (w: PlacedWord): Box => ({ x: w.x, y: w.y - w.size * 0.78, w: w.w, h: w.size })

const overlap = (a0: number, a1: number, b0: number, b1: number) => Math.min(a1, b1) - Math.max(a0, b0)

/**
 * The words that a drag from `a` to `b` goes over, one box for each line of text. A level drag takes the line it runs
 * along (also a little above
 * or below it, as when underlining); a slanted one takes all lines between.
 */
export function wordsBetween(words: readonly PlacedWord[], a: Spot, b: Spot): Box[] {
  const x0 = Math.min(a.x, b.x),
    x1 = Math.max(a.x, b.x),
    y0 = Math.min(a.y, b.y),
    y1 = Math.max(a.y, b.y)
  const hit = words.filter(w => {
    const box = wordBox(w)
    return (
      overlap(box.x, box.x + box.w, x0, x1) > Math.min(box.w, 4) * 0.5 - (x1 === x0 ? 4 : 0) &&
      overlap(box.y - 2, box.y + box.h + 3, y0, y1) >= 0
    )
  })
  const lines: PlacedWord[][] = []
  for (const word of [...hit].sort((p, q) => p.y - q.y || p.x - q.x)) {
    const line = lines.find(l => Math.abs(l[0]!.y - word.y) < 0.4 * word.size)
    if (line) line.push(word)
    else lines.push([word])
  }
  // A drag along one line that also grazes its neighbour means the line that it is nearest to.
  const chosen =
    y1 - y0 < 8 && lines.length > 1
      ? [
          lines.reduce((best, l) =>
            Math.abs(middle(l) - (y0 + y1) / 2) < Math.abs(middle(best) - (y0 + y1) / 2) ? l : best,
          ),
        ]
      : lines
  return chosen.map(l => unionOf(l.map(wordBox)))
}

const middle = (line: readonly PlacedWord[]) => line[0]!.y - line[0]!.size * 0.3

/** The word under a point, if any. */
export function wordAt(words: readonly PlacedWord[], p: Spot): PlacedWord | undefined {
  return words.find(w => {
    const b = wordBox(w)
    return p.x >= b.x - 2 && p.x <= b.x + b.w + 2 && p.y >= b.y - 3 && p.y <= b.y + b.h + 3
  })
}

const NUMBER = /^[^\d−-]*([−-]?\d[\d,]*(?:\.\d+)?)[^\d]*$/

/** A tap that misses a number by less than this means it, points. */
const REACH = 12

const lineOf = (words: readonly PlacedWord[], word: PlacedWord) =>
  words.filter(w => Math.abs(w.y - word.y) < 0.3 * word.size).sort((a, b) => a.x - b.x)

function distance(b: Box, p: Spot): number {
  return Math.hypot(Math.max(b.x - p.x, 0, p.x - b.x - b.w), Math.max(b.y - p.y, 0, p.y - b.y - b.h))
}

/**
 * The number that is printed under a point or close to it, groups of thousands set apart by spaces taken together; null
 * where there is none.
 */
export function numberAt(words: readonly PlacedWord[], p: Spot): string | null {
  let word: PlacedWord | undefined
  let nearest = REACH
  for (const w of words) {
    const away = distance(wordBox(w), p)
    if (away >= nearest || !NUMBER.test(w.text)) continue
    word = w
    nearest = away
  }
  if (!word) return null
  const line = lineOf(words, word)
  const near = (a: PlacedWord | undefined, b: PlacedWord | undefined) =>
    a !== undefined && b !== undefined && b.x - (a.x + a.w) < 0.45 * word.size
  let from = line.indexOf(word),
    to = from
  const isGroup = (w: PlacedWord | undefined) => w !== undefined && /^\d{3}(?!\d)/.test(w.text)
  while (isGroup(line[from]) && near(line[from - 1], line[from]) && /^[−-]?\d{1,3}$/.test(line[from - 1]!.text)) from--
  while (/^[−-]?\d{1,3}$/.test(line[to]!.text) && isGroup(line[to + 1]) && near(line[to], line[to + 1])) to++
  const hit = NUMBER.exec(
    line
      .slice(from, to + 1)
      .map(w => w.text)
      .join(''),
  )
  return hit ? hit[1]!.replace(/,/g, '').replace('−', '-') : null
}

/** Signs of mathematics and single letters, no word of a sentence. */
const inMaths = (text: string) => /^[\w.,()+\-−–×÷·*/^√π°=<>≤≥]+$/.test(text) && !/[a-z]{2,}/i.test(text)

/**
 * The equation or inequality that is printed under a point, without the sentence round it; null where there is none.
 */
export function equationAt(words: readonly PlacedWord[], p: Spot): string | null {
  const word = wordAt(words, p)
  if (!word || !inMaths(word.text)) return null
  const line = lineOf(words, word)
  let from = line.indexOf(word),
    to = from
  while (from > 0 && inMaths(line[from - 1]!.text)) from--
  while (to < line.length - 1 && inMaths(line[to + 1]!.text)) to++
  const text = line
    .slice(from, to + 1)
    .map(w => w.text)
    .join(' ')
    .replace(/[−–]/g, '-')
    .replace(/[.,]+$/, '')
  return /\S\s*[=<>≤≥]\s*\S/.test(text) ? text : null
}
