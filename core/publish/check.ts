import { readAnswer } from '../folio/answers'

/** What is said of a typed answer; `compare` where it cannot be told by itself. */
export type Verdict = 'right' | 'wrong' | 'unit' | 'compare'

/** Rounding that is no mistake: one in the fourth figure. */
const NEAR = 5e-4

/**
 * Whether a typed answer is the expected one: an option, a number with its tolerance and unit, the same expression as
 * it is written. What is expected in words is compared by eye.
 * @param expected as the teacher typed it
 */
export function checkTyped(expected: string, typed: string): Verdict {
  const wanted = readAnswer(
    expected,
    [...'ABCDEFGH'].filter(l => expected.trim().replace(/[().]/g, '') === l),
  )
  const plain = (text: string) => text.replace(/\s+/g, '').replace(/[−–]/g, '-').replace(/[·×]/g, '*').toLowerCase()
  switch (wanted.kind) {
    case 'none':
      return 'compare'
    case 'option':
      return plain(typed).replace(/[().]/g, '') === wanted.label.toLowerCase() ? 'right' : 'wrong'
    case 'number': {
      const given = readAnswer(typed)
      if (given.kind !== 'number') return 'wrong'
      const off = Math.abs(given.value - wanted.value)
      if (off > Math.max(wanted.tolerance, NEAR * Math.abs(wanted.value))) return 'wrong'
      return wanted.unit && plain(given.unit) !== plain(wanted.unit) ? 'unit' : 'right'
    }
    case 'expression':
      // The same value may be written otherwise: only the same writing is surely right.
      return plain(typed) === plain(wanted.text) ? 'right' : 'compare'
    case 'words':
      return plain(typed) === plain(wanted.text) ? 'right' : 'compare'
    default:
      return wanted satisfies never
  }
}
