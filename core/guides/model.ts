import type { PenRole } from '../ink/roles'

/** Something written in a cell: column and row of the guide's squares, of which a small one sits in the upper part. */
export interface CellText {
  col: number
  row: number
  text: string
  role: PenRole
  /** A small mark in the upper part of its cell: a carry, a regrouped digit. */
  small?: boolean
  /** Crosses out what stands in the cell instead of writing. */
  strike?: boolean
  /** Whether "^2" in it is written raised. */
  raised?: boolean
  /** How many cells it may take; it is written from the left of the first. */
  wide?: number
  /** For what is drawn rather than written: a line through places in cells, as "col row col row …". */
  line?: readonly number[]
}

/** One move of the method: what a teacher would say, and what is written for it. */
export interface Move {
  say: string
  cells: CellText[]
}

/** A light line of the scaffold, in cells. `strong` for one that belongs to the method (the line above a sum). */
export interface ScaffoldLine {
  from: readonly [number, number]
  to: readonly [number, number]
  strong?: boolean
  arrow?: boolean
}
/** A light filled area of the scaffold, in cells. */
export interface ScaffoldArea {
  x: number
  y: number
  w: number
  h: number
  shade: number
}

/** A guide laid out on its squares. */
export interface GuideLayout {
  cols: number
  rows: number
  lines: ScaffoldLine[]
  areas?: ScaffoldArea[]
  /** Open and closed ends on a number line. */
  dots?: { x: number; y: number; filled: boolean }[]
  /** What stands there from the start: the numbers of the task. */
  given: CellText[]
  moves: Move[]
  /** The cells in the order in which they are filled, for the tab key. */
  order: readonly { col: number; row: number }[]
}

/** How many squares a text needs; a raised sign needs less. */
export const squaresOf = (text: string): number => Math.max(1, Math.ceil(text.replace(/\^/g, '').length * 0.55 + 0.3))

/** Something written from a square on, as wide as it is; "^2" in it is raised. */
export function writtenAt(col: number, row: number, text: string, role: PenRole = 'working'): CellText {
  return { col, row, text, role, wide: Math.max(2, squaresOf(text)), ...(text.includes('^') ? { raised: true } : {}) }
}

/** The order of filling taken from the moves. */
export function orderOf(moves: readonly Move[]): { col: number; row: number }[] {
  return moves.flatMap(m => m.cells.filter(c => !c.strike && !c.line).map(({ col, row }) => ({ col, row })))
}

/** Digits of a whole number from the right, one a column ending at `col`. */
export function digitsEndingAt(text: string, col: number, row: number, role: PenRole): CellText[] {
  return [...text].map((digit, i) => ({ col: col - text.length + 1 + i, row, text: digit, role }))
}
