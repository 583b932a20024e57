/**
 * A number as it was written, exactly: `n`/`d`, with `d` positive and not shortened, so that 3/6 stays what it is.
 * `places` are the decimal places that were written; null where it was no decimal.
 */
export interface Numeral {
  n: bigint
  d: bigint
  places: number | null
}

/** Most digits of a number that is worked with, and of a power of ten. */
export const MOST_DIGITS = 240

const MINUS = /[-−–‐‑﹣－]/g
const PLUS = /[+﹢＋]/g
/** Minus and plus signs of every kind as "-" and "+", one for one, so that places in the text stay. @example plainSigns('−2') // '-2' */
export const plainSigns = (text: string): string => text.replace(MINUS, '-').replace(PLUS, '+')

/** Every space that a number may be grouped with, and the apostrophe of some countries. */
const GROUPING = /(?<=\d)[\s\u00a0\u2009\u202f'’](?=\d{3}(?!\d))/g
const SUPERSCRIPT = '⁰¹²³⁴⁵⁶⁷⁸⁹'

/**
 * A number in any of the ways in which it is written: decimal point or comma, thousands in groups, fraction, mixed
 * number, standard form, signs of every kind.
 *
 * A comma with exactly three digits behind it groups thousands, unless a zero stands before it; any other comma is a
 * decimal sign. A point is a decimal sign, unless there are two of them or a comma behind it. Where a text has both,
 * the last is the decimal sign.
 * @returns null for what is not one number: nothing is guessed, and nothing is left over
 * @example readNumeral('1 250,5') // 1250.5; also '1,250.5', '1.250,5', '−3/4', '1 3/4', '2½', '3.2 × 10^4', '6e-3'
 */
export function readNumeral(text: string): Numeral | null {
  const plain = normal(text)
  return standardForm(plain) ?? mixed(plain) ?? decimal(plain)
}

/** Signs, superscripts and vulgar fractions in their plain form. */
function normal(text: string): string {
  return plainSigns(text)
    .trim()
    .replace(/[½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅐⅛⅜⅝⅞⅑⅒]/g, sign => ` ${sign.normalize('NFKD').replace('\u2044', '/')}`)
    .replace(/10([⁻⁺]?[⁰¹²³⁴⁵⁶⁷⁸⁹]+)/g, (_, power: string) => `10^${plainPower(power)}`)
    .trim()
}

const plainPower = (power: string) =>
  [...power].map(c => (c === '⁻' ? '-' : c === '⁺' ? '+' : String(SUPERSCRIPT.indexOf(c)))).join('')

/** "3.2 × 10^4", "3.2e4", "10^-3". */
function standardForm(text: string): Numeral | null {
  const hit =
    /^([+-]?[\d.,]+)\s*[eE]([+-]?\d{1,3})$/.exec(text) ??
    /^(?:(.+?)\s*[×x*·]\s*)?10\s*\^\s*\(?([+-]?\d{1,3})\)?$/.exec(text)
  if (!hit) return null
  const base = hit[1] === undefined ? { n: 1n, d: 1n, places: 0 } : decimal(hit[1])
  const power = Number(hit[2])
  if (!base || Math.abs(power) > MOST_DIGITS) return null
  const by = 10n ** BigInt(Math.abs(power))
  const places = Math.max(0, base.places! - power)
  const [n, d] = power < 0 ? [base.n, base.d * by] : [base.n * by, base.d]
  // As a decimal with just its own places.
  return { n: (n * 10n ** BigInt(places)) / d, d: 10n ** BigInt(places), places }
}

/** "3/4", "−1 3/4". */
function mixed(text: string): Numeral | null {
  const hit = /^([+-])?\s*(?:(\d[\d\s]*?)\s+)?([+-])?(\d+)\s*\/\s*(\d+)$/.exec(text)
  if (!hit || (hit[2] !== undefined && hit[3])) return null
  const whole = hit[2] === undefined ? 0n : BigInt(hit[2].replace(/\s/g, ''))
  const n = BigInt(hit[4]!),
    d = BigInt(hit[5]!)
  const negative = (hit[1] === '-') !== (hit[3] === '-')
  return { n: (negative ? -1n : 1n) * (whole * d + n), d, places: null }
}

function decimal(text: string): Numeral | null {
  const hit = /^([+-]?)\s*([\d.,]+)$/.exec(text.replace(GROUPING, ''))
  const parts = hit && decimalParts(hit[2]!)
  if (!parts) return null
  const digits = parts.whole + parts.rest
  if (!digits || digits.length > MOST_DIGITS) return null
  const n = BigInt(digits) * (hit[1] === '-' ? -1n : 1n)
  return { n, d: 10n ** BigInt(parts.rest.length), places: parts.rest.length }
}

/** Digits before and behind the decimal sign. */
function decimalParts(text: string): { whole: string; rest: string } | null {
  const points = text.split('.').length - 1,
    commas = text.split(',').length - 1
  const last = text.lastIndexOf('.') > text.lastIndexOf(',') ? '.' : ','
  const count = last === '.' ? points : commas
  const grouped = new RegExp(`^[1-9]\\d{0,2}(\\${last}\\d{3})+$`)
  // One kind of sign only: a comma before three digits groups, and so do two points or more.
  if (!points !== !commas && grouped.test(text) && (last === ',' || points > 1))
    return { whole: text.replaceAll(last, ''), rest: '' }
  if (count > 1) return null
  const [before = '', rest = ''] = count ? text.split(last) : [text]
  const other = last === '.' ? ',' : '.'
  if (before.includes(other) && !new RegExp(`^[1-9]\\d{0,2}(\\${other}\\d{3})+$`).test(before)) return null
  return { whole: before.replaceAll(other, ''), rest }
}

/** A numeral as a number of the machine, as near as that comes. */
export function numeralValue({ n, d, places }: Numeral): number {
  // Read by the machine itself where it is a decimal, so that 0.1 is 0.1.
  if (places === null) return Number(n) / Number(d)
  const digits = (n < 0n ? -n : n).toString().padStart(places + 1, '0')
  const at = digits.length - places
  return Number(`${n < 0n ? '-' : ''}${digits.slice(0, at)}.${digits.slice(at)}`)
}
