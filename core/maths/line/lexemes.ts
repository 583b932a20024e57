import { SIGNS } from './vocabulary'

/**
 * The smallest piece of a typed line: from its first character up to, not with, its last; `space` tells whether one
 * stands before it. `inner` is what quotes, backticks or a colour go round; `role` is the colour's number.
 */
export interface Lexeme {
  kind: 'letters' | 'number' | 'sign' | 'quoted' | 'maths' | 'colour' | 'gap'
  text: string
  from: number
  to: number
  space: boolean
  inner?: string
  role?: string
}

const SUPERSCRIPTS = '⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻ⁿ'
const PLAIN_SUPER = '0123456789+-n'
const SUBSCRIPTS = '₀₁₂₃₄₅₆₇₈₉'

/** Raised signs as plain ones: "⁻¹" is "-1". */
export const lowered = (text: string): string =>
  [...text]
    .map(c => PLAIN_SUPER[SUPERSCRIPTS.indexOf(c)] ?? (SUBSCRIPTS.includes(c) ? String(SUBSCRIPTS.indexOf(c)) : c))
    .join('')

const NUMBER =
  /^(?:\d{1,3}(?:[ \u00a0\u2009\u202f'’]\d{3})+(?!\d)(?:[.,]\d+)?|\d{1,3}(?:,\d{3})+(?![\d,])(?:\.\d+)?|\d+(?:[.,]\d+)*|[.,]\d+)(?:[eE][+\-−]?\d+(?![\p{L}\d]))?/u
const LETTERS = /^[\p{L}\p{M}\u20d7]+(?:['’]\p{L}{2,}|['’](?=[st]\b)\p{L})?/u
const RAISED = /^[⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻ⁿ]+/
const LOWERED = /^[₀₁₂₃₄₅₆₇₈₉]+/
const FRACTION = /^[½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅐⅛⅜⅝⅞⅑⅒]/
const ABBREVIATION = /^(?:d\.p|s\.f|e\.g|i\.e|a\.m|p\.m|w\.r\.t|q\.e\.d|z\.B|d\.h|p\.ej)\.?(?!\p{L})/iu
const COLOUR = /^@([1-9])\(/

/**
 * A typed line taken apart; nothing of it is left out but spaces.
 * @example lexemesOf('3x = 12').map(l => l.text) // ['3', 'x', '=', '12']
 */
export function lexemesOf(source: string): Lexeme[] {
  const out: Lexeme[] = []
  let at = 0
  while (at < source.length) {
    const space = /^\s+/.exec(source.slice(at))?.[0].length ?? 0
    at += space
    if (at >= source.length) break
    const lexeme = lexemeAt(source, at, out.at(-1))
    out.push({ ...lexeme, from: at, space: space > 0 })
    at = lexeme.to
  }
  return out
}

type Bare = Omit<Lexeme, 'from' | 'space'>

function lexemeAt(source: string, at: number, before: Lexeme | undefined): Bare {
  const rest = source.slice(at)
  const take = (kind: Lexeme['kind'], text: string, more: Partial<Lexeme> = {}): Bare => ({
    kind,
    text,
    to: at + text.length,
    ...more,
  })
  const colour = COLOUR.exec(rest)
  if (colour) {
    const end = closing(rest, colour[0].length)
    return take('colour', rest.slice(0, end + 1), { inner: rest.slice(colour[0].length, end), role: colour[1]! })
  }
  const wrapped = rest[0] === '"' || rest[0] === '`' ? rest.indexOf(rest[0], 1) : -1
  if (wrapped > 0) {
    const kind = rest[0] === '"' ? ('quoted' as const) : ('maths' as const)
    return take(kind, rest.slice(0, wrapped + 1), { inner: rest.slice(1, wrapped) })
  }
  const gap = /^_{2,}|^\.{4,}/.exec(rest)
  if (gap) return take('gap', gap[0])
  const fraction = FRACTION.exec(rest)
  if (fraction) return take('number', fraction[0])
  // In "x.5" or "3.,5" a sign is no beginning of a number.
  const number = before?.to === at && before.kind !== 'sign' && /^[.,]/.test(rest) ? null : NUMBER.exec(rest)
  if (number) return take('number', number[0])
  const abbreviation = ABBREVIATION.exec(rest)
  if (abbreviation) return take('gap', abbreviation[0])
  const letters = LETTERS.exec(rest)
  if (letters) return take('letters', letters[0])
  const raised = RAISED.exec(rest) ?? LOWERED.exec(rest)
  if (raised) return take('sign', raised[0])
  // "5!=120" is a factorial, "x != 2" is not equal.
  if (rest.startsWith('!=') && before?.kind === 'number' && before.to === at) return take('sign', '!')
  const sign = SIGNS.find(([s]) => rest.startsWith(s))
  return take('sign', sign?.[0] ?? String.fromCodePoint(rest.codePointAt(0)!))
}

/** Where the bracket that is open at `from` closes; the end where it does not. */
function closing(text: string, from: number): number {
  let depth = 1
  for (let i = from; i < text.length; i++) {
    if (text[i] === '(') depth++
    if (text[i] === ')' && --depth === 0) return i
  }
  return text.length
}
