import type { Box } from '../core/folio/basics'
import type { Board } from '../core/recording/board'

/** What of a frame is seen: all of it, or a piece that a student has gone closer to, or that follows the ink. */
export interface Zoom {
  /** 1 for the whole. */
  scale: number
  /** The middle, in shares of the frame. */
  x: number
  y: number
}
export const WHOLE: Zoom = { scale: 1, x: 0.5, y: 0.5 }
export const MOST_ZOOM = 6

/** A zoom that shows nothing outside the frame. */
export function within({ scale, x, y }: Zoom): Zoom {
  const s = Math.min(MOST_ZOOM, Math.max(1, scale))
  const half = 0.5 / s
  const clamp = (v: number) => Math.min(1 - half, Math.max(half, v))
  return { scale: s, x: clamp(x), y: clamp(y) }
}

/** The piece of a box that a zoom shows. */
export function viewOf(box: Box, { scale, x, y }: Zoom): Box {
  const w = box.w / scale
  const h = box.h / scale
  return { x: box.x + x * box.w - w / 2, y: box.y + y * box.h - h / 2, w, h }
}

/** Zooms so that the place under two fingers, or a wheel, stays where it is. @param at in shares of what is seen */
export function zoomedAt(zoom: Zoom, by: number, at: { x: number; y: number }): Zoom {
  const scale = Math.min(MOST_ZOOM, Math.max(1, zoom.scale * by))
  const shift = 1 / zoom.scale - 1 / scale
  return within({ scale, x: zoom.x + (at.x - 0.5) * shift, y: zoom.y + (at.y - 0.5) * shift })
}

/** Between two zooms, evenly in size. @param share 0…1 */
export function between(a: Zoom, b: Zoom, share: number): Zoom {
  const s = share * share * (3 - 2 * share)
  const mix = (p: number, q: number) => p + (q - p) * s
  return within({ scale: a.scale * (b.scale / a.scale) ** s, x: mix(a.x, b.x), y: mix(a.y, b.y) })
}

/** The closest zoom that shows all that both show: what is painted while the view goes from one to the other. */
export function round(a: Zoom, b: Zoom): Zoom {
  const reach = (v: 'x' | 'y') => {
    const [from, to] = [
      Math.min(a[v] - 0.5 / a.scale, b[v] - 0.5 / b.scale),
      Math.max(a[v] + 0.5 / a.scale, b[v] + 0.5 / b.scale),
    ]
    return { middle: (from + to) / 2, size: to - from }
  }
  const [x, y] = [reach('x'), reach('y')]
  return within({ scale: 1 / Math.max(x.size, y.size), x: x.middle, y: y.middle })
}

/** Ink that was written so lately is what is worked at, ms. */
const LATELY = 3500
/** How near it goes to what is written, and how much room it leaves round it, in shares. */
export const NEAREST = 2.2
const ROOM = 0.08

/** Where ink was written last, in shares of the frame; null on an empty board. */
export function lastInk(board: Board, box: Box): { x: number; y: number } | null {
  const last = board.strokes.findLast(s => s.count > 0)
  if (!last) return null
  const { points } = last.stroke
  const at = (last.count - 1) * 4
  return { x: (points[at]! - box.x) / box.w, y: (points[at + 1]! - box.y) / box.h }
}

/** Where the hand works on a board, as a zoom of its frame; null where nothing was written lately. */
export function following(board: Board, box: Box): Zoom | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const { stroke, count } of board.strokes) {
    const { points } = stroke
    if (count === 0 || points[count * 4 - 1]! < board.t - LATELY) continue
    for (let k = 0; k < count * 4; k += 4) {
      left = Math.min(left, points[k]!)
      right = Math.max(right, points[k]!)
      top = Math.min(top, points[k + 1]!)
      bottom = Math.max(bottom, points[k + 1]!)
    }
  }
  if (left > right) return null
  const w = (right - left) / box.w + 2 * ROOM
  const h = (bottom - top) / box.h + 2 * ROOM
  return within({
    scale: Math.min(NEAREST, 1 / Math.max(w, h)),
    x: ((left + right) / 2 - box.x) / box.w,
    y: ((top + bottom) / 2 - box.y) / box.h,
  })
}
