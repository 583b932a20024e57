import type { SetMark, Typeset } from '../../folio/thing'
import { movePath } from '../svgMarks'
import { textLatex } from './toLatex'
import type { Piece } from './read'

/** From one baseline to the next, at least; and what is left between deep and high rows. Thousandths of the letters. */
const LEADING = 1400
const BETWEEN = 250
/** What stands between a line and its aside, and before the aside's bar. */
const GAP = 1800
const BAR = 420

type Set = (pieces: readonly Piece[]) => Promise<Typeset>

const shifted = (marks: readonly SetMark[], dx: number, dy: number, colour?: string): SetMark[] =>
  marks.map(mark => {
    const d = movePath(mark.d, [1, 0, 0, 1, dx, dy], null)?.d ?? mark.d
    return { ...mark, d, ...(colour && !mark.colour ? { colour } : {}) }
  })
const inner = (mathml: string) => mathml.replace(/^<math[^>]*>/, '<mrow>').replace(/<\/math>$/, '</mrow>')

/**
 * Pieces in rows that are no wider than `width`, broken between words; what has no words stays whole.
 * @param width in thousandths of the letter size; without it there is one row
 */
export async function rows(pieces: readonly Piece[], width: number | undefined, set: Set): Promise<Typeset> {
  const whole = await set(pieces)
  if (width === undefined || whole.width <= width || !pieces.some(p => p.kind === 'words' && /\s/.test(p.text.trim())))
    return whole
  const broken = await filled(pieces, width, set)
  return stacked(await Promise.all(broken.map(set)))
}

/** Fills rows one after the other; a word that is wider than a row has a row of its own. */
async function filled(pieces: readonly Piece[], width: number, set: Set): Promise<Piece[][]> {
  const units = unitsOf(pieces)
  const out: Piece[][] = [[]]
  let used = 0
  for (const unit of units) {
    const { width: wide } = await measured(unit, set)
    if (used > 0 && used + wide > width && out.at(-1)!.length) {
      out.push([])
      used = 0
    }
    out.at(-1)!.push(...unit)
    used += wide
  }
  return out.map(trimmed).filter(row => row.length)
}

/** What is never parted: a word with the maths that it is written to without a space. */
function unitsOf(pieces: readonly Piece[]): Piece[][] {
  const units: Piece[][] = [[]]
  for (const piece of pieces) {
    if (piece.kind !== 'words' || piece.latex.includes('\\color')) {
      units.at(-1)!.push(piece)
      continue
    }
    for (const word of piece.text.match(/\s*\S+|\s+$/g) ?? []) {
      if (/^\s/.test(word)) units.push([])
      units.at(-1)!.push({ kind: 'words', text: word, latex: textLatex(word.replace(/"/g, '')) })
      if (/^\s+$/.test(word)) units.at(-1)!.pop()
    }
    if (/\s$/.test(piece.text)) units.push([{ kind: 'words', text: ' ', latex: '\\text{ }' }])
  }
  return units.filter(u => u.length)
}

const widths = new Map<string, number>()
async function measured(unit: readonly Piece[], set: Set): Promise<{ width: number }> {
  const key = unit.map(p => p.latex).join('')
  let width = widths.get(key)
  if (width === undefined) {
    width = (await set(unit)).width
    if (widths.size > 3000) widths.clear()
    widths.set(key, width)
  }
  return { width }
}

/** A row without the space that it would begin with. */
function trimmed(row: readonly Piece[]): Piece[] {
  const all = [...row]
  while (all[0]?.kind === 'words' && !all[0].text.trim()) all.shift()
  const [first, ...rest] = all
  if (first?.kind !== 'words') return all
  const text = first.text.trimStart()
  return [{ ...first, text, latex: first.latex.replace(/^\\text\{\s+/, '\\text{') }, ...rest]
}

/** Rows one below the other, on the baseline of the first. */
function stacked(all: readonly Typeset[]): Typeset {
  let y = 0
  const marks: SetMark[] = []
  all.forEach((row, i) => {
    if (i) y += Math.max(LEADING, all[i - 1]!.depth + row.height + BETWEEN)
    marks.push(...shifted(row.marks, 0, y))
  })
  const cells = all.map(r => `<mtr><mtd>${inner(r.mathml)}</mtd></mtr>`).join('')
  return {
    width: Math.max(...all.map(r => r.width)),
    height: all[0]!.height,
    depth: y + all.at(-1)!.depth,
    equals: all[0]!.equals,
    aside: null,
    marks,
    mathml: `<math xmlns="http://www.w3.org/1998/Math/MathML"><mtable columnalign="left">${cells}</mtable></math>`,
  }
}

/**
 * A line with its aside behind a bar, in a column of its own.
 * @param column where the asides of the lines above begin, thousandths; further right where the line is too long
 */
export function withAside(main: Typeset, aside: Typeset, column: number | undefined, colour: string): Typeset {
  const x = Math.round(Math.max(main.width + GAP, column ?? 0))
  const top = -Math.max(700, aside.height),
    foot = Math.max(200, aside.depth)
  const bar = {
    d: `M${x - BAR} ${top}L${x - BAR + 30} ${top}L${x - BAR + 30} ${foot}L${x - BAR} ${foot}Z`,
    char: '―',
    colour,
  }
  const space = `<mspace width="${((x - main.width) / 1000).toFixed(2)}em"></mspace><mo>|</mo>`
  return {
    ...main,
    width: x + aside.width,
    height: Math.max(main.height, -top),
    depth: Math.max(main.depth, foot),
    aside: x,
    marks: [...main.marks, bar, ...shifted(aside.marks, x, 0, colour)],
    mathml: `<math xmlns="http://www.w3.org/1998/Math/MathML">${inner(main.mathml)}${space}${inner(aside.mathml)}</math>`,
  }
}
