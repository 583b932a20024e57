import { getStrokeOutlinePoints, getStrokePoints } from 'perfect-freehand'
import { ROLE_STYLES, type PenRole } from './roles'

/** Numbers a point takes in a flat array: x, y (points), pressure (0…1), t (take ms). */
export const POINT_SIZE = 4

/**
 * Units of the outline package in a point. It leaves out what lies within 3 units of a stroke's end, and makes a dot
 * 1 unit long: at this scale both are far below a pixel, however closely a video looks (32 pixels a point).
 */
const UNITS_A_POINT = 512

/** What made the stroke; only a pen knows pressure. */
export type InkTool = 'pen' | 'touch' | 'mouse'

export interface Stroke {
  id: string
  role: PenRole
  tool: InkTool
  /** How many times as wide as its role's pen; 1 when missing. */
  size?: number
  /** Flat: x, y, pressure, t for each sample. */
  points: number[]
}

/** A filled shape: closed rings of flat x, y pairs in page points. */
export interface Outline {
  rings: number[][]
  colour: string
  alpha: number
}

/**
 * The filled shapes of a stroke's first `count` samples.
 * Outlines are not prefix-stable: a growing stroke must be outlined anew, only whole ones may be cached.
 */
export function outlineStroke(stroke: Stroke, count = stroke.points.length / POINT_SIZE): Outline[] {
  if (count < 1) return []
  const style = ROLE_STYLES[stroke.role]
  const samples = samplesOf(stroke, count)
  const last = count * POINT_SIZE === stroke.points.length
  const width = style.width * (stroke.size ?? 1)
  const trace = (pieces: [number, number, number][][], wide: number, streamline = 0.32) =>
    pieces.map(piece => ring(piece, wide, style.thinning, streamline, stroke.tool !== 'pen', last))
  if (style.line === 'dashed')
    return [{ rings: trace(dashes(samples, 4.4, 1.5), width, 0), colour: style.colour, alpha: style.alpha }]
  const body: Outline = { rings: trace([samples], width), colour: style.colour, alpha: style.alpha }
  if (style.line !== 'double') return [body]
  return [body, { rings: trace([samples], width * 0.34), colour: '#ffe9e2', alpha: 0.9 }]
}

function samplesOf(stroke: Stroke, count: number): [number, number, number][] {
  const out: [number, number, number][] = []
  for (let i = 0; i < count * POINT_SIZE; i += POINT_SIZE)
    out.push([stroke.points[i]!, stroke.points[i + 1]!, stroke.points[i + 2]!])
  return out
}

function ring(
  samples: [number, number, number][],
  width: number,
  thinning: number,
  streamline: number,
  simulatePressure: boolean,
  last: boolean,
): number[] {
  const scaled = samples.map(([x, y, p]): [number, number, number] => [x * UNITS_A_POINT, y * UNITS_A_POINT, p])
  // Without a size, the package keeps the samples of a stroke's first width: a small hook begins with them.
  const points = getStrokePoints(scaled, { streamline, size: 0, last })
  const size = width * UNITS_A_POINT
  const outline = getStrokeOutlinePoints(points, { size, thinning, smoothing: 0.55, simulatePressure, last })
  const flat = new Array<number>(outline.length * 2)
  outline.forEach(([x, y], i) => {
    flat[2 * i] = x / UNITS_A_POINT
    flat[2 * i + 1] = y / UNITS_A_POINT
  })
  return flat
}

/** Cuts a polyline into dashes by length, so that the line style survives black and white print. */
function dashes(samples: [number, number, number][], dash: number, gap: number): [number, number, number][][] {
  if (samples.length < 2) return [samples]
  const out: [number, number, number][][] = []
  let piece: [number, number, number][] = [samples[0]!]
  let inDash = true
  let left = dash
  for (let i = 1; i < samples.length; i++) {
    let [x0, y0, p0] = samples[i - 1]!
    const [x1, y1, p1] = samples[i]!
    let span = Math.hypot(x1 - x0, y1 - y0)
    while (span > left) {
      const f = left / span
      x0 += (x1 - x0) * f
      y0 += (y1 - y0) * f
      p0 += (p1 - p0) * f
      span -= left
      if (inDash) {
        piece.push([x0, y0, p0])
        out.push(piece)
      }
      piece = [[x0, y0, p0]]
      inDash = !inDash
      left = inDash ? dash : gap
    }
    left -= span
    if (inDash) piece.push([x1, y1, p1])
  }
  // A stroke ends where the pen was lifted, also where that is in a gap.
  out.push(inDash ? piece : [samples[samples.length - 1]!])
  return out
}

/**
 * Whether a stroke passes within `reach` points of the segment from `a` to `b` (the path of the eraser).
 */
export function touches(
  stroke: Stroke,
  a: { x: number; y: number },
  b: { x: number; y: number },
  reach: number,
): boolean {
  const p = stroke.points
  const near = reach + (ROLE_STYLES[stroke.role].width * (stroke.size ?? 1)) / 2
  if (p.length === POINT_SIZE) return pointToSegment(p[0]!, p[1]!, a.x, a.y, b.x, b.y) <= near
  for (let i = POINT_SIZE; i < p.length; i += POINT_SIZE) {
    if (segmentsWithin(p[i - 4]!, p[i - 3]!, p[i]!, p[i + 1]!, a.x, a.y, b.x, b.y, near)) return true
  }
  return false
}

function pointToSegment(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax,
    dy = by - ay
  const len = dx * dx + dy * dy
  const f = len === 0 ? 0 : Math.min(1, Math.max(0, ((px - ax) * dx + (py - ay) * dy) / len))
  return Math.hypot(px - ax - f * dx, py - ay - f * dy)
}

/** Whether two segments come within `near` points of each other. */
export function segmentsWithin(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  dx: number,
  dy: number,
  near: number,
): boolean {
  const cross = (ox: number, oy: number, px: number, py: number, qx: number, qy: number) =>
    (px - ox) * (qy - oy) - (py - oy) * (qx - ox)
  const apart = cross(ax, ay, bx, by, cx, cy) * cross(ax, ay, bx, by, dx, dy)
  const other = cross(cx, cy, dx, dy, ax, ay) * cross(cx, cy, dx, dy, bx, by)
  if (apart < 0 && other < 0) return true
  return (
    Math.min(
      pointToSegment(ax, ay, cx, cy, dx, dy),
      pointToSegment(bx, by, cx, cy, dx, dy),
      pointToSegment(cx, cy, ax, ay, bx, by),
      pointToSegment(dx, dy, ax, ay, bx, by),
    ) <= near
  )
}
