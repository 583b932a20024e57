import { Trouble } from '../folio/trouble'
import { add, divide, fraction, gcd, multiply, subtract, toNumber, type Fraction } from '../maths/exact'

/** Most marks on a scale. */
export const MOST_MARKS = 61

/** @throws Trouble `scale-unclear` says it */
export const scaleUnclear = (what: string, next: string) =>
  new Trouble('scale-unclear', what, 'What you typed is still there.', next)

/** Values from one end to the other in steps, exactly. */
export interface Scale {
  from: Fraction
  to: Fraction
  step: Fraction
  values: Fraction[]
}

export const isLess = (a: Fraction, b: Fraction): boolean => a.n * b.d < b.n * a.d
export const isSame = (a: Fraction, b: Fraction): boolean => a.n === b.n && a.d === b.d

/** The values from `from` to `to` in steps. @throws Trouble `scale-unclear` */
export function scaleOf(from: Fraction, to: Fraction, step: Fraction): Scale {
  const count = step.n > 0n ? toNumber(divide(subtract(to, from), step)) : 0
  if (!(count >= 1) || count > MOST_MARKS - 1)
    throw scaleUnclear(
      `From ${written(from)} to ${written(to)} in steps of ${written(step)} is not a scale that can be drawn.`,
      `Choose an end above the start and a step that gives at most ${MOST_MARKS - 1} marks.`,
    )
  const values = Array.from({ length: Math.floor(count + 1e-9) + 1 }, (_, i) =>
    add(from, multiply(step, fraction(BigInt(i)))),
  )
  return { from, to, step, values }
}

/** Steps that are read easily. */
const NICE = [1n, 2n, 5n]

/**
 * A scale round what has to be on it, with a little to spare at both ends: in units, or in the parts that all of it has
 * in common.
 * @param about how many marks it may have at most
 */
export function scaleAround(all: readonly Fraction[], about = 24): Scale {
  const low = all.reduce((a, b) => (isLess(b, a) ? b : a)),
    high = all.reduce((a, b) => (isLess(a, b) ? b : a))
  const parts = all.reduce((l, f) => (l * f.d) / gcd(l, f.d), 1n)
  const range = subtract(high, low)
  for (const step of steps(parts)) {
    const margin = multiply(step, fraction(2n))
    const from = floorTo(subtract(low, margin), step),
      to = ceilTo(add(high, margin), step)
    if (toNumber(divide(subtract(to, from), step)) <= about) return scaleOf(from, to, step)
  }
  throw scaleUnclear(
    `What is from ${written(low)} to ${written(high)} does not go on one line (${written(range)} apart).`,
    'Type the ends and the step, such as -5 to 5 by 1.',
  )
}

function* steps(parts: bigint): Generator<Fraction> {
  if (parts > 1n && parts <= 1000n) yield fraction(1n, parts)
  for (let power = parts > 1000n ? -6n : 0n; power <= 30n; power++)
    for (const nice of NICE) yield power < 0n ? fraction(nice, 10n ** -power) : fraction(nice * 10n ** power)
}

function floorTo(f: Fraction, step: Fraction): Fraction {
  const k = divide(f, step)
  const n = k.n >= 0n ? k.n / k.d : -((-k.n + k.d - 1n) / k.d)
  return multiply(fraction(n), step)
}
const ceilTo = (f: Fraction, step: Fraction): Fraction => {
  const down = floorTo(fraction(-f.n, f.d), step)
  return fraction(-down.n, down.d)
}

/** Whether a number comes to an end as a decimal. */
export function isDecimal({ d }: Fraction): boolean {
  let rest = d
  for (const p of [2n, 5n]) while (rest % p === 0n) rest /= p
  return rest === 1n
}

/** A number as it is read: decimal where it ends and `decimal` is wished, else mixed, with a minus sign. */
export function written(f: Fraction, decimal = isDecimal(f), parts = f.d): string {
  const sign = f.n < 0n ? '−' : ''
  const size = { n: f.n < 0n ? -f.n : f.n, d: f.d }
  if (size.d === 1n) return `${sign}${size.n}`
  if (decimal && isDecimal(f)) return sign + asDecimal(size)
  const n = (size.n * parts) / size.d
  const whole = n / parts
  return `${sign}${whole ? `${whole} ` : ''}${n % parts}/${parts}`
}

/** @param f not negative, and ending as a decimal */
function asDecimal(f: Fraction): string {
  let places = 0
  let n = f.n,
    d = f.d
  while (d % 10n === 0n) {
    d /= 10n
    places++
  }
  while (d > 1n) {
    n *= d % 2n === 0n && d % 5n !== 0n ? 5n : 2n
    d /= d % 2n === 0n ? 2n : 5n
    places++
  }
  const digits = n.toString().padStart(places + 1, '0')
  return `${digits.slice(0, -places)}.${digits.slice(-places)}`
}

/**
 * The labels of a scale: all decimals, or all fractions with one denominator; only as many as have room.
 * @param gap squares from one mark to the next
 */
export function labelsOf({ from, step, values }: Scale, gap: number, fractions: boolean): (string | null)[] {
  const parts = (from.d * step.d) / gcd(from.d, step.d)
  const decimal = !fractions && isDecimal(from) && isDecimal(step)
  const texts = values.map(v => written(v, decimal, v.d === 1n ? 1n : parts))
  const widest = Math.max(...texts.map(t => 0.5 * t.length + 0.5))
  let every = Math.max(1, Math.ceil(widest / gap))
  // Whole numbers are labelled first.
  if (every > 1 && !decimal && Number(parts) > 1) every = Math.ceil(every / Number(parts)) * Number(parts)
  const first =
    every > 1
      ? Math.max(
          0,
          values.findIndex(v => v.d === 1n),
        ) % every
      : 0
  const shown = texts.map((t, i) => ((i - first) % every === 0 ? t : null))
  // Two labels at least tell what the line counts.
  if (shown.filter(t => t !== null).length < 2) {
    const inner = [Math.ceil((texts.length - 1) * 0.15), Math.floor((texts.length - 1) * 0.85)]
    return texts.map((t, i) => (inner.includes(i) ? t : null))
  }
  return shown
}
