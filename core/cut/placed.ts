import type { Question, Take } from '../folio/model'
import { bringsInk } from '../take/brings'
import type { TakeEvent } from '../take/events'

/**
 * What a finished take is for its question. `use`: it is put in use. `ask`: another one is in use already, and she is
 * asked. `empty`: nothing was written in it, and another one is in use. `stepless`: the step that it was recorded for is gone. But for the first,
 * it is kept beside.
 */
export type TakePlacing = 'use' | 'ask' | 'empty' | 'stepless'

/**
 * What becomes of a finished take; one in use never goes out of use by itself.
 * @param events of the take
 * @param question as it is now
 * @param overWritten it was made from the take in use, and is to follow it
 */
export function placingOf(
  take: Pick<Take, 'after' | 'clip' | 'step'>,
  events: readonly TakeEvent[],
  question: Pick<Question, 'ledger'>,
  overWritten: boolean,
): TakePlacing {
  if (take.clip) return 'use'
  if (take.step) return question.ledger?.steps.some(s => s.id === take.step!.id) ? 'use' : 'stepless'
  // Without another one there is nothing to be lost; Publish looks at its board before it goes out.
  if (!question.ledger) return 'use'
  if (!bringsInk(events, take.after?.t)) return 'empty'
  return overWritten ? 'use' : 'ask'
}
