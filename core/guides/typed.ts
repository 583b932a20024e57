import { Trouble } from '../folio/trouble'
import { fraction, type Fraction } from '../maths/exact'
import { readNumeral } from '../numbers/read'

/** @throws Trouble `guide-unclear` names the piece that was not understood */
export const notUnderstood = (piece: string, why = 'is not understood here', next?: string) =>
  new Trouble(
    'guide-unclear',
    `“${piece.length > 60 ? `${piece.slice(0, 60)}…` : piece}” ${why}.`,
    'What you typed is still there, and nothing was placed.',
    next ?? 'Change it, or take it out.',
  )

/**
 * The numbers of a list, at commas, semicolons or "and"; none is left out. A comma between two digits is a decimal
 * comma, unless what is around it is no number then, or has to be whole.
 * @throws Trouble `guide-unclear` names what is no number
 * @example numbersOf('1/2,3/4') // ['1/2', '3/4']; numbersOf('0,5; 1') // ['0,5', '1']
 */
export function numbersOf(text: string, whole = false): string[] {
  const pieces = text.split(/\s*;\s*|,(?!\d)\s*|(?<!\d),\s*|\s+and\s+/).map(p => p.trim())
  return pieces.flatMap(piece => {
    const numeral = readNumeral(piece)
    if (numeral && !(whole && piece.includes(',') && numeral.places !== 0)) return [piece]
    const parts = piece.split(',').map(p => p.trim())
    parts.forEach(numberIn)
    return parts
  })
}

/**
 * A number of a guide.
 * @throws Trouble `guide-unclear` names what is none
 * @example numberIn('-1 1/2') // −3/2
 */
export function numberIn(text: string): Fraction {
  const numeral = readNumeral(text)
  if (!numeral) throw notUnderstood(text || ' ', text.trim() ? 'is not a number' : 'has a number missing')
  return fraction(numeral.n, numeral.d)
}

/** At most so many of something. @throws Trouble `guide-unclear` */
export function atMost<T>(all: readonly T[], most: number, what: string): readonly T[] {
  if (all.length > most)
    throw notUnderstood(`${all.length} ${what}`, `are more than this guide holds (${most})`, 'Make two guides of it.')
  return all
}
