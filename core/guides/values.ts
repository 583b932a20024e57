import type { GuideSpec } from '../folio/thing'
import { Trouble } from '../folio/trouble'
import { add, divide, fraction, multiply, subtract, type Fraction } from '../maths/exact'
import { letterOf, oneLetter } from '../maths/expression'
import { treeOf, workOut } from '../maths/tree'
import { plainSigns } from '../numbers/read'
import { ruled } from './grids'
import { orderOf, squaresOf, writtenAt, type CellText, type GuideLayout, type Move } from './model'
import { scaleOf, written } from './scale'
import { atMost, notUnderstood, numberIn, numbersOf } from './typed'

type Values = Extract<GuideSpec, { guide: 'values' }>
const MOST = 20
/** Decimal places of a value that never ends, and those it is worked out with. */
const PLACES = 2
const WORKED = 40

/** A value, or how near it was come to. */
interface Value {
  f: Fraction
  exact: boolean
}
const undefinedThere = (why: string) =>
  new Trouble(
    'undefined-there',
    `There is no value: ${why}.`,
    'The rest is still there.',
    'It is left open in the table.',
  )

/** Square root of a whole number, rounded down (Newton's method). @param n not negative */
function wholeRoot(n: bigint): bigint {
  if (n < 2n) return n
  let x = 1n << BigInt((n.toString(2).length + 1) >> 1)
  for (;;) {
    const y = (x + n / x) >> 1n
    if (y >= x) return x
    x = y
  }
}

function root({ f, exact }: Value): Value {
  if (f.n < 0n) throw undefinedThere('a negative number has no root')
  const [n, d] = [wholeRoot(f.n), wholeRoot(f.d)]
  if (n * n === f.n && d * d === f.d) return { f: fraction(n, d), exact }
  const scale = 10n ** BigInt(WORKED)
  return { f: fraction(wholeRoot((f.n * scale * scale) / f.d), scale), exact: false }
}

/** The value of a rule; null where it has none. @throws Trouble `expression-unclear` */
export function valueAt(rule: string, x: Fraction): Value | null {
  const both = (make: (a: Fraction, b: Fraction) => Fraction) => (a: Value, b: Value) => ({
    f: make(a.f, b.f),
    exact: a.exact && b.exact,
  })
  const power = ({ f, exact }: Value, n: number): Value => {
    const base = n < 0 ? divide(fraction(1n), f) : f
    return { f: fraction(base.n ** BigInt(Math.abs(n)), base.d ** BigInt(Math.abs(n))), exact }
  }
  try {
    return workOut<Value>(treeOf(rule), {
      of: f => ({ f, exact: true }),
      letter: () => ({ f: x, exact: true }),
      add: both(add),
      subtract: both(subtract),
      multiply: both(multiply),
      divide: both(divide),
      power,
      root,
    })
  } catch (error) {
    if (error instanceof Trouble && ['divided-by-zero', 'undefined-there'].includes(error.code)) return null
    throw error
  }
}

/** A value as it stands in the table: exact, rounded with its sign, or a dash where there is none. */
export function shownValue(value: Value | null, decimal: boolean): string {
  if (!value) return '–'
  if (value.exact) return written(value.f, decimal)
  const units = (value.f.n * 10n ** BigInt(PLACES + 1)) / value.f.d
  const rounded = (units + (units < 0n ? -5n : 5n)) / 10n
  return `≈${written(fraction(rounded, 10n ** BigInt(PLACES)), true)}`
}

/**
 * A table of values of a rule in one letter, one column for each value; where there is none, a dash.
 * @throws Trouble `expression-unclear`
 */
export function valueTable({ rule, xs }: Pick<Values, 'rule' | 'xs'>): GuideLayout {
  oneLetter(rule)
  const letter = letterOf(rule)
  const decimal = !xs.some(x => x.includes('/'))
  const shown = xs.map(x => ({ x: written(numberIn(x), decimal), y: shownValue(valueAt(rule, numberIn(x)), decimal) }))
  const text = rule.replace(/-/g, '−').replace(/\*/g, '×').replace(/sqrt/g, '√')
  const head = Math.max(2, squaresOf(text)) + 1
  const wide = shown.map(({ x, y }) => Math.max(2, squaresOf(x), squaresOf(y)))
  const edges = wide.reduce<number[]>((at, w) => [...at, at[at.length - 1]! + w], [head])
  const moves: Move[] = shown.map(({ x, y }, i) => ({
    say: y === '–' ? `For ${letter} = ${x} there is no value` : `For ${letter} = ${x}: ${y}`,
    cells: [writtenAt(edges[i]!, 1, y)],
  }))
  return {
    cols: edges[edges.length - 1]!,
    rows: 2,
    lines: ruled([0, ...edges], [0, 1, 2]).map(l => ({ ...l, strong: true })),
    given: [
      writtenAt(0, 0, letter),
      writtenAt(0, 1, text),
      ...shown.map(({ x }, i): CellText => writtenAt(edges[i]!, 0, x)),
    ],
    moves,
    order: orderOf(moves),
  }
}

/**
 * A table as it is typed: "x^2 - 3 for -2 to 2", "y = 1/x for x = -1, 0, 1/2", "√x for 0 to 9 by 3".
 * @throws Trouble `guide-unclear` names what was not understood; `expression-unclear`
 */
export function readValues(typed: string): Values {
  const hit = /^(.+?)\s+(?:for|from)\s+(.+)$/i.exec(plainSigns(typed).trim())
  if (!hit) throw notUnderstood(typed || ' ', 'is not a rule and its values', 'Type x^2 - 3 for -2 to 2.')
  const rule = hit[1]!.replace(/^(?:[a-z]|[a-z]\([a-z]\))\s*=\s*/i, '').trim()
  const letter = letterOf((oneLetter(rule), rule))
  const given = /^([a-z])\s*(?:=|from)\s*(.+)$/i.exec(hit[2]!)
  if (given && given[1]!.toLowerCase() !== letter.toLowerCase())
    throw notUnderstood(given[1]!, `is not the letter of ${rule}`)
  const list = given ? given[2]! : hit[2]!
  const range = /^(.+?)\s+to\s+(.+?)(?:\s+(?:by|in steps of)\s+(.+))?$/i.exec(list)
  const xs = range
    ? scaleOf(
        numberIn(range[1]!),
        numberIn(range[2]!),
        range[3] === undefined ? fraction(1n) : numberIn(range[3]),
      ).values.map(v => written(v).replace('−', '-'))
    : numbersOf(list)
  atMost(xs, MOST, 'values')
  xs.forEach(x => valueAt(rule, numberIn(x)))
  return { guide: 'values', rule, xs, asTyped: true }
}
