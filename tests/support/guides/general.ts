import Fraction from 'fraction.js'
import { readGuide, layGuide, pathsOfCell, type CellText, type GuideKind, type GuideLayout } from '../../../core/guides'

/** What is wrong with a guide that was laid out; nothing when the list is empty. */
export type Faults = string[]

/** "−1 3/4", "0.5", "7/3" as fraction.js has it. */
export function fractionOf(text: string): Fraction {
  const plain = text
    .trim()
    .replace(/−/g, '-')
    .replace(/^\((.*)\)$/, '$1')
  const mixed = /^(-?)(\d+) (\d+)\/(\d+)$/.exec(plain)
  if (!mixed) return new Fraction(plain)
  const size = new Fraction(mixed[2]!).add(new Fraction(`${mixed[3]}/${mixed[4]}`))
  return mixed[1] ? size.neg() : size
}

const NUMBER = String.raw`\(?−?\d+(?:\.\d+)?(?: \d+\/\d+|\/\d+)?\)?`
const SAID = new RegExp(String.raw`(${NUMBER}(?: [+−×÷] ${NUMBER})+) = (${NUMBER})(?![\d./]*[a-z√^])`, 'gu')

/** Every "a + b = c" of what is said, worked out anew with fraction.js. */
export function saidWrongly(layout: GuideLayout): Faults {
  return layout.moves.flatMap(({ say }) =>
    [...say.matchAll(SAID)].flatMap(([whole, left, right]) => {
      const parts = left!.split(/ ([+−×÷]) /)
      let value = fractionOf(parts[0]!)
      // Products before sums; what guides say is of one kind at a time.
      for (let i = 1; i + 1 < parts.length; i += 2) {
        const by = fractionOf(parts[i + 1]!)
        value = {
          '+': () => value.add(by),
          '−': () => value.sub(by),
          '×': () => value.mul(by),
          '÷': () => value.div(by),
        }[parts[i]!]!()
      }
      return value.equals(fractionOf(right!)) ? [] : [`said wrongly: ${whole}`]
    }),
  )
}

/** Cells outside of the guide, writing outside of its cell, and two things written in one place. */
export function placedWrongly(layout: GuideLayout): Faults {
  const faults: Faults = []
  const cells = [...layout.given, ...layout.moves.flatMap(m => m.cells)]
  for (const cell of cells) {
    for (const path of pathsOfCell(cell, { x: 0, y: 0 }, 1)) {
      const xs = path.filter((_, i) => i % 2 === 0),
        ys = path.filter((_, i) => i % 2 === 1)
      const [left, right, top, foot] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
      if (left < -0.6 || right > layout.cols + 0.6 || top < -0.4 || foot > layout.rows + 0.4)
        faults.push(
          `“${cell.text}” lies outside: ${left.toFixed(2)}–${right.toFixed(2)} of ${layout.cols}, ${top.toFixed(2)}–${foot.toFixed(2)} of ${layout.rows}`,
        )
      if (!cell.line && !cell.strike && cell.wide !== 0 && right - left > (cell.wide ?? 1) + 0.15)
        faults.push(`“${cell.text}” is wider than its cell: ${(right - left).toFixed(2)} of ${cell.wide ?? 1}`)
    }
  }
  return faults
}

/** Texts that lie over each other. */
export function overlapping(layout: GuideLayout, ignore: (c: CellText) => boolean = () => false): Faults {
  const boxes = [...layout.given, ...layout.moves.flatMap(m => m.cells)]
    .filter(c => !c.line && !c.strike && c.wide !== 0 && c.text && !ignore(c))
    .map(c => {
      const all = pathsOfCell(c, { x: 0, y: 0 }, 1).flat()
      const xs = all.filter((_, i) => i % 2 === 0),
        ys = all.filter((_, i) => i % 2 === 1)
      return { text: c.text, x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) }
    })
  const faults: Faults = []
  for (let i = 0; i < boxes.length; i++)
    for (let j = i + 1; j < boxes.length; j++) {
      const [a, b] = [boxes[i]!, boxes[j]!]
      const over =
        Math.min(a.x1, b.x1) - Math.max(a.x0, b.x0) > 0.02 && Math.min(a.y1, b.y1) - Math.max(a.y0, b.y0) > 0.02
      if (over) faults.push(`“${a.text}” and “${b.text}” lie over each other`)
    }
  return faults
}

/** One generated input of a guide, and what has to be true of it beside what is true of all. */
export interface Sample {
  text: string
  check: (layout: GuideLayout) => Faults
}
export type Maker = (random: () => number) => Sample

/** Everything that is wrong with one sample. */
export function faultsOf(kind: GuideKind, { text, check }: Sample): Faults {
  const layout = layGuide(readGuide(kind, text))
  return [...saidWrongly(layout), ...placedWrongly(layout), ...overlapping(layout), ...check(layout)].map(
    f => `${kind} ${text}: ${f}`,
  )
}
/** All that is written, in the order of writing. */
export const textsOf = (layout: GuideLayout): string[] =>
  [...layout.given, ...layout.moves.flatMap(m => m.cells)].map(c => c.text)
