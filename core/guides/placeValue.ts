import type { GuideSpec } from '../folio/thing'
import { readDecimal, writeDecimal, type Decimal } from '../maths/exact'
import { plainSigns } from '../numbers/read'
import { ruled } from './grids'
import { digitsEndingAt, orderOf, type CellText, type GuideLayout, type Move } from './model'
import { notUnderstood, numberIn } from './typed'

type PlaceValue = Extract<GuideSpec, { guide: 'placeValue' }>
const NAMES = ['U', 'T', 'H', 'Th', 'TTh', 'HTh', 'M', 'TM', 'HM', 'B']
const PARTS = ['t', 'h', 'th', 'tth', 'hth', 'm']
const MOST = 6

/**
 * A number times or divided by a power of ten: its digits move over the places, the point stays.
 * @throws Trouble `guide-unclear` for what has more places than are named
 */
export function placeValueColumns({ number, power }: Pick<PlaceValue, 'number' | 'power'>): GuideLayout {
  const before = trimmed(readDecimal(number))
  const after = trimmed({
    units: before.units * 10n ** BigInt(Math.max(0, power)),
    places: before.places + Math.max(0, -power),
  })
  const [a, b] = [before, after].map(d => digitsOf(d)) as [Digits, Digits]
  const whole = Math.max(a.whole.length, b.whole.length),
    parts = Math.max(a.rest.length, b.rest.length)
  if (whole > NAMES.length || parts > PARTS.length)
    throw notUnderstood(number, 'has more places than this guide has names for')
  const last = whole - 1
  const digits = (d: Digits, row: number, role: CellText['role']) => [
    ...digitsEndingAt(d.whole, last, row, role),
    ...[...d.rest].map((text, i): CellText => ({ col: whole + i, row, text, role })),
  ]
  const places = Math.abs(power)
  const [way, by] = power > 0 ? ['left', '×'] : ['right', '÷']
  const moved = digits(b, 2, 'working')
  // Digits that were there before move; zeros that fill up come after them.
  const own = significant(before).length
  const from = moved.findIndex(c => c.text !== '0')
  const isOwn = (i: number) => i >= from && i < from + own
  const zeros = moved.filter((_, i) => !isOwn(i))
  const moves: Move[] = [
    {
      say: `${by} 1${'0'.repeat(places)}: every digit moves ${places} ${places === 1 ? 'place' : 'places'} to the ${way}`,
      cells: moved.filter((_, i) => isOwn(i)),
    },
    ...(zeros.length
      ? [
          {
            say: zeros.length === 1 ? 'A zero fills the empty place' : 'Zeros fill the empty places',
            cells: zeros.map(c => ({ ...c, role: 'carry' as const })),
          },
        ]
      : []),
    {
      say: `${writeDecimal(before)} ${by} 1${'0'.repeat(places)} = ${writeDecimal(after)}`,
      cells: parts && b.rest ? [{ col: whole, row: 2, text: '.', role: 'answer', wide: 0 }] : [],
    },
  ]
  return {
    cols: whole + parts,
    rows: 3,
    lines: ruled(
      Array.from({ length: whole + parts + 1 }, (_, i) => i),
      [0, 1, 2, 3],
    ).map(l => ({ ...l, strong: l.from[0] === whole && l.to[0] === whole })),
    given: [
      ...Array.from(
        { length: whole },
        (_, i): CellText => ({ col: last - i, row: 0, text: NAMES[i]!, role: 'aside', small: true }),
      ),
      ...Array.from(
        { length: parts },
        (_, i): CellText => ({ col: whole + i, row: 0, text: PARTS[i]!, role: 'aside', small: true }),
      ),
      ...digits(a, 1, 'working'),
      ...(a.rest ? [{ col: whole, row: 1, text: '.', role: 'aside' as const, wide: 0 }] : []),
    ],
    moves,
    order: orderOf(moves),
  }
}

interface Digits {
  whole: string
  rest: string
}
function digitsOf(d: Decimal): Digits {
  const [whole = '0', rest = ''] = writeDecimal(d).split('.')
  return { whole, rest }
}
/** Without zeros at the end of its places. */
function trimmed({ units, places }: Decimal): Decimal {
  let [n, p] = [units, places]
  while (p > 0 && n % 10n === 0n) {
    n /= 10n
    p--
  }
  return { units: n, places: p }
}
/** From the first digit that is no zero to the last. */
const significant = (d: Decimal) => d.units.toString()

/**
 * As it is typed: "2.35 × 100", "47 : 1000", "0.6 * 10^3".
 * @throws Trouble `guide-unclear` names what is no power of ten
 */
export function readPlaceValue(typed: string): PlaceValue {
  const hit = /^(.+?)\s*([*×x·:÷/])\s*(.+)$/i.exec(plainSigns(typed).trim())
  if (!hit) throw notUnderstood(typed || ' ', 'is not a number times or divided by a power of ten', 'Type 2.35 * 100.')
  const [, number, sign, by] = hit as unknown as [string, string, string, string]
  const { n, d } = numberIn(by)
  const power = d === 1n && /^10*$/.test(n.toString()) ? n.toString().length - 1 : 0
  if (power < 1 || power > MOST) throw notUnderstood(by, `is not 10, 100, … up to 1${'0'.repeat(MOST)}`)
  numberIn(number)
  if (readDecimal(number).units <= 0n) throw notUnderstood(number, 'is not above zero')
  const spec: PlaceValue = { guide: 'placeValue', number, power: /[*×x·]/i.test(sign) ? power : -power }
  placeValueColumns(spec)
  return spec
}
