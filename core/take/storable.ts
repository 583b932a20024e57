import { newId } from '../folio/known'
import type { TakeEvent } from '../folio/event'
import { POINT_SIZE } from '../ink/stroke'

/** An event as its schema asks for it: with whole milliseconds. Samples that have them already are the same list. */
export function wholeTimes<E extends object>(event: E): E {
  const out = { ...event } as Record<string, unknown>
  for (const key of ['t', 'to', 'over', 'away']) if (typeof out[key] === 'number') out[key] = rounded(out[key])
  if (Array.isArray(out.points)) out.points = wholeSamples(out.points as number[])
  if (out.type === 'write' && Array.isArray(out.strokes))
    out.strokes = (out.strokes as { points: number[] }[]).map(s => ({ ...s, points: wholeSamples(s.points) }))
  return out as E
}
const rounded = (t: number) => Math.max(0, Math.round(t))
function wholeSamples(points: number[]): number[] {
  if (!Array.isArray(points)) return points
  const isWhole = (n: number, i: number) => i % POINT_SIZE !== POINT_SIZE - 1 || Number.isInteger(n)
  return points.every(isWhole) ? points : points.map((n, i) => (isWhole(n, i) ? n : rounded(n)))
}

const isId = (id: string) => /^[A-Za-z0-9_-]{1,64}$/.test(id)

/**
 * A log that was put together, as the log of a take: in the order of its times, in whole milliseconds, and under names
 * that a take may have.
 */
export function storable(events: readonly TakeEvent[]): TakeEvent[] {
  const names = new Map<string, string>()
  const named = (id: string): string => {
    if (isId(id)) return id
    const known = names.get(id) ?? newId()
    names.set(id, known)
    return known
  }
  const renamed = (event: TakeEvent): TakeEvent => {
    const made = 'id' in event ? { ...event, id: named(event.id) } : event
    switch (made.type) {
      case 'write':
        return {
          ...made,
          ...(made.guide === undefined ? {} : { guide: named(made.guide) }),
          strokes: made.strokes.map(s => ({ ...s, id: named(s.id) })),
        }
      case 'change':
      case 'undo':
      case 'redo':
        return { ...made, target: named(made.target) }
      case 'alter':
        return { ...made, targets: made.targets.map(named) }
      case 'erase':
        return { ...made, strokes: made.strokes.map(named) }
      case 'split':
        return { ...made, strokes: made.strokes.map(s => ({ ...s, id: named(s.id) })) }
      case 'place':
        return made.instead ? { ...made, instead: made.instead.map(named) } : made
      default:
        return made
    }
  }
  return events.map(e => wholeTimes(renamed(e))).sort((a, b) => a.t - b.t)
}
