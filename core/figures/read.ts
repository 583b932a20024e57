import type { FigureSpec } from '../folio/thing'
import { notEnough, Trouble } from '../folio/trouble'
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
  { id: 'triangle', label: 'Triangle', example: 'sides 5, 6, 7' },
  { id: 'box', label: 'Box', example: '4 by 3 by 2, open' },
  { id: 'round', label: 'Cylinder, cone, sphere', example: 'cylinder radius 2, height 5' },
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
  triangle:
    'sides 5, 6, 7 · angles 90, 60, 30 · angles 40, 60; c = 8 · add “arcs” for all angles · labels after a semicolon: a, b, c',
  box: '4 by 3 by 2 · add “open” for one without a lid, “net” for the flat one',
  round: 'cylinder radius 2, height 5 · cone radius 2, height 4 · sphere radius 3',
  molecule: `A condensed formula such as CH3CH2OH or CH2=CH2, or ${Object.keys(MOLECULES).join(', ')} · add “electrons” for dots and crosses of these`,
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
    const sectors = (/sectors?\s*(.*)$/.exec(text)?.[1] ?? '').match(/\d+(\.\d+)?/g)?.map(Number) ?? []
    const fits = sectors.length <= 24 && sectors.every(s => s <= 360)
    return radius > 0 && fits ? { figure: 'circle', radius, sectors, label: '' } : null
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
  triangle,
  box(text) {
    const hit = new RegExp(`${NUMBER}\\s*(?:by|x|×)\\s*${NUMBER}\\s*(?:by|x|×)\\s*${NUMBER}`).exec(text)
    const size = hit?.slice(1, 4).map(numberOf) as [number, number, number] | undefined
    return size?.every(v => v > 0) ? { figure: 'box', size, open: /open/.test(text), net: /net/.test(text) } : null
  },
  round(text) {
    const solid = /(cylinder|cone|sphere)/.exec(text)?.[1] as 'cylinder' | 'cone' | 'sphere' | undefined
    const radius = numberAfter('(?:radius|r\\s*=)', text),
      height = solid === 'sphere' ? 2 * radius : numberAfter('(?:height|h\\s*=)', text)
    return solid && radius > 0 && height > 0 ? { figure: 'round', solid, radius, height } : null
  },
  molecule(text) {
    const formula = text.split(/[\s,]+/)[0] ?? ''
    return formula ? { figure: 'molecule', formula, dots: /electron|dot/.test(text) } : null
  },
  forces(text) {
    const parts = list(text, /;/).filter(Boolean)
    const arrows = parts.flatMap(t => {
      const hit = new RegExp(`^${NUMBER}\\s*°?\\s+${NUMBER}\\s*(.*)$`).exec(t)
      return hit && numberOf(hit[2]) > 0
        ? [{ angle: numberOf(hit[1]), size: numberOf(hit[2]), label: hit[3]!.trim() }]
        : []
    })
    return arrows.length && arrows.length === parts.length && arrows.length <= 12 ? { figure: 'forces', arrows } : null
  },
  circuit(text) {
    const [symbol = '', label = ''] = list(text, /,/)
    return symbol
      ? { figure: 'circuit', symbol, label: /\s/.test(label) && !label.includes('"') ? `"${label}"` : label }
      : null
  },
  table(text) {
    const rows = list(text, /\|/).map(r => list(r, /,(?!\d)|(?<!\d),/))
    const fits = rows.length <= 30 && rows.every(r => r.length <= 12)
    return rows[0]?.[0] && fits ? { figure: 'table', rows } : null
  },
}

/** Sides, angles, or two angles and a side; labels of the sides behind a semicolon. */
function triangle(text: string): FigureSpec | null {
  const [measures = '', ...more] = list(text, /;/)
  const numbers = (word: string) =>
    new RegExp(`${word}\\s*((?:-?[\\d./]+°?\\s*,?\\s*)+)`)
      .exec(measures)?.[1]
      ?.match(/[\d./]+/g)
      ?.map(numberOf) ?? []
  const sides = numbers('sides?'),
    angles = numbers('angles?')
  const named = more.map(m => new RegExp(`^([abc])\\s*=\\s*${NUMBER}$`).exec(m)).find(Boolean)
  const labels = more.filter(m => !/=/.test(m)).flatMap(m => list(m, /,/))
  const three = <T>(all: readonly T[]): [T | null, T | null, T | null] => [
    all[0] ?? null,
    all[1] ?? null,
    all[2] ?? null,
  ]
  if (
    (sides.length !== 3 && angles.length < 2) ||
    sides.length > 3 ||
    angles.length > 3 ||
    (sides.length && angles.length)
  )
    return null
  const given = three(sides)
  if (named) given['abc'.indexOf(named[1]!)] = numberOf(named[2])
  return {
    figure: 'triangle',
    sides: given,
    angles: three(angles),
    labels: [labels[0] ?? '', labels[1] ?? '', labels[2] ?? ''],
    marked: /arcs/.test(measures),
  }
}

/** What may stand in each kind beside its numbers: all else is not understood. */
const WORDS: Record<FigureKind, RegExp> = {
  axes: /"[^"]*"|\b[xy]\b|\bto\b|\bby\b/g,
  polygon: /\bsides?\b|\bradius\b|\bradii\b|\bbisectors?\b/g,
  circle: /\bradius\b|\bsectors?\b|°/g,
  rightTriangle: /;.*$|\bby\b|×|x/g,
  triangle: /;.*$|\bsides?\b|\bangles?\b|\barcs\b|°/g,
  prism: /\bby\b|×|x|\bnet\b|\bsides?\b|\bof\b|\bheight\b/g,
  box: /\bby\b|×|x|\bnet\b|\bopen\b/g,
  round: /cylinder|cone|sphere|\bradius\b|\bheight\b|\b[rh]\s*=/g,
  pyramid: /\bsides?\b|\bof\b|\bheight\b|\bnet\b/g,
  molecule: /^[^\s,]+|\belectrons?\b|\bdots?\b|\bcrosses\b|\band\b/g,
  forces: /.*/g,
  circuit: /.*/g,
  table: /.*/g,
}
/** What of a text was neither a number nor a word of its kind. */
const leftOver = (kind: FigureKind, text: string) =>
  text
    .replace(WORDS[kind], ' ')
    .replace(/-?\d+(?:[.,]\d+)?(?:\/\d+)?/g, ' ')
    .replace(/[\s,;]+/g, ' ')
    .trim()

/**
 * Reads what was typed for a figure.
 * @throws Trouble `figure-unclear` with an example, `figure-unknown`, `scale-unclear`
 */
export function readFigure(kind: FigureKind, text: string): FigureSpec {
  const plain = plainSigns(text).trim()
  const spec = READERS[kind](plain)
  const left = spec && leftOver(kind, plain)
  if (left)
    throw new Trouble(
      'figure-unclear',
      `“${left.slice(0, 40)}” is not understood in this figure.`,
      'What you typed is still there.',
      `Change it or take it out; ${FIGURE_HINTS[kind] ?? FIGURE_KINDS.find(k => k.id === kind)!.example}`,
    )
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
