import type { GuideSpec } from '../folio/thing'
import { Trouble } from '../folio/trouble'
import { readDecimal, writeDecimal, type Decimal } from '../maths/exact'
import { plainSigns } from '../numbers/read'
import { digitsEndingAt, orderOf, type CellText, type GuideLayout, type Move, type ScaffoldLine } from './model'
import { notUnderstood, numberIn } from './typed'

type Division = Extract<GuideSpec, { guide: 'division' }>
/** How a division ends: with a remainder, as a decimal to its end, or rounded to its places. */
export type Ending = NonNullable<Division['ending']>

/** Places a quotient is carried to at most. */
const MOST_PLACES = 50
/** Places after which a decimal that neither ends nor repeats is not carried on. */
const MOST_EXACT = 30

/**
 * Long division: the divisor to the left, the quotient above the dividend, and below it product, difference and the
 * next digit brought down, over and over.
 * @throws Trouble `divided-by-zero`, `number-negative`, `guide-unclear` where it cannot end as it should
 */
export function longDivision({ dividend, divisor, places, ending }: Omit<Division, 'guide'>): GuideLayout {
  const a = readDecimal(dividend),
    b = readDecimal(divisor)
  const { top, by, decimals } = wholeDivisor(a, b)
  if (ending === 'remainder' && decimals)
    throw notUnderstood(
      `${dividend} : ${divisor}`,
      'leaves no whole remainder',
      'Choose the decimal, or rounded to some places.',
    )
  // Both numbers made whole together are a move of their own, above the rest.
  const shifts = ending !== undefined && b.places > 0
  const up = shifts ? 2 : 0
  const sign = ending !== undefined && /,\d+$/.test(`${dividend.trim()} ${divisor.trim()}`) ? ',' : '.'
  const at = { up, first: String(by).length + 1, by, sign }
  const digits = top.padStart(decimals + 1, '0')
  const extra = extraPlaces({ places, ending, top, by, decimals })
  const worked = work(digits, decimals, extra, at)
  const wholeDigits = digits.length - decimals
  const quotient =
    worked.quotient.slice(0, wholeDigits).replace(/^0+(?=\d)/, '') +
    (worked.quotient.length > wholeDigits ? `.${worked.quotient.slice(wholeDigits)}` : '')
  const isWhole = ending === undefined ? extra === 0 && !/[.]/.test(`${dividend}${divisor}`) : ending === 'remainder'
  const end = closing({ ...worked, isWhole, ending, places, quotient, sign, up, col: at.first + worked.used })
  const { row, used } = worked
  const width = at.first - 1
  const moves = [...(shifts ? [shiftMove(a, b, by)] : []), ...worked.moves, ...end.moves]
  return {
    cols: at.first + used + end.cols,
    rows: row + 1,
    lines: [
      { from: [at.first, up + 1], to: [at.first + used, up + 1], strong: true },
      { from: [at.first, up + 1], to: [at.first, up + 2], strong: true },
      ...Array.from(
        { length: used },
        (_, i): ScaffoldLine => ({ from: [at.first + i + 1, up], to: [at.first + i + 1, row + 1] }),
      ),
    ],
    given: [
      ...(shifts ? [text(0, 0, `${dividend} : ${divisor}`, 'working')] : []),
      ...digitsEndingAt(by.toString(), width - 1, up + 1, 'working'),
      ...[...digits].map((t, i): CellText => ({ col: at.first + i, row: up + 1, text: t, role: 'working' })),
      ...(decimals ? [{ col: at.first + wholeDigits, row: up + 1, text: sign, role: 'aside' as const, wide: 0 }] : []),
    ],
    moves,
    order: orderOf(moves),
  }
}

const text = (col: number, row: number, t: string, role: CellText['role']): CellText => ({
  col,
  row,
  text: t,
  role,
  wide: Math.max(2, Math.ceil(t.length * 0.62)),
})

function shiftMove(a: Decimal, b: Decimal, by: bigint): Move {
  const shifted = writeDecimal(
    b.places >= a.places
      ? { units: a.units * 10n ** BigInt(b.places - a.places), places: 0 }
      : { units: a.units, places: a.places - b.places },
  )
  const power = `1${'0'.repeat(b.places)}`
  return {
    say: `Both times ${power}, so that the divisor is whole: ${shifted} : ${by}`,
    cells: [text(0, 1, `= ${shifted} : ${by}`, 'working')],
  }
}

/** How many places behind the dividend's own are worked out. */
function extraPlaces({
  places,
  ending,
  top,
  by,
  decimals,
}: Pick<Division, 'places' | 'ending'> & { top: string; by: bigint; decimals: number }): number {
  if (ending === undefined) return Math.min(places, MOST_PLACES)
  if (ending === 'remainder') return 0
  // One place more decides how it is rounded.
  if (ending === 'rounded') return Math.max(0, Math.min(places, MOST_PLACES) + 1 - decimals)
  let rest = BigInt(top) % by
  const seen = new Set<bigint>()
  for (let i = 0; i <= MOST_EXACT; i++) {
    if (rest === 0n || seen.has(rest)) return i
    seen.add(rest)
    rest = (rest * 10n) % by
  }
  throw notUnderstood(
    `${top} : ${by}`,
    `neither ends nor repeats within ${MOST_EXACT} places`,
    'Choose rounded to some places.',
  )
}

interface Place {
  /** Rows above the division. */ up: number
  first: number
  by: bigint
  sign: string
}
interface Worked {
  moves: Move[]
  rest: bigint
  row: number
  used: number
  /** The quotient's digits, those in front included. */ quotient: string
}

/** All digits, one after the other. */
function work(digits: string, decimals: number, extra: number, { up, first, by, sign }: Place): Worked {
  const colOf = (i: number) => first + i
  const wholeDigits = digits.length - decimals
  const moves: Move[] = []
  let rest = 0n
  // The row on which the number that is being divided stands: first the dividend itself, later a difference.
  let row = up + 1
  let started = false
  let used = digits.length
  let quotient = ''
  for (let i = 0; i < digits.length + extra; i++) {
    if (i >= digits.length && rest === 0n) break
    const digit = digits[i] ?? '0'
    used = Math.max(used, i + 1)
    rest = rest * 10n + BigInt(digit)
    if (started && (row > up + 1 || i >= digits.length))
      moves.push({
        say: `Bring down ${i < digits.length ? `the ${digit}` : 'a zero'}: ${rest}`,
        cells: [{ col: colOf(i), row, text: digit, role: 'carry' }],
      })
    const q = rest / by
    quotient += q
    if (!started && q === 0n && i < wholeDigits - 1) continue
    started = true
    const point: CellText[] =
      i === wholeDigits ? [{ col: colOf(i), row: up, text: sign, role: 'working', wide: 0 }] : []
    moves.push({
      say: `${by} into ${rest} goes ${q} ${q === 1n ? 'time' : 'times'}`,
      cells: [...point, { col: colOf(i), row: up, text: q.toString(), role: 'working' }],
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
  return { moves, rest, row, used, quotient }
}

interface Closing extends Worked {
  isWhole: boolean
  ending: Ending | undefined
  places: number
  sign: string
  up: number
  col: number
}

/** What is said and written when all digits are worked out. */
function closing({ isWhole, ending, rest, places, quotient, sign, up, col }: Closing): { moves: Move[]; cols: number } {
  if (isWhole)
    return {
      moves: [
        {
          say: rest === 0n ? 'Nothing is left over' : `${rest} is left over`,
          cells: rest > 0n ? [{ col, row: up, text: `r ${rest}`, role: 'answer', wide: String(rest).length + 2 }] : [],
        },
      ],
      cols: rest > 0n ? String(rest).length + 3 : 1,
    }
  const shown = (value: string) => value.replace('.', sign)
  if (ending === 'decimal')
    return {
      moves: [
        {
          say:
            rest === 0n
              ? `Nothing is left over: ${shown(quotient)}`
              : `${rest} is left over, as before: from here on the same digits come again`,
          cells: rest === 0n ? [] : [text(col, up, '…', 'answer')],
        },
      ],
      cols: 3,
    }
  if (ending === 'rounded') {
    const rounded = roundedTo(quotient, places)
    const exact = rest === 0n && (quotient.split('.')[1]?.length ?? 0) <= places
    const next = quotient.split('.')[1]?.[places] ?? '0'
    const result = `${exact ? '=' : '≈'} ${shown(rounded)}`
    return {
      moves: [
        {
          say: exact
            ? `Nothing is left over: ${shown(quotient)}`
            : `The next digit is ${next}: rounded ${Number(next) >= 5 ? 'up' : 'down'} to ${shown(rounded)}`,
          cells: [text(col + 1, up, result, 'answer')],
        },
      ],
      cols: Math.ceil(result.length * 0.62) + 3,
    }
  }
  return { moves: [], cols: 1 }
}

/** A decimal rounded half up to so many places; places that are missing are zeros. */
export function roundedTo(value: string, places: number): string {
  const [whole = '0', rest = ''] = value.split('.')
  const units = BigInt(whole + rest.padEnd(places + 1, '0').slice(0, places + 1))
  return writeDecimal({ units: (units + 5n) / 10n, places })
}

const ENDINGS: readonly (readonly [RegExp, (hit: RegExpExecArray) => { ending: Ending; places: number }])[] = [
  [/\s*,?\s*with (?:a )?remainder$/i, () => ({ ending: 'remainder', places: 0 })],
  [/\s*,?\s*(?:as a decimal|exactly|exact)$/i, () => ({ ending: 'decimal', places: 0 })],
  [
    /\s*,?\s*(?:rounded )?to (\d{1,2})(?: ?d\.? ?p\.?| decimal places?| places?| decimals?)?$/i,
    hit => ({ ending: 'rounded', places: Number(hit[1]) }),
  ],
]

/**
 * A division as it is typed: "863 : 14", "24 into 863", and how it ends: "with remainder", "as a decimal", "to 2 places".
 * Without that, whole numbers leave a remainder and decimals go on to their end.
 * @throws Trouble `guide-unclear` names what was not understood
 */
export function readDivision(typed: string): Division {
  let rest = plainSigns(typed).trim()
  let chosen: { ending: Ending; places: number } | null = null
  for (const [pattern, make] of ENDINGS) {
    const hit = pattern.exec(rest)
    if (!hit) continue
    chosen = make(hit)
    rest = rest.slice(0, hit.index)
    break
  }
  const into = /^(.+?)\s+into\s+(.+)$/i.exec(rest)
  const parts = into ? [into[2]!, into[1]!] : rest.split(/\s*(?:÷|:|\/|\bdivided by\b|\bby\b)\s*/i)
  if (parts.length !== 2)
    throw notUnderstood(typed || ' ', 'is not one number divided by another', 'Type 863 : 14, or 14 into 863.')
  const [dividend, divisor] = parts.map(p => p.trim()) as [string, string]
  const places = [dividend, divisor].map(t => (numberIn(t), readDecimal(t).places))
  const whole = places[0]! <= places[1]!
  const { ending, places: to } = chosen ?? { ending: whole && !places[1] ? 'remainder' : 'decimal', places: 0 }
  if (to > MOST_PLACES) throw notUnderstood(`to ${to} places`, `is more than ${MOST_PLACES} places`)
  return { guide: 'division', dividend, divisor, places: to, ending }
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
