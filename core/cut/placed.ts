import type { Question, Take } from '../folio/model'

/**
 * What a finished take is for its question. `use`: it is put in use. `ask`: another one is in use already, or nothing
 * was written in it, and she is asked. `empty`: nothing was written in it, and another one is in use. `stepless`: the
 * step that it was recorded for is gone. But for the first, it is kept beside.
 */
export type TakePlacing = 'use' | 'ask' | 'empty' | 'stepless'

/**
 * What becomes of a finished take; one in use never goes out of use by itself.
 * @param question as it is now
 * @param brought whether anything was written in it that stays
 * @param overWritten it was made from the take in use, and is to follow it
 */
export function placingOf(
  take: Pick<Take, 'after' | 'clip' | 'step'>,
  question: Pick<Question, 'ledger'>,
  brought: boolean,
  overWritten: boolean,
): TakePlacing {
  if (take.clip) return 'use'
  if (take.step) return question.ledger?.steps.some(s => s.id === take.step!.id) ? 'use' : 'stepless'
  if (!brought) return question.ledger ? 'empty' : 'ask'
  if (!question.ledger) return 'use'
  return overWritten ? 'use' : 'ask'
}
