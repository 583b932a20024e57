import type { GuideSpec } from '../folio/thing'
import { divide, fraction, multiply, type Fraction } from '../maths/exact'
import { plainSigns } from '../numbers/read'
import { ruled } from './grids'
import { orderOf, squaresOf, writtenAt, type GuideLayout, type Move, type ScaffoldLine } from './model'
import { isLess, written } from './scale'
import { atMost, notUnderstood, numberIn } from './typed'

type Units = Extract<GuideSpec, { guide: 'units' }>

/** Most bars, and most units of one bar. */
const MOST_BARS = 6
const MOST_UNITS = 30
/** Squares that the longest bar is long. */
const LENGTH = 18

/**
 * Named bars of equal units, one below the other. What is known of them (all together, the difference, one bar) gives one
 * unit, and one unit gives the rest: a move each.
 * @throws Trouble `guide-unclear` for units that cannot be drawn, or a difference of nothing
 */
export function unitBars({ bars, known }: Omit<Units, 'guide'>): GuideLayout {
  const units = bars.map(b => unitsIn(b.units))
  const head = Math.max(...bars.map(b => squaresOf(b.name))) + 1
  const most = Math.max(...units)
  const side = LENGTH / most
  const rowOf = (i: number) => 0.5 + 2.5 * i
  const end = rowOf(bars.length)
  const { share, says, at } = knownOf(bars, units, known)
  const value = numberIn(known.value)
  const one = divide(value, fraction(BigInt(share)))
  const tell = (f: Fraction) => written(f)
  const result = head + LENGTH + 1
  const unitOf = (n: number) => (n === 1 ? '1 unit' : `${n} units`)
  const moves: Move[] = [
    { say: says, cells: [writtenAt(result, at === null ? end : rowOf(at), tell(value), 'working')] },
    ...(share === 1
      ? [{ say: `1 unit = ${tell(one)}`, cells: [writtenAt(0, end + 1, `1 unit = ${tell(one)}`, 'working')] }]
      : [
          { say: `${unitOf(share)} = ${tell(value)}`, cells: [writtenAt(0, end, `${unitOf(share)} = ${tell(value)}`)] },
          {
            say: `1 unit = ${tell(value)} ÷ ${share} = ${tell(one)}`,
            cells: [writtenAt(0, end + 1, `1 unit = ${tell(value)} ÷ ${share} = ${tell(one)}`)],
          },
        ]),
    ...bars.flatMap((bar, i): Move[] => {
      if (at === i) return []
      const all = multiply(one, fraction(BigInt(units[i]!)))
      return [
        {
          say: `${bar.name}: ${units[i]} × ${tell(one)} = ${tell(all)}`,
          cells: [writtenAt(result, rowOf(i), tell(all), 'answer')],
        },
      ]
    }),
  ]
  const widest = Math.max(...moves.flatMap(m => m.cells.map(c => c.col + squaresOf(c.text))))
  return {
    cols: Math.ceil(Math.max(widest, head + LENGTH)) + 1,
    rows: end + 2.5,
    lines: [
      ...units.flatMap((n, i) => unitCells(head, rowOf(i), side, n)),
      // Ends line up, so that the difference is seen.
      ...(known.what === 'difference' ? differenceLines(head, side, units, rowOf) : []),
    ],
    areas: units.map((n, i) => ({ x: head, y: rowOf(i), w: n * side, h: 1.5, shade: 0.1 })),
    given: bars.map((b, i) => writtenAt(0, rowOf(i) + 0.25, b.name)),
    moves,
    order: orderOf(moves),
  }
}

function unitCells(x: number, y: number, side: number, n: number): ScaffoldLine[] {
  return ruled(
    Array.from({ length: n + 1 }, (_, k) => x + k * side),
    [y, y + 1.5],
  ).map(l => ({ ...l, strong: true }))
}

function differenceLines(
  head: number,
  side: number,
  units: readonly number[],
  rowOf: (i: number) => number,
): ScaffoldLine[] {
  const last = rowOf(units.length - 1) + 1.5
  return [Math.min(...units), Math.max(...units)].map(n => ({
    from: [head + n * side, rowOf(0)],
    to: [head + n * side, last],
  }))
}

function unitsIn(text: string): number {
  const f = numberIn(text)
  if (f.d !== 1n || f.n < 1n || f.n > BigInt(MOST_UNITS))
    throw notUnderstood(text, `is not a number of units from 1 to ${MOST_UNITS}`, 'Bring the ratio to whole numbers.')
  return Number(f.n)
}

/** How many units the known number is, how that is said, and beside which bar it stands (null: below all). */
function knownOf(
  bars: Units['bars'],
  units: readonly number[],
  known: Units['known'],
): { share: number; says: string; at: number | null } {
  if (known.what === 'total')
    return {
      share: units.reduce((a, b) => a + b, 0),
      says: `All together are ${written(numberIn(known.value))}`,
      at: null,
    }
  if (known.what === 'bar') {
    const at = known.bar ?? 0
    return { share: units[at]!, says: `${bars[at]!.name} is ${written(numberIn(known.value))}`, at }
  }
  const share = Math.max(...units) - Math.min(...units)
  if (share === 0) throw notUnderstood('difference', 'is of bars that are alike', 'Give the total or one bar.')
  return { share, says: `The difference is ${written(numberIn(known.value))}`, at: null }
}

const TOTAL = /^(?:total|altogether|all|sum|whole)\s*(?:[:=]|is|are)?\s*(.+)$/i
const DIFFERENCE = /^(?:difference|diff|more)\s*(?:[:=]|is)?\s*(.+)$/i

/**
 * Bars as they are typed: "Ana 3, Ben 5; total 40", "3 : 5; difference 12", "Ana 2, Ben 3; Ana = 15".
 * @throws Trouble `guide-unclear` names what was not understood
 */
export function readUnits(typed: string): Units {
  const [head, ...tail] = plainSigns(typed)
    .split(/\s*;\s*/)
    .map(p => p.trim())
  if (!head || tail.length !== 1 || !tail[0])
    throw notUnderstood(
      typed || ' ',
      'does not say what is known',
      'Type the bars, a semicolon, and the total, the difference or one bar: Ana 3, Ben 5; total 40.',
    )
  const bars = barsOf(head)
  atMost(bars, MOST_BARS, 'bars')
  if (bars.length < 2) throw notUnderstood(head, 'is only one bar')
  bars.forEach(b => unitsIn(b.units))
  const known = knownIn(tail[0], bars)
  if (isLess(numberIn(known.value), fraction(0n)) || numberIn(known.value).n === 0n)
    throw notUnderstood(known.value, 'is no length of bars')
  const spec: Units = { guide: 'units', bars, known }
  return spec
}

function barsOf(head: string): Units['bars'] {
  // "Ana : Ben = 3 : 5", and "3 : 5".
  const ratio = /^(?:(.+?)\s*=\s*)?(\d+(?:\s*:\s*\d+)+)$/.exec(head)
  if (ratio) {
    const units = ratio[2]!.split(':').map(t => t.trim())
    const names = ratio[1]?.split(':').map(t => t.trim()) ?? units.map((_, i) => String.fromCharCode(65 + i))
    if (names.length !== units.length) throw notUnderstood(head, 'has not one name for each number')
    return units.map((u, i) => ({ name: names[i]!, units: u }))
  }
  return head.split(/\s*,\s*/).map(piece => {
    const hit = /^(.*?\p{L}.*?)\s*[:=]?\s+(\d+)$|^(\p{L}+)\s*[:=]\s*(\d+)$/u.exec(piece)
    if (!hit) throw notUnderstood(piece, 'is not a name and its number of units', 'Type Ana 3, Ben 5; total 40.')
    return { name: (hit[1] ?? hit[3])!.trim(), units: (hit[2] ?? hit[4])! }
  })
}

function knownIn(text: string, bars: Units['bars']): Units['known'] {
  const total = TOTAL.exec(text)
  if (total) return { what: 'total', value: checked(total[1]!) }
  const difference = DIFFERENCE.exec(text)
  if (difference) return { what: 'difference', value: checked(difference[1]!) }
  const bar = bars.findIndex(b => text.toLowerCase().startsWith(b.name.toLowerCase()))
  const rest = bar < 0 ? '' : text.slice(bars[bar]!.name.length).replace(/^\s*(?:[:=]|is|has|gets)?\s*/i, '')
  if (bar < 0 || !rest) throw notUnderstood(text, 'names neither the total, the difference nor a bar')
  return { what: 'bar', bar, value: checked(rest) }
}
const checked = (text: string) => (numberIn(text), text.trim())
