import type { Ledger } from '../folio/model'

/** How long a student is asked to try where a hint cut ends, where nothing else is known, seconds. */
const TRY_SECONDS = 120

/**
 * The ledger of a hint cut: its steps are those that were chosen, and nothing of the others is in it, neither ink nor
 * voice.
 * @param chosen ids of steps; one that is struck stays out
 */
export function hintLedger(ledger: Ledger, chosen: readonly string[]): Ledger {
  const stay = new Set(chosen)
  return {
    ...ledger,
    steps: ledger.steps.map(({ inkStays, ...step }) =>
      stay.has(step.id) ? { ...step, ...(inkStays === undefined ? {} : { inkStays }) } : { ...step, struck: true },
    ),
  }
}

/** Whether a step and the one after it in the take are not both in a hint: joined, students would get both with it. */
export function endsHint({ steps }: Ledger, id: string, chosen: readonly string[]): boolean {
  const i = steps.findIndex(s => s.id === id)
  const next = steps[i + 1]
  return i >= 0 && next !== undefined && chosen.includes(id) !== chosen.includes(next.id)
}

/** The pause with which a hint cut ends: from here on it is the student's turn. @param duration of the cut, ms */
export function hintTurn(duration: number, seconds = TRY_SECONDS): { t: number; to: number; seconds: number } {
  // Just before the end, so that it is reached by a sound that is some milliseconds shorter.
  const t = Math.max(0, duration - 260)
  return { t, to: duration, seconds }
}
