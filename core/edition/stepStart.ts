import { heardIn } from '../cut/versions'
import { stepAlone } from '../cut/alone'
import { stretchOf } from '../cut/ledger'
import type { Frame } from '../folio/basics'
import type { StepTake } from '../folio/model'
import type { TakeEvent } from '../recording/events'
import { storable } from '../recording/storable'
import { editionOf, type EditionSource } from './edition'

/** What a take that is recorded for one step begins with. */
export interface StepStart {
  /** The board before it; for its voice alone, the step's own ink. A log as a take may have it. */
  events: TakeEvent[]
  first: Frame
  /** The moment of the ledger's take from which it goes on, ms; none for its voice alone. */
  t?: number
  /** What is heard while it is written over, ms of a take. */
  heard?: { takeId: string; from: number; to: number }
}

/**
 * @param source of the question's edition
 * @returns null where there is nothing to begin from: the step is gone, or has no sound to be written over
 */
export function stepStart(source: EditionSource, stepId: string, as: StepTake): StepStart | null {
  const { ledger, take } = source
  const index = ledger.steps.findIndex(s => s.id === stepId)
  const step = ledger.steps[index]
  if (!step) return null
  if (as === 'voice') {
    const { events, first } = editionOf({ ...source, ledger: stepAlone(ledger, stepId, step) }).shown
    return { events: storable(events), first }
  }
  // What was added has no sound of the take to be written over.
  if (as === 'ink' && step.added) return null
  const own = { takeId: ledger.takeId, ...stretchOf(ledger, index, take.durationMs) }
  const t = as === 'after' ? own.to : step.t
  const { events, first } = editionOf(source).before(t)
  return { events: storable(events), first, t, ...(as === 'ink' ? { heard: heardIn(step, own) } : {}) }
}
