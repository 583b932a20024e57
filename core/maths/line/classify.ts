import { lexemesOf, type Lexeme } from './lexemes'
import {
  ACCENTS,
  AFTER_LETTER,
  BUILDERS,
  CAPITAL_WORDS,
  FUNCTIONS,
  GRAMMAR,
  GREEK_NAMES,
  JOINS,
  LARGE_SIGNS,
  MAYBE_NAMES,
  NAMED_SIGNS,
  SHORT_WORDS,
  UNIT_WORDS,
  UNITS,
} from './vocabulary'

/** What a lexeme of a line is read as. */
export type Reading = 'words' | 'maths' | 'unit'

const isJoin = (l: Lexeme | undefined) => l?.kind === 'sign' && JOINS.test(l.text)
const isBracket = (l: Lexeme | undefined, signs: string) => l?.kind === 'sign' && signs.includes(l.text)
const GREEK_LETTER = /^\p{Script=Greek}$/u
/** One letter, with an accent over it or not. */
const isSingle = (text: string) => [...text.normalize('NFD').replace(/[\u0300-\u036f\u20d7]/g, '')].length === 1
const isName = (text: string) =>
  GREEK_NAMES.has(text) ||
  FUNCTIONS.has(text) ||
  text in ACCENTS ||
  text in LARGE_SIGNS ||
  BUILDERS.has(text) ||
  text in NAMED_SIGNS

/**
 * What every lexeme of a line is: words stay words, maths is maths, a unit behind a number is a unit.
 * @returns one reading for each lexeme
 * @example classify(lexemesOf('x = 3 or x = -2')) // maths ×3, words, maths ×4
 */
export function classify(all: readonly Lexeme[]): Reading[] {
  const readings = new Array<Reading | null>(all.length).fill(null)
  for (let i = 0; i < all.length; i++) readings[i] = own(all, i, readings)
  sentences(all, readings)
  punctuate(all, readings)
  return readings.map(r => r ?? 'maths')
}

/** What a lexeme is by itself and its neighbours; null for signs that go with what they stand beside. */
function own(all: readonly Lexeme[], i: number, before: readonly (Reading | null)[]): Reading | null {
  const lexeme = all[i]!
  switch (lexeme.kind) {
    case 'number':
    case 'maths':
      return 'maths'
    case 'gap':
      return 'words'
    case 'quoted':
      return isJoin(all[i - 1]) || isJoin(all[i + 1]) || isBracket(all[i + 1], '/') || isBracket(all[i - 1], '/')
        ? 'maths'
        : 'words'
    case 'colour':
      return classify(lexemesOf(lexeme.inner!)).every(r => r !== 'words') ? 'maths' : 'words'
    case 'letters':
      return lettersAt(all, i, before)
    case 'sign':
      return isJoin(lexeme) && !hyphen(all, i) ? 'maths' : null
  }
}

/** "-" and "–" that join words ("right-angled") or part them (" - "): no minus. */
function hyphen(all: readonly Lexeme[], i: number): boolean {
  const sign = all[i]!,
    a = all[i - 1],
    b = all[i + 1]
  if (!/^[-–−]$/.test(sign.text) || a?.kind !== 'letters' || b?.kind !== 'letters') return false
  const tight = !sign.space && !b.space
  const long = (l: Lexeme) => l.text.length > 1 && !isName(l.text)
  if (tight) return long(a) && long(b) && (a.text.length > 3 || b.text.length > 3 || SHORT_WORDS.has(a.text))
  return isWord(a.text) && isWord(b.text) && sign.text === '–'
}

const isWord = (text: string) => text.length > 3 || SHORT_WORDS.has(text.toLowerCase())

/** Whether a unit can stand here: right behind a number, or behind a unit with a power of its own ("N m^-1"). */
function isUnit(all: readonly Lexeme[], i: number, before: readonly (Reading | null)[]): boolean {
  const { text, space } = all[i]!
  if (!UNITS.has(text)) return false
  if (joinsUnit(all, i, before) || bareUnit(all, i, before)) return true
  if (before[i - 1] === 'unit' && space) return !UNIT_WORDS.has(text) && (text.length > 1 || unitGoesOn(all[i + 1]))
  const power = before[i - 1] === 'maths' && unitPower(all, before, i)
  if (power) return !UNIT_WORDS.has(text) && (text.length > 1 || space)
  return afterNumber(all, i)
}

/** Behind "kg·", "m/" or "J/(": the left side of the sign is a unit. */
function joinsUnit(all: readonly Lexeme[], i: number, before: readonly (Reading | null)[]): boolean {
  const a = all[i - 1]
  if (a?.kind !== 'sign') return false
  if (/^[/·⋅*×]$/.test(a.text)) return before[i - 2] === 'unit'
  return a.text === '(' && all[i - 2]?.text === '/' && before[i - 3] === 'unit'
}

/** Right behind a number, a power of one, degrees or a bracket. */
function afterNumber(all: readonly Lexeme[], i: number): boolean {
  const { text, space } = all[i]!
  const a = all[i - 1],
    b = all[i + 1]
  const ofNumber = (a?.kind === 'number' || RAISED.test(a?.text ?? '')) && powerOf(all, i)?.kind !== 'letters'
  if (!ofNumber && !isBracket(a, '°') && !(isBracket(a, ')') && space)) return false
  // "5m" may be five times m; "5 m" and "24cm" are units.
  if (!space && text.length === 1 && text !== 'Ω') return false
  return !(UNIT_WORDS.has(text) && b?.kind === 'letters' && !isWord(b.text))
}
const unitGoesOn = (b: Lexeme | undefined) =>
  b === undefined || (b.kind === 'sign' && /^[\^⁻⁰¹²³⁴-⁹/·.,;)]/.test(b.text)) || b.kind === 'letters'

const RAISED = /^[⁰¹²³⁴-⁹⁺⁻]+$/
/** What the number or raised sign right before `i` is a power of; the number itself where it is none. */
function powerOf(all: readonly Lexeme[], i: number): Lexeme | undefined {
  let k = i - 1
  if (RAISED.test(all[k]?.text ?? '')) return all[k - 1]
  if (/^[-−]$/.test(all[k - 1]?.text ?? '') && all[k - 2]?.text === '^') k--
  return /^[\^_]$/.test(all[k - 1]?.text ?? '') ? all[k - 2] : all[k]
}

/** "speed in m/s", "(km/h)": a unit without a number, named as such by its stroke. */
function bareUnit(all: readonly Lexeme[], i: number, before: readonly (Reading | null)[]): boolean {
  const [stroke, under] = [all[i + 1], all[i + 2]]
  if (stroke?.text !== '/' || stroke.space || !under || under.space || !UNITS.has(under.text)) return false
  const alone = !isJoin(all[i - 1]) && !isJoin(all[i + 3]) && all[i]!.space
  return all[i]!.text.length > 1 || (alone && before[i - 1] === 'words')
}

/** Whether a unit's power ("^-1", "²") ends right before `i`. */
function unitPower(all: readonly Lexeme[], before: readonly (Reading | null)[], i: number): boolean {
  let k = i - 1
  if (all[k]?.kind === 'number') {
    k--
    if (all[k]?.kind === 'sign' && /^[-−]$/.test(all[k]!.text)) k--
    if (all[k]?.text !== '^') return false
    k--
  } else if (all[k]?.kind === 'sign' && /^[⁻⁰¹²³⁴-⁹]/.test(all[k]!.text)) k--
  else return false
  return before[k] === 'unit'
}

/** What stands close to letters, without a space: before them, behind them, and whether that raises or lowers. */
interface Close {
  before: Lexeme | undefined
  after: Lexeme | undefined
  scripted: boolean
}
function closeTo(all: readonly Lexeme[], i: number): Close {
  const before = all[i]!.space ? undefined : all[i - 1]
  const after = all[i + 1]?.space ? undefined : all[i + 1]
  const scripted = isBracket(after, '^_') || /^[⁰¹²³⁴-⁹⁺⁻ⁿ₀-₉]/.test(after?.text ?? '')
  return { before, after, scripted }
}

function lettersAt(all: readonly Lexeme[], i: number, before: readonly (Reading | null)[]): Reading {
  const { text } = all[i]!
  const close = closeTo(all, i)
  if (/['’]/.test(text)) return 'words'
  if (isBracket(close.before, '^_')) return 'maths'
  if (isUnit(all, i, before)) return 'unit'
  if (/^d\p{L}$/u.test(text) && all.some(l => /^(?:int|∫)$/.test(l.text))) return 'maths'
  if (MAYBE_NAMES.has(text)) return close.scripted || isBracket(close.after, '(') ? 'maths' : 'words'
  if (isName(text) || GREEK_LETTER.test(text)) return 'maths'
  if (isSingle(text)) return singleAt(all, i, before)
  const ofNumber = close.before?.kind === 'number'
  // "1st", "2nd", "3rd", "10th".
  if (ofNumber && /^(st|nd|rd|th)$/.test(text)) return 'words'
  if (close.scripted || functionOf(text) || (ofNumber && text.length < 5)) return 'maths'
  if (text.length > 3 && !/^\p{Lu}+$/u.test(text)) return 'words'
  return shortAt(all, i, close)
}

/** Two or three letters, or capitals. */
function shortAt(all: readonly Lexeme[], i: number, close: Close): Reading {
  const { text } = all[i]!
  const a = all[i - 1],
    b = all[i + 1]
  if (isBracket(close.before, ')|√')) return 'maths'
  if (text === 'pH' || text === 'pOH') return 'words'
  if (/^\p{Lu}+$/u.test(text) && text.length < 5) return CAPITAL_WORDS.has(text) && !isJoin(a) ? 'words' : 'maths'
  // "Q = It": no such word stands between signs.
  if (GRAMMAR.has(text.toLowerCase()) && isJoin(a) && (!b || isJoin(b))) return 'maths'
  if (SHORT_WORDS.has(text.toLowerCase())) return 'words'
  if (text.length > 3) return 'words'
  if (text.length === 2 && (a?.kind === 'number' || isBracket(a, ')'))) return 'maths'
  const beside = isJoin(a) || isJoin(b) || isBracket(a, '/√|') || isBracket(b, '/|!')
  return beside || isBracket(close.after, '(') || close.after?.kind === 'number' ? 'maths' : 'words'
}

/** "sinx", "lnx": a function and its letter in one. */
export function functionOf(text: string): { name: string; letter: string } | null {
  const hit = /^(sin|cos|tan|ln|log|lg)([xyzθαβ])$/u.exec(text)
  return hit ? { name: hit[1]!, letter: hit[2]! } : null
}

/** One letter: a quantity, unless it is "a" or "I" among words. */
function singleAt(all: readonly Lexeme[], i: number, before: readonly (Reading | null)[]): Reading {
  const lexeme = all[i]!
  const a = all[i - 1],
    b = all[i + 1]
  if (!/^[aAIiOo]$/.test(lexeme.text)) return 'maths'
  const alone = (lexeme.space || !a) && b !== undefined && b.space
  const afterWords = !a || before[i - 1] === 'words' || before[i - 1] === 'unit' || isBracket(a, '.,;:')
  if (!alone || !afterWords) return 'maths'
  if (lexeme.text !== 'a' && b.kind !== 'letters') return 'maths'
  if (b.kind === 'letters') return AFTER_LETTER.has(b.text) ? 'maths' : 'words'
  return b.kind === 'number' ? 'words' : 'maths'
}

/** A letter in brackets behind words, "part (a)", and short words between words belong to the sentence. */
function sentences(all: readonly Lexeme[], readings: (Reading | null)[]): void {
  all.forEach((lexeme, i) => {
    if (lexeme.kind !== 'letters' || !isSingle(lexeme.text) || readings[i] !== 'maths') return
    const inBrackets = isBracket(all[i - 1], '(') && isBracket(all[i + 1], ')')
    if (inBrackets && readings[i - 2] === 'words' && all[i - 1]!.space) readings[i] = 'words'
  })
}

/** Signs that are neither: they go with what they stand beside. */
function punctuate(all: readonly Lexeme[], readings: (Reading | null)[]): void {
  const open: number[] = []
  all.forEach((lexeme, i) => {
    if (readings[i] !== null) return
    const next = all.slice(i + 1).findIndex((_, k) => readings[i + 1 + k] !== null)
    const after = next < 0 ? null : readings[i + 1 + next]!
    const previous = i ? readings[i - 1]! : null
    const last = i === all.length - 1 || all[i + 1]!.space
    const { text } = lexeme
    if ('([{'.includes(text)) {
      open.push(i)
      readings[i] = after === 'words' ? 'words' : 'maths'
    } else if (')]}'.includes(text)) {
      const from = open.pop()
      const opened = from === undefined ? (previous ?? 'words') : readings[from]!
      readings[i] = opened === 'unit' ? 'words' : opened
    } else if (/^[.?!,;:]$/.test(text)) readings[i] = stop(text, previous, after, last, open.length > 0)
    else readings[i] = signBetween(text, previous, after)
  })
}

function signBetween(text: string, previous: Reading | null, after: Reading | null): Reading {
  const inWords = previous === 'words'
  if (text === '/') return inWords && after === 'words' ? 'words' : previous === 'unit' ? 'unit' : 'maths'
  if (/^[$€£¥–−-]$/.test(text)) return 'words'
  if (RAISED.test(text) || /^['’′″”]$/.test(text)) return inWords ? 'words' : 'maths'
  return previous === null || previous === 'unit' ? (after ?? 'words') : previous
}

function stop(
  text: string,
  previous: Reading | null,
  after: Reading | null,
  last: boolean,
  inBrackets: boolean,
): Reading {
  if (previous === 'words' || previous === null) return 'words'
  if (text === '!') return 'maths'
  if (inBrackets) return 'maths'
  if (text === '.' || text === '?') return last ? 'words' : 'maths'
  if (text === ':') return last ? 'words' : 'maths'
  return after === 'maths' && previous === 'maths' ? 'maths' : 'words'
}
