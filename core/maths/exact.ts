import { Trouble } from '../folio/trouble'
import { MOST_DIGITS, readNumeral } from '../numbers/read'

/** A decimal number exactly: `units` / 10^`places`. */
export interface Decimal {
  units: bigint
  places: number
}

const badNumber = (text: string, why: string) =>
  new Trouble(
    'number-unclear',
    `“${text.length > 40 ? `${text.slice(0, 40)}…` : text}” ${why}.`,
    'The rest of what you typed is still there.',
    'Type a number such as 8000, −2.75 or 12 500.',
  )

/**
 * Reads a decimal in any of the ways in which numbers are written.
 * @throws Trouble `number-unclear`, also for a fraction
 * @example readDecimal('−2,75') // { units: -275n, places: 2 }
 */
export function readDecimal(text: string): Decimal {
  const numeral = readNumeral(text)
  if (numeral && numeral.places !== null) return { units: numeral.n, places: numeral.places }
  const digits = text.replace(/\D/g, '').length
  if (digits > MOST_DIGITS) throw badNumber(text, `has ${digits} digits; ${MOST_DIGITS} are the most`)
  throw badNumber(text, 'is not a number')
}

/** A decimal as plain digits with all of its places. */
export function writeDecimal({ units, places }: Decimal): string {
  const digits = (units < 0n ? -units : units).toString().padStart(places + 1, '0')
  const whole = digits.slice(0, digits.length - places),
    rest = digits.slice(digits.length - places)
  return `${units < 0n ? '-' : ''}${whole}${places ? `.${rest}` : ''}`
}

/** The same number with at least `places` places. */
export function withPlaces(d: Decimal, places: number): Decimal {
  return places > d.places ? { units: d.units * 10n ** BigInt(places - d.places), places } : d
}

/** A fraction in lowest terms; `d` is positive. */
export interface Fraction {
  n: bigint
  d: bigint
}

/** Highest common factor, never negative; that of 0 and 0 is 0. */
export function gcd(a: bigint, b: bigint): bigint {
  let x = a < 0n ? -a : a,
    y = b < 0n ? -b : b
  while (y) [x, y] = [y, x % y]
  return x
}

/** @throws Trouble `divided-by-zero` */
export function fraction(n: bigint, d = 1n): Fraction {
  if (d === 0n)
    throw new Trouble(
      'divided-by-zero',
      'Nothing can be divided by zero.',
      'What you typed is still there.',
      'Change the divisor.',
    )
  const g = gcd(n, d) || 1n
  const sign = d < 0n ? -1n : 1n
  return { n: (sign * n) / g, d: (sign * d) / g }
}

export const fractionOf = ({ units, places }: Decimal): Fraction => fraction(units, 10n ** BigInt(places))
export const add = (a: Fraction, b: Fraction) => fraction(a.n * b.d + b.n * a.d, a.d * b.d)
export const subtract = (a: Fraction, b: Fraction) => fraction(a.n * b.d - b.n * a.d, a.d * b.d)
export const multiply = (a: Fraction, b: Fraction) => fraction(a.n * b.n, a.d * b.d)
/** @throws Trouble `divided-by-zero` */
export const divide = (a: Fraction, b: Fraction) => fraction(a.n * b.d, a.d * b.n)
export const toNumber = (f: Fraction) => Number((f.n * 10n ** 15n) / f.d) / 1e15

/** "7", "−3/4" as typed on one line; a minus is a hyphen, as in what is typed. */
export function writeFraction({ n, d }: Fraction): string {
  return d === 1n ? n.toString() : `${n}/${d}`
}

/**
 * Reads "3/4", "1 3/4", "0.75", "0,75" or "7".
 * @throws Trouble `number-unclear`, `divided-by-zero`
 * @example readFraction('1 3/4') // { n: 7n, d: 4n }
 */
export function readFraction(text: string): Fraction {
  const numeral = readNumeral(text)
  return numeral ? fraction(numeral.n, numeral.d) : fractionOf(readDecimal(text))
}

/**
 * The prime factors of a whole number above 1, ascending.
 * @throws Trouble `number-large` where trial division would take too long
 */
export function primeFactors(n: bigint): bigint[] {
  const out: bigint[] = []
  let left = n
  for (let p = 2n; p * p <= left; p += p === 2n ? 1n : 2n) {
    if (p > 2_000_000n)
      throw new Trouble(
        'number-large',
        `${n} has no small factors.`,
        'What you typed is still there.',
        'Choose a smaller number.',
      )
    while (left % p === 0n) {
      out.push(p)
      left /= p
    }
  }
  if (left > 1n) out.push(left)
  return out
}

/** √n = outside √inside with the largest square taken out. @param n not negative */
export function simplifyRoot(n: bigint): { outside: bigint; inside: bigint } {
  let outside = 1n,
    inside = 1n
  const factors = n > 1n ? primeFactors(n) : []
  for (let i = 0; i < factors.length; ) {
    if (factors[i] === factors[i + 1]) {
      outside *= factors[i]!
      i += 2
    } else {
      inside *= factors[i]!
      i++
    }
  }
  return n === 0n ? { outside: 0n, inside: 1n } : { outside, inside }
}
