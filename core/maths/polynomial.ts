import { add, divide, fraction, multiply, writeFraction, type Fraction } from './exact'
import { treeOf, unclear, workOut, type Tree } from './tree'

/** A product of letters with a number in front: `powers` by letter, in the order of the alphabet. */
export interface Term {
  coefficient: Fraction
  powers: readonly (readonly [letter: string, power: number])[]
}
/** A sum of terms, each kind of term once, none of them zero; the highest powers first. */
export type Polynomial = readonly Term[]

/** Most terms that anybody works with by hand. */
const MOST_TERMS = 60

const keyOf = (t: Term) => t.powers.map(([l, p]) => `${l}${p}`).join('')
const degree = (t: Term) => t.powers.reduce((s, [, p]) => s + p, 0)

/** Like terms put together. */
export function collected(terms: readonly Term[]): Polynomial {
  const by = new Map<string, Term>()
  for (const t of terms) {
    const same = by.get(keyOf(t))
    by.set(keyOf(t), same ? { ...t, coefficient: add(same.coefficient, t.coefficient) } : t)
  }
  return [...by.values()]
    .filter(t => t.coefficient.n !== 0n)
    .sort((a, b) => degree(b) - degree(a) || (keyOf(a) < keyOf(b) ? -1 : 1))
}

/** Whether two terms can be put together: the same letters with the same powers. */
export const areLike = (a: Term, b: Term): boolean => keyOf(a) === keyOf(b)

/** The product of two terms. */
export function times(a: Term, b: Term): Term {
  const powers = new Map(a.powers)
  for (const [l, p] of b.powers) powers.set(l, (powers.get(l) ?? 0) + p)
  return {
    coefficient: multiply(a.coefficient, b.coefficient),
    powers: [...powers].sort(([p], [q]) => (p < q ? -1 : 1)),
  }
}

export const constant = (coefficient: Fraction): Term => ({ coefficient, powers: [] })

/** The value of a tree as a polynomial. @throws Trouble `expression-unclear` for a letter that is divided by */
function expanded(tree: Tree, text: string): Polynomial {
  const limited = (p: Polynomial) => {
    if (p.length > MOST_TERMS) throw unclear(text, 'it has too many terms')
    return p
  }
  const product = (a: Polynomial, b: Polynomial) => limited(collected(a.flatMap(x => b.map(y => times(x, y)))))
  const minus = (p: Polynomial) => p.map(t => ({ ...t, coefficient: { n: -t.coefficient.n, d: t.coefficient.d } }))
  return workOut<Polynomial>(tree, {
    of: f => collected([constant(f)]),
    letter: name => [{ coefficient: fraction(1n), powers: [[name, 1]] }],
    add: (a, b) => limited(collected([...a, ...b])),
    subtract: (a, b) => limited(collected([...a, ...minus(b)])),
    multiply: product,
    divide: (a, b) => {
      if (b.some(t => t.powers.length)) throw unclear(text, 'it divides by a letter')
      const by = b[0]?.coefficient ?? fraction(0n)
      return a.map(t => ({ ...t, coefficient: divide(t.coefficient, by) }))
    },
    power: (a, n) => {
      if (n < 0) throw unclear(text, 'it has a negative power')
      return Array.from({ length: n }).reduce<Polynomial>(p => product(p, a), [constant(fraction(1n))])
    },
  })
}

/**
 * An expression multiplied out, like terms put together.
 * @throws Trouble `expression-unclear`, `divided-by-zero`
 * @example writePolynomial(readPolynomial('(x + 2)(x − 3)')) // 'x^2 − x − 6'
 */
export function readPolynomial(text: string): Polynomial {
  return expanded(treeOf(text), text)
}

/**
 * The terms of a sum in the order in which they stand.
 * @throws Trouble `expression-unclear` where one of them is a sum itself
 * @example termsOf('2x − 3').length // 2
 */
export function termsOf(text: string): Term[] {
  const walk = (tree: Tree, sign: bigint): Term[] => {
    if (tree.kind === 'sum') return [...walk(tree.left, sign), ...walk(tree.right, sign)]
    if (tree.kind === 'difference') return [...walk(tree.left, sign), ...walk(tree.right, -sign)]
    if (tree.kind === 'negative') return walk(tree.of, -sign)
    const own = expanded(tree, text)
    if (own.length > 1) throw unclear(text, 'one of its terms is a sum')
    const term = own[0] ?? constant(fraction(0n))
    return [{ ...term, coefficient: { n: sign * term.coefficient.n, d: term.coefficient.d } }]
  }
  return walk(treeOf(text), 1n)
}

/** A term as it is written, with its sign only where it is negative: "−3x^2". */
export function writeTerm({ coefficient: c, powers }: Term): string {
  const letters = powers.map(([l, p]) => (p === 1 ? l : `${l}^${p}`)).join('')
  const size = { n: c.n < 0n ? -c.n : c.n, d: c.d }
  const number =
    size.n === size.d && letters ? '' : size.d === 1n || !letters ? writeFraction(size) : `(${writeFraction(size)})`
  return `${c.n < 0n ? '−' : ''}${number}${letters}`
}

/** A sum as it is written; 0 for an empty one. */
export function writeTerms(terms: readonly Term[]): string {
  if (!terms.length) return '0'
  return terms
    .map((t, i) => {
      const text = writeTerm(t)
      if (!i) return text
      return text.startsWith('−') ? ` − ${text.slice(1)}` : ` + ${text}`
    })
    .join('')
}
export const writePolynomial = (p: Polynomial): string => writeTerms(p)
