import type { GuideSpec } from '../folio/thing'
import { Trouble } from '../folio/trouble'
import {
  add,
  divide,
  multiply,
  readFraction,
  subtract,
  toNumber,
  writeFraction,
  fraction,
  type Fraction,
} from '../maths/exact'
import { orderOf, type CellText, type GuideLayout, type Move, type ScaffoldLine } from './model'

/** Most marks on a scale. */
const MOST = 61
/** Squares a scale is long. */
const LENGTH = 20

/** The values from `from` to `to` in steps, exactly. @throws Trouble `scale-unclear` */
function scale(from: string, to: string, step: string): { values: Fraction[]; from: Fraction; to: Fraction } {
  const [a, b, s] = [from, to, step].map(readFraction) as [Fraction, Fraction, Fraction]
  const count = s.n > 0n ? toNumber(divide(subtract(b, a), s)) : 0
  if (!(count >= 1) || count > MOST - 1) {
    throw new Trouble(
      'scale-unclear',
      `From ${from} to ${to} in steps of ${step} is not a scale that can be drawn.`,
      'What you typed is still there.',
      `Choose an end above the start and a step that gives at most ${MOST - 1} marks.`,
    )
  }
  return {
    values: Array.from({ length: Math.floor(count + 1e-9) + 1 }, (_, i) => add(a, multiply(s, fraction(BigInt(i))))),
    from: a,
    to: b,
  }
}

const label = (f: Fraction) => decimalOrFraction(f)
function decimalOrFraction(f: Fraction): string {
  let d = f.d
  while (d % 2n === 0n) d /= 2n
  while (d % 5n === 0n) d /= 5n
  return d === 1n ? String(toNumber(f)).replace('-', '−') : writeFraction(f).replace('-', '−')
}

type NumberLine = Extract<GuideSpec, { guide: 'numberLine' }>

/** A number line; each point given is a move: its end closed or open, and its ray for an inequality. */
export function numberLine({ from, to, step, points }: NumberLine): GuideLayout {
  const { values, from: a, to: b } = scale(from, to, step)
  const at = (f: Fraction) => 1 + (toNumber(subtract(f, a)) / toNumber(subtract(b, a))) * LENGTH
  const every = Math.ceil(values.length / 14)
  const moves: Move[] = points.map(p => {
    const x = at(readFraction(p.at))
    const end = p.ray === 'left' ? 0.2 : LENGTH + 1.8
    return {
      say: `${p.at} is ${p.end === 'closed' ? 'in' : 'not in'}${p.ray === 'none' ? '' : p.ray === 'left' ? ', and all below' : ', and all above'}`,
      cells: [
        { col: x, row: 1, text: p.end, role: 'answer', line: [x, 2, x, 2] },
        ...(p.ray === 'none'
          ? []
          : [{ col: x, row: 1, text: '', role: 'answer' as const, line: [x, 2, end, 2] as const }]),
      ],
    }
  })
  return {
    cols: LENGTH + 2,
    rows: 4,
    lines: [
      { from: [0, 2], to: [LENGTH + 2, 2], strong: true, arrow: true },
      ...values.map(
        (v, i): ScaffoldLine => ({
          from: [at(v), i % every ? 1.85 : 1.7],
          to: [at(v), i % every ? 2.15 : 2.3],
          strong: true,
        }),
      ),
    ],
    given: values.flatMap((v, i): CellText[] =>
      i % every ? [] : [{ col: at(v) - 0.5, row: 2.4, text: label(v), role: 'aside', small: false }],
    ),
    moves,
    order: orderOf(moves),
  }
}

type Axes = Extract<GuideSpec, { guide: 'axes' }>

/** Coordinate axes on squares; each point given is a move. */
export function coordinateAxes({ x, y, points }: Axes): GuideLayout {
  const across = scale(...x),
    up = scale(...y)
  const w = LENGTH,
    h = Math.max(6, Math.min(16, up.values.length - 1 > 16 ? 16 : up.values.length - 1))
  const atX = (f: Fraction) => 1 + (toNumber(subtract(f, across.from)) / toNumber(subtract(across.to, across.from))) * w
  const atY = (f: Fraction) => 1 + h - (toNumber(subtract(f, up.from)) / toNumber(subtract(up.to, up.from))) * h
  const within = (v: Fraction, s: typeof across) => Math.min(Math.max(toNumber(v), toNumber(s.from)), toNumber(s.to))
  const zeroX = atX(fractionNear(within(fraction(0n), across))),
    zeroY = atY(fractionNear(within(fraction(0n), up)))
  const everyX = Math.ceil(across.values.length / 12),
    everyY = Math.ceil(up.values.length / 10)
  const moves: Move[] = points.map(([px, py]) => {
    const cx = atX(readFraction(px)),
      cy = atY(readFraction(py))
    return {
      say: `The point (${px}, ${py})`,
      cells: [
        { col: cx, row: cy, text: '', role: 'working', line: [cx - 0.3, cy - 0.3, cx + 0.3, cy + 0.3] },
        { col: cx, row: cy, text: '', role: 'working', line: [cx - 0.3, cy + 0.3, cx + 0.3, cy - 0.3] },
      ],
    }
  })
  return {
    cols: w + 2,
    rows: h + 2,
    lines: [
      ...across.values.map((v): ScaffoldLine => ({ from: [atX(v), 1], to: [atX(v), 1 + h] })),
      ...up.values.map((v): ScaffoldLine => ({ from: [1, atY(v)], to: [1 + w, atY(v)] })),
      { from: [0.5, zeroY], to: [w + 1.8, zeroY], strong: true, arrow: true },
      { from: [zeroX, h + 1.5], to: [zeroX, 0.2], strong: true, arrow: true },
    ],
    given: [
      ...across.values.flatMap((v, i): CellText[] =>
        i % everyX || v.n === 0n
          ? []
          : [{ col: atX(v) - 0.5, row: zeroY + 0.05, text: label(v), role: 'aside', small: true }],
      ),
      ...up.values.flatMap((v, i): CellText[] =>
        i % everyY || v.n === 0n
          ? []
          : [{ col: zeroX - 1.05, row: atY(v) - 0.4, text: label(v), role: 'aside', small: true }],
      ),
    ],
    moves,
    order: orderOf(moves),
  }
}

const fractionNear = (v: number): Fraction => fraction(BigInt(Math.round(v * 1e6)), 1_000_000n)
