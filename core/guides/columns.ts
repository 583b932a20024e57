import { Trouble } from '../folio/trouble'
import { readDecimal, withPlaces, writeDecimal, type Decimal } from '../maths/exact'
import { digitsEndingAt, orderOf, type CellText, type GuideLayout, type Move, type ScaffoldLine } from './model'

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
function pointMarks(places: number, lastCol: number, rows: readonly number[]): CellText[] {
  return places ? rows.map(row => ({ col: lastCol - places + 1, row, text: '.', role: 'aside' as const, wide: 0 })) : []
}

/** Separators of thousands sit on the line between columns, too. */
function thousands(whole: number, firstCol: number, row: number): CellText[] {
  const out: CellText[] = []
  for (let k = 3; k < whole; k += 3) out.push({ col: firstCol + whole - k, row, text: ',', role: 'aside', wide: 0 })
  return whole > 4 ? out : []
}

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
export function additionColumns(numbers: readonly string[]): GuideLayout {
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
        ...thousands(r.length - places, last - r.length + 1, 1 + i),
      ]),
      { col: 0, row: rows.length, text: '+', role: 'working' },
      ...pointMarks(
        places,
        last,
        [...rows.keys(), rows.length].map(r => r + 1),
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
export function subtractionColumns(numbers: readonly string[]): GuideLayout {
  const { rows, places, values } = align(numbers.slice(0, 2))
  const swapped = values[0]!.units < values[1]!.units
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
        ...thousands(r.length - places, last - r.length + 1, 2 + i),
      ]),
      { col: 0, row: 3, text: '−', role: 'working' },
      ...pointMarks(places, last, [2, 3, 4]),
    ],
    moves,
    order: orderOf(moves),
  }
}

/**
 * Multiplies in columns: a row for each digit of the second number, shifted, carries small above; then the rows are
 * added. Decimal points are
 * set at the end, by counting places.
 */
export function multiplicationColumns(numbers: readonly string[]): GuideLayout {
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
  const several = b.length > 1
  // Each row of products has carries of its own: the first right above the number, later ones above those.
  const base = b.length
  const moves: Move[] = []
  const partials: string[] = []
  for (let j = 0; j < b.length; j++) {
    const digit = Number(b[b.length - 1 - j])
    const row = base + 2 + j
    if (j > 0)
      moves.push({
        say: `The next digit stands for ${'tens,hundreds,thousands'.split(',')[j - 1] ?? `10^${j}`}: ${j === 1 ? 'a zero' : `${j} zeros`} first`,
        cells: Array.from({ length: j }, (_, k) => ({ col: last - k, row, text: '0', role: 'working' as const })),
      })
    let carry = 0
    for (let i = 0; i < a.length; i++) {
      const upper = Number(a[a.length - 1 - i])
      const value = digit * upper + carry
      const next = Math.floor(value / 10)
      const end = i === a.length - 1
      const col = last - i - j
      const cells: CellText[] = [{ col, row, text: String(value % 10), role: 'working' }]
      if (next)
        cells.push(
          end
            ? { col: col - 1, row, text: String(next), role: 'working' }
            : { col: last - i - 1, row: base - 1 - j, text: String(next), role: 'carry', small: true },
        )
      moves.push({
        say: `${digit} × ${upper}${carry ? ` + ${carry}` : ''} = ${value}${next && !end ? `: ${value % 10} down, carry ${next}` : ''}`,
        cells,
      })
      carry = end ? 0 : next
    }
    partials.push((BigInt(a) * BigInt(digit) * 10n ** BigInt(j)).toString())
  }
  const sumRow = base + 2 + b.length
  if (several) moves.push(...sumOf(partials, last, sumRow, base + 2))
  const point = places
    ? [{ col: last - places + 1, row: several ? sumRow : base + 2, text: '.', role: 'answer' as const, wide: 0 }]
    : []
  if (places)
    moves.push({
      say: `${read[0]!.places} and ${read[1]!.places} places make ${places}: set the point`,
      cells: [...digitsMissing(product.length, last, several ? sumRow : base + 2, moves), ...point],
    })
  return {
    cols: width + 1,
    rows: (several ? sumRow : base + 2) + 1,
    lines: [
      ...grid(width + 1, (several ? sumRow : base + 2) + 1),
      level(base + 2, 0, width + 1),
      ...(several ? [level(sumRow, 0, width + 1)] : []),
    ],
    given: [
      ...shown.flatMap((digits, i) => digitsEndingAt(digits, last, base + i, 'working')),
      ...read.flatMap((d, i) => pointMarks(d.places, last, [base + i])),
      { col: 0, row: base + 1, text: '×', role: 'working' },
    ],
    moves,
    order: orderOf(moves),
  }
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
  for (let k = 0; k < total.length; k++) {
    const digits = rows.flatMap(r => (r.length > k ? [Number(r[r.length - 1 - k])] : []))
    const sum = digits.reduce((a, b) => a + b, carry)
    const next = Math.floor(sum / 10)
    const end = k === total.length - 1
    const cells: CellText[] = [{ col: last - k, row: sumRow, text: String(end ? sum : sum % 10), role: 'working' }]
    if (next && !end) cells.push({ col: last - k - 1, row: fromRow, text: String(next), role: 'carry', small: true })
    moves.push({
      say: `${[...(carry ? [carry] : []), ...digits].join(' + ')} = ${sum}${next && !end ? `: ${sum % 10} down, carry ${next}` : ''}`,
      cells,
    })
    carry = end ? 0 : next
  }
  return moves
}
