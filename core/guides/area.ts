import type { GuideSpec } from '../folio/thing'
import {
  areLike,
  collected,
  termsOf,
  times,
  writePolynomial,
  writeTerm,
  writeTerms,
  type Term,
} from '../maths/polynomial'
import { plainSigns, readNumeral } from '../numbers/read'
import { ruled } from './grids'
import { orderOf, squaresOf, writtenAt, type CellText, type GuideLayout, type Move } from './model'
import { notUnderstood, numberIn } from './typed'

type Area = Extract<GuideSpec, { guide: 'area' }>
/** Most terms along a side. */
const MOST = 6
/** The row of the product above the grid, and that in which the grid begins. */
const PRODUCT = 2
const GRID = 4

/** Whether both sides are decimals without a sign, whose places part them. */
export const isPlainArea = ({ a, b }: Pick<Area, 'a' | 'b'>): boolean =>
  [a, b].every(side => {
    const numeral = readNumeral(side)
    return numeral !== null && numeral.places !== null && numeral.n >= 0n
  })

/**
 * Two sums multiplied in an area grid, cell by cell; above it an arrow from term to term; then like terms are collected.
 * @throws Trouble `expression-unclear`, `guide-unclear` for a side of too many terms
 */
export function algebraGrid(a: string, b: string): GuideLayout {
  const [across, down] = [a, b].map(side => {
    const terms = termsOf(side)
    if (terms.length > MOST) throw notUnderstood(side, `has more than ${MOST} terms`)
    return terms
  }) as [Term[], Term[]]
  const products = down.map(d => across.map(x => times(x, d)))
  const left = Math.max(...down.map(t => squaresOf(writeTerm(t)))) + 1
  const wide = across.map(
    (x, i) => Math.max(squaresOf(writeTerm(x)), ...products.map(r => squaresOf(writeTerm(r[i]!)))) + 1,
  )
  const xs = wide.reduce<number[]>((at, w) => [...at, at[at.length - 1]! + w], [left])
  const ys = Array.from({ length: down.length + 1 }, (_, i) => GRID + 1 + 2 * i)
  const top = productRow(across, down)
  const cells = down.flatMap((d, j) =>
    across.map((x, i): Move => {
      const product = writeTerm(products[j]![i]!)
      return {
        say: `${bracketed(x)} × ${bracketed(d)} = ${product}`,
        cells: [writtenAt(xs[i]!, ys[j]!, product), arrow(top.across[i]!, top.down[j]!)],
      }
    }),
  )
  const all = products.flat()
  const end = ys[ys.length - 1]! + 1
  const likes = collectMoves(all, end)
  const total = writePolynomial(collected(all))
  const answerRow = end + likes.length
  const moves: Move[] = [
    ...cells,
    ...likes,
    { say: `Altogether ${total}`, cells: [writtenAt(0, answerRow, `= ${total}`, 'answer')] },
  ]
  const cols = Math.max(
    xs[xs.length - 1]!,
    top.end,
    squaresOf(`= ${total}`),
    ...likes.flatMap(m => m.cells.map(c => squaresOf(c.text))),
  )
  return {
    cols: cols + 1,
    rows: answerRow + 1,
    lines: ruled(xs, ys).map(l => ({ ...l, strong: true })),
    given: [
      ...top.cells,
      ...across.map((x, i) => writtenAt(xs[i]!, GRID, writeTerm(x))),
      ...down.map((d, j) => writtenAt(0, ys[j]!, writeTerm(d))),
      { col: 0, row: GRID, text: '×', role: 'aside' },
    ],
    moves,
    order: orderOf(moves),
  }
}

const bracketed = (t: Term) => (writeTerm(t).startsWith('−') ? `(${writeTerm(t)})` : writeTerm(t))

/** "(x + 2)(x − 3)" with the middle of every term. */
function productRow(across: readonly Term[], down: readonly Term[]) {
  const cells: CellText[] = []
  let col = 0
  const side = (terms: readonly Term[]) => {
    const middles: number[] = []
    const put = (text: string, wide: number) => {
      cells.push({
        col,
        row: PRODUCT,
        text,
        role: 'working',
        wide: Math.max(2, wide),
        ...(text.includes('^') ? { raised: true } : {}),
      })
      col += wide
    }
    put('(', 0.6)
    terms.forEach((t, i) => {
      const text = writeTerm(t)
      if (i) put(text.startsWith('−') ? '−' : '+', 1)
      const bare = i ? text.replace('−', '') : text
      const wide = Math.max(0.9, 0.5 * bare.replace(/\^/g, '').length + 0.3)
      middles.push(col + 0.2 + wide / 2)
      put(bare, wide)
    })
    put(')', 0.7)
    return middles
  }
  return { across: side(across), down: side(down), cells, end: Math.ceil(col) }
}

/** An arc over the product, from a term to the one it is multiplied by. */
function arrow(from: number, to: number): CellText {
  const height = 0.5 + Math.min(1.3, 0.16 * (to - from))
  const foot = PRODUCT + 0.15
  const line = Array.from({ length: 13 }, (_, i) => {
    const s = i / 12
    return [from + (to - from) * s, foot - 4 * height * s * (1 - s)]
  }).flat()
  return {
    col: from,
    row: PRODUCT,
    text: '',
    role: 'carry',
    line: [...line, to - 0.05, foot - 0.35, to, foot, to - 0.35, foot - 0.1],
  }
}

/** Like terms, group by group, where there is more than one of a kind. */
function collectMoves(all: readonly Term[], from: number): Move[] {
  const groups: Term[][] = []
  for (const term of all) {
    const group = groups.find(g => areLike(g[0]!, term))
    if (group) group.push(term)
    else groups.push([term])
  }
  return groups
    .filter(g => g.length > 1)
    .map((g, i): Move => {
      const text = `${writeTerms(g)} = ${writePolynomial(collected(g))}`
      return { say: text, cells: [writtenAt(0, from + i, text)] }
    })
}

/**
 * An area grid as it is typed: two numbers, or two sums with letters: "(x + 2)(x − 3)", "x+2 * x+3", "(x + 1)^2".
 * @throws Trouble `guide-unclear` names what was not understood; `expression-unclear`
 */
export function readArea(typed: string): Area {
  const text = plainSigns(typed).trim()
  const numbers = /^([-+\d.,\s'’]+?)\s*[x×*·]\s*([-+\d.,\s'’]+)$/i.exec(text)
  if (numbers) {
    const [a, b] = [numbers[1]!.trim(), numbers[2]!.trim()]
    for (const side of [a, b]) numberIn(side)
    return { guide: 'area', a, b }
  }
  const sides = sidesOf(text)
  if (!sides) throw notUnderstood(typed || ' ', 'is not one thing times another', 'Type 37 * 24, or (x + 2)(x - 3).')
  sides.forEach(side => termsOf(side))
  return { guide: 'area', a: sides[0], b: sides[1] }
}

/** Two factors: parted by a multiplication sign or by brackets, or one in brackets, squared. */
function sidesOf(text: string): [string, string] | null {
  const square = /^\((.+)\)\s*(?:\^\s*2|²)$/.exec(text)
  if (square && isOne(square[1]!)) return [square[1]!, square[1]!]
  let depth = 0
  const cuts: [number, number][] = []
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '(') {
      const before = text.slice(0, i).trimEnd()
      // "2x(x + 3)", "(x + 1)(x + 2)": the bracket begins the second factor.
      if (depth === 0 && before && !/[-+*×·^/]$/.test(before)) cuts.push([i, i])
      depth++
    } else if (text[i] === ')') {
      depth--
      if (depth === 0 && /^\s*[a-z\d]/i.test(text.slice(i + 1))) cuts.push([i + 1, i + 1])
    } else if (depth === 0 && /[*×·]/.test(text[i]!)) cuts.push([i, i + 1])
  }
  if (cuts.length !== 1) return null
  const [[to, from]] = cuts as [[number, number]]
  const bare = (side: string) => {
    const inner = /^\((.*)\)$/.exec(side.trim())?.[1]
    return inner !== undefined && isOne(inner) ? inner : side.trim()
  }
  const pair: [string, string] = [bare(text.slice(0, to)), bare(text.slice(from))]
  return pair.every(Boolean) ? pair : null
}
/** Whether brackets in a text close within it. */
function isOne(text: string): boolean {
  let depth = 0
  for (const c of text) {
    if (c === '(') depth++
    if (c === ')' && --depth < 0) return false
  }
  return depth === 0
}
