import type { CutStep } from '../cut/cut'
import { kindOf } from '../recording/events'
import type { Edition } from './edition'

/** A step that does something to what comes only after it, and the step that brings that. */
export interface Need {
  step: CutStep
  needs: CutStep
}

/**
 * Where an edition does something to ink that comes only later: steps in an order in which they cannot be followed.
 * @returns the first of them; null where there is none
 */
export function needIn(edition: Edition): Need | null {
  const made = new Map<string, number>()
  for (const event of edition.events) {
    for (const item of kindOf(event).brings(event)) made.set(item, event.t)
    // An operation may come in several events.
    if ('id' in event && !made.has(event.id)) made.set(event.id, event.t)
  }
  const { steps } = edition.time
  const at = (t: number) => steps.findLast(s => s.from <= t)
  for (const event of edition.events)
    for (const target of kindOf(event).refs(event)) {
      const step = at(event.t)
      const needs = at(made.get(target) ?? -1)
      if (step && needs && needs.place > step.place) return { step, needs }
    }
  return null
}
