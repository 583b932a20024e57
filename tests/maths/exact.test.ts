import Decimal from 'decimal.js'
import Fraction from 'fraction.js'
import { describe, expect, it } from 'vitest'
import { seededRandom } from '../../core/ink'
import {
  evaluate,
  fraction,
  primeFactors,
  readDecimal,
  readFraction,
  readLinear,
  simplifyRoot,
  writeDecimal,
  writeFraction,
  writeLinear,
} from '../../core/maths'

const random = seededRandom(4)
const digits = (n: number) =>
  Array.from({ length: n }, () => Math.floor(random() * 10))
    .join('')
    .replace(/^0/, '1')

describe('numbers as they are typed', () => {
  it.each([
    ['8000', '8000'],
    ['12,500', '12500'],
    ['12 500.25', '12500.25'],
    ['−2.75', '-2.75'],
    ['.5', '0.5'],
    ['007', '7'],
    ['1e5', '100000'],
    ['2,5', '2.5'],
  ])('%s is %s', (typed, plain) => {
    expect(writeDecimal(readDecimal(typed))).toBe(plain)
  })
  it.each(['', 'abc', '1.2.3', '--4', '3/4', '9'.repeat(241)])('%s is refused with what to do', typed => {
    expect(() => readDecimal(typed)).toThrow(expect.objectContaining({ code: 'number-unclear' }))
  })
  it('keep 200 digits exactly', () => {
    const long = digits(200)
    expect(writeDecimal(readDecimal(`${long}.${long.slice(0, 30)}`))).toBe(`${long}.${long.slice(0, 30)}`)
  })
})

describe('expressions', () => {
  it('agree with an exact library (fraction.js) on thousands of generated ones', () => {
    const number = () => `${Math.floor(random() * 20)}${random() < 0.3 ? `.${Math.floor(random() * 100)}` : ''}`
    const make = (depth: number): [string, (x: Fraction) => Fraction] => {
      if (depth === 0) {
        if (random() < 0.4) return ['x', x => x]
        const n = number()
        return [n, () => new Fraction(n)]
      }
      const [a, f] = make(depth - 1),
        [b, g] = make(depth - 1)
      const kind = Math.floor(random() * 4)
      if (kind === 0) return [`(${a}+${b})`, x => f(x).add(g(x))]
      if (kind === 1) return [`(${a}-${b})`, x => f(x).sub(g(x))]
      if (kind === 2) return [`(${a})(${b})`, x => f(x).mul(g(x))]
      return [`((${a})/(1+(${b})^2))`, x => f(x).div(g(x).mul(g(x)).add(1))]
    }
    for (let i = 0; i < 2000; i++) {
      const [text, f] = make(1 + (i % 4))
      const x = new Fraction(Math.floor(random() * 19) - 9, 1 + Math.floor(random() * 6))
      const mine = evaluate(text, fraction(BigInt(x.s) * BigInt(x.n), BigInt(x.d)))
      expect(f(x).equals(new Fraction(writeFraction(mine))), text).toBe(true)
    }
  })
  it.each([
    ['2x+', 'missing at the end'],
    ['(x+1', 'bracket is not closed'],
    ['x+y', 'more than one letter'],
    ['x^x', 'power'],
    ['3$', 'not expected'],
  ])('%s says what is wrong', (text, why) => {
    expect(() => evaluate(text, fraction(1n))).toThrow(
      expect.objectContaining({ code: 'expression-unclear', message: expect.stringContaining(why) as string }),
    )
  })
  it('division by zero is named', () => {
    expect(() => evaluate('1/(x-2)', fraction(2n))).toThrow(expect.objectContaining({ code: 'divided-by-zero' }))
  })
  it.each([
    ['3x - 4', '3x-4'],
    ['2(x+1)-x', 'x+2'],
    ['-x/2', '(-1/2)x'],
    ['7', '7'],
    ['x-x', '0'],
  ])('%s is %s', (text, plain) => {
    expect(writeLinear(readLinear(text), 'x')).toBe(plain)
  })
  it('refuses what is not linear', () => {
    expect(() => readLinear('x(x+1)')).toThrow(expect.objectContaining({ code: 'expression-unclear' }))
    expect(() => readLinear('1/x')).toThrow()
  })
})

describe('whole numbers', () => {
  it('√180 = 6√5, and roots of squares are whole (worked by hand)', () => {
    expect(simplifyRoot(180n)).toEqual({ outside: 6n, inside: 5n })
    expect(simplifyRoot(49n)).toEqual({ outside: 7n, inside: 1n })
    for (let n = 1n; n < 400n; n++) {
      const { outside, inside } = simplifyRoot(n)
      expect(outside * outside * inside).toBe(n)
      for (let k = 2n; k * k <= inside; k++) expect(inside % (k * k)).not.toBe(0n)
    }
  })
  it('factors multiply back and are prime', () => {
    for (let n = 2n; n < 2000n; n += 7n) {
      const factors = primeFactors(n)
      expect(factors.reduce((a, b) => a * b, 1n)).toBe(n)
      expect(
        factors.every(p =>
          Array.from({ length: Math.floor(Math.sqrt(Number(p))) - 1 }, (_, i) => BigInt(i + 2)).every(
            k => p % k !== 0n,
          ),
        ),
      ).toBe(true)
    }
  })
  it('mixed numbers and fractions are read', () => {
    expect(writeFraction(readFraction('1 3/4'))).toBe('7/4')
    expect(writeFraction(readFraction('-1 1/2'))).toBe('-3/2')
    expect(writeFraction(readFraction('0.125'))).toBe('1/8')
    expect(new Decimal(writeDecimal(readDecimal('0.10'))).eq('0.1')).toBe(true)
  })
})
