import { describe, expect, it } from 'vitest'
import type { Board } from '../../core/recording'
import { between, following, MOST_ZOOM, viewOf, WHOLE, within, zoomedAt } from '../../student/view'
import { line } from '../support/make'

const box = { x: 100, y: 50, w: 320, h: 180 }
const board = (t: number, ...strokes: ReturnType<typeof line>[]): Board => ({
  t,
  things: [],
  strokes: strokes.map((stroke, n) => ({ stroke, count: stroke.points.length / 4, of: stroke.id, n })),
})

describe('what of a frame is seen', () => {
  it('never lies outside it, however it is moved or zoomed', () => {
    for (const zoom of [
      { scale: 0.2, x: 5, y: -3 },
      { scale: 3, x: 0, y: 1 },
      { scale: 99, x: 0.5, y: 0.5 },
    ]) {
      const held = within(zoom)
      const view = viewOf(box, held)
      expect(held.scale).toBeGreaterThanOrEqual(1)
      expect(held.scale).toBeLessThanOrEqual(MOST_ZOOM)
      expect(view.x).toBeGreaterThanOrEqual(box.x - 1e-9)
      expect(view.y + view.h).toBeLessThanOrEqual(box.y + box.h + 1e-9)
    }
    expect(viewOf(box, WHOLE)).toEqual(box)
  })
  it('keeps the place under the fingers where it is', () => {
    const at = { x: 0.7, y: 0.4 }
    const place = (zoom: typeof WHOLE) => {
      const view = viewOf(box, zoom)
      return [view.x + at.x * view.w, view.y + at.y * view.h]
    }
    const near = zoomedAt(zoomedAt(WHOLE, 2, at), 1.5, at)
    expect(near.scale).toBe(3)
    place(near).forEach((n, i) => expect(n).toBeCloseTo(place(WHOLE)[i]!, 6))
    expect(between(WHOLE, near, 0)).toEqual(WHOLE)
    expect(between(WHOLE, near, 1).scale).toBeCloseTo(3, 9)
  })
  it('follows what was written lately, and nothing else', () => {
    const old = line('old', 1000, { y: 60 })
    const now = line('now', 9000, { y: 200 })
    const zoom = following(board(9300, old, now), box)!
    expect(zoom.scale).toBeGreaterThan(1.5)
    expect(zoom.y).toBeGreaterThan(0.6)
    expect(following(board(20_000, old, now), box)).toBeNull()
    expect(following(board(0), box)).toBeNull()
  })
})
