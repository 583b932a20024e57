import { Trouble } from '../folio/trouble'
import {
  divide,
  fraction,
  primeFactors,
  readDecimal,
  readFraction,
  subtract,
  writeDecimal,
  writeFraction,
  type Fraction,
} from '../maths/exact'
import { evaluate, letterOf, oneLetter, readLinear, writeLinear, type Linear } from '../maths/expression'
import { orderOf, type CellText, type GuideLayout, type Move, type ScaffoldLine } from './model'

/** Lines of a table: every column edge and row edge. */
export function ruled(cols: readonly number[], rows: readonly number[]): ScaffoldLine[] {
  const w = cols[cols.length - 1]!,
    h = rows[rows.length - 1]!
  return [
    ...cols.map((x): ScaffoldLine => ({ from: [x, rows[0]!], to: [x, h] })),
    ...rows.map((y): ScaffoldLine => ({ from: [cols[0]!, y], to: [w, y] })),
  ]
}

/** How many squares a text needs. */
const squares = (text: string) => Math.max(1, Math.ceil(text.length * 0.62))
const written = (col: number, row: number, text: string, role: CellText['role'] = 'working'): CellText => ({
  col,
  row,
  text,
  role,
  wide: squares(text),
})

/** The number split into its places: 37 → 30, 7; 2.4 → 2, 0.4. Zeros are left out. */
export function placeParts(text: string): string[] {
  const d = readDecimal(text)
  const plain = writeDecimal(d).replace('-', '')
  const [whole = '0', rest = ''] = plain.split('.')
  const parts = [
    ...[...whole].map((c, i) => (c === '0' ? '' : c + '0'.repeat(whole.length - 1 - i))),
    ...[...rest].map((c, i) => (c === '0' ? '' : `0.${'0'.repeat(i)}${c}`)),
  ].filter(Boolean)
  return parts.length ? parts : ['0']
}

const times = (a: string, b: string) => {
  const x = readDecimal(a),
    y = readDecimal(b)
  return trimZeros(writeDecimal({ units: x.units * y.units, places: x.places + y.places }))
}
const sum = (all: readonly string[]) =>
  trimZeros(
    all.map(readDecimal).reduce(
      (s, d) => {
        const places = Math.max(s.places, d.places)
        return {
          units: s.units * 10n ** BigInt(places - s.places) + d.units * 10n ** BigInt(places - d.places),
          places,
        }
      },
      { units: 0n, places: 0 },
    ),
  )
function trimZeros(d: string | { units: bigint; places: number }): string {
  const text = typeof d === 'string' ? d : writeDecimal(d)
  return text.includes('.') ? text.replace(/\.?0+$/, '') : text
}

/**
 * Partial products in an area grid: each number split into its places along a side; then the rows added, then
 * everything.
 */
export function areaGrid(a: string, b: string): GuideLayout {
  if (readDecimal(a).units < 0n || readDecimal(b).units < 0n)
    throw new Trouble(
      'number-negative',
      'An area has no negative sides.',
      'What you typed is still there.',
      'Type the numbers without minus.',
    )
  const across = placeParts(a),
    down = placeParts(b)
  const left = Math.max(...down.map(squares)) + 1
  const products = down.map(d => across.map(x => times(x, d)))
  const wide = across.map((x, i) => Math.max(squares(x), ...products.map(r => squares(r[i]!))) + 1)
  const xs = wide.reduce<number[]>((at, w) => [...at, at[at.length - 1]! + w], [left])
  const ys = down.map((_, i) => 1 + 2 * i).concat(1 + 2 * down.length)
  const moves: Move[] = down.flatMap((d, j) =>
    across.map(
      (x, i): Move => ({ say: `${d} × ${x} = ${products[j]![i]}`, cells: [written(xs[i]!, ys[j]!, products[j]![i]!)] }),
    ),
  )
  const rowSums = products.map(sum)
  const total = sum(rowSums)
  const end = xs[xs.length - 1]! + 1
  if (across.length > 1)
    rowSums.forEach((s, j) =>
      moves.push({ say: `${products[j]!.join(' + ')} = ${s}`, cells: [written(end, ys[j]!, s)] }),
    )
  moves.push({
    say: `Altogether ${rowSums.join(' + ')} = ${total}`,
    cells: [written(end, ys[ys.length - 1]!, total, 'answer')],
  })
  return {
    cols: end + squares(total) + 1,
    rows: ys[ys.length - 1]! + 1,
    lines: ruled(xs, ys).map(l => ({ ...l, strong: true })),
    given: [
      ...across.map((x, i) => written(xs[i]!, 0, x)),
      ...down.map((d, j) => written(0, ys[j]!, d)),
      { col: 0, row: 0, text: '×', role: 'aside' },
    ],
    moves,
    order: orderOf(moves),
  }
}

/** Prime factors in two columns: the number left, the prime that divides it right, the quotient below. */
export function factorColumns(numbers: readonly string[]): GuideLayout {
  const read = numbers.map(n => {
    const d = readDecimal(n)
    if (d.places || d.units < 2n)
      throw new Trouble(
        'number-unclear',
        `“${n}” has no prime factors.`,
        'The rest is still there.',
        'Type whole numbers above 1.',
      )
    return d.units
  })
  const wide = read.map(n => squares(n.toString()) + 1)
  const primeWide = read.map(n => squares(primeFactors(n).at(-1)!.toString()) + 1)
  const lines: ScaffoldLine[] = []
  const given: CellText[] = [],
    moves: Move[] = []
  let col = 0,
    rows = 0
  read.forEach((n, k) => {
    const bar = col + wide[k]!
    let left = n
    given.push(written(col, 0, n.toString()))
    primeFactors(n).forEach((p, i) => {
      moves.push({
        say: `${left} divided by ${p} is ${left / p}`,
        cells: [written(bar, i, p.toString(), 'carry'), written(col, i + 1, (left / p).toString())],
      })
      left /= p
    })
    const height = primeFactors(n).length + 1
    rows = Math.max(rows, height)
    lines.push({ from: [bar, 0], to: [bar, height], strong: true })
    col = bar + primeWide[k]! + 1
  })
  return { cols: col, rows, lines, given, moves, order: orderOf(moves) }
}

/** A table of values of a rule in one letter, one column for each value. */
export function tableOfValues(rule: string, xs: readonly string[]): GuideLayout {
  const letter = letterOf(rule)
  const ys = xs.map(x => writeFraction(evaluate(rule, readFraction(x))))
  const wide = xs.map((x, i) => Math.max(squares(x), squares(ys[i]!)) + 1)
  const head = squares(rule) + 1
  const edges = wide.reduce<number[]>((at, w) => [...at, at[at.length - 1]! + w], [0, head].slice(1))
  const moves = xs.map(
    (x, i): Move => ({ say: `For ${letter} = ${x}: ${ys[i]}`, cells: [written(edges[i]!, 1, ys[i]!)] }),
  )
  return {
    cols: edges[edges.length - 1]!,
    rows: 2,
    lines: ruled([0, ...edges], [0, 1, 2]).map(l => ({ ...l, strong: true })),
    given: [written(0, 0, letter), written(0, 1, rule), ...xs.map((x, i) => written(edges[i]!, 0, x))],
    moves,
    order: orderOf(moves),
  }
}

/** A grid of statements that are ruled in or out one by one; nothing fills itself in. */
export function eliminationGrid(rows: readonly string[], columns: readonly string[]): GuideLayout {
  const head = Math.max(...rows.map(squares)) + 1
  const wide = columns.map(c => Math.max(2, squares(c) + 1))
  const xs = wide.reduce<number[]>((at, w) => [...at, at[at.length - 1]! + w], [head])
  const ys = rows.map((_, i) => i + 1).concat(rows.length + 1)
  return {
    cols: xs[xs.length - 1]!,
    rows: rows.length + 1,
    lines: ruled([0, ...xs], [0, ...ys]),
    given: [...columns.map((c, i) => written(xs[i]!, 0, c)), ...rows.map((r, j) => written(0, ys[j]!, r))],
    moves: [],
    order: rows.flatMap((_, j) => columns.map((__, i) => ({ col: xs[i]!, row: ys[j]! }))),
  }
}

/**
 * An equation with both sides in balance: what is done to the left is done to the right, one line a move, until the
 * letter stands alone.
 * @throws Trouble `expression-unclear` when it is not linear in one letter
 */
export function balance(left: string, right: string): GuideLayout {
  let sides: [Linear, Linear] = [readLinear(left), readLinear(right)]
  const letter = oneLetter(`${left}=${right}`)
  const zero = fraction(0n)
  const rows: { say: string; done: string; sides: [string, string] }[] = []
  const step = (say: string, done: string, make: (l: Linear) => Linear) => {
    sides = [make(sides[0]), make(sides[1])]
    rows.push({ say, done, sides: [writeLinear(sides[0], letter), writeLinear(sides[1], letter)] })
  }
  const size = (f: Fraction) => writeFraction({ n: f.n < 0n ? -f.n : f.n, d: f.d })
  const take = (l: Linear, name: string) =>
    step(
      `${nameOf(l) < 0n ? 'Add' : 'Take away'} ${name} on both sides`,
      `${nameOf(l) < 0n ? '+' : '-'}${name}`,
      m => ({ a: subtract(m.a, l.a), b: subtract(m.b, l.b) }),
    )
  const nameOf = (l: Linear) => l.a.n || l.b.n
  if (sides[1].a.n !== 0n)
    take(
      { a: sides[1].a, b: zero },
      writeLinear({ a: { n: sides[1].a.n < 0n ? -sides[1].a.n : sides[1].a.n, d: sides[1].a.d }, b: zero }, letter),
    )
  if (sides[0].a.n !== 0n) {
    if (sides[0].b.n !== 0n) take({ a: zero, b: sides[0].b }, size(sides[0].b))
    const { a } = sides[0]
    if (!(a.n === 1n && a.d === 1n))
      step(
        `Divide both sides by ${writeFraction(a)}`,
        `:${a.n < 0n ? `(${writeFraction(a)})` : writeFraction(a)}`,
        m => ({ a: divide(m.a, a), b: divide(m.b, a) }),
      )
  }
  const wide = Math.max(squares(left), ...rows.map(r => squares(r.sides[0]))) + 1
  const wideRight = Math.max(squares(right), ...rows.map(r => squares(r.sides[1]))) + 1
  const line = (i: number, l: string, r: string, role: CellText['role'] = 'working'): CellText[] => [
    written(0, i, l, role),
    { col: wide, row: i, text: '=', role },
    written(wide + 1, i, r, role),
  ]
  const end = rows.length - 1
  const moves = rows.map(
    (r, i): Move => ({
      say: r.say,
      cells: [
        { ...written(wide + 1 + wideRight, i, r.done, 'carry') },
        ...line(i + 1, ...r.sides, i === end && sides[0].a.n !== 0n ? 'answer' : 'working'),
      ],
    }),
  )
  if (sides[0].a.n === 0n)
    moves.push({
      say:
        sides[0].b.n * sides[1].b.d === sides[1].b.n * sides[0].b.d
          ? 'Both sides are always alike: every number solves it'
          : 'The sides can never be alike: nothing solves it',
      cells: [],
    })
  return {
    cols: wide + 1 + wideRight + 4,
    rows: rows.length + 1,
    lines: [
      { from: [wide, 0], to: [wide, rows.length + 1] },
      { from: [wide + 1, 0], to: [wide + 1, rows.length + 1] },
      { from: [wide + 1 + wideRight, 0], to: [wide + 1 + wideRight, rows.length + 1] },
    ],
    given: line(0, left, right),
    moves,
    order: orderOf(moves),
  }
}
