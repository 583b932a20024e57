import type { FigureSpec } from '../folio/thing'
import { notEnough } from '../folio/trouble'
import { CIRCUIT } from './circuits'
import { MOLECULES } from './chemistry'
import { numeralValue, plainSigns, readNumeral } from '../numbers/read'
import { layFigure } from './index'

/** The kinds of figures as a teacher chooses them, each with what is typed for it. */
export const FIGURE_KINDS = [
  { id: 'axes', label: 'Axes', example: 'x 0 to 10 by 2 "time in s", y 0 to 30 by 5 "height in m"' },
  { id: 'polygon', label: 'Regular polygon', example: '6 sides, radius 3, radii, bisectors' },
  { id: 'circle', label: 'Circle and sectors', example: 'radius 3, sectors 90 120 150' },
  { id: 'rightTriangle', label: 'Right triangle', example: '4 by 3; a, b, c; alpha, beta' },
  { id: 'prism', label: 'Prism', example: '4 by 3 by 2' },
  { id: 'pyramid', label: 'Pyramid', example: '4 sides of 3, height 4' },
  { id: 'molecule', label: 'Molecule', example: 'H2O' },
  { id: 'forces', label: 'Forces', example: '30° 5 F_1; 180° 3 F_2' },
  { id: 'circuit', label: 'Circuit symbol', example: 'cell, 6 V' },
  { id: 'table', label: 'Table', example: 't, 0, 1, 2 | h, 5, 8, 11' },
] as const
export type FigureKind = (typeof FIGURE_KINDS)[number]['id']

/** What may be added: the net of a solid, electrons of a molecule. */
export const FIGURE_HINTS: Partial<Record<FigureKind, string>> = {
  prism: '4 by 3 by 2 · 5 sides of 2, height 4 · add “net”',
  pyramid: 'add “net” for the flat one',
  molecule: `${Object.keys(MOLECULES).join(', ')} · add “electrons” for dots and crosses`,
  circuit: Object.keys(CIRCUIT).join(', '),
}

const NUMBER = String.raw`(-?\d+(?:[.,]\d+)?(?:/\d+)?)`
/** What {@link NUMBER} has found; NaN where it has found nothing. */
const numberOf = (found: string | undefined) => {
  const numeral = readNumeral(found ?? '')
  return numeral ? numeralValue(numeral) : Number.NaN
}
const numberAfter = (word: string, text: string) => numberOf(new RegExp(`${word}\\s*${NUMBER}`).exec(text)?.[1])
const list = (text: string, by: RegExp) => text.split(by).map(t => t.trim())

/** How each figure is typed; null where something is missing. The compiler asks for a row. */
const READERS: Record<FigureKind, (text: string) => FigureSpec | null> = {
  axes: axes,
  polygon(text) {
    const sides = numberOf(new RegExp(`${NUMBER}\\s*sides`).exec(text)?.[1]),
      radius = numberAfter('radius', text)
    return sides >= 3 && sides <= 96 && Number.isInteger(sides) && radius > 0
      ? { figure: 'polygon', sides, radius, radii: /radii/.test(text), bisectors: /bisector/.test(text), label: '' }
      : null
  },
  circle(text) {
    const radius = numberAfter('radius', text)
    const sectors =
      (/sectors?\s*(.*)$/.exec(text)?.[1] ?? '')
        .match(/\d+(\.\d+)?/g)
        ?.map(Number)
        .filter(s => s <= 360) ?? []
    return radius > 0 ? { figure: 'circle', radius, sectors: sectors.slice(0, 24), label: '' } : null
  },
  rightTriangle(text) {
    const [legs, labels = '', angles = ''] = text.split(';')
    const hit = new RegExp(`${NUMBER}\\s*(?:by|,|x|×)\\s*${NUMBER}`).exec(legs ?? '')
    const [a = '', b = '', c = ''] = list(labels, /,/),
      [alpha = '', beta = ''] = list(angles, /,/)
    return hit && numberOf(hit[1]) > 0 && numberOf(hit[2]) > 0
      ? { figure: 'rightTriangle', a: numberOf(hit[1]), b: numberOf(hit[2]), labels: [a, b, c], angles: [alpha, beta] }
      : null
  },
  prism(text) {
    const net = /net/.test(text)
    const box = new RegExp(`${NUMBER}\\s*(?:by|x|×)\\s*${NUMBER}\\s*(?:by|x|×)\\s*${NUMBER}`).exec(text)
    if (box)
      return { figure: 'prism', base: [numberOf(box[1]), numberOf(box[2])], sides: 4, height: numberOf(box[3]), net }
    const solid = sidesOf(text)
    return solid ? { figure: 'prism', base: [solid.side], sides: solid.sides, height: solid.height, net } : null
  },
  pyramid(text) {
    const solid = sidesOf(text)
    return solid ? { figure: 'pyramid', ...solid, net: /net/.test(text) } : null
  },
  molecule(text) {
    const formula = text.split(/[\s,]+/)[0] ?? ''
    return formula ? { figure: 'molecule', formula, dots: /electron|dot/.test(text) } : null
  },
  forces(text) {
    const arrows = list(text, /;/).flatMap(t => {
      const hit = new RegExp(`^${NUMBER}\\s*°?\\s+${NUMBER}\\s*(.*)$`).exec(t)
      return hit && numberOf(hit[2]) > 0
        ? [{ angle: numberOf(hit[1]), size: numberOf(hit[2]), label: hit[3]!.trim() }]
        : []
    })
    return arrows.length ? { figure: 'forces', arrows: arrows.slice(0, 12) } : null
  },
  circuit(text) {
    const [symbol = '', label = ''] = list(text, /,/)
    return symbol
      ? { figure: 'circuit', symbol, label: /\s/.test(label) && !label.includes('"') ? `"${label}"` : label }
      : null
  },
  table(text) {
    const rows = list(text, /\|/)
      .map(r => list(r, /,/).slice(0, 12))
      .slice(0, 30)
    return rows[0]?.[0] ? { figure: 'table', rows } : null
  },
}

/**
 * Reads what was typed for a figure.
 * @throws Trouble `figure-unclear` with an example, `figure-unknown`, `scale-unclear`
 */
export function readFigure(kind: FigureKind, text: string): FigureSpec {
  const spec = READERS[kind](plainSigns(text).trim())
  if (!spec || Object.values(spec).some(v => typeof v === 'number' && !(v > 0)))
    throw notEnough('figure-unclear', text, FIGURE_KINDS.find(k => k.id === kind)!)
  layFigure(spec)
  return spec
}

function sidesOf(text: string) {
  const hit = new RegExp(`${NUMBER}\\s*sides?\\s*of\\s*${NUMBER}`).exec(text)
  const height = numberAfter('height', text)
  const sides = numberOf(hit?.[1])
  return hit && sides >= 3 && sides <= 8 && numberOf(hit[2]) > 0 && height > 0
    ? { sides, side: numberOf(hit[2]), height }
    : null
}

function axes(text: string): FigureSpec | null {
  const one = (letter: string) =>
    new RegExp(`${letter}\\s*${NUMBER}\\s*to\\s*${NUMBER}(?:\\s*by\\s*${NUMBER})?(?:\\s*"([^"]*)")?`).exec(text)
  const x = one('x'),
    y = one('y')
  if (!x || !y) return null
  const range = (m: RegExpExecArray): [number, number, number] => [
    numberOf(m[1]),
    numberOf(m[2]),
    numberOf(m[3] ?? '1'),
  ]
  const label = (m: RegExpExecArray, letter: string) => (m[4] ? `"${m[4]}"` : letter)
  return range(x)[2] > 0 && range(y)[2] > 0
    ? { figure: 'axes', x: range(x), y: range(y), xLabel: label(x, 'x'), yLabel: label(y, 'y') }
    : null
}
