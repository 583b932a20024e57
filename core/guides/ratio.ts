import type { GuideSpec } from '../folio/thing'
import { divide, multiply, type Fraction } from '../maths/exact'
import { ruled } from './grids'
import { orderOf, squaresOf, writtenAt, type GuideLayout, type Move } from './model'
import { isSame, written } from './scale'
import { atMost, notUnderstood, numberIn } from './typed'

type Ratio = Extract<GuideSpec, { guide: 'ratio' }>
const OPEN = /^(?:\?|_+|x)$/

/**
 * A ratio table: every column is the first one times something. What is open is filled in, with the factor over its column.
 * @throws Trouble `guide-unclear` for a column that does not belong, or that nothing is known of
 */
export function ratioTable({ rows }: Pick<Ratio, 'rows'>): GuideLayout {
  const values = rows.map(r => r.cells.map(c => (OPEN.test(c) ? null : numberIn(c))))
  const first = values.map((r, i) => {
    const v = r[0]
    if (!v || v.n === 0n)
      throw notUnderstood(
        rows[i]!.cells[0]!,
        'cannot begin a row',
        'Type all numbers of the first column; none may be zero.',
      )
    return v
  })
  const columns = values[0]!.map((_, k) =>
    columnOf(
      values.map(r => r[k]!),
      first,
      k,
    ),
  )
  const full = columns.map(({ factor }) => first.map(v => multiply(v, factor)))
  const head = Math.max(0, ...rows.map(r => (r.name ? squaresOf(r.name) + 1 : 0)))
  const wide = full.map(
    (c, k) =>
      Math.max(2, ...c.map(v => squaresOf(written(v))), k ? squaresOf(`×${written(columns[k]!.factor)}`) : 0) + 1,
  )
  const edges = wide.reduce<number[]>((at, w) => [...at, at[at.length - 1]! + w], [head])
  const moves: Move[] = columns.flatMap(({ factor, open }, k): Move[] => {
    if (!open.length) return []
    const by = `×${written(factor)}`
    return [
      {
        say: `${written(first[columns[k]!.known]!)} ${by.replace('×', '× ')} = ${written(full[k]![columns[k]!.known]!)}`,
        cells: [writtenAt(edges[k]!, 0, by, 'carry')],
      },
      ...open.map(i => ({
        say: `${written(first[i]!)} × ${written(factor)} = ${written(full[k]![i]!)}`,
        cells: [writtenAt(edges[k]!, i + 1, written(full[k]![i]!), 'answer')],
      })),
    ]
  })
  return {
    cols: edges[edges.length - 1]!,
    rows: rows.length + 1,
    lines: ruled(
      [0, ...edges].filter((x, i, all) => x !== all[i - 1]),
      [1, ...rows.map((_, i) => i + 2)],
    ).map(l => ({ ...l, strong: true })),
    given: rows.flatMap((r, i) => [
      ...(r.name ? [writtenAt(0, i + 1, r.name)] : []),
      ...r.cells.flatMap((c, k) => (OPEN.test(c) ? [] : [writtenAt(edges[k]!, i + 1, written(numberIn(c)))])),
    ]),
    moves,
    order: orderOf(moves),
  }
}

/** What a column is times the first, by what is known of it; it must all agree. */
function columnOf(
  column: readonly (Fraction | null)[],
  first: readonly Fraction[],
  k: number,
): { factor: Fraction; open: number[]; known: number } {
  const known = column.findIndex(v => v !== null)
  if (known < 0) throw notUnderstood(`column ${k + 1}`, 'has no number in it')
  const factor = divide(column[known]!, first[known]!)
  column.forEach((v, i) => {
    if (v && !isSame(divide(v, first[i]!), factor))
      throw notUnderstood(
        written(v),
        `does not belong in column ${k + 1}: it would have to be ${written(multiply(first[i]!, factor))}`,
      )
  })
  return { factor, open: column.flatMap((v, i) => (v ? [] : [i])), known }
}

/**
 * A ratio table as it is typed: "3 : 5 = 12 : ?", or rows parted by semicolons: "flour 3, 6, ?; sugar 2, ?, 10".
 * @throws Trouble `guide-unclear` names what was not understood
 */
export function readRatio(typed: string): Ratio {
  const text = typed.trim()
  const rows = text.includes(';')
    ? text
        .split(/\s*;\s*/)
        .filter(Boolean)
        .map(rowOf)
    : chainRows(text)
  if (rows.length < 2)
    throw notUnderstood(text || ' ', 'is only one row', 'Type 3 : 5 = 12 : ?, or rows parted by semicolons.')
  atMost(rows, 5, 'rows')
  const count = rows[0]!.cells.length
  if (count < 2) throw notUnderstood(text, 'has only one column')
  for (const r of rows)
    if (r.cells.length !== count)
      throw notUnderstood(r.cells.join(', '), `has not ${count} numbers, as the first row has`)
  atMost(rows[0]!.cells, 10, 'columns')
  const spec: Ratio = { guide: 'ratio', rows }
  ratioTable(spec)
  return spec
}

function rowOf(text: string): Ratio['rows'][number] {
  const hit = /^(\p{L}[\p{L}\s.()/-]*?)?\s*[:=]?\s*([\d?_+−-].*)$/u.exec(text)
  if (!hit) throw notUnderstood(text, 'is not a name and its numbers')
  const cells = hit[2]!.split(/\s*,\s+|\s*\|\s*|,(?!\d)|(?<!\d),/).map(c => c.trim())
  for (const c of cells) if (!OPEN.test(c)) numberIn(c)
  return { name: hit[1]?.trim() ?? '', cells }
}

/** "3 : 5 = 12 : ? = 30 : ?" */
function chainRows(text: string): Ratio['rows'] {
  const columns = text.split(/\s*=\s*/).map(c => c.split(/\s*:\s*/).map(t => t.trim()))
  const height = columns[0]!.length
  for (const c of columns) {
    if (c.length !== height) throw notUnderstood(c.join(' : '), `has not ${height} numbers`)
    for (const t of c) if (!OPEN.test(t)) numberIn(t)
  }
  return Array.from({ length: height }, (_, i) => ({ name: '', cells: columns.map(c => c[i]!) }))
}
