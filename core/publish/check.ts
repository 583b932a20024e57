import { readAnswer } from '../folio/answers'
import { gcd } from '../maths/exact'
import { numeralValue, readNumeral, readUnit, type Numeral } from '../numbers'

/**
 * What is said of a typed answer: `unit`: the number is right, the unit is not; `form`: the value is right, but it is
 * not written as it is asked; `compare` where it cannot be told by itself.
 */
export type Verdict = 'right' | 'wrong' | 'unit' | 'form' | 'compare'

/** What the arithmetic of the machine may be off by, as a share; a tolerance is the teacher's alone. */
const MACHINE = 1e-12

const plain = (text: string) => text.replace(/\s+/g, '').replace(/[−–]/g, '-').replace(/[·×]/g, '*').toLowerCase()

/**
 * Whether a typed answer is the expected one: an option, a number (exactly, but for the tolerance or the figures that
 * the teacher asked for) with its unit or another of its kind, also as an equation of one letter; the same expression
 * as it is written. What is expected in words is compared by eye.
 * @param expected as the teacher typed it: "19.5 m ± 0.5", "3.14 (3 s.f.)", "x = 16"
 */
export function checkTyped(expected: string, typed: string): Verdict {
  const option = /^\(?([A-H])\)?\.?$/.exec(expected.trim())?.[1]
  if (option) return plain(typed).replace(/[().]/g, '') === option.toLowerCase() ? 'right' : 'wrong'
  const wanted = quantityOf(expected)
  if (wanted) {
    const given = quantityOf(typed)
    return given ? compared(wanted, given) : 'wrong'
  }
  if (!expected.trim()) return 'compare'
  // The same value may be written otherwise: only the same writing is surely right.
  return plain(typed) === plain(expected) ? 'right' : 'compare'
}

interface Quantity {
  /** Of an equation: "x = 16"; empty without one. */
  letter: string
  number: Numeral
  value: number
  /** How far off a value may be, in the same unit; null where it has to be just that. */
  tolerance: number | null
  /** Figures are asked for. */
  rounded: boolean
  unit: string
}

/** A number with its unit, as it is typed, alone or as an equation of one letter; null for anything else. */
function quantityOf(text: string): Quantity | null {
  const asked =
    /^(.*?)\s*\(?\s*(?:to\s+)?(\d)\s*(s\.?\s?f\.?|sig(?:nificant)?\.?\s*fig(?:ure)?s?\.?|d\.?\s?p\.?|decimal\s+places?)\s*\)?$/i.exec(
      text,
    )
  const bare = (asked?.[1] ?? text).trim().replace(/^[≈~]\s*/, '')
  const isRounded = asked !== null || /^[≈~]/.test(text.trim())
  const [letter, side] = sides(bare)
  const fraction = /^([-−+]?\s*(?:\d+\s+)?\d+\s*\/\s*\d+|[^\p{L}]*[½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞])\s*([\p{L}°%].*)?$/u.exec(side)
  if (fraction) {
    const number = readNumeral(fraction[1]!)
    if (!number || number.d === 0n) return null
    const value = numeralValue(number)
    return { letter, number, value, tolerance: null, rounded: false, unit: (fraction[2] ?? '').trim() }
  }
  const answer = readAnswer(side)
  const number = readNumeral(numberIn(side))
  if (answer.kind !== 'number' || !number) return null
  const { value, unit } = answer
  const shown = isRounded ? lastPlace(number, asked) / 2 : null
  return { letter, number, value, tolerance: answer.tolerance || shown, rounded: isRounded, unit }
}

/** "x = 16", "16 = x", "x is 16" taken apart. */
function sides(text: string): [letter: string, side: string] {
  const m = /^([a-zA-Z])\s*(?:=|is|equals)\s*(.+)$/.exec(text) ?? /^(.+?)\s*=\s*([a-zA-Z])$/.exec(text)
  if (!m) return ['', text]
  return m[2]!.length === 1 && /[a-zA-Z]/.test(m[2]!) ? [m[2]!, m[1]!.trim()] : [m[1]!, m[2]!.trim()]
}

/** The longest beginning of a text that is a number. */
function numberIn(text: string): string {
  const [whole] = text.split(/±|\+\/-|\+-/)
  for (let end = whole!.length; end > 0; end--) if (readNumeral(whole!.slice(0, end))) return whole!.slice(0, end)
  return text
}

/** What one in the last place that is asked for is worth. */
function lastPlace(number: Numeral, asked: RegExpExecArray | null): number {
  if (!asked) return 10 ** -(number.places ?? 0)
  const count = Number(asked[2])
  if (/^d/i.test(asked[3]!)) return 10 ** -count
  return 10 ** (Math.floor(Math.log10(Math.abs(numeralValue(number)) || 1)) - count + 1)
}

function compared(wanted: Quantity, given: Quantity): Verdict {
  const [of, by] = [readUnit(wanted.unit), readUnit(given.unit)]
  const isSameUnit = plain(given.unit) === plain(wanted.unit)
  const isSameKind = isSameUnit || (of !== null && by !== null && of.kind === by.kind)
  const scale = isSameUnit || !isSameKind ? 1 : by!.factor / of!.factor
  const off = Math.abs(given.value * scale - wanted.value)
  const machine = MACHINE * Math.abs(wanted.value)
  const most = (wanted.tolerance ?? 0) + machine
  if (off > most && scale !== 1 && Math.abs(given.value - wanted.value) <= most) return 'unit'
  if (off > most) return isRoundingOf(given, wanted, scale) ? 'form' : 'wrong'
  if (wanted.unit && !isSameKind) return 'unit'
  if (!wanted.unit && given.unit) return 'unit'
  if (wanted.letter && given.letter && wanted.letter !== given.letter) return 'form'
  // Figures were asked for: the value before it is rounded has more of them.
  if (wanted.rounded && off > machine) return 'form'
  return isShortened(wanted.number) && !isShortened(given.number) ? 'form' : 'right'
}

/** A fraction that was asked for exactly, given as a decimal of three figures or more. */
const isRoundingOf = (given: Quantity, wanted: Quantity, scale: number) =>
  wanted.number.places === null &&
  (given.number.places ?? 0) >= 3 &&
  Math.abs(given.value * scale - wanted.value) <= (10 ** -given.number.places! / 2) * scale

/** Whether a number is in its lowest terms; decimals are as they are. */
function isShortened({ n, d, places }: Numeral): boolean {
  return places !== null || gcd(n, d) === 1n
}
