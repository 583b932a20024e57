import type { GuideSpec } from '../folio/thing'
import { Trouble } from '../folio/trouble'
import { primeFactors } from '../maths/exact'
import { readNumeral } from '../numbers/read'
import { factorColumns } from './grids'
import { orderOf, squaresOf, writtenAt, type CellText, type GuideLayout, type Move } from './model'
import { atMost, notUnderstood, numbersOf } from './typed'

type Factors = Extract<GuideSpec, { guide: 'factors' }>

function wholeOf(text: string): bigint {
  const numeral = readNumeral(text)
  if (!numeral || numeral.places === null || numeral.n % numeral.d !== 0n)
    throw notUnderstood(text || ' ', 'is not a whole number')
  const n = numeral.n / numeral.d
  if (n < 2n)
    throw new Trouble(
      'number-unclear',
      `“${text}” has no prime factors.`,
      'The rest is still there.',
      'Type whole numbers above 1.',
    )
  return n
}

/** Prime factors in columns, and what is asked of them: a tree, the highest common factor, the least common multiple. */
export function factorGuide({ numbers, want }: Pick<Factors, 'numbers' | 'want'>): GuideLayout {
  const plain = numbers.map(n => wholeOf(n).toString())
  if (want === 'tree') return trees(plain.map(BigInt))
  const columns = factorColumns(plain)
  if (!want) return columns
  const { moves, rows } = commonMoves(plain.map(BigInt), want, columns.rows)
  const all = [...columns.moves, ...moves]
  return {
    ...columns,
    cols: Math.max(columns.cols, ...moves.flatMap(m => m.cells.map(c => c.col + squaresOf(c.text)))),
    rows,
    moves: all,
    order: orderOf(all),
  }
}

/** Counts of the primes of a number. */
function countsOf(n: bigint): Map<bigint, number> {
  const counts = new Map<bigint, number>()
  for (const p of primeFactors(n)) counts.set(p, (counts.get(p) ?? 0) + 1)
  return counts
}

function commonMoves(
  numbers: readonly bigint[],
  want: 'hcf' | 'lcm' | 'both',
  from: number,
): { moves: Move[]; rows: number } {
  const counts = numbers.map(countsOf)
  const primes = [...new Set(counts.flatMap(c => [...c.keys()]))].sort((a, b) => (a < b ? -1 : 1))
  const moves: Move[] = []
  let row = from + 0.5
  const line = (text: string, role: CellText['role'] = 'working') => {
    moves.push({ say: text, cells: [writtenAt(0, row, text, role)] })
    row++
  }
  numbers.forEach(n => line(`${n} = ${primeFactors(n).join(' × ')}`))
  const product = (count: (p: bigint) => number) => {
    const all = primes.flatMap(p => Array.from({ length: count(p) }, () => p))
    return { text: all.length > 1 ? `${all.join(' × ')} = ` : '', value: all.reduce((a, b) => a * b, 1n) }
  }
  const of = (name: string, count: (p: bigint) => number) => {
    const { text, value } = product(count)
    line(`${name} = ${text}${value}`, 'answer')
  }
  if (want !== 'lcm') of('HCF', p => Math.min(...counts.map(c => c.get(p) ?? 0)))
  if (want !== 'hcf') of('LCM', p => Math.max(...counts.map(c => c.get(p) ?? 0)))
  return { moves, rows: row }
}

/** Factor trees beside each other: each number splits into its least prime and the rest. */
function trees(numbers: readonly bigint[]): GuideLayout {
  const given: CellText[] = [],
    moves: Move[] = []
  let col = 0,
    rows = 1
  for (const n of numbers) {
    const wide = Math.max(3, squaresOf(n.toString()) + 1)
    let x = col + 1,
      y = 0
    given.push(writtenAt(x, y, n.toString()))
    let left = n
    const primes = primeFactors(n)
    primes.slice(0, -1).forEach((p, i) => {
      const rest = left / p
      const middle = x + squaresOf(left.toString()) / 2
      const [l, r] = [x - 0.6, x + wide * 0.6]
      moves.push({
        say: `${left} = ${p} × ${rest}`,
        cells: [
          { col: x, row: y, text: '', role: 'working', line: [middle, y + 1, l + 0.6, y + 2] },
          { col: x, row: y, text: '', role: 'working', line: [middle, y + 1, r + 0.6, y + 2] },
          writtenAt(l, y + 2, p.toString(), 'answer'),
          writtenAt(r, y + 2, rest.toString(), i === primes.length - 2 ? 'answer' : 'working'),
        ],
      })
      left = rest
      x = r
      y += 2
    })
    const factors = `${n} = ${primes.join(' × ')}`
    moves.push({ say: factors, cells: [writtenAt(col, y + 1.5, factors, 'working')] })
    rows = Math.max(rows, y + 3)
    col = Math.max(Math.ceil(x + wide + 1), col + squaresOf(factors) + 2)
  }
  return { cols: col, rows, lines: [], given, moves, order: orderOf(moves) }
}

const WANTS: readonly (readonly [RegExp, NonNullable<Factors['want']>])[] = [
  [/^(?:hcf|gcd|gcf)\s+and\s+(?:lcm)\s*(?:of|:)?\s*/i, 'both'],
  [/^lcm\s+and\s+(?:hcf|gcd|gcf)\s*(?:of|:)?\s*/i, 'both'],
  [/^(?:hcf|gcd|gcf|highest common factor)\s*(?:of|:)?\s*/i, 'hcf'],
  [/^(?:lcm|least common multiple|lowest common multiple)\s*(?:of|:)?\s*/i, 'lcm'],
  [/^(?:factor\s+)?trees?\s*(?:of|for|:)?\s*/i, 'tree'],
]

/**
 * Factors as they are typed: "180, 84", "HCF of 180 and 84", "lcm 12, 18", "tree 60".
 * @throws Trouble `guide-unclear` names what was not understood; `number-unclear`, `number-large`
 */
export function readFactors(typed: string): Factors {
  const text = typed.trim()
  const asked = WANTS.find(([pattern]) => pattern.test(text))
  const numbers = numbersOf(asked ? text.replace(asked[0], '') : text, true)
  atMost(numbers, 6, 'numbers')
  numbers.forEach(wholeOf)
  if (asked && asked[1] !== 'tree' && numbers.length < 2) throw notUnderstood(text, 'names only one number')
  return { guide: 'factors', numbers, ...(asked ? { want: asked[1] } : {}) }
}
