import { layText, writeByHand, type Path } from '../ink/hand'
import { LETTERS } from '../ink/letters'
import type { Stroke } from '../ink/stroke'
import type { CellText, Move } from './model'
import { RADIUS } from './numberLine'

/** Height of digits and of small ones, in shares of a square. */
const DIGIT = 0.6
const SMALL = 0.34

/**
 * The pen lines of what is written in a square. `at` is the guide's corner and `cell` the side of its squares, points.
 */
export function pathsOfCell(cell: CellText, at: { x: number; y: number }, side: number): Path[] {
  const x = at.x + cell.col * side,
    y = at.y + cell.row * side
  if (cell.line)
    return cell.text === 'open' || cell.text === 'closed'
      ? [ring(at.x + cell.line[0]! * side, at.y + cell.line[1]! * side, side * RADIUS, cell.text === 'closed')]
      : [cell.line.map((v, i) => (i % 2 ? at.y : at.x) + v * side)]
  if (cell.strike)
    return [
      cell.small
        ? [x + side * 0.25, y + side * 0.5, x + side * 0.75, y + side * 0.05]
        : [x + side * 0.2, y + side * 0.85, x + side * 0.8, y + side * 0.15],
    ]
  const size = side * (cell.small ? SMALL : DIGIT)
  const lay = (at: { x: number; y: number }) =>
    cell.raised ? layRaised(cell.text, at, size) : layText(LETTERS, cell.text, at, size)
  const width = lay({ x: 0, y: 0 }).endX
  // A digit stands in the middle of its square; longer writing begins in its first one; a point sits on the line
  // between two.
  const left = cell.wide === 0 ? x - width / 2 : cell.wide && cell.wide > 1 ? x + side * 0.2 : x + (side - width) / 2
  const baseline = y + (cell.small ? side * 0.42 : side * 0.8)
  return lay({ x: left, y: baseline }).paths
}

/** Text in which "^2" is written small and raised. */
function layRaised(text: string, at: { x: number; y: number }, size: number): { paths: Path[]; endX: number } {
  const paths: Path[] = []
  let x = at.x
  for (const [, power, plain] of text.matchAll(/\^(-?\w+)|([^^]+)/g)) {
    const piece = power
      ? layText(LETTERS, power, { x, y: at.y - size * 0.5 }, size * 0.6)
      : layText(LETTERS, plain!, { x, y: at.y }, size)
    paths.push(...piece.paths)
    x = piece.endX
  }
  return { paths, endX: x }
}

function ring(x: number, y: number, r: number, filled: boolean): Path {
  const turns = filled ? 7 : 1
  return Array.from({ length: 16 * turns + 1 }, (_, i) => {
    const a = (i / 16) * 2 * Math.PI,
      rr = filled ? r * (1 - i / (16 * turns)) : r
    return [x + rr * Math.cos(a), y + rr * Math.sin(a)]
  }).flat()
}

/**
 * A move of a method written by a hand, times from 0 ms.
 * @returns strokes in the roles of the move, and ms that the writing takes
 */
export function writeMove(
  move: Move,
  at: { x: number; y: number },
  side: number,
  random: () => number,
  newId: () => string,
): { strokes: Stroke[]; end: number } {
  const strokes: Stroke[] = []
  let t = 0
  for (const cell of move.cells) {
    const made = writeByHand(
      pathsOfCell(cell, at, side),
      { role: cell.role, t0: t, speed: Math.max(60, side * 5), jitter: side * 0.008, random },
      newId,
    )
    // In small squares the pen is finer, so that digits stay open.
    const size = Math.round(Math.min(1, Math.max(0.45, side / 24)) * 100) / 100
    strokes.push(...made.strokes.map(s => (size < 1 ? { ...s, size } : s)))
    t = made.strokes.length ? made.end + 120 : t
  }
  return { strokes, end: t }
}
