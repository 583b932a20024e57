import { newId } from '../folio/known'
import { kindOf, type TakeEvent } from './events'
import { POINT_SIZE } from '../ink/stroke'

/** An event as its schema asks for it: with whole milliseconds. Samples that have them already are the same list. */
export function wholeTimes<E extends object>(event: E): E {
  const out = { ...event } as Record<string, unknown>
  for (const key of ['t', 'to', 'over', 'away']) if (typeof out[key] === 'number') out[key] = rounded(out[key])
  if (Array.isArray(out.points)) out.points = wholeSamples(out.points as number[])
  if (Array.isArray(out.strokes))
    out.strokes = out.strokes.map((s: unknown) =>
      typeof s === 'object' && s && 'points' in s ? { ...s, points: wholeSamples(s.points as number[]) } : s,
    )
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
  const ids = { brought: named, referred: named }
  return events.map(e => wholeTimes(kindOf(e).mapIds(e, ids))).sort((a, b) => a.t - b.t)
}
