import type { Segment } from '../cut/cut'
import type { TakeEvent } from '../take/events'
import { meaningOf } from '../take/meaning'

/** An undo or a redo of a log that counts: it was not gone back over. Take ms. */
interface Toggle {
  t: number
  target: string
  off: boolean
}

const known = new WeakMap<readonly TakeEvent[], readonly Toggle[]>()

/** The undos and redos of a take's log, without those that were gone back over while what they undo was there before. */
function togglesOf(events: readonly TakeEvent[]): readonly Toggle[] {
  const found = known.get(events)
  if (found) return found
  const began = new Map<string, number>()
  let toggles: Toggle[] = []
  for (const event of events) {
    if (event.type === 'undo' || event.type === 'redo')
      toggles.push({ t: event.t, target: event.target, off: event.type === 'undo' })
    else if (event.type === 'back')
      toggles = toggles.filter(u => u.t <= event.to || (began.get(u.target) ?? 0) > event.to)
    else if ('id' in event && meaningOf(event).operation && !began.has(event.id)) began.set(event.id, event.t)
  }
  known.set(events, toggles)
  return toggles
}

/**
 * The operations that the teacher took back, by their ids: to students they never happened, wherever in the takes the
 * undo lies. What she did after the end of the edition does not count.
 * @param segments of an edition, with what is out
 * @param last the last one that is shown
 */
export function undoneIn(
  segments: readonly Segment[],
  last: number,
  logs: ReadonlyMap<string, { events: readonly TakeEvent[] }>,
): ReadonlySet<string> {
  const byTake = new Map<string, Segment[]>()
  const ends = new Map<string, number>()
  for (const s of segments) ends.set(s.take, Math.max(s.to, ends.get(s.take) ?? 0))
  for (const [i, s] of segments.entries())
    if (i <= last || s.out === 'ink stays') byTake.set(s.take, [...(byTake.get(s.take) ?? []), s])
  const off = new Map<string, boolean>()
  for (const [take, stretches] of byTake) {
    const toggles = togglesOf(logs.get(take)?.events ?? [])
    // What comes after the end of a take's clock belongs to its last stretch.
    for (const { t, target, off: isOff } of toggles)
      if (stretches.some(s => t >= s.from && (t < s.to || s.to === ends.get(take)))) off.set(target, isOff)
  }
  return new Set([...off].flatMap(([id, isOff]) => (isOff ? [id] : [])))
}
