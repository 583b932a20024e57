import type { Segment } from '../cut/cut'
import { BoardFollower, kindOf, type OperationRef, type TakeEvent } from '../recording/events'

/** An undo or a redo of a log that counts: it was not gone back over. Take ms. */
interface Toggle {
  t: number
  target: string
  off: boolean
}

const known = new WeakMap<readonly TakeEvent[], readonly Toggle[]>()

/** Follows what is taken back and brought back. */
class ToggleFollower extends BoardFollower {
  toggles: Toggle[] = []
  private readonly began = new Map<string, number>()

  protected override operation({ id, t }: OperationRef): void {
    if (!this.began.has(id)) this.began.set(id, t)
  }
  override toggle(t: number, target: string, off: boolean): void {
    this.toggles.push({ t, target, off })
  }
  override rewind(_t: number, to: number): void {
    this.toggles = this.toggles.filter(u => u.t <= to || (this.began.get(u.target) ?? 0) > to)
  }
}

/** The undos and redos of a take's log, without those that were gone back over while what they undo was there before. */
function togglesOf(events: readonly TakeEvent[]): readonly Toggle[] {
  const found = known.get(events)
  if (found) return found
  const follower = new ToggleFollower()
  for (const event of events) kindOf(event).apply(event, follower)
  const { toggles } = follower
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
