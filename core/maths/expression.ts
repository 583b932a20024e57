import { Trouble } from '../folio/trouble'
import { add, divide, fraction, multiply, readFraction, subtract, writeFraction, type Fraction } from './exact'

/** Arithmetic that an expression can be worked out in. */
interface Numbers<V> {
  of(f: Fraction): V
  x: V
  add(a: V, b: V): V
  subtract(a: V, b: V): V
  multiply(a: V, b: V): V
  divide(a: V, b: V): V
  power(a: V, n: number): V
}

const unclear = (text: string, why: string) =>
  new Trouble(
    'expression-unclear',
    `“${text.slice(0, 60)}” cannot be worked out: ${why}.`,
    'What you typed is still there.',
    'Type it with + − * / ^, brackets, numbers and one letter, for example 3x − 4.',
  )

/**
 * Reads and works out an expression in one letter: + − * / ^ and brackets, with a number before a letter or bracket
 * multiplying it.
 */
function workOut<V>(text: string, on: Numbers<V>): V {
  const s = text.replace(/[−–]/g, '-').replace(/[×·]/g, '*').replace(/÷/g, '/').replace(/\s+/g, '')
  let at = 0
  const sum = (): V => {
    let value = product()
    for (;;) {
      if (s[at] === '+') {
        at++
        value = on.add(value, product())
      } else if (s[at] === '-') {
        at++
        value = on.subtract(value, product())
      } else return value
    }
  }
  const product = (): V => {
    let value = signed()
    for (;;) {
      if (s[at] === '*') {
        at++
        value = on.multiply(value, signed())
      } else if (s[at] === '/') {
        at++
        value = on.divide(value, signed())
      } else if (s[at] === '(' || /[a-z]/i.test(s[at] ?? '')) value = on.multiply(value, power())
      else return value
    }
  }
  const signed = (): V => {
    if (s[at] === '+') {
      at++
      return signed()
    }
    if (s[at] === '-') {
      at++
      return on.subtract(on.of(fraction(0n)), signed())
    }
    return power()
  }
  const power = (): V => {
    const base = atom()
    if (s[at] !== '^') return base
    at++
    const hit = /^(?:\((\d{1,2})\)|(\d{1,2}))/.exec(s.slice(at))
    if (!hit) throw unclear(text, 'a power must be a small whole number')
    at += hit[0].length
    return on.power(base, Number(hit[1] ?? hit[2]))
  }
  const atom = (): V => {
    if (s[at] === '(') {
      at++
      const value = sum()
      if (s[at] !== ')') throw unclear(text, 'a bracket is not closed')
      at++
      return value
    }
    const hit = /^\d+(?:\.\d+)?|^\.\d+/.exec(s.slice(at))
    if (hit) {
      at += hit[0].length
      return on.of(readFraction(hit[0]))
    }
    if (/[a-z]/i.test(s[at] ?? '')) {
      at++
      return on.x
    }
    throw unclear(text, s[at] === undefined ? 'something is missing at the end' : `“${s[at]}” is not expected there`)
  }
  oneLetter(s)
  const value = sum()
  if (at < s.length) throw unclear(text, `“${s[at]}” is not expected there`)
  return value
}

const power = (a: Fraction, n: number): Fraction => fraction(a.n ** BigInt(n), a.d ** BigInt(n))

/** The value of an expression in one letter, exactly. @throws Trouble `expression-unclear`, `divided-by-zero` */
export function evaluate(text: string, x: Fraction): Fraction {
  return workOut(text, { of: f => f, x, add, subtract, multiply, divide, power })
}

/** a x + b. */
export interface Linear {
  a: Fraction
  b: Fraction
}
const ZERO = fraction(0n)

/** An expression as a x + b. @throws Trouble `expression-unclear` when it is not of that kind */
export function readLinear(text: string): Linear {
  const isNumber = (l: Linear) => l.a.n === 0n
  const times = (l: Linear, f: Fraction): Linear => ({ a: multiply(l.a, f), b: multiply(l.b, f) })
  const not = () => unclear(text, 'the letter is multiplied by itself or divided by')
  const product = (p: Linear, q: Linear): Linear => {
    if (!isNumber(p) && !isNumber(q)) throw not()
    return isNumber(q) ? times(p, q.b) : times(q, p.b)
  }
  return workOut<Linear>(text, {
    of: b => ({ a: ZERO, b }),
    x: { a: fraction(1n), b: ZERO },
    add: (p, q) => ({ a: add(p.a, q.a), b: add(p.b, q.b) }),
    subtract: (p, q) => ({ a: subtract(p.a, q.a), b: subtract(p.b, q.b) }),
    multiply: product,
    divide: (p, q) => {
      if (!isNumber(q)) throw not()
      return times(p, divide(fraction(1n), q.b))
    },
    power: (p, n) =>
      n === 0 ? { a: ZERO, b: fraction(1n) } : Array.from({ length: n - 1 }).reduce<Linear>(q => product(q, p), p),
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
  if (new Set(text.match(/[a-z]/gi)).size > 1) throw unclear(text, 'it has more than one letter')
  return letterOf(text)
}

/** The letter an expression is in; x when there is none. */
export const letterOf = (text: string) => /[a-z]/i.exec(text)?.[0] ?? 'x'
