import { Trouble } from '../../folio/trouble'
import { functionOf } from './classify'
import { lexemesOf, lowered, type Lexeme } from './lexemes'
import {
  ACCENTS,
  FUNCTIONS,
  GREEK_LETTERS,
  GREEK_NAMES,
  LARGE_SIGNS,
  NAMED_SIGNS,
  OPERATOR_NAMES,
  SIGNS,
} from './vocabulary'

/** A lexeme of maths, and whether it is a unit. */
export interface MathsLexeme extends Lexeme {
  unit?: boolean
}
/** The LaTeX of a piece in another role's colour. @param role its number */
export type Coloured = (role: string, latex: string) => string

/** One thing in a row of maths: an operand with its powers and indices, a sign, or the stroke of a fraction. */
interface Atom {
  kind: 'operand' | 'sign' | 'stroke'
  latex: string
  space: boolean
  /** What stands in it without its brackets. */ inside?: string
  is?: 'number' | 'letters' | 'function' | 'unit' | 'bracket' | 'fraction'
}

const COMMAND = new Map(SIGNS)
const OPEN = '([{',
  CLOSE = ')]}'
const isSign = (l: Lexeme | undefined, signs: string) => l?.kind === 'sign' && l.text !== '' && signs.includes(l.text)
const TALL = /\\frac|\\begin|\\sum|\\int|\\prod|\\sqrt\{\\frac/

/** @throws Trouble `line-unclear` says it */
export const lineUnclear = (why: string) =>
  new Trouble(
    'line-unclear',
    `This line cannot be read yet: ${why}.`,
    'What you typed is still there.',
    'Complete it, or put what are words into quotes.',
  )

/**
 * A row of maths as LaTeX (the language of mathematical typesetting, LaTeX2e).
 * @param inBrackets whether a comma parts numbers there, as in (2,3), or belongs to one
 * @throws Trouble `line-unclear` where something is missing
 * @example latexOf(lexemesOf('6√3/3')) // '\\frac{6\\sqrt{3}}{3}'
 */
export function latexOf(lexemes: readonly MathsLexeme[], coloured: Coloured, inBrackets = false): string {
  return joined(fractions(new Row(lexemes, coloured, inBrackets).atoms()), inBrackets)
}

class Row {
  private i = 0
  private integral = false
  constructor(
    private readonly all: readonly MathsLexeme[],
    private readonly coloured: Coloured,
    private readonly inBrackets: boolean,
  ) {}

  private get next(): MathsLexeme | undefined {
    return this.all[this.i]
  }
  private tight(signs?: string): boolean {
    const { next } = this
    return next !== undefined && !next.space && (signs === undefined || isSign(next, signs))
  }
  private inner(lexemes: readonly MathsLexeme[], inBrackets = true): string {
    return latexOf(lexemes, this.coloured, inBrackets)
  }

  atoms(): Atom[] {
    const out: Atom[] = []
    while (this.next) out.push(this.atom(out.at(-1)))
    return out
  }

  private atom(before: Atom | undefined): Atom {
    const lexeme = this.next!
    const { space } = lexeme
    if (isSign(lexeme, '/')) {
      this.i++
      return lexeme.unit ? { kind: 'sign', latex: '/', space: false } : { kind: 'stroke', latex: '/', space }
    }
    const base = this.base(before)
    if (base) return this.scripted({ ...base, kind: 'operand', space })
    this.i++
    return { kind: 'sign', latex: signLatex(lexeme.text), space }
  }

  /** What can carry a power; null for a sign. */
  private base(before?: Atom): Pick<Atom, 'latex' | 'inside' | 'is'> | null {
    const lexeme = this.next
    if (!lexeme) return null
    switch (lexeme.kind) {
      case 'number':
        this.i++
        return { latex: numberLatex(lexeme.text, this.inBrackets), is: 'number' }
      case 'letters':
        this.i++
        return lexeme.unit ? { latex: unitLatex(lexeme.text), is: 'unit' } : this.letters(lexeme)
      case 'quoted':
      case 'gap':
        this.i++
        return { latex: textLatex(lexeme.inner ?? lexeme.text), is: 'letters' }
      case 'maths':
        this.i++
        return { latex: `{${latexOf(lexemesOf(lexeme.inner!), this.coloured, this.inBrackets)}}`, is: 'bracket' }
      case 'colour':
        this.i++
        return { latex: this.coloured(lexeme.role!, this.inner(lexemesOf(lexeme.inner!), false)), is: 'letters' }
      case 'sign':
        return this.signBase(lexeme, before)
    }
  }

  private signBase(lexeme: MathsLexeme, before?: Atom): Pick<Atom, 'latex' | 'inside' | 'is'> | null {
    const { text } = lexeme
    if (OPEN.includes(text)) return this.bracket()
    if (text === '|') return this.bars()
    if (text in LARGE_SIGNS) {
      this.i++
      this.integral ||= text === '∫'
      return { latex: `${LARGE_SIGNS[text]!} `, is: 'function' }
    }
    if ('√∛∜'.includes(text)) {
      this.i++
      const index = { '√': '', '∛': '[3]', '∜': '[4]' }[text]!
      return { latex: `\\sqrt${index}{${this.argument('√')}}`, is: 'bracket' }
    }
    // "³√8" is a root with an index; a raised sign with nothing in front of it stands before what follows.
    if (/^[⁰¹²³⁴-⁹]/.test(text) && this.all[this.i + 1]?.text === '√' && (!before || text !== '²')) {
      this.i += 2
      return { latex: `\\sqrt[${lowered(text)}]{${this.argument('√')}}`, is: 'bracket' }
    }
    if (text === '°' && /^[CF]$/.test(this.all[this.i + 1]?.text ?? '')) {
      this.i += 2
      return { latex: `\\mathrm{{}^{\\circ}${this.all[this.i - 1]!.text}}`, is: 'unit' }
    }
    if (text === '∞' || text === '∅') {
      this.i++
      return { latex: signLatex(text), is: 'letters' }
    }
    return null
  }

  private letters(lexeme: Lexeme): Pick<Atom, 'latex' | 'is'> {
    const { text } = lexeme
    const joint = functionOf(text)
    if (joint) return { latex: `\\${joint.name} ${letterLatex(joint.letter)}`, is: 'letters' }
    const greek = GREEK_NAMES.get(text)
    if (greek) return { latex: `${greek} `, is: 'letters' }
    if (text in NAMED_SIGNS) return { latex: `${NAMED_SIGNS[text]!} `, is: 'letters' }
    if (text in LARGE_SIGNS) {
      this.integral ||= text === 'int'
      return { latex: `${LARGE_SIGNS[text]!} `, is: 'function' }
    }
    if (text === 'lim') return { latex: this.limit(), is: 'function' }
    if (FUNCTIONS.has(text))
      return { latex: OPERATOR_NAMES.has(text) ? `\\operatorname{${text}} ` : `\\${text} `, is: 'function' }
    if (text in ACCENTS) {
      const bare = this.argument(text)
      return { latex: `${ACCENTS[text]![/^[\w\s]$|^\\\w+ ?$/.test(bare) ? 0 : 1]}{${bare}}`, is: 'letters' }
    }
    const built = this.built(text)
    if (built) return { latex: built, is: 'bracket' }
    // A differential behind an integral stands a little apart.
    if (this.integral && /^d[a-zα-ω]$/u.test(text) && !lexeme.space)
      return { latex: `\\,d${letterLatex(text[1]!)}`, is: 'letters' }
    return { latex: lettersLatex(text), is: 'letters' }
  }

  private built(text: string): string | null {
    switch (text) {
      case 'sqrt':
        return `\\sqrt{${this.argument('sqrt')}}`
      case 'cbrt':
        return `\\sqrt[3]{${this.argument('cbrt')}}`
      case 'root': {
        const index = this.argument('root')
        return `\\sqrt[${index}]{${this.argument('root')}}`
      }
      case 'abs':
        return `\\left|${this.argument('abs')}\\right|`
      case 'floor':
        return `\\left\\lfloor ${this.argument('floor')}\\right\\rfloor `
      case 'ceil':
        return `\\left\\lceil ${this.argument('ceil')}\\right\\rceil `
      default:
        return null
    }
  }

  /** What a name or a root is of: a bracket without its brackets, or the next operand. */
  private argument(name: string): string {
    const base = this.base()
    if (!base) throw lineUnclear(`something is missing behind ${name}`)
    if (base.inside !== undefined) return base.inside
    // A power belongs under the root; a bracket's does not.
    return this.scripted({ ...base, kind: 'operand', space: false }).latex
  }

  /** "lim x->0" as "lim_(x->0)". */
  private limit(): string {
    const [letter, arrow, to] = this.all.slice(this.i, this.i + 3)
    if (letter?.kind !== 'letters' || !/^(->|→)$/.test(arrow?.text ?? '') || !to) return '\\lim '
    this.i += 2
    const sign = isSign(this.next, '+-−') ? this.all[this.i++]!.text : ''
    return `\\lim_{${lettersLatex(letter.text)}\\to ${sign && signLatex(sign)}${this.base()?.latex ?? ''}} `
  }

  private bracket(): Pick<Atom, 'latex' | 'inside' | 'is'> | null {
    const end = closingOf(this.all, this.i)
    const open = this.all[this.i]!.text
    if (end < 0) return null
    const close = this.all[end]!.text
    const body = this.all.slice(this.i + 1, end)
    this.i = end + 1
    const table = this.table(open, close, body)
    if (table) return { latex: table, inside: table, is: 'bracket' }
    const inside = this.inner(body)
    const [l, r] = [open, close].map(b => (b === '{' || b === '}' ? `\\${b}` : b))
    const latex = TALL.test(inside) ? `\\left${l}${inside}\\right${r}` : `${l}${inside}${r}`
    return { latex, inside, is: 'bracket' }
  }

  /** Rows parted by ";", or brackets in brackets, are a matrix; in braces, with relations, a system. */
  private table(open: string, close: string, body: readonly MathsLexeme[]): string | null {
    const rows = partedBy(body, ';')
    if (open === '{' && rows.length > 1 && rows.every(r => r.some(l => isRelation(l))))
      return `\\begin{cases}${rows.map(r => this.inner(r, false)).join('\\\\')}\\end{cases}`
    const nested = partedBy(body, ',')
    const inRows =
      (open === '[' || open === '(') &&
      nested.length > 1 &&
      nested.every(r => isSign(r[0], open) && r.length > 2 && closingOf(r, 0) === r.length - 1)
    const cells =
      rows.length > 1 && open === '[' ? rows.map(cellsOf) : inRows ? nested.map(r => cellsOf(r.slice(1, -1))) : null
    if (!cells) return null
    const kind = open === '[' && close === ']' ? 'bmatrix' : 'pmatrix'
    return `\\begin{${kind}}${cells.map(r => r.map(c => this.inner(c, false)).join('&')).join('\\\\')}\\end{${kind}}`
  }

  /** |x|, where a second bar follows. */
  private bars(): Pick<Atom, 'latex' | 'is'> | null {
    const end = this.all.findIndex((l, k) => k > this.i + 1 && isSign(l, '|'))
    if (end < 0) return null
    const inside = this.inner(this.all.slice(this.i + 1, end), false)
    this.i = end + 1
    return { latex: TALL.test(inside) ? `\\left|${inside}\\right|` : `\\lvert ${inside}\\rvert `, is: 'bracket' }
  }

  /** Powers, indices, primes, factorials and per cent of what stands before them. */
  private scripted(atom: Atom): Atom {
    let latex = atom.latex + this.index(atom)
    for (let more = this.scriptAt(); more !== null; more = this.scriptAt()) latex += more
    const { inside, ...rest } = atom
    return latex === atom.latex ? atom : { ...rest, latex, ...(inside === undefined ? {} : { is: 'bracket' as const }) }
  }

  /** "x2" is x with an index, as it is said. */
  private index({ is, latex }: Atom): string {
    const { next } = this
    const isIndex = is === 'letters' && next?.kind === 'number' && !next.space && /^\d{1,2}$/.test(next.text)
    if (!isIndex || !/\p{L}\s?$/u.test(latex)) return ''
    this.i++
    return `_{${next.text}}`
  }

  /** The next power, index, prime, factorial, per cent or degree of what was read; null where there is none. */
  private scriptAt(): string | null {
    const { next } = this
    if (next?.kind !== 'sign' || (next.space && next.text !== '^')) return null
    const after = this.all[this.i + 1]
    const { text } = next
    const raised = /^[⁰¹²³⁴-⁹⁺⁻ⁿ]/.test(text)
    // "2³√8": the raised sign is the root's.
    if (raised && after?.text === '√' && text !== '²' && !after.space) return null
    if (text === '°' && /^[CF]$/.test(after?.text ?? '')) return null
    const made = raised
      ? `^{${lowered(text)}}`
      : /^[₀-₉]/.test(text)
        ? `_{${lowered(text)}}`
        : { '!': '!', '%': '\\%', '°': '^{\\circ}', "'": "'", '’': "'", '′': "'", '″': "''", '”': "''" }[text]
    if (made === undefined && !['^', '**', '_'].includes(text)) return null
    this.i++
    return made ?? `${text === '_' ? '_' : '^'}{${this.script(text)}}`
  }

  /** What stands raised or lowered: a bracket, or a number or name with its sign. */
  private script(by: string): string {
    const sign = isSign(this.next, '+-−') ? this.all[this.i++]!.text : ''
    const signed = sign && signLatex(sign)
    const { next } = this
    if (sign && (!next || next.space || !['letters', 'number'].includes(next.kind))) return signed
    if (isSign(next, '*∘°')) {
      this.i++
      return next!.text === '*' ? '*' : '\\circ '
    }
    if (by === '_' && next?.kind === 'letters' && next.text.length > 1 && !GREEK_NAMES.has(next.text)) {
      this.i++
      return `\\mathrm{${next.text}}`
    }
    const base = this.base()
    if (!base) throw lineUnclear(`something is missing behind ${by}`)
    return signed + (base.inside ?? base.latex)
  }
}

/** Numerator: all that stands close before the stroke. Denominator: the operand behind it. */
function fractions(atoms: readonly Atom[]): Atom[] {
  const out: Atom[] = []
  for (let i = 0; i < atoms.length; i++) {
    const atom = atoms[i]!
    if (atom.kind !== 'stroke') {
      out.push(atom)
      continue
    }
    const over: Atom[] = []
    while (out.at(-1)?.kind === 'operand') {
      over.unshift(out.pop()!)
      if (over[0]!.space) break
    }
    if (!over.length) throw lineUnclear('something is missing in front of /')
    const sign = atoms[i + 1]?.kind === 'sign' && /^[-+]$/.test(atoms[i + 1]!.latex) ? atoms[++i]!.latex : ''
    const under = atoms[++i]
    if (under?.kind !== 'operand') throw lineUnclear('something is missing behind /')
    // The argument of a function goes with it.
    const rest =
      (under.is === 'function' || /^[fgh]$/.test(under.latex)) &&
      atoms[i + 1]?.kind === 'operand' &&
      (under.is === 'function' || !atoms[i + 1]!.space)
        ? atoms[++i]!.latex
        : ''
    const bare = (all: readonly Atom[]) =>
      all.length === 1
        ? (all[0]!.inside ?? all[0]!.latex)
        : joined(
            all.map((a, k) => (k ? a : { ...a, space: false })),
            true,
          )
    const below = rest ? under.latex + rest : bare([under])
    out.push({
      kind: 'operand',
      is: 'fraction',
      latex: `\\frac{${bare(over)}}{${sign}${below}}`,
      space: over[0]!.space,
    })
  }
  return out
}

/** Atoms in a row, as far apart as a book would set them. */
function joined(atoms: readonly Atom[], inBrackets: boolean): string {
  return atoms.reduce((latex, atom, i) => latex + gap(atoms[i - 1], atom, inBrackets) + atom.latex, '')
}

function gap(before: Atom | undefined, atom: Atom, inBrackets: boolean): string {
  if (!before) return ''
  if (atom.is === 'unit') return before.kind === 'operand' ? '\\,' : ''
  if (!atom.space) return ''
  if (before.kind === 'sign') return /^[,;]$/.test(before.latex) && !inBrackets ? '\\ \\,' : ''
  if (atom.kind === 'sign') return atom.latex.length === 1 && atom.latex > '~' && atom.latex !== '‰' ? '\\ ' : ''
  if (before.is === 'number' && atom.is === 'fraction') return ''
  if (before.is === 'fraction' && atom.is === 'letters') return ''
  if (before.is === 'number') return atom.is === 'number' ? '\\ ' : atom.is === 'letters' ? '' : '\\,'
  // The space behind a letter's name only ends the name.
  const named = /\\[a-zA-Z]+ $/.test(before.latex) || /^\\[a-z]+ $/i.test(atom.latex)
  return before.is === 'function' || (named && atom.is === 'letters') ? '' : '\\,'
}

/** Where the bracket at `i` closes, whatever kind of bracket closes it: [0, 5) is an interval. −1 where none does. */
function closingOf(all: readonly Lexeme[], i: number): number {
  let depth = 0
  for (let k = i; k < all.length; k++) {
    if (isSign(all[k], OPEN)) depth++
    if (isSign(all[k], CLOSE) && --depth === 0) return k
  }
  return -1
}

/** A list at its separators outside of inner brackets. */
function partedBy(all: readonly MathsLexeme[], sign: string): MathsLexeme[][] {
  const out: MathsLexeme[][] = [[]]
  let depth = 0
  for (const lexeme of all) {
    if (isSign(lexeme, OPEN)) depth++
    if (isSign(lexeme, CLOSE)) depth--
    if (depth === 0 && isSign(lexeme, sign)) out.push([])
    else out.at(-1)!.push(lexeme)
  }
  return out
}

/** Cells of a row: parted by commas, else by spaces; "1,2" is two cells there. */
function cellsOf(row: readonly MathsLexeme[]): MathsLexeme[][] {
  const loose = row.flatMap(l =>
    l.kind === 'number' && /^[\d.]+(,[\d.]+)+$/.test(l.text)
      ? l.text
          .split(',')
          .flatMap((text, i): MathsLexeme[] => [
            ...(i ? [{ ...l, kind: 'sign' as const, text: ',' }] : []),
            { ...l, text, space: i > 0 || l.space },
          ])
      : [l],
  )
  const byComma = partedBy(loose, ',')
  if (byComma.length > 1) return byComma
  const out: MathsLexeme[][] = []
  loose.forEach((l, i) => {
    const before = loose[i - 1]
    const begins =
      !before ||
      (l.space &&
        !(before.kind === 'sign' && !CLOSE.includes(before.text)) &&
        l.text !== '+' &&
        !(l.text === '-' && loose[i + 1]?.space))
    if (begins) out.push([l])
    else out.at(-1)!.push(l)
  })
  return out
}

const isRelation = (l: Lexeme) => l.kind === 'sign' && /^(?:[=<>≤≥≠≈]|<=|>=|!=)$/.test(l.text)

function signLatex(text: string): string {
  return (
    COMMAND.get(text) ??
    (/^[[\](){}]$/.test(text)
      ? /[{}]/.test(text)
        ? `\\${text}`
        : text
      : text.length > 1
        ? textLatex(text)
        : plainSign(text))
  )
}
const plainSign = (text: string) =>
  text === ':' ? '\\mathbin{:}' : text === '^' ? '\\wedge ' : text === '@' ? '\\text{@}' : text

/** A number as it was typed: its separators stay. "6.02e23" is a power of ten. */
function numberLatex(text: string, inBrackets: boolean): string {
  const fraction = /^[½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅐⅛⅜⅝⅞⅑⅒]$/.test(text) ? text.normalize('NFKD').split('\u2044') : null
  if (fraction) return `\\frac{${fraction[0]}}{${fraction[1]}}`
  const [digits = '', power] = text.split(/[eE]/)
  const grouped = /^\d{1,3}(,\d{3})+(\.\d+)?$/.test(digits)
  const set = digits
    .replace(/,/g, inBrackets && !grouped ? ',' : '{,}')
    .replace(/\s+/g, '\\,')
    .replace(/['’]/g, "\\text{'}")
  return power === undefined ? set : `${set}\\times 10^{${power.replace('−', '-')}}`
}

const unitLatex = (text: string) =>
  text === 'deg' ? '{}^{\\circ}' : `\\mathrm{${text.replace('Ω', '\\Omega ').replace(/[µμ]/g, 'µ')}}`

function lettersLatex(text: string): string {
  return [...text.normalize('NFD').matchAll(/(\P{M})(\p{M}|\u20d7)?/gu)]
    .map(([, letter, over]) => {
      const accent =
        over && { '\u0304': '\\bar', '\u0305': '\\bar', '\u0302': '\\hat', '\u20d7': '\\vec', '\u0307': '\\dot' }[over]
      return accent ? `${accent}{${letterLatex(letter!)}}` : letterLatex((letter! + (over ?? '')).normalize('NFC'))
    })
    .join('')
}
const letterLatex = (letter: string) => {
  const greek = GREEK_LETTERS.get(letter)
  return greek ? `${greek} ` : letter
}

/** Words upright, with all their signs. */
export function textLatex(text: string): string {
  return `\\text{${text.replace(/([\\{}$])/g, '\\$1')}}`
}
