import type { Typeset } from '../folio/thing'
import { LETTERS } from '../ink/letters'
import { layText, writeByHand, type Path } from '../ink/hand'
import { pathBox, pathSteps } from '../ink/mark'
import type { PenRole } from '../ink/roles'
import type { Stroke } from '../ink/stroke'

/** Signs of typeset maths and the single-stroke sign that a hand writes for them. */
const WRITTEN: Record<string, string> = { '−': '−', '∗': '*', '⋅': '·', '∕': '/', '′': "'", '∼': '~', '―': '―' }

/** The letter that stands for a typeset sign: italics and bold of the mathematical alphabets are the plain letters. */
function letterFor(char: string): string {
  return WRITTEN[char] ?? char.normalize('NFKD')[0] ?? char
}

/**
 * A typeset line as a hand would write it: each sign in single strokes, in the place and size that typesetting gives
 * it.
 * @param at start of the baseline; @param size of letters in points
 */
export function linesByHand(set: Typeset, at: { x: number; y: number }, size: number): Path[] {
  const scale = size / 1000
  return set.marks.flatMap((mark): Path[] => {
    const box = pathBox(mark.d)
    if (!box) return []
    const put = (x: number, y: number) => [at.x + x * scale, at.y + y * scale]
    if (mark.char === '―') {
      const points = cornersOf(mark.d)
      const [a, b] =
        box.w >= box.h
          ? [
              { x: box.x, y: box.y + box.h / 2 },
              { x: box.x + box.w, y: box.y + box.h / 2 },
            ]
          : [
              { x: box.x + box.w / 2, y: box.y },
              { x: box.x + box.w / 2, y: box.y + box.h },
            ]
      // A slanted thin area is a term crossed out: from its lower left to its upper right.
      return points.length === 4 && Math.min(box.w, box.h) > 80
        ? [[...put(box.x, box.y + box.h), ...put(box.x + box.w, box.y)]]
        : [[...put(a.x, a.y), ...put(b.x, b.y)]]
    }
    const letter = mark.char ? letterFor(mark.char) : ''
    const lines = letter && LETTERS.glyph(letter) ? layText(LETTERS, letter, { x: 0, y: 0 }, 21).paths : []
    if (!lines.length) return [outline(mark.d).flatMap((v, i) => put(i % 2 ? 0 : v, i % 2 ? v : 0)[i % 2]!)]
    return fitted(lines, box).map(line => line.map((v, i) => (i % 2 ? at.y + v * scale : at.x + v * scale)))
  })
}

/** Lines stretched into a box; a flat or thin sign keeps its middle. */
function fitted(lines: readonly Path[], box: { x: number; y: number; w: number; h: number }): Path[] {
  const xs = lines.flatMap(l => l.filter((_, i) => i % 2 === 0)),
    ys = lines.flatMap(l => l.filter((_, i) => i % 2 === 1))
  const x0 = Math.min(...xs),
    y0 = Math.min(...ys),
    w = Math.max(...xs) - x0,
    h = Math.max(...ys) - y0
  const x = (v: number) => (w > 1 ? box.x + ((v - x0) / w) * box.w : box.x + box.w / 2)
  const y = (v: number) => (h > 1 ? box.y + ((v - y0) / h) * box.h : box.y + box.h / 2)
  return lines.map(line => line.map((v, i) => (i % 2 ? y(v) : x(v))))
}

function cornersOf(d: string): number[][] {
  return pathSteps(d).flatMap(([, ...c]) => (c.length ? [c] : []))
}

/** The rim of a sign that no hand letter stands for. */
function outline(d: string): Path {
  return pathSteps(d).flatMap(([, ...c]) => c.slice(-2))
}

/** A typeset line written by a hand, times from 0. @returns strokes, and ms that the writing takes */
export function writeLine(
  set: Typeset,
  at: { x: number; y: number },
  size: number,
  role: PenRole,
  random: () => number,
  newId: () => string,
): { strokes: Stroke[]; end: number } {
  return writeByHand(linesByHand(set, at, size), { role, t0: 0, speed: 150, jitter: size * 0.012, random }, newId)
}

/**
 * Plain text written by a hand with its left end of the baseline at `at`; capitals `size` points high; times from 0.
 */
export function writeText(
  text: string,
  at: { x: number; y: number },
  size: number,
  role: PenRole,
  random: () => number,
  newId: () => string,
): { strokes: Stroke[]; end: number } {
  return writeByHand(
    layText(LETTERS, text, at, size).paths,
    { role, t0: 0, speed: 110, jitter: size * 0.012, random },
    newId,
  )
}

/** How wide a text is when written with capitals of `size` points. */
export function textWidth(text: string, size: number): number {
  return layText(LETTERS, text, { x: 0, y: 0 }, size).endX
}
