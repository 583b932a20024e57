import type { Box } from '../../folio/basics'
import { POINT_SIZE } from '../../ink/stroke'
import { boxOfSamples } from '../../geometry'
import type { Reflow } from './kind'

/** The time of the last of some samples, ms; `otherwise` where there are none. */
export const lastTime = (points: readonly number[], otherwise: number): number => points[points.length - 1] ?? otherwise

/** Samples after room was put into their page: ink goes down as a whole. */
export function reflowSamples(points: readonly number[], by: Reflow): number[] {
  const offset = by.offset(boxOfSamples(points, POINT_SIZE))
  return offset ? points.map((n, i) => (i % POINT_SIZE === 1 ? n + offset : n)) : [...points]
}

/** What shows a piece of a page, after room was put into that. */
export const reflowBox = <E extends { box: Box | null }>(event: E, by: Reflow): E =>
  event.box ? { ...event, box: { ...event.box, y: event.box.y + by.offset(event.box) } } : event
