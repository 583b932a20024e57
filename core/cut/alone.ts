import type { Ledger, Step } from '../folio/model'
import { inOrder } from './ledger'
import type { Remade } from './versions'

/**
 * A ledger that shows some of its steps alone, on the board as it stands before the first of them: what comes before
 * is out with its ink there, what comes after is out.
 */
export function stepsAlone(ledger: Ledger, ids: ReadonlySet<string>): Ledger {
  const order = inOrder(ledger)
  const first = order.findIndex(s => ids.has(s.id))
  const before = new Set(order.slice(0, Math.max(0, first)))
  const out = (step: Step): Step => {
    // What is out with its ink stays so.
    if (step.struck && !step.inkStays) return step
    return { ...step, struck: true, inkStays: before.has(step) }
  }
  return { ...ledger, steps: ledger.steps.map(s => (ids.has(s.id) ? s : out(s))) }
}

/**
 * A ledger that shows one of its steps alone, as a version of it, in the order of the take.
 * @param version null for the step as it was first recorded
 */
export function stepAlone(ledger: Ledger, id: string, version: Remade | null): Ledger {
  const { order: _order, ...rest } = ledger
  const shown = ({ anew: _anew, voice: _voice, inkStays: _inkStays, ...plain }: Step): Step => ({
    ...plain,
    struck: false,
    ...(version?.anew ? { anew: version.anew } : {}),
    ...(version?.voice ? { voice: version.voice } : {}),
  })
  const steps = ledger.steps.map(s => (s.id === id ? shown(s) : s))
  return stepsAlone({ ...rest, steps, turns: ledger.turns.map(t => ({ ...t, hold: 0 })) }, new Set([id]))
}
