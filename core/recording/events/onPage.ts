import type { Box } from '../../folio/basics'
import { POINT_SIZE } from '../../ink/stroke'
import { boxOfSamples, moveBy } from '../../geometry'
import { boxOfThing } from '../../things/draw'
import { transformThing } from '../../things/transform'
import type { Thing } from '../../folio/thing'
import { busyUntil, type Reflow, type TimeMap } from './kind'

/** The time of the last of some samples, ms; `otherwise` where there are none. */
export const lastTime = (points: readonly number[], otherwise: number): number => points[points.length - 1] ?? otherwise

/** Samples after room was put into their page: ink goes down as a whole. */
export function reflowSamples(points: readonly number[], by: Reflow): number[] {
  const offset = by.offset(boxOfSamples(points, POINT_SIZE))
  return offset ? points.map((n, i) => (i % POINT_SIZE === 1 ? n + offset : n)) : [...points]
}

/** An object, after room was put into its page. */
export const reflowObject = (thing: Thing, by: Reflow): Thing =>
  transformThing(thing, moveBy(0, by.offset(boxOfThing(thing))))

/** An event that is one line of ink as the pen wrote it. */
interface Inked {
  t: number
  points: number[]
}
const withSamples = <E extends Inked>(event: E, points: number[]): E => ({ ...event, points })
const endOfInk = (event: Inked) => lastTime(event.points, event.t)
/** Members of such an event: all of its times and places are those of its samples. */
export const INKED = {
  mapTimes: <E extends Inked>(event: E, times: TimeMap): E => ({
    ...withSamples(event, times.samples(event.points)),
    t: times.moment(event.t),
  }),
  reflow: <E extends Inked>(event: E, by: Reflow): E => withSamples(event, reflowSamples(event.points, by)),
  mapSamples: <E extends Inked>(event: E, samples: (points: number[]) => number[]): E =>
    withSamples(event, samples(event.points)),
  end: endOfInk,
  busy: (event: Inked) => busyUntil(event, endOfInk(event)),
}

/** What shows a piece of a page, after room was put into that. */
export const reflowBox = <E extends { box: Box | null }>(event: E, by: Reflow): E =>
  event.box ? { ...event, box: { ...event.box, y: event.box.y + by.offset(event.box) } } : event
