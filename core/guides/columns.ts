import type { GuideSpec } from '../folio/thing'
import { Trouble } from '../folio/trouble'
import { readDecimal, withPlaces, writeDecimal, type Decimal } from '../maths/exact'
import { plainSigns } from '../numbers/read'
import { digitsEndingAt, orderOf, type CellText, type GuideLayout, type Move, type ScaffoldLine } from './model'
import { atMost, notUnderstood, numberIn } from './typed'

/** Numbers brought to one count of places, as rows of digits with the point in its own column. */
interface Columns {
  rows: string[]
  places: number
  width: number
}

function align(numbers: readonly string[]): Columns & { values: Decimal[] } {
  const read = numbers.map(readDecimal)
  if (read.some(d => d.units < 0n))
    throw new Trouble(
      'number-negative',
      'Columns line up numbers without a sign.',
      'What you typed is still there.',
      'Type the numbers without minus, and choose the operation.',
    )
  const places = Math.max(...read.map(d => d.places))
  const values = read.map(d => withPlaces(d, places))
  const rows = values.map(v => writeDecimal(v).replace('.', ''))
  return { rows, values, places, width: Math.max(...rows.map(r => r.length)) }
}

/**
 * Squares of a column method: the sign's column, `width` digits, and, between units and tenths, nothing: the point sits
 * on the line between two
 * columns, so that digits keep their distance.
 */
function pointMarks(places: number, lastCol: number, rows: readonly number[], sign: string): CellText[] {
  return places
    ? rows.map(row => ({ col: lastCol - places + 1, row, text: sign, role: 'aside' as const, wide: 0 }))
    : []
}

/**
 * Separators of thousands sit on the line between columns, too.
 * @param sign that of the number as it was typed; '' where it had none
 */
function thousands(whole: number, firstCol: number, row: number, sign: string): CellText[] {
  const out: CellText[] = []
  for (let k = 3; sign && k < whole; k += 3)
    out.push({ col: firstCol + whole - k, row, text: sign, role: 'aside', wide: 0 })
  return out
}

/**
 * The separator between thousands as it was typed: a space needs no sign of its own in squares.
 * @param asTyped whether only those that were typed are shown; guides of before had a comma in all of five digits
 */
function separatorOf(text: string, whole: number, asTyped: boolean): string {
  if (!asTyped) return whole > 4 ? ',' : ''
  const hit = /^\d{1,3}([,.'’])\d{3}(?!\d)/.exec(text.trim())
  const { places } = readDecimal(text)
  return hit && (places === 0 || /[,.].*[,.]/.test(text)) ? hit[1]! : ''
}
/** The decimal sign as it was typed. */
const decimalSign = (numbers: readonly string[]) =>
  numbers.some(t => /,\d+$/.test(t.trim()) && readDecimal(t).places > 0) ? ',' : '.'

const level = (row: number, from: number, to: number): ScaffoldLine => ({
  from: [from, row],
  to: [to, row],
  strong: true,
})

/** Upright lines between the columns. */
function grid(cols: number, rows: number): ScaffoldLine[] {
  return Array.from({ length: cols - 1 }, (_, i): ScaffoldLine => ({ from: [i + 1, 0], to: [i + 1, rows] }))
}

/** Adds numbers in columns: from the right, the sum's digit below the line, the carry small above the next column. */
export function additionColumns(numbers: readonly string[], asTyped = false): GuideLayout {
  const { rows, places, values } = align(numbers)
  const total = values
    .reduce((s, v) => s + v.units, 0n)
    .toString()
    .padStart(places + 1, '0')
  const width = Math.max(total.length, ...rows.map(r => r.length))
  const last = width
  const sumRow = 1 + rows.length
  const moves: Move[] = []
  let carry = 0
  for (let k = 0; k < width; k++) {
    const digits = rows.map(r => Number(r[r.length - 1 - k] ?? 0))
    const present = rows.filter(r => r.length > k).length
    if (!present && !carry) break
    const sum = digits.reduce((a, b) => a + b, carry)
    const col = last - k
    const next = Math.floor(sum / 10)
    const parts = [...(carry ? [carry] : []), ...rows.flatMap((r, i) => (r.length > k ? [digits[i]!] : []))]
    const cells: CellText[] = [{ col, row: sumRow, text: String(sum % 10), role: 'working' }]
    if (next)
      cells.push(
        k === width - 1
          ? { col: col - 1, row: sumRow, text: String(next), role: 'working' }
          : { col: col - 1, row: 0, text: String(next), role: 'carry', small: true },
      )
    moves.push({ say: `${parts.join(' + ')} = ${sum}${next ? `: ${sum % 10} down, carry ${next}` : ''}`, cells })
    carry = next
  }
  return {
    cols: width + 1,
    rows: sumRow + 1,
    lines: [...grid(width + 1, sumRow + 1), level(sumRow, 0, width + 1)],
    given: [
      ...rows.flatMap((r, i) => [
        ...digitsEndingAt(r, last, 1 + i, 'working'),
        ...thousands(
          r.length - places,
          last - r.length + 1,
          1 + i,
          separatorOf(numbers[i]!, r.length - places, asTyped),
        ),
      ]),
      { col: 0, row: rows.length, text: '+', role: 'working' },
      ...pointMarks(
        places,
        last,
        [...rows.keys(), rows.length].map(r => r + 1),
        decimalSign(numbers),
      ),
    ],
    moves,
    order: orderOf(moves),
  }
}

/**
 * Subtracts in columns with regrouping: where the upper digit is too small, one is taken from the next column to the
 * left that is not zero, and
 * every zero on the way becomes 9. The larger number stands above; a difference below zero gets its sign at the end.
 */
export function subtractionColumns(numbers: readonly string[], asTyped = false): GuideLayout {
  const { rows, places, values } = align(numbers.slice(0, 2))
  const swapped = values[0]!.units < values[1]!.units
  const typed = swapped ? [numbers[1]!, numbers[0]!] : numbers
  const [above, below] = (swapped ? [rows[1]!, rows[0]!] : [rows[0]!, rows[1]!]) as [string, string]
  const width = above.length
  const last = width
  const top = [...above].map(Number),
    bottom = [...below.padStart(width, '0')].map(Number)
  const difference = (swapped ? values[1]!.units - values[0]!.units : values[0]!.units - values[1]!.units)
    .toString()
    .padStart(places + 1, '0')
  const moves: Move[] = []
  const regrouped = new Set<number>()
  const colOf = (i: number) => last - (width - 1 - i)
  for (let i = width - 1; i >= width - Math.max(difference.length, below.length); i--) {
    if (top[i]! < bottom[i]!) {
      let from = i - 1
      while (top[from] === 0) from--
      const cells: CellText[] = []
      for (let k = from; k <= i; k++) {
        const digit = k === from ? top[k]! - 1 : k === i ? top[k]! + 10 : 9
        // A digit that is regrouped again is struck where it stands small, and its new value goes above it.
        cells.push(
          {
            col: colOf(k),
            row: regrouped.has(k) ? 1 : 2,
            text: '',
            role: 'carry',
            strike: true,
            small: regrouped.has(k),
          },
          { col: colOf(k), row: regrouped.has(k) ? 0 : 1, text: String(digit), role: 'carry', small: true },
        )
        regrouped.add(k)
        top[k] = digit
      }
      moves.push({
        say: `${bottom[i]} from ${top[i]! - 10} does not go: take one from the ${top[from]! + 1}${i - from > 1 ? ', the zeros between become 9' : ''}`,
        cells,
      })
    }
    const digit = top[i]! - bottom[i]!
    if (i < width - difference.length) break
    moves.push({
      say: `${top[i]} − ${bottom[i]} = ${digit}`,
      cells: [{ col: colOf(i), row: 4, text: String(digit), role: 'working' }],
    })
  }
  if (swapped)
    moves.push({
      say: 'The larger was taken from: the difference is negative',
      cells: [{ col: 0, row: 4, text: '−', role: 'working' }],
    })
  return {
    cols: width + 1,
    rows: 5,
    lines: [...grid(width + 1, 5), level(4, 0, width + 1)],
    given: [
      ...[above, below].flatMap((r, i) => [
        ...digitsEndingAt(r, last, 2 + i, 'working'),
        ...thousands(r.length - places, last - r.length + 1, 2 + i, separatorOf(typed[i]!, r.length - places, asTyped)),
      ]),
      { col: 0, row: 3, text: '−', role: 'working' },
      ...pointMarks(places, last, [2, 3, 4], decimalSign(numbers)),
    ],
    moves,
    order: orderOf(moves),
  }
}

/**
 * Multiplies in columns: a row for each digit of the second number, shifted, carries small above; then the rows are
 * added. Decimal points are
 * set at the end, by counting places.
 * @param asTyped as guides are typed now: rows of bare zeros are passed over, carries of the sum have a row of their own
 * @throws Trouble `number-negative`, `number-unclear`
 */
export function multiplicationColumns(numbers: readonly string[], asTyped = false): GuideLayout {
  const read = numbers.slice(0, 2).map(readDecimal)
  if (read.some(d => d.units < 0n))
    throw new Trouble(
      'number-negative',
      'Columns line up numbers without a sign.',
      'What you typed is still there.',
      'Type the numbers without minus.',
    )
  const [a, b] = read.map(d => d.units.toString()) as [string, string]
  const shown = read.map(d => writeDecimal(d).replace('.', ''))
  const places = read[0]!.places + read[1]!.places
  const product = (read[0]!.units * read[1]!.units).toString().padStart(places + 1, '0')
  const width = Math.max(product.length, a.length + (b.length > 1 ? b.length : 0), ...shown.map(r => r.length))
  const last = width
  // Digits of the second number that have a row, by their place from the right.
  const rowsOf = Array.from({ length: b.length }, (_, j) => j).filter(
    j => !asTyped || b.length === 1 || b[b.length - 1 - j] !== '0',
  )
  const several = rowsOf.length > 1
  // Each row of products has carries of its own: the first right above the number, later ones above those.
  const base = rowsOf.length || 1
  // The carries of the sum stand in a row between the line and the products.
  const first = base + 2 + (asTyped && several ? 1 : 0)
  const moves: Move[] = []
  const partials: string[] = []
  rowsOf.forEach((j, k) => {
    const row = first + k
    const digit = Number(b[b.length - 1 - j])
    if (j > 0)
      moves.push({
        say: `The next digit stands for ${'tens,hundreds,thousands'.split(',')[j - 1] ?? `10^${j}`}: ${j === 1 ? 'a zero' : `${j} zeros`} first`,
        cells: Array.from({ length: j }, (_, z) => ({ col: last - z, row, text: '0', role: 'working' as const })),
      })
    moves.push(...productMoves(a, digit, { last, row, shift: j, carryRow: base - 1 - k }))
    partials.push((BigInt(a) * BigInt(digit) * 10n ** BigInt(j)).toString())
  })
  const sumRow = first + rowsOf.length
  if (several) moves.push(...sumOf(partials, last, sumRow, base + 2))
  const resultRow = several ? sumRow : first
  const sign = decimalSign(numbers)
  if (places)
    moves.push({
      say: `${read[0]!.places} and ${read[1]!.places} places make ${places}: set the point`,
      cells: [
        ...digitsMissing(product.length, last, resultRow, moves),
        { col: last - places + 1, row: resultRow, text: sign, role: 'answer' as const, wide: 0 },
      ],
    })
  return {
    cols: width + 1,
    rows: resultRow + 1,
    lines: [
      ...grid(width + 1, resultRow + 1),
      level(base + 2, 0, width + 1),
      ...(several ? [level(sumRow, 0, width + 1)] : []),
    ],
    given: [
      ...shown.flatMap((digits, i) => [
        ...digitsEndingAt(digits, last, base + i, 'working'),
        ...(asTyped
          ? thousands(
              digits.length - read[i]!.places,
              last - digits.length + 1,
              base + i,
              separatorOf(numbers[i]!, digits.length, true),
            )
          : []),
      ]),
      ...read.flatMap((d, i) => pointMarks(d.places, last, [base + i], sign)),
      { col: 0, row: base + 1, text: '×', role: 'working' },
    ],
    moves,
    order: orderOf(moves),
  }
}

/** One row of products: digit by digit from the right, what is carried small above the next. */
function productMoves(
  a: string,
  digit: number,
  { last, row, shift, carryRow }: { last: number; row: number; shift: number; carryRow: number },
): Move[] {
  let carry = 0
  return Array.from({ length: a.length }, (_, i): Move => {
    const upper = Number(a[a.length - 1 - i])
    const value = digit * upper + carry
    const next = Math.floor(value / 10)
    const end = i === a.length - 1
    const col = last - i - shift
    const cells: CellText[] = [{ col, row, text: String(value % 10), role: 'working' }]
    if (next)
      cells.push(
        end
          ? { col: col - 1, row, text: String(next), role: 'working' }
          : { col: last - i - 1, row: carryRow, text: String(next), role: 'carry', small: true },
      )
    const say = `${digit} × ${upper}${carry ? ` + ${carry}` : ''} = ${value}${next && !end ? `: ${value % 10} down, carry ${next}` : ''}`
    carry = end ? 0 : next
    return { say, cells }
  })
}

/** Zeros that have to be put before a product so that its point can be set. */
function digitsMissing(length: number, last: number, row: number, moves: readonly Move[]): CellText[] {
  const there = new Set(
    moves
      .flatMap(m => m.cells)
      .filter(c => c.row === row && !c.small)
      .map(c => c.col),
  )
  return Array.from({ length }, (_, i) => last - i)
    .filter(col => !there.has(col))
    .map(col => ({ col, row, text: '0', role: 'working' as const }))
}

/** The moves of adding rows that stand from `fromRow` on; carries go small into the first row's upper part. */
function sumOf(rows: readonly string[], last: number, sumRow: number, fromRow: number): Move[] {
  const moves: Move[] = []
  const total = rows.reduce((s, r) => s + BigInt(r), 0n).toString()
  let carry = 0
  // Zeros under zeros are written with the next digit.
  let zeros: CellText[] = []
  for (let k = 0; k < total.length; k++) {
    const digits = rows.flatMap(r => (r.length > k ? [Number(r[r.length - 1 - k])] : []))
    const sum = digits.reduce((a, b) => a + b, carry)
    const next = Math.floor(sum / 10)
    const end = k === total.length - 1
    const cells: CellText[] = [{ col: last - k, row: sumRow, text: String(end ? sum : sum % 10), role: 'working' }]
    if (next && !end) cells.push({ col: last - k - 1, row: fromRow, text: String(next), role: 'carry', small: true })
    if (sum === 0 && !end) {
      zeros.push(...cells)
      continue
    }
    const parts = [...(carry ? [carry] : []), ...digits]
    moves.push({
      say:
        parts.length > 1
          ? `${parts.join(' + ')} = ${sum}${next && !end ? `: ${sum % 10} down, carry ${next}` : ''}`
          : `Only the ${sum}: it comes down`,
      cells: [...zeros, ...cells],
    })
    zeros = []
    carry = end ? 0 : next
  }
  return moves
}

const SIGNS = {
  add: /\+/,
  subtract: /(?<=[\d)])\s*-/,
  multiply: /[*×·x]/i,
} as const

/**
 * A column method as it is typed. The numbers keep the separators that they are typed with.
 * @throws Trouble `guide-unclear` names what was not understood, and numbers that are too many
 * @example readColumns('subtract', '8 000 - 2347')
 */
export function readColumns(operation: keyof typeof SIGNS, text: string): Extract<GuideSpec, { guide: 'columns' }> {
  const numbers = plainSigns(text)
    .split(SIGNS[operation])
    .map(t => t.trim())
  if (numbers.length < 2) throw notUnderstood(text || ' ', 'has only one number')
  numbers.forEach(numberIn)
  atMost(numbers, operation === 'add' ? 12 : 2, 'numbers')
  return { guide: 'columns', operation, numbers, asTyped: true }
}
