import { kindOf, type TakeEvent } from './events'

/** What an event is called by others, with what it brings. */
const namesOf = (event: TakeEvent): readonly string[] => [
  ...('id' in event ? [event.id] : []),
  ...kindOf(event).brings(event),
]

/**
 * What of a log can go on behind another one from a moment on: all that comes later and refers to nothing from before.
 * What is in the edit list stays out.
 * @param events in the order of their times; @param t take ms
 */
export function restOf(events: readonly TakeEvent[], t: number): TakeEvent[] {
  const known = new Set<string>()
  return events.filter(event => {
    const kind = kindOf(event)
    if (event.t <= t || kind.inEditList) return false
    if (!kind.refs(event).every(id => known.has(id))) return false
    for (const name of namesOf(event)) known.add(name)
    return true
  })
}
