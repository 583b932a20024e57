import type { TakeEvent } from './events'
import { meaningOf } from './meaning'

/** What an event is called by others, with the strokes that it writes. */
function namesOf(event: TakeEvent): readonly string[] {
  if (event.type === 'write') return [event.id, ...event.strokes.map(s => s.id)]
  return 'id' in event ? [event.id] : []
}

/**
 * What of a log can go on behind another one from a moment on: all that comes later and refers to nothing from before.
 * Steps and going back are the ledger's, and stay out.
 * @param events in the order of their times; @param t take ms
 */
export function restOf(events: readonly TakeEvent[], t: number): TakeEvent[] {
  const known = new Set<string>()
  return events.filter(event => {
    if (event.t <= t || event.type === 'step' || event.type === 'back' || event.type === 'turn') return false
    if (
      !meaningOf(event)
        .refers(event)
        .every(id => known.has(id))
    )
      return false
    for (const name of namesOf(event)) known.add(name)
    return true
  })
}
