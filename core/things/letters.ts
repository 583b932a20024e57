import { layText, type Path } from '../ink/hand'
import { LETTERS } from '../ink/letters'
import type { Mark } from '../ink/mark'

const n = (v: number) => Math.round(v * 100) / 100

/** Pen lines as one path. */
export function pathOf(lines: readonly Path[]): string {
  return lines.map(l => l.reduce((d, v, i) => d + (i % 2 ? `${n(v)}` : `${i ? 'L' : 'M'}${n(v)} `), '')).join('')
}

/** A short printed text in single-stroke letters, capitals `size` points high, `at` the left end of its baseline. */
export function lettering(text: string, at: { x: number; y: number }, size: number, colour: string): Mark {
  return { d: pathOf(layText(LETTERS, text, at, size).paths), stroke: colour, width: Math.max(0.7, size * 0.09) }
}
