import { newId, type Ledger, type Step } from '../folio/model'
import type { Stretch } from '../take/board'
import type { TakeEvent } from '../take/events'

/** Two step marks nearer than this are one, ms. */
const LEAST_STEP = 250

/** The ledger a take begins with: a step from its start, and one from each step mark. Times in take ms. */
export function ledgerOf(takeId: string, events: readonly TakeEvent[], durationMs: number): Ledger {
  const marks = events.filter(e => e.type === 'step').map(e => e.t).filter(t => t >= LEAST_STEP && t <= durationMs - LEAST_STEP)
  const starts = [0, ...marks].filter((t, i, all) => i === 0 || t - all[i - 1]! >= LEAST_STEP)
  return { takeId, steps: starts.map(t => ({ id: newId(), t, title: '', words: '', struck: false })) }
}

/** Where a step begins and ends, take ms. */
export function stretchOf(ledger: Ledger, index: number, durationMs: number): Stretch {
  return { from: ledger.steps[index]!.t, to: ledger.steps[index + 1]?.t ?? durationMs }
}

/** The name of a step, or "Step 3" where it has none. */
export function stepName(step: Step, index: number): string {
  return step.title.trim() || `Step ${index + 1}`
}

/** The index of the step that holds take time `t`. */
export function stepAt(ledger: Ledger, t: number): number {
  let i = ledger.steps.length - 1
  while (i > 0 && ledger.steps[i]!.t > t) i--
  return i
}

/** The struck steps' stretches, joined where they touch. */
export function struckOf(ledger: Ledger, durationMs: number): Stretch[] {
  return joined(ledger, durationMs, true)
}

/** The stretches that stay, joined where they touch. */
export function keptOf(ledger: Ledger, durationMs: number): Stretch[] {
  return joined(ledger, durationMs, false)
}

function joined(ledger: Ledger, durationMs: number, struck: boolean): Stretch[] {
  const out: Stretch[] = []
  ledger.steps.forEach((step, i) => {
    const stretch = stretchOf(ledger, i, durationMs)
    if (step.struck !== struck || stretch.to <= stretch.from) return
    const last = out[out.length - 1]
    if (last && last.to === stretch.from) last.to = stretch.to
    else out.push(stretch)
  })
  return out
}
