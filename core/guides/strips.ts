import type { GuideSpec } from '../folio/thing'
import { add, gcd, toNumber, writeFraction, type Fraction } from '../maths/exact'
import { plainSigns } from '../numbers/read'
import { ruled } from './grids'
import { orderOf, squaresOf, writtenAt, type GuideLayout, type Move, type ScaffoldLine } from './model'
import { isLess, written } from './scale'
import { atMost, notUnderstood, numberIn, numbersOf } from './typed'

type Strips = Extract<GuideSpec, { guide: 'strips' }>

/** Squares that all wholes are long together, and most parts of a whole. */
const LENGTH = 18
const MOST_PARTS = 60
const MOST_WHOLES = 6

/** How a fraction was typed: 2/4 stays 2/4. */
interface Typed {
  text: string
  value: Fraction
  parts: bigint
}

function typed(text: string): Typed {
  const value = numberIn(text)
  const parts = BigInt(/\/\s*(\d+)\s*$/.exec(text)?.[1] ?? value.d)
  if (value.n < 0n) throw notUnderstood(text, 'is negative; a strip has no sign')
  if (parts > BigInt(MOST_PARTS)) throw notUnderstood(text, `has more than ${MOST_PARTS} parts`)
  return { text, value, parts }
}

/**
 * Strips of one and the same whole, each cut into the parts of its fraction, so that equal fractions stand over each
 * other; brought to one denominator, and added where that is asked.
 * @throws Trouble `guide-unclear` for what cannot be drawn
 */
export function strips({ fractions, sum }: { fractions: readonly string[]; sum?: boolean | undefined }): GuideLayout {
  const all = fractions.map(typed)
  const common = all.reduce((l, f) => (l * f.parts) / gcd(l, f.parts), 1n)
  if (common > BigInt(MOST_PARTS * 4))
    throw notUnderstood(fractions.join(', '), `have ${common} as their common denominator, which cannot be drawn`)
  const total = all.map(f => f.value).reduce(add)
  const largest = sum ? total : all.reduce((m, f) => (isLess(m, f.value) ? f.value : m), all[0]!.value)
  const wholes = Math.max(1, Math.ceil(toNumber(largest)))
  if (wholes > MOST_WHOLES)
    throw notUnderstood(fractions.join(sum ? ' + ' : ', '), `are more than ${MOST_WHOLES} wholes`)
  const whole = LENGTH / wholes
  const rowOf = (i: number) => 2 * i
  // Behind the longest strip.
  const right = Math.max(1, ...all.map(f => Math.ceil(toNumber(f.value)))) * whole + 0.5
  const alike = all.every(f => f.parts === common)
  const asCommon = (f: Fraction) => `${(f.n * common) / f.d}/${common}`
  const moves: Move[] = alike
    ? []
    : all.map((f, i) => ({
        say: `${f.text} = ${asCommon(f.value)}`,
        cells: [writtenAt(right, rowOf(i) + 0.25, `= ${asCommon(f.value)}`), ...cuts(f.value, common, whole, rowOf(i))],
      }))
  if (sum) moves.push(...sumMoves(all, common, total, whole, rowOf(all.length)))
  const widest = Math.max(0, ...moves.flatMap(m => m.cells.map(c => (c.line ? 0 : c.col + squaresOf(c.text)))))
  return {
    cols: Math.max(LENGTH + 8, widest),
    rows: rowOf(all.length + (sum ? 1 : 0)),
    lines: all.flatMap((f, i) => outline(f, whole, rowOf(i))),
    areas: all.map((f, i) => ({ x: 0, y: rowOf(i), w: toNumber(f.value) * whole, h: 1.5, shade: 0.16 })),
    given: all.map((f, i) => writtenAt(0.2, rowOf(i) + 0.25, f.text)),
    moves,
    order: orderOf(moves),
  }
}

/** As many wholes as the fraction reaches into, in its parts. */
function outline({ value, parts }: Typed, whole: number, y: number): ScaffoldLine[] {
  const wholes = Math.max(1, Math.ceil(toNumber(value)))
  return Array.from({ length: wholes }, (_, w) =>
    ruled(
      Array.from({ length: Number(parts) + 1 }, (_, k) => w * whole + (k * whole) / Number(parts)),
      [y, y + 1.5],
    ).map(l => ({ ...l, strong: true })),
  ).flat()
}

/** The finer cuts of the common denominator, within what is shaded. */
function cuts(value: Fraction, common: bigint, whole: number, y: number) {
  if (common > BigInt(MOST_PARTS)) return []
  const n = Number((value.n * common) / value.d)
  return Array.from({ length: Math.max(0, n - 1) }, (_, k) => {
    const x = ((k + 1) * whole) / Number(common)
    return { col: x, row: y, text: '', role: 'carry' as const, line: [x, y + 0.1, x, y + 1.4] }
  })
}

/** The sum below: laid end to end, in parts of the common denominator, then shortened. */
function sumMoves(all: readonly Typed[], common: bigint, total: Fraction, whole: number, y: number): Move[] {
  const parts = all.map(f => (f.value.n * common) / f.value.d)
  const sum = parts.reduce((a, b) => a + b, 0n)
  const end = (Number(sum) * whole) / Number(common)
  const joints = parts
    .slice(0, -1)
    .reduce<number[]>((at, p) => [...at, (at.at(-1) ?? 0) + (Number(p) * whole) / Number(common)], [])
  const box = [0, y, end, y, end, y + 1.5, 0, y + 1.5, 0, y]
  const text = `${parts.map(p => `${p}/${common}`).join(' + ')} = ${sum}/${common}`
  const moves: Move[] = [
    {
      say: text,
      cells: [
        { col: 0, row: y, text: '', role: 'working', line: box },
        ...joints.map(x => ({ col: x, row: y, text: '', role: 'working' as const, line: [x, y, x, y + 1.5] })),
        writtenAt(end + 0.5, y + 0.25, `${sum}/${common}`, 'working'),
      ],
    },
  ]
  const shortened = writeFraction(total)
  const mixed = written(total, false)
  const result = total.n > total.d && total.d !== 1n ? mixed : shortened
  if (result !== `${sum}/${common}`)
    moves.push({
      say: `${sum}/${common} = ${result}`,
      cells: [writtenAt(end + 1 + squaresOf(`${sum}/${common}`), y + 0.25, `= ${result}`, 'answer')],
    })
  return moves
}

/**
 * Strips as they are typed: "1/2, 3/4, 5/6" to compare, "1/2 + 3/4" to add.
 * @throws Trouble `guide-unclear` names what was not understood
 */
export function readStrips(text: string): Strips {
  const plain = plainSigns(text).trim()
  const sum = plain.includes('+')
  const fractions = sum ? plain.split('+').map(t => t.trim()) : numbersOf(plain)
  atMost(fractions, 12, 'fractions')
  fractions.forEach(typed)
  return { guide: 'strips', fractions, sum }
}
