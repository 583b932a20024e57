import { applyTo, inside, type Matrix, type Spot } from '../geometry'
import { POINT_SIZE, segmentsWithin, type Stroke } from './stroke'
import { ROLE_STYLES } from './roles'

export { applyTo, growAbout, inside, moveBy, type Matrix } from '../geometry'

/** A stroke moved or grown; pressure and times stay. */
export function transformStroke(stroke: Stroke, m: Matrix): Stroke {
  const points = [...stroke.points]
  for (let i = 0; i < points.length; i += POINT_SIZE) {
    const p = applyTo(m, { x: points[i]!, y: points[i + 1]! })
    points[i] = p.x
    points[i + 1] = p.y
  }
  return { ...stroke, points }
}

/** Ranges of samples, `[from, to)`. */
export type Ranges = readonly (readonly [number, number])[]

/**
 * What an eraser that goes from `a` to `b` leaves of a stroke.
 * @returns the ranges of samples that stay; null when it is not touched
 */
export function splitStroke(stroke: Stroke, a: Spot, b: Spot, reach: number): [number, number][] | null {
  const p = stroke.points
  const n = p.length / POINT_SIZE
  const near = reach + (ROLE_STYLES[stroke.role].width * (stroke.size ?? 1)) / 2
  const hit = (i: number) => {
    const at = i * POINT_SIZE,
      next = Math.min(i + 1, n - 1) * POINT_SIZE
    return segmentsWithin(p[at]!, p[at + 1]!, p[next]!, p[next + 1]!, a.x, a.y, b.x, b.y, near)
  }
  const keep: [number, number][] = []
  let from = 0
  let touched = false
  for (let i = 0; i < n; i++) {
    if (!hit(i)) continue
    touched = true
    if (i > from) keep.push([from, i + 1])
    from = i + 1
  }
  if (!touched) return null
  if (n > from) keep.push([from, n])
  // A single sample that is left over would show as a dot that nobody wrote.
  return keep.filter(([s, e]) => e - s > 1)
}

/** The pieces of a stroke that are left, named after it. */
export function piecesOf(stroke: Stroke, keep: Ranges): Stroke[] {
  return keep.map(([from, to], i) => ({
    ...stroke,
    id: `${stroke.id}.${i}`,
    points: stroke.points.slice(from * POINT_SIZE, to * POINT_SIZE),
  }))
}

/** Whether most of a stroke's samples lie inside a ring that was drawn round it. */
export function caught(stroke: Stroke, ring: readonly Spot[]): boolean {
  let within = 0
  const n = stroke.points.length / POINT_SIZE
  for (let i = 0; i < n; i++)
    if (inside({ x: stroke.points[i * POINT_SIZE]!, y: stroke.points[i * POINT_SIZE + 1]! }, ring)) within++
  return within * 2 > n
}
