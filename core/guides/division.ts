import { Trouble } from '../folio/trouble'
import { readDecimal, type Decimal } from '../maths/exact'
import { digitsEndingAt, orderOf, type CellText, type GuideLayout, type Move, type ScaffoldLine } from './model'

/** Places a quotient is carried to at most. */
const MOST_PLACES = 50

/**
 * Long division: the divisor to the left, the quotient above the dividend, and below it product, difference and the
 * next digit brought down,
 * over and over. With `places`, it goes on behind the point until the remainder is zero or the places are used up.
 * @throws Trouble `divided-by-zero`
 */
export function longDivision(dividend: string, divisor: string, places: number): GuideLayout {
  const { top, by, decimals } = wholeDivisor(readDecimal(dividend), readDecimal(divisor))
  const width = String(by).length
  const digits = top.padStart(decimals + 1, '0')
  const extra = Math.min(places, MOST_PLACES)
  const first = width + 1
  const colOf = (i: number) => first + i
  const wholeDigits = digits.length - decimals
  const moves: Move[] = []
  let rest = 0n
  // The row on which the number that is being divided stands: first the dividend itself, later a difference.
  let row = 1
  let started = false
  let used = digits.length
  for (let i = 0; i < digits.length + extra; i++) {
    if (i >= digits.length && rest === 0n) break
    const digit = digits[i] ?? '0'
    used = Math.max(used, i + 1)
    rest = rest * 10n + BigInt(digit)
    if (started && (row > 1 || i >= digits.length))
      moves.push({
        say: `Bring down ${i < digits.length ? `the ${digit}` : 'a zero'}: ${rest}`,
        cells: [{ col: colOf(i), row, text: digit, role: 'carry' }],
      })
    const q = rest / by
    if (!started && q === 0n && i < wholeDigits - 1) continue
    started = true
    const point: CellText[] = i === wholeDigits ? [{ col: colOf(i), row: 0, text: '.', role: 'working', wide: 0 }] : []
    moves.push({
      say: `${by} into ${rest} goes ${q} ${q === 1n ? 'time' : 'times'}`,
      cells: [...point, { col: colOf(i), row: 0, text: q.toString(), role: 'working' }],
    })
    if (q > 0n) {
      const product = (q * by).toString()
      const difference = (rest - q * by).toString()
      moves.push({ say: `${q} × ${by} = ${product}`, cells: digitsEndingAt(product, colOf(i), row + 1, 'working') })
      const line = [colOf(i) - product.length + 1, row + 2, colOf(i) + 1, row + 2] as const
      moves.push({
        say: `${rest} − ${product} = ${difference}`,
        cells: [
          { col: 0, row: row + 2, text: '', role: 'working', line },
          ...digitsEndingAt(difference, colOf(i), row + 2, 'working'),
        ],
      })
      row += 2
    }
    rest -= q * by
  }
  // A remainder belongs to whole numbers; behind the point the division goes on, or is rounded.
  const isWhole = extra === 0 && !/[.]/.test(`${dividend}${divisor}`)
  if (isWhole)
    moves.push({
      say: rest === 0n ? 'Nothing is left over' : `${rest} is left over`,
      cells:
        rest > 0n
          ? [{ col: colOf(used), row: 0, text: `r ${rest}`, role: 'answer', wide: String(rest).length + 2 }]
          : [],
    })
  const cols = colOf(used) + (isWhole && rest > 0n ? String(rest).length + 3 : 1)
  const lines: ScaffoldLine[] = [
    { from: [first, 1], to: [colOf(used), 1], strong: true },
    { from: [first, 1], to: [first, 2], strong: true },
    ...Array.from({ length: used }, (_, i): ScaffoldLine => ({ from: [colOf(i) + 1, 0], to: [colOf(i) + 1, row + 1] })),
  ]
  return {
    cols,
    rows: row + 1,
    lines,
    given: [
      ...digitsEndingAt(by.toString(), width - 1, 1, 'working'),
      ...[...digits].map((text, i): CellText => ({ col: colOf(i), row: 1, text, role: 'working' })),
      ...(decimals ? [{ col: colOf(wholeDigits), row: 1, text: '.', role: 'aside' as const, wide: 0 }] : []),
    ],
    moves,
    order: orderOf(moves),
  }
}

/** Both numbers shifted so that the divisor is whole. */
function wholeDivisor(a: Decimal, b: Decimal): { top: string; by: bigint; decimals: number } {
  if (b.units === 0n)
    throw new Trouble(
      'divided-by-zero',
      'Nothing can be divided by zero.',
      'What you typed is still there.',
      'Change the divisor.',
    )
  if (a.units < 0n || b.units < 0n)
    throw new Trouble(
      'number-negative',
      'Long division takes numbers without a sign.',
      'What you typed is still there.',
      'Type the numbers without minus.',
    )
  const shift = b.places
  const decimals = Math.max(0, a.places - shift)
  const top = a.units * 10n ** BigInt(Math.max(0, shift - a.places))
  return { top: top.toString(), by: b.units, decimals }
}
