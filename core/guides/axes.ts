import type { GuideSpec } from '../folio/thing'
import { fraction, subtract, toNumber, type Fraction } from '../maths/exact'
import { plainSigns } from '../numbers/read'
import { orderOf, type CellText, type GuideLayout, type Move, type ScaffoldLine } from './model'
import { isLess, scaleAround, scaleOf, scaleUnclear, written, type Scale } from './scale'
import { notUnderstood, numberIn } from './typed'

/** Squares the axes are long. */
const LENGTH = 20
const label = (f: Fraction) => written(f)
const scale = (from: string, to: string, step: string): Scale => scaleOf(numberIn(from), numberIn(to), numberIn(step))

type Axes = Extract<GuideSpec, { guide: 'axes' }>

/**
 * Coordinate axes on squares; each point given is a move.
 * @throws Trouble `scale-unclear`, also for a point that lies outside
 */
export function coordinateAxes({ x, y, points, names }: Axes): GuideLayout {
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
    const [fx, fy] = [numberIn(px), numberIn(py)]
    if (isLess(fx, across.from) || isLess(across.to, fx) || isLess(fy, up.from) || isLess(up.to, fy))
      throw scaleUnclear(
        `The point (${px}, ${py}) lies outside the axes.`,
        'Change the ends of the axes, or leave them out.',
      )
    const cx = atX(fx),
      cy = atY(fy)
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
      ...(names
        ? [
            { col: w + 1.3, row: zeroY - 1, text: names[0], role: 'aside' as const },
            { col: zeroX + 0.2, row: 0, text: names[1], role: 'aside' as const },
          ]
        : []),
    ],
    moves,
    order: orderOf(moves),
  }
}

const fractionNear = (v: number): Fraction => fraction(BigInt(Math.round(v * 1e6)), 1_000_000n)

const POINT = /\(\s*([^(),;]+?)\s*,\s*([^(),;]+?)\s*\)|\(\s*([^();]+?)\s*;\s*([^();]+?)\s*\)/g
const RANGE = /^([a-z])\s*[:=]?\s*(?:from\s+)?(.+?)\s+to\s+(.+?)(?:\s+by\s+(.+))?$/i

/**
 * Axes as they are typed: a letter and its ends for each, then points. Ends that are left out are found from the points.
 * @throws Trouble `guide-unclear` names what was not understood; `scale-unclear`
 * @example readAxes('x -5 to 5, y 0 to 100 by 20; (1, 20) (2, 40)')
 */
export function readAxes(text: string): Axes {
  const points: [string, string][] = []
  const rest = plainSigns(text).replace(POINT, (_, a?: string, b?: string, c?: string, d?: string) => {
    points.push([(a ?? c)!, (b ?? d)!])
    return ';'
  })
  points.flat().forEach(numberIn)
  const ranges = rest
    .split(
      /\s*[;]\s*|\s*,\s*(?=[a-z]\b)|\s+and\s+(?=[a-z]\b)|(?<=\d)\s+(?=[a-z]\s*[:=]?\s*(?:from\s+)?[-\d.,/ ]+\s+to\b)/i,
    )
    .map(p => p.replace(/^[\s,]+|[\s,]+$/g, ''))
    .filter(Boolean)
    .map(piece => {
      const hit = RANGE.exec(piece)
      if (!hit)
        throw notUnderstood(
          piece,
          undefined,
          'Type a letter and its ends, such as x -5 to 5 by 1, and points such as (1, 2).',
        )
      const [, name, from, to, step] = hit as unknown as [string, string, string, string, string | undefined]
      return { name, ends: between(from, to, step) }
    })
  if (ranges.length > 2) throw notUnderstood(ranges[2]!.name, 'is a third axis')
  if (ranges.length === 2 && ranges[0]!.name === ranges[1]!.name) throw notUnderstood(ranges[0]!.name, 'is given twice')
  if (!points.length && ranges.length < 2)
    throw notUnderstood(text.trim() || ' ', 'gives no two axes', 'Type both, such as x -5 to 5, y -5 to 5.')
  const missing = ranges.length === 1 && ranges[0]!.name.toLowerCase() === 'y' ? 0 : 1
  const around = (i: 0 | 1) => ({
    name: 'xy'[i]!,
    ends: typed(scaleAround([fraction(0n), ...points.map(p => numberIn(p[i]))], 12)),
  })
  const [x, y] =
    ranges.length === 2
      ? (ranges as [(typeof ranges)[0], (typeof ranges)[0]])
      : ranges.length === 1
        ? missing
          ? [ranges[0]!, around(1)]
          : [around(0), ranges[0]!]
        : [around(0), around(1)]
  return { guide: 'axes', x: x.ends, y: y.ends, points, names: [x.name, y.name] }
}

const typed = (s: Scale) => [s.from, s.to, s.step].map(f => written(f).replace('−', '-')) as [string, string, string]
function between(from: string, to: string, step?: string): [string, string, string] {
  const [a, b] = [numberIn(from), numberIn(to)]
  if (step !== undefined) {
    scaleOf(a, b, numberIn(step))
    return [from, to, step]
  }
  if (!isLess(a, b))
    throw scaleUnclear(`From ${from} to ${to} is not a scale that can be drawn.`, 'Type the smaller end first.')
  return [from, to, written(scaleAround([a, b]).step)]
}
