import { ELEMENTS } from '../../sheets/elements'
import { lowered } from './lexemes'

const SYMBOLS: ReadonlySet<string> = new Set(ELEMENTS.map(e => e.symbol))
/** Elements as they are met by themselves, with the number of their atoms. */
const MOLECULES: ReadonlySet<string> = new Set(['H2', 'N2', 'O2', 'O3', 'F2', 'Cl2', 'Br2', 'I2', 'P4', 'S8'])
const ARROWS = /^(?:->|-->|→|⟶|<->|<=>|⇌|↔|⇄)$/

/** A stretch of a typed line that is chemistry, and how the notation of mhchem writes it. */
export interface Chemistry {
  from: number
  to: number
  source: string
}

interface Species {
  /** As mhchem has it. */ written: string
  elements: string[]
  hasDigits: boolean
  hasLower: boolean
  charged: boolean
  state: boolean
  isotope: boolean
}

/**
 * One species: coefficient, isotope numbers, formula, charge and state, in that order.
 * @returns null for what is none
 * @example species('SO42-')?.written // 'SO4^{2-}'
 */
function species(text: string): Species | null {
  const plain = text.replace(/\s+/g, '').replace(/[−–]/g, '-').replace(/[₀-₉]/g, lowered)
  const hit =
    /^(\d+(?:\/\d+)?)?((?:\^\{?\d+\}?_\{?\d+\}?|_\{?\d+\}?\^\{?\d+\}?|\^\{?\d+\}?|[⁰¹²³⁴-⁹]+)?)((?:[A-Z][a-z]?\d*|[([](?:[A-Z][a-z]?\d*|\((?:[A-Z][a-z]?\d*)+\)\d*)+[)\]]\d*|[·.*]\d*(?=[A-Z]))+)((?:\^?\{?\d*[+-]\}?|[⁰¹²³⁴-⁹]*[⁺⁻])?)((?:\((?:s|l|g|aq)\))?)$/u.exec(
      plain,
    )
  if (!hit) return null
  const [, count = '', isotope = '', formula = '', charge = '', state = ''] = hit
  const elements = formula.match(/[A-Z][a-z]?/g) ?? []
  if (!elements.length || !elements.every(e => SYMBOLS.has(e))) return null
  let body = formula.replace(/[·*]|(?<=.)\.(?=\d*[A-Z])/g, '*')
  let sign = lowered(charge).replace(/[{}^]/g, '')
  // "SO42-": the last figure is the charge's; "Ca2+": the only one is.
  const tail = !charge.startsWith('^') && sign && !/^\d/.test(sign) ? /^(.*\D)(\d*)$/.exec(body) : null
  if (/^\d+[+-]$/.test(sign) && !charge.startsWith('^') && !/[⁺⁻]/.test(charge)) {
    const digits = sign.slice(0, -1)
    body += digits.slice(0, -1)
    sign = digits.slice(-1) + sign.slice(-1)
  } else if (tail?.[2]) {
    body = tail[1]! + tail[2].slice(0, -1)
    sign = tail[2].slice(-1) + sign
  }
  const numbers = isotope ? isotopeNumbers(isotope) : ''
  return {
    written: `${count && `${count} `}${numbers}${body}${sign && `^{${sign}}`}${state && ` ${state}`}`,
    elements,
    hasDigits: /\d/.test(body),
    hasLower: /[A-Z][a-z]/.test(formula) || /[([]/.test(formula),
    charged: sign !== '',
    state: state !== '',
    isotope: numbers !== '',
  }
}

function isotopeNumbers(text: string): string {
  const plain = text.replace(/[{}]/g, '')
  const mass = /\^(\d+)/.exec(plain)?.[1] ?? (/^[⁰-⁹¹²³]+$/u.test(plain) ? lowered(plain) : '')
  const charge = /_(\d+)/.exec(plain)?.[1]
  return `^{${mass}}${charge ? `_{${charge}}` : ''}`
}

/** Whether a species by itself can be nothing but chemistry. */
function isSure(text: string, s: Species): boolean {
  if (s.state || s.isotope) return true
  const different = new Set(s.elements).size
  if (s.charged) return different > 1 || /\^/.test(text) || s.hasLower || /^[A-Z][+-]$/.test(text) || /[⁺⁻]/.test(text)
  if (s.elements.length > 1 && (s.hasDigits || s.hasLower)) return s.hasLower || (s.hasDigits && different > 1)
  return MOLECULES.has(text.replace(/^\d+/, ''))
}

interface Chunk {
  text: string
  from: number
  to: number
}
const ELECTRON = /^(\d*)e\^?\{?[-−]\}?$/

/**
 * The stretches of a line that are chemistry: whole reactions, and formulas among words.
 * @example chemistryOf('2H2 + O2 -> 2H2O')[0].source // '2 H2 + O2 -> 2 H2O'
 */
export function chemistryOf(line: string): Chemistry[] {
  // What is in quotes, backticks or a colour was read by a person already.
  const masked = line.replace(/"[^"]*"|`[^`]*`|@\d\([^)]*\)/g, all => ' '.repeat(all.length))
  const parted = masked.replace(/(?<=[A-Za-z\d)\]+-])(<=>|<->|-->|->|→|⟶|⇌|⇄)(?=[\d^A-Z([])/g, ' $1 ')
  // A reaction typed without spaces is read with them; its places are found again by its ends.
  if (parted.length !== masked.length) {
    const whole = /\S.*\S/.exec(masked)!
    const spaced = whole[0].replace(/\+(?=\d*[A-Z])/g, ' + ').replace(/(<=>|<->|-->|->|→|⟶|⇌|⇄)/g, ' $1 ')
    const inner = reactionOf(chunksOf(spaced))
    return inner ? [{ from: whole.index, to: whole.index + whole[0].length, source: inner }] : []
  }
  const chunks = chunksOf(masked)
  const reaction = chunks.some(c => ARROWS.test(c.text)) ? reactionOf(chunks) : null
  if (reaction) return [{ from: chunks[0]!.from, to: chunks.at(-1)!.to, source: reaction }]
  return chunks.flatMap((chunk, i): Chemistry[] => {
    const bonded = bonds(chunk.text)
    if (bonded) return [{ from: chunk.from, to: chunk.to, source: bonded }]
    const s = species(chunk.text)
    if (!s || !isSure(chunk.text, s)) return []
    // "F2 = 5 N" names a force; what is set equal to something is no substance.
    const beside = [chunks[i - 1], chunks[i + 1]].some(c => c && /^[=<>≤≥]$/.test(c.text))
    if (beside && !s.hasLower && !s.charged) return []
    return [{ from: chunk.from, to: chunk.to, source: s.written }]
  })
}

/** "CH3-CH2-OH", "CH2=CH2": groups joined by bonds. */
function bonds(text: string): string | null {
  const groups = text.split(/[-–=≡]/)
  if (groups.length < 2) return null
  const all = groups.map(species)
  const isGroup = all.every(s => s && !s.charged && !s.state) && all.some(s => s!.hasDigits && s!.elements.length > 1)
  return isGroup ? text.replace(/–/g, '-').replace(/≡/g, '#') : null
}

/** Chunks without the punctuation behind them; the numbers of an isotope go with its symbol. */
function chunksOf(text: string): Chunk[] {
  return [...text.matchAll(/\^\{?\d+\}?_\{?\d+\}?\s+[A-Z][a-z]?(?![A-Za-z])|\S+/g)].map(m => {
    const bare = m[0].replace(/[.,;:?!]+$/, '') || m[0]
    return { text: bare, from: m.index, to: m.index + bare.length }
  })
}

/** A line that is a reaction from end to end, as mhchem has it; null for any other. */
function reactionOf(chunks: readonly Chunk[]): string | null {
  const arrows = chunks.filter(c => ARROWS.test(c.text))
  if (!arrows.length) return null
  const written = chunks.map((c, i) => {
    if (ARROWS.test(c.text))
      return { '→': '->', '⟶': '->', '-->': '->', '⇌': '<=>', '⇄': '<=>', '↔': '<->' }[c.text] ?? c.text
    if (c.text === '+') return '+'
    if (/^\((s|l|g|aq)\)$/.test(c.text)) return c.text
    const electron = ELECTRON.exec(c.text)
    if (electron) return `${electron[1] && `${electron[1]} `}e^-`
    // A coefficient apart from its formula.
    if (/^\d+(\/\d+)?$/.test(c.text) && i + 1 < chunks.length) return c.text
    if (/^\d*[A-Z][a-z]?$/.test(c.text) && !SYMBOLS.has(c.text.replace(/^\d+/, ''))) return null
    return species(c.text)?.written ?? null
  })
  if (written.includes(null)) return null
  // "A -> B" is a mapping as well as a decay of two letters: something must be chemistry for sure.
  const sure = chunks.some(c => {
    const s = species(c.text)
    return s && (isSure(c.text, s) || s.elements.length > 1)
  })
  return sure ? written.join(' ') : null
}
