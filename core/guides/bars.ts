import { Trouble } from '../folio/trouble'
import {
  add,
  divide,
  fraction,
  gcd,
  multiply,
  readFraction,
  subtract,
  toNumber,
  writeFraction,
  type Fraction,
} from '../maths/exact'
import { ruled } from './grids'
import { written } from './scale'
import { orderOf, type CellText, type GuideLayout, type Move, type ScaffoldArea, type ScaffoldLine } from './model'

/** Squares that a whole bar is long. */
const LENGTH = 18
const text = (col: number, row: number, t: string, role: CellText['role'] = 'working'): CellText => ({
  col,
  row,
  text: t,
  role,
  wide: Math.max(1, Math.ceil(t.length * 0.62)),
})
const bar = (x: number, y: number, w: number, strong = true): ScaffoldLine[] =>
  ruled([x, x + w], [y, y + 1.5]).map(l => ({ ...l, strong }))
const brace = (x: number, y: number, w: number): ScaffoldLine[] => [
  { from: [x, y], to: [x + w, y] },
  { from: [x, y], to: [x, y + 0.3] },
  { from: [x + w, y], to: [x + w, y + 0.3] },
]

const positive = (numbers: readonly string[]): Fraction[] =>
  numbers.map(n => {
    const f = readFraction(n)
    if (f.n <= 0n)
      throw new Trouble(
        'number-unclear',
        `A bar cannot be ${n} long.`,
        'The rest is still there.',
        'Type numbers above zero.',
      )
    return f
  })

/** Squares that a number takes. */
const roomFor = (t: string) => 0.42 * t.length + 0.1

/** Whether a number that begins near the middle of its part runs out of it. */
const isNarrow = (t: string, width: number) => roomFor(t) - 0.3 > width / 2 || roomFor(t) > width - 0.1

/** Parts and whole: bars as long as their parts under one brace; the sum is the next move. */
function partWhole(numbers: readonly string[]): GuideLayout {
  const parts = positive(numbers)
  const whole = parts.reduce(add)
  const edges = parts.reduce<number[]>(
    (at, p) => [...at, at[at.length - 1]! + toNumber(divide(p, whole)) * LENGTH],
    [0],
  )
  const moves: Move[] = [
    {
      say: `${numbers.join(' + ')} = ${writeFraction(whole)}`,
      cells: [text(LENGTH / 2 - 1, 0, writeFraction(whole), 'answer')],
    },
  ]
  return {
    cols: LENGTH,
    rows: numbers.some((n, i) => isNarrow(n, edges[i + 1]! - edges[i]!)) ? 5 : 4,
    lines: [...brace(0, 1, LENGTH), ...parts.flatMap((_, i) => bar(edges[i]!, 1.5, edges[i + 1]! - edges[i]!))],
    given: numbers.map((n, i) => {
      const middle = (edges[i]! + edges[i + 1]!) / 2 - 0.5
      // What has no room in its part stands below it, on two levels in turn.
      return isNarrow(n, edges[i + 1]! - edges[i]!) ? text(middle, 3.1 + 0.8 * (i % 2), n) : text(middle, 1.75, n)
    }),
    moves,
    order: orderOf(moves),
  }
}

/** A whole in equal parts: `[whole, parts]`; one part is the next move. */
function equalParts([whole = '', count = '']: readonly string[]): GuideLayout {
  const [w, n] = positive([whole, count]) as [Fraction, Fraction]
  if (n.d !== 1n || n.n > 24n)
    throw new Trouble(
      'number-unclear',
      `A bar cannot be cut into ${count} parts.`,
      'The rest is still there.',
      'Type a whole number up to 24.',
    )
  const parts = Number(n.n)
  const one = writeFraction(divide(w, n))
  const step = LENGTH / parts
  const moves: Move[] = [
    {
      say: `${whole} ÷ ${parts} = ${one}`,
      cells:
        roomFor(one) > step - 0.4
          ? [text(0, 3.1, `1 part = ${one}`)]
          : Array.from({ length: parts }, (_, i) =>
              text(i * step + step / 2 - 0.21 * one.length - 0.2, 1.75, one, i ? 'carry' : 'working'),
            ),
    },
  ]
  return {
    cols: LENGTH,
    rows: 4,
    lines: [...brace(0, 1, LENGTH), ...Array.from({ length: parts }, (_, i) => bar(i * step, 1.5, step)).flat()],
    given: [text(LENGTH / 2 - 1, 0, whole)],
    moves,
    order: orderOf(moves),
  }
}

/** Two numbers one above the other; the difference is the next move. */
function comparison(numbers: readonly string[]): GuideLayout {
  const [a, b] = positive(numbers.slice(0, 2)) as [Fraction, Fraction]
  if (!b)
    throw new Trouble(
      'number-unclear',
      'A comparison needs two numbers.',
      'What you typed is still there.',
      'Type both numbers.',
    )
  const most = toNumber(a) > toNumber(b) ? a : b
  const [wa, wb] = [a, b].map(f => toNumber(divide(f, most)) * LENGTH) as [number, number]
  const difference = writeFraction(subtract(most, most === a ? b : a))
  const short = Math.min(wa, wb)
  const moves: Move[] = [
    {
      say: `The difference is ${difference}`,
      cells: [text((short + LENGTH) / 2 - 0.5, wa < wb ? 0.75 : 3.25, difference, 'answer')],
    },
  ]
  return {
    cols: LENGTH,
    rows: 5,
    lines: [...bar(0, 0.5, wa), ...bar(0, 3, wb), ...ruled([short, LENGTH], [wa < wb ? 0.5 : 3, wa < wb ? 2 : 4.5])],
    given: [text(0.5, 0.75, numbers[0]!), text(0.5, 3.25, numbers[1]!)],
    moves,
    order: orderOf(moves),
  }
}

/** A fraction of a number: `[fraction, whole]`; one part, then the fraction, are the next moves. */
function fractionBar([part = '', whole = '1']: readonly string[]): GuideLayout {
  const percent = /^(.*?)\s*%$/.exec(part)
  if (percent) return percentBar(part, percent[1]!, whole)
  const [f, w] = positive([part, whole]) as [Fraction, Fraction]
  if (f.n > f.d || f.d > 24n)
    throw new Trouble(
      'number-unclear',
      `${part} of a bar cannot be shown.`,
      'The rest is still there.',
      'Type a fraction up to 1 with at most 24 parts.',
    )
  const n = Number(f.d),
    taken = Number(f.n),
    step = LENGTH / n
  const one = writeFraction(divide(w, fraction(f.d))),
    result = writeFraction(multiply(w, f))
  const areas: ScaffoldArea[] = Array.from({ length: taken }, (_, i) => ({
    x: i * step,
    y: 1.5,
    w: step,
    h: 1.5,
    shade: 0.16,
  }))
  const moves: Move[] = [
    { say: `${whole} ÷ ${n} = ${one}`, cells: [text(step / 2 - 0.5, 1.75, one, 'carry')] },
    { say: `${taken} × ${one} = ${result}`, cells: [text((taken * step) / 2 - 0.5, 3.2, result, 'answer')] },
  ]
  return {
    cols: LENGTH,
    rows: 4.5,
    areas,
    lines: [...brace(0, 1, LENGTH), ...Array.from({ length: n }, (_, i) => bar(i * step, 1.5, step)).flat()],
    given: [text(LENGTH / 2 - 1, 0, whole)],
    moves,
    order: orderOf(moves),
  }
}

/** Per cent of a number: ten parts of ten per cent, shaded as far as it goes. */
function percentBar(typed: string, share: string, whole: string): GuideLayout {
  const [p, w] = positive([share, whole]) as [Fraction, Fraction]
  const hundred = fraction(100n)
  const f = divide(p, hundred)
  if (f.n > f.d)
    throw new Trouble(
      'number-unclear',
      `${typed} of a bar cannot be shown.`,
      'The rest is still there.',
      'Type at most 100 %.',
    )
  const end = toNumber(f) * LENGTH
  const one = written(divide(w, hundred)),
    result = written(multiply(w, f))
  const step = LENGTH / 10
  const moves: Move[] = [
    { say: `1 % is ${whole} ÷ 100 = ${one}`, cells: [text(0, 3.2, `1 % = ${one}`, 'carry')] },
    { say: `${written(p)} × ${one} = ${result}`, cells: [text(Math.max(6, end - 1), 3.2, result, 'answer')] },
  ]
  return {
    cols: LENGTH + 2,
    rows: 4.5,
    areas: [{ x: 0, y: 1.5, w: end, h: 1.5, shade: 0.16 }],
    lines: [...brace(0, 1, LENGTH), ...Array.from({ length: 10 }, (_, i) => bar(i * step, 1.5, step)).flat()],
    given: [text(LENGTH / 2 - 1, 0, whole), text(Math.max(0.2, end / 2 - 1), 1.75, typed)],
    moves,
    order: orderOf(moves),
  }
}

export const BARS = { whole: partWhole, equal: equalParts, compare: comparison, fraction: fractionBar }

/**
 * Bars of equal length, each cut into the parts of its fraction, so that they can be compared.
 * @throws Trouble for a fraction above 1
 */
export function fractionStrips(fractions: readonly string[]): GuideLayout {
  const read = positive(fractions)
  if (read.some(f => f.n > f.d || f.d > 48n))
    throw new Trouble(
      'number-unclear',
      'A strip shows fractions up to 1 with at most 48 parts.',
      'What you typed is still there.',
      'Type fractions such as 3/4.',
    )
  const common = read.reduce((l, f) => (l * f.d) / gcd(l, f.d), 1n)
  const moves: Move[] = read.map((f, i) => ({
    say: `${writeFraction(f)} = ${f.n * (common / f.d)}/${common}`,
    cells: [text(LENGTH + 0.5, 2 * i + 0.25, `= ${f.n * (common / f.d)}/${common}`)],
  }))
  return {
    cols: LENGTH + 6,
    rows: 2 * read.length,
    lines: read.flatMap((f, i) =>
      Array.from({ length: Number(f.d) }, (_, k) =>
        bar((k * LENGTH) / Number(f.d), 2 * i, LENGTH / Number(f.d)),
      ).flat(),
    ),
    areas: read.map((f, i) => ({ x: 0, y: 2 * i, w: toNumber(f) * LENGTH, h: 1.5, shade: 0.16 })),
    given: fractions.map((f, i) => text(0.4, 2 * i + 0.25, f)),
    moves,
    order: orderOf(moves),
  }
}
