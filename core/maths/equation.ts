import { add, divide, fraction, gcd, writeFraction, type Fraction } from './exact'
import {
  collected,
  constant,
  readPolynomial,
  termsOf,
  times,
  writePolynomial,
  writeTerms,
  type Polynomial,
  type Term,
} from './polynomial'
import { unclear } from './tree'
import { plainSigns } from '../numbers/read'

/** A relation between two sides. */
export type Relation = '=' | '<' | '≤' | '>' | '≥'
/** An equation or inequality in one letter: each side as it stands, and what it comes to. */
export interface Equation {
  left: string
  right: string
  relation: Relation
}
/**
 * What can be done to both sides, or to what stands on them. Amounts are terms as they are typed: "3x", "4", "-2/3".
 */
export type EquationMove =
  | { move: 'expand' | 'collect' | 'swap' }
  | { move: 'add' | 'subtract' | 'multiply' | 'divide'; by: string }

const SIGNS: Record<string, Relation> = {
  '=': '=',
  '<': '<',
  '>': '>',
  '<=': '≤',
  '=<': '≤',
  '≤': '≤',
  '⩽': '≤',
  '>=': '≥',
  '=>': '≥',
  '≥': '≥',
  '⩾': '≥',
}
const FLIPPED: Record<Relation, Relation> = { '=': '=', '<': '>', '>': '<', '≤': '≥', '≥': '≤' }
const ONE = fraction(1n)

/**
 * An equation or inequality as it is typed.
 * @throws Trouble `expression-unclear`: two letters, a letter squared, more than one relation
 * @example readEquation('3x − 4 = 17')
 */
export function readEquation(text: string): Equation {
  const parts = plainSigns(text).split(/(<=|=<|≤|⩽|>=|=>|≥|⩾|<|>|=)/)
  if (parts.length !== 3)
    throw unclear(text, parts.length < 3 ? 'it has no sign of relation' : 'it has more than one sign of relation')
  const [left, sign, right] = parts.map(p => p.trim()) as [string, string, string]
  if (!left || !right) throw unclear(text, 'one side is empty')
  const equation = { left, right, relation: SIGNS[sign]! }
  letterOfEquation(equation)
  for (const side of [left, right]) linear(side)
  return equation
}

/** Its letter; x where there is none. @throws Trouble `expression-unclear` when there are two */
export function letterOfEquation({ left, right }: Equation): string {
  const letters = new Set(`${left}${right}`.match(/[a-z]/gi))
  if (letters.size > 1) throw unclear(`${left} = ${right}`, 'it has more than one letter')
  return [...letters][0] ?? 'x'
}

/** A side multiplied out. @throws Trouble `expression-unclear` where the letter is multiplied by itself or divided by */
function linear(side: string): Polynomial {
  const all = readPolynomial(side)
  if (all.some(t => t.powers.some(([, p]) => p > 1))) throw unclear(side, 'the letter is multiplied by itself')
  return all
}
const partOf = (p: Polynomial, withLetter: boolean): Fraction =>
  p.find(t => t.powers.length > 0 === withLetter)?.coefficient ?? fraction(0n)
const sameText = (a: string, b: string) => a.replace(/\s|\*/g, '') === b.replace(/\s|\*/g, '')

/** What is on a side, term by term, where it is a plain sum; null where brackets or strokes are in the way. */
function plainTerms(side: string): Term[] | null {
  if (/[()]/.test(side)) return null
  try {
    return termsOf(side)
  } catch {
    return null
  }
}

/** One line of working: what was done, said as a teacher would, and what stands there after it. */
export interface Worked {
  move: EquationMove
  say: string
  /** What is noted beside the line it was done to: "− 3x", "÷ 2"; empty for what changes no value. */
  note: string
  after: Equation
}

/**
 * Does a move.
 * @throws Trouble `expression-unclear` for an amount that is none; `divided-by-zero`; for a move that changes nothing
 */
export function applyMove(equation: Equation, move: EquationMove): Worked {
  switch (move.move) {
    case 'expand':
    case 'collect':
      return simplified(equation, move)
    case 'swap':
      return {
        move,
        say: 'Swap the sides, so that the letter is on the left',
        note: '',
        after: { left: equation.right, right: equation.left, relation: FLIPPED[equation.relation] },
      }
    case 'add':
    case 'subtract':
      return added(equation, move)
    case 'multiply':
    case 'divide':
      return scaled(equation, move)
  }
}

function simplified(equation: Equation, move: EquationMove): Worked {
  const tidy = (side: string) => {
    if (move.move === 'expand' && /[()]/.test(side)) return writeTerms(expandedTerms(side))
    return move.move === 'collect' ? writePolynomial(linear(side)) : side
  }
  const after = { ...equation, left: tidy(equation.left), right: tidy(equation.right) }
  if (sameText(after.left, equation.left) && sameText(after.right, equation.right))
    throw unclear(`${equation.left} ${equation.relation} ${equation.right}`, `there is nothing to ${move.move}`)
  return {
    move,
    say: move.move === 'expand' ? 'Multiply out the brackets' : 'Put like terms together',
    note: '',
    after,
  }
}

/** A side multiplied out, its terms in the order in which they come, like ones still apart. */
function expandedTerms(side: string): Term[] {
  const out: Term[] = []
  let depth = 0,
    from = 0
  // Top-level terms, each multiplied out by itself.
  const cut = (to: number) => {
    const piece = side.slice(from, to).trim()
    if (piece) out.push(...readPolynomial(piece))
    from = to
  }
  for (let i = 0; i < side.length; i++) {
    if (side[i] === '(') depth++
    if (side[i] === ')') depth--
    const starts =
      depth === 0 && i > 0 && /[-+−]/.test(side[i]!) && !/[*/^(]\s*$/.test(side.slice(0, i)) && side.slice(0, i).trim()
    if (starts) cut(i)
  }
  cut(side.length)
  return out
}

function amountOf(by: string): Term {
  const all = termsOf(by)
  if (all.length !== 1) throw unclear(by, 'it is more than one term')
  return all[0]!
}

function added(equation: Equation, move: EquationMove & { by: string }): Worked {
  const term = amountOf(move.by)
  const amount: Term =
    move.move === 'add' ? term : { ...term, coefficient: { n: -term.coefficient.n, d: term.coefficient.d } }
  if (amount.coefficient.n === 0n) throw unclear(move.by, 'that changes nothing')
  const plus = (side: string) => writePolynomial(collected([...linear(side), amount]))
  const isAdding = amount.coefficient.n > 0n
  const size = writeTerms([{ ...amount, coefficient: abs(amount.coefficient) }])
  return {
    move,
    say: `${isAdding ? 'Add' : 'Take away'} ${size} on both sides`,
    note: `${isAdding ? '+' : '−'} ${size}`,
    after: { ...equation, left: plus(equation.left), right: plus(equation.right) },
  }
}
const abs = (f: Fraction): Fraction => ({ n: f.n < 0n ? -f.n : f.n, d: f.d })

function scaled(equation: Equation, move: EquationMove & { by: string }): Worked {
  const { coefficient: by, powers } = amountOf(move.by)
  if (powers.length) throw unclear(move.by, 'it has the letter in it, which may be zero')
  if (by.n === 0n) throw unclear(move.by, 'both sides times nothing say nothing, and nothing can be divided by zero')
  const factor = move.move === 'multiply' ? by : divide(ONE, by)
  const side = (text: string) => writePolynomial(collected(linear(text).map(t => times(t, constant(factor)))))
  const turns = factor.n < 0n && equation.relation !== '='
  const size = writeFraction(by).replace('-', '−')
  const say = move.move === 'multiply' ? `Multiply both sides by ${size}` : `Divide both sides by ${size}`
  return {
    move,
    say: turns ? `${say}: it is negative, so the sign turns round` : say,
    note: `${move.move === 'multiply' ? '×' : '÷'} ${size.startsWith('−') ? `(${size})` : size}`,
    after: {
      left: side(equation.left),
      right: side(equation.right),
      relation: turns ? FLIPPED[equation.relation] : equation.relation,
    },
  }
}

/** What the letter is, or that there is nothing left to do; null while there is. */
export function verdictOf(equation: Equation): { say: string; solved: boolean } | null {
  const letter = letterOfEquation(equation)
  const [l, r] = [linear(equation.left), linear(equation.right)]
  const a = partOf(l, true),
    b = partOf(r, true)
  if (a.n === 0n && b.n === 0n && plainTerms(equation.left) && plainTerms(equation.right))
    return noLetter(partOf(l, false), partOf(r, false), equation.relation)
  const done =
    sameText(equation.left, letter) && b.n === 0n && r.length <= 1 && plainTerms(equation.right)?.length === 1
  return done ? { say: `${letter} ${equation.relation} ${equation.right}`, solved: true } : null
}

function noLetter(l: Fraction, r: Fraction, relation: Relation): { say: string; solved: boolean } {
  const difference = add(l, { n: -r.n, d: r.d }).n
  const holds =
    relation === '='
      ? difference === 0n
      : relation === '<'
        ? difference < 0n
        : relation === '≤'
          ? difference <= 0n
          : relation === '>'
            ? difference > 0n
            : difference >= 0n
  return {
    say: holds ? 'This is always true: all numbers solve it' : 'This is never true: there is no solution',
    solved: false,
  }
}

/**
 * The next move that a teacher would make: brackets, a common denominator, like terms, the letter to the side where it
 * stays positive, numbers to the other, dividing.
 * @returns null where it is solved, or nothing solves it
 */
export function nextMove(equation: Equation): EquationMove | null {
  if (verdictOf(equation)) return null
  const { left, right } = equation
  const denominators = denominatorOf(left, right)
  if (denominators > 1n) return { move: 'multiply', by: denominators.toString() }
  if (/[()]/.test(left + right)) return { move: 'expand' }
  if ([left, right].some(hasLikeTerms)) return { move: 'collect' }
  const [l, r] = [linear(left), linear(right)]
  const a = partOf(l, true),
    b = partOf(r, true)
  const isLess = a.n * b.d < b.n * a.d
  const withLetter = (f: Fraction) => writeTerms([{ coefficient: abs(f), powers: [[letterOfEquation(equation), 1]] }])
  const take = (f: Fraction, text: string): EquationMove => ({ move: f.n > 0n ? 'subtract' : 'add', by: text })
  if (a.n !== 0n && b.n !== 0n) {
    const away = isLess ? a : b
    return take(away, withLetter(away))
  }
  // A negative letter by itself goes to the other side.
  const own = a.n !== 0n ? a : b
  const numberHere = a.n !== 0n ? partOf(l, false) : partOf(r, false)
  if (own.n < 0n && numberHere.n !== 0n) return take(own, withLetter(own))
  if (numberHere.n !== 0n) return take(numberHere, writeFraction(abs(numberHere)))
  if (a.n === 0n) return { move: 'swap' }
  return own.d > 1n && own.n === 1n
    ? { move: 'multiply', by: own.d.toString() }
    : { move: 'divide', by: writeFraction(own) }
}

function hasLikeTerms(side: string): boolean {
  const terms = plainTerms(side) ?? []
  return terms.length > Math.max(1, collected(terms).length)
}

/** The least common denominator of the fractions in both sides. */
function denominatorOf(left: string, right: string): bigint {
  let all = 1n
  for (const side of [left, right])
    for (const [, under] of side.matchAll(/\/\s*\(?\s*(\d+)/g)) {
      const d = BigInt(under!)
      if (d > 0n) all = (all * d) / gcd(all, d)
    }
  return all
}
