import { add, divide, fraction, multiply, subtract, writeFraction, type Fraction } from './exact'
import { treeOf, unclear, workOut, type Tree } from './tree'

/** An expression in one letter. @throws Trouble `expression-unclear` */
function treeInOneLetter(text: string): Tree {
  oneLetter(text)
  return treeOf(text)
}

const power = (a: Fraction, n: number): Fraction =>
  n < 0 ? divide(fraction(1n), power(a, -n)) : fraction(a.n ** BigInt(n), a.d ** BigInt(n))

/** The value of an expression in one letter, exactly. @throws Trouble `expression-unclear`, `divided-by-zero` */
export function evaluate(text: string, x: Fraction): Fraction {
  return workOut(treeInOneLetter(text), { of: f => f, letter: () => x, add, subtract, multiply, divide, power })
}

/** a x + b. */
export interface Linear {
  a: Fraction
  b: Fraction
}
const ZERO = fraction(0n)

/**
 * An expression as a x + b.
 * @throws Trouble `expression-unclear` when it is not of that kind
 * @example readLinear('3(x − 4)') // a: 3, b: −12
 */
export function readLinear(text: string): Linear {
  const isNumber = (l: Linear) => l.a.n === 0n
  const times = (l: Linear, f: Fraction): Linear => ({ a: multiply(l.a, f), b: multiply(l.b, f) })
  const not = () => unclear(text, 'the letter is multiplied by itself or divided by')
  const product = (p: Linear, q: Linear): Linear => {
    if (!isNumber(p) && !isNumber(q)) throw not()
    return isNumber(q) ? times(p, q.b) : times(q, p.b)
  }
  return workOut<Linear>(treeInOneLetter(text), {
    of: b => ({ a: ZERO, b }),
    letter: () => ({ a: fraction(1n), b: ZERO }),
    add: (p, q) => ({ a: add(p.a, q.a), b: add(p.b, q.b) }),
    subtract: (p, q) => ({ a: subtract(p.a, q.a), b: subtract(p.b, q.b) }),
    multiply: product,
    divide: (p, q) => {
      if (!isNumber(q)) throw not()
      return times(p, divide(fraction(1n), q.b))
    },
    power: (p, n) => {
      if (n < 0 && !isNumber(p)) throw not()
      if (n < 0) return { a: ZERO, b: power(p.b, n) }
      if (n === 0) return { a: ZERO, b: fraction(1n) }
      return Array.from({ length: n - 1 }).reduce<Linear>(q => product(q, p), p)
    },
  })
}

/** "3x − 4" as it is written, with the given letter. */
export function writeLinear({ a, b }: Linear, letter: string): string {
  const one = a.d === 1n && (a.n === 1n || a.n === -1n)
  const x = a.n === 0n ? '' : `${one ? (a.n < 0n ? '-' : '') : a.d === 1n ? a.n : `(${writeFraction(a)})`}${letter}`
  if (!x) return writeFraction(b)
  if (b.n === 0n) return x
  return `${x}${b.n < 0n ? '-' : '+'}${writeFraction({ n: b.n < 0n ? -b.n : b.n, d: b.d })}`
}

/**
 * The one letter of an expression or equation; x when there is none.
 * @throws Trouble `expression-unclear` when there are more
 */
export function oneLetter(text: string): string {
  if (new Set(text.replace(/sqrt/g, '').match(/[a-z]/gi)).size > 1) throw unclear(text, 'it has more than one letter')
  return letterOf(text)
}

/** The letter an expression is in; x when there is none. */
export const letterOf = (text: string) => /[a-z]/i.exec(text.replace(/sqrt/g, ''))?.[0] ?? 'x'
