import type { Notation } from '../folio/thing'
import { PEN_ROLES, roleOfKey, type PenRole } from '../folio/roles'

/** A stretch of a typed line in another role's colour: `@4(x = 7)`, the number being the pen's. */
const COLOURED = new RegExp(`@([1-${PEN_ROLES.length}])\\(`, 'g')

/**
 * Plain maths as typed, made AsciiMath (an open notation, asciimath.org): `*` between factors is a multiplication
 * cross, `6.4e20` a power of
 * ten, `-` in front of a number a minus. Words stay as they are within quotes, set apart from a number in front of
 * them.
 */
export function plainToAsciiMath(source: string): string {
  // A unit in quotes stands a little apart from its number.
  return source
    .split(/("[^"]*")/)
    .map((piece, i, all) =>
      i % 2 === 0 && i < all.length - 1 && /[\d)]\s*$/.test(piece) && /^"[^\s°]/.test(all[i + 1]!)
        ? `${piece}\\ `
        : piece,
    )
    .map((piece, i) =>
      i % 2
        ? piece
        : piece
            .replace(/(\d(?:\.\d+)?)[eE]([+-]?\d+)\b/g, '$1 xx 10^($2)')
            .replace(/\*\*/g, '^')
            .replace(/\*/g, ' xx ')
            .replace(/÷/g, ' -: ')
            .replace(/×/g, ' xx '),
    )
    .join('')
}

/** Colours of the roles' pieces, by role. */
export type RoleColours = Record<PenRole, string>

/**
 * Puts AsciiMath's or LaTeX's own colouring in the place of `@n(…)`; a bracket that is not closed reaches to the end.
 */
export function colourPieces(source: string, notation: Notation, colours: RoleColours): string {
  let out = ''
  let at = 0
  COLOURED.lastIndex = 0
  for (let hit = COLOURED.exec(source); hit; hit = COLOURED.exec(source)) {
    if (hit.index < at) continue
    const from = hit.index + hit[0].length
    const end = closing(source, from)
    const inner = colourPieces(source.slice(from, end), notation, colours)
    const colour = colours[roleOfKey(hit[1]!)!]
    out +=
      source.slice(at, hit.index) +
      (notation === 'latex' ? `{\\color{${colour}}${inner}}` : `color(${colour})(${inner})`)
    at = Math.min(source.length, end + 1)
    COLOURED.lastIndex = at
  }
  return out + source.slice(at)
}

function closing(source: string, from: number): number {
  let depth = 1
  for (let i = from; i < source.length; i++) {
    if (source[i] === '(') depth++
    if (source[i] === ')' && --depth === 0) return i
  }
  return source.length
}

/** A stretch of words in a role's colour, up to the next bracket. */
const COLOURED_WORDS = new RegExp(`(@[1-${PEN_ROLES.length}]\\([^)]*\\)?)`)

/** Words as stretches with or without a role's colour; a bracket that is not closed reaches to the end. */
export function colouredWords(text: string): { text: string; role?: PenRole }[] {
  return text
    .split(COLOURED_WORDS)
    .filter(Boolean)
    .map(piece => {
      const hit = COLOURED_WORDS.test(piece) && /^@(\d)\(([^)]*)/.exec(piece)
      return hit ? { text: hit[2]!, role: roleOfKey(hit[1]!)! } : { text: piece }
    })
}

/** A typed line without the signs that colour a piece of it: `@4(x = 7)` is `x = 7`. */
export function withoutColours(source: string): string {
  return source.replace(new RegExp(`@[1-${PEN_ROLES.length}]\\(([^()]*)\\)`, 'g'), '$1')
}

/** Words with maths between backticks, as stretches of either. */
export function wordsAndMaths(source: string): { maths: boolean; text: string }[] {
  return source
    .split('`')
    .map((text, i) => ({ maths: i % 2 === 1, text }))
    .filter(p => p.text)
}
