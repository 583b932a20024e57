import type { Box } from '../folio/model'
import type { Drawing } from './scene'

/** Outlines are smoothed inside their points; what is anti-aliased reaches a little beyond, points. */
const MARGIN = 1

/**
 * The part of the page that a drawing may touch, points.
 * @param view what is shown: of what is not measured, all of it
 */
export function extentOf(drawing: Drawing, view: Box): Box {
  if (drawing.kind === 'picture') return drawing.box
  if (drawing.kind !== 'ink') return view
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const { rings } of drawing.outlines)
    for (const ring of rings)
      for (let i = 0; i + 1 < ring.length; i += 2) {
        left = Math.min(left, ring[i]!)
        right = Math.max(right, ring[i]!)
        top = Math.min(top, ring[i + 1]!)
        bottom = Math.max(bottom, ring[i + 1]!)
      }
  if (left > right) return { x: view.x, y: view.y, w: 0, h: 0 }
  return { x: left - MARGIN, y: top - MARGIN, w: right - left + 2 * MARGIN, h: bottom - top + 2 * MARGIN }
}
