import type { ShapeThing, Spot } from '../folio/thing'
import { arrowHead, ellipsePath, polyline, type Mark } from './mark'
import { ROLE_STYLES } from './roles'
import { POINT_SIZE } from './stroke'

/** A straightened shape without its pen. */
export type Shape = Pick<ShapeThing, 'shape' | 'handles'>

/** What is smaller than this in both directions is a letter or a sign, and is left alone. Points. */
const LEAST = 28
/** Samples that a stroke is brought to before it is looked at. */
const SAMPLES = 96
/** A line this near to level, upright or a half right angle is meant to be it, degrees. */
const SNAP = 4

const dist = (a: Spot, b: Spot) => Math.hypot(a.x - b.x, a.y - b.y)
const mean = (a: number[]) => a.reduce((s, v) => s + v, 0) / a.length

/**
 * The shape that a stroke was meant to be: line, arrow, arc, axes, circle, ellipse, triangle, rectangle or polygon;
 * null for anything else,
 * letters above all.
 * @param points flat samples as in {@link Stroke}
 */
export function straighten(points: readonly number[]): Shape | null {
  const raw: Spot[] = []
  for (let i = 0; i + 1 < points.length; i += POINT_SIZE)
    if (Number.isFinite(points[i]) && Number.isFinite(points[i + 1])) raw.push({ x: points[i]!, y: points[i + 1]! })
  if (raw.length < 2) return null
  const xs = raw.reduce((r, p) => [Math.min(r[0]!, p.x), Math.max(r[1]!, p.x)], [Infinity, -Infinity]),
    ys = raw.reduce((r, p) => [Math.min(r[0]!, p.y), Math.max(r[1]!, p.y)], [Infinity, -Infinity])
  const size = Math.max(xs[1]! - xs[0]!, ys[1]! - ys[0]!)
  if (size < LEAST) return null
  const line = evenly(raw, SAMPLES)
  const length = lengthOf(line)
  const closed = dist(line[0]!, line[line.length - 1]!) < 0.16 * length
  return closed ? closedShape(line, size) : openShape(line, size, length)
}

function openShape(line: Spot[], size: number, length: number): Shape | null {
  const from = line[0]!,
    to = line[line.length - 1]!
  const chord = dist(from, to)
  if (chord > 0 && length / chord < 1.1 && Math.max(...line.map(p => offLine(p, from, to))) < 0.06 * chord)
    return { shape: 'line', handles: snapped(from, to) }
  const corners = simplify(line, 0.06 * size)
  const arrow = asArrow(corners, length)
  if (arrow) return arrow
  if (corners.length === 3) {
    const [a, b, c] = corners as [Spot, Spot, Spot]
    if (
      Math.abs(turnAt(a, b, c) - 90) < 12 &&
      Math.min(dist(a, b), dist(b, c)) > 0.35 * Math.max(dist(a, b), dist(b, c)) &&
      Math.max(...line.map(p => Math.min(offLine(p, a, b), offLine(p, b, c)))) < 0.05 * size
    )
      return asAxes(a, b, c)
  }
  return asArc(line)
}

function asArrow(corners: Spot[], length: number): Shape | null {
  if (corners.length < 4 || corners.length > 6) return null
  const [tail, tip, ...head] = corners as [Spot, Spot, ...Spot[]]
  const shaft = dist(tail, tip)
  const near = head.every(p => dist(p, tip) < 0.45 * shaft)
  // A head is drawn back from the tip and over it: some of it lies on either side of the shaft.
  const side = (p: Spot) => (tip.x - tail.x) * (p.y - tail.y) - (tip.y - tail.y) * (p.x - tail.x)
  const sides = head.map(side)
  return shaft > 0.45 * length && near && Math.max(...sides) > 0 && Math.min(...sides) < 0
    ? { shape: 'arrow', handles: snapped(tail, tip) }
    : null
}

function asAxes(a: Spot, b: Spot, c: Spot): Shape {
  const upright = Math.abs(a.y - b.y) > Math.abs(a.x - b.x) ? a : c
  const level = upright === a ? c : a
  return { shape: 'axes', handles: [b, { x: level.x, y: b.y }, { x: b.x, y: upright.y }] }
}

function asArc(line: Spot[]): Shape | null {
  const a = line[0]!,
    b = line[line.length >> 1]!,
    c = line[line.length - 1]!
  const centre = circumcentre(a, b, c)
  if (!centre) return null
  const r = dist(centre, a)
  const span = Math.abs(sweep(centre, a, b, c))
  const off = mean(line.map(p => Math.abs(dist(p, centre) - r))) / r
  return off < 0.035 && span > Math.PI / 5 && span < 1.9 * Math.PI ? { shape: 'arc', handles: [a, c, b] } : null
}

function closedShape(line: Spot[], size: number): Shape | null {
  const ellipse = fitEllipse(line)
  const corners = closedCorners(line, 0.075 * size)
  const straight =
    mean(line.map(p => Math.min(...corners.map((c, i) => offSegment(p, c, corners[(i + 1) % corners.length]!))))) / size
  if (ellipse.off < 0.055 && !(corners.length <= 4 && straight < 0.012)) {
    const { centre, long, short, turn } = ellipse
    if (short / long > 0.85)
      return { shape: 'circle', handles: [centre, { x: centre.x + (long + short) / 2, y: centre.y }] }
    const t = Math.abs(turn) < 0.12 ? 0 : Math.abs(Math.abs(turn) - Math.PI / 2) < 0.12 ? Math.PI / 2 : turn
    return {
      shape: 'ellipse',
      handles: [
        centre,
        { x: centre.x + long * Math.cos(t), y: centre.y + long * Math.sin(t) },
        { x: centre.x - short * Math.sin(t), y: centre.y + short * Math.cos(t) },
      ],
    }
  }
  if (straight > 0.03 || corners.length < 3 || corners.length > 10) return null
  if (corners.length === 3) return { shape: 'triangle', handles: corners }
  if (
    corners.length === 4 &&
    corners.every((c, i) => Math.abs(turnAt(corners[(i + 3) % 4]!, c, corners[(i + 1) % 4]!) - 90) < 16)
  )
    return { shape: 'rectangle', handles: asRectangle(corners) }
  return { shape: 'polygon', handles: asRegular(corners) ?? corners }
}

/** Four corners with right angles, level where they nearly are. */
function asRectangle(c: Spot[]): Spot[] {
  const centre = { x: mean(c.map(p => p.x)), y: mean(c.map(p => p.y)) }
  let turn = Math.atan2(c[1]!.y - c[0]!.y, c[1]!.x - c[0]!.x)
  const quarter = Math.round(turn / (Math.PI / 2)) * (Math.PI / 2)
  if (Math.abs(turn - quarter) < 0.14) turn = quarter
  const w = (dist(c[0]!, c[1]!) + dist(c[2]!, c[3]!)) / 4,
    h = (dist(c[1]!, c[2]!) + dist(c[3]!, c[0]!)) / 4
  const way = Math.sign((c[1]!.x - c[0]!.x) * (c[2]!.y - c[1]!.y) - (c[1]!.y - c[0]!.y) * (c[2]!.x - c[1]!.x)) || 1
  return [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([i, j]) => ({
    x: centre.x + i! * w * Math.cos(turn) - way * j! * h * Math.sin(turn),
    y: centre.y + i! * w * Math.sin(turn) + way * j! * h * Math.cos(turn),
  }))
}

/** A regular polygon where sides and radii are nearly alike. */
function asRegular(corners: Spot[]): Spot[] | null {
  if (corners.length < 5) return null
  const n = corners.length
  const centre = { x: mean(corners.map(p => p.x)), y: mean(corners.map(p => p.y)) }
  const radii = corners.map(p => dist(p, centre)),
    sides = corners.map((p, i) => dist(p, corners[(i + 1) % n]!))
  const r = mean(radii),
    s = mean(sides)
  if (radii.some(v => Math.abs(v - r) > 0.2 * r) || sides.some(v => Math.abs(v - s) > 0.35 * s)) return null
  const way =
    Math.sign(
      (corners[0]!.x - centre.x) * (corners[1]!.y - centre.y) - (corners[0]!.y - centre.y) * (corners[1]!.x - centre.x),
    ) || 1
  // The turn that fits all corners best, not only the first.
  const angles = corners.map((p, i) => Math.atan2(p.y - centre.y, p.x - centre.x) - (way * i * 2 * Math.PI) / n)
  const turn = Math.atan2(mean(angles.map(Math.sin)), mean(angles.map(Math.cos)))
  return Array.from({ length: n }, (_, i) => ({
    x: centre.x + r * Math.cos(turn + (way * i * 2 * Math.PI) / n),
    y: centre.y + r * Math.sin(turn + (way * i * 2 * Math.PI) / n),
  }))
}

/** What is drawn of a shape. `width` of its line in points. */
export function shapeMarks(thing: Pick<ShapeThing, 'shape' | 'handles' | 'role' | 'width'>): Mark[] {
  const { shape, handles } = thing
  const style = ROLE_STYLES[thing.role]
  const pen = {
    stroke: style.colour,
    width: thing.width,
    alpha: style.alpha,
    ...(style.line === 'dashed' ? { dash: [5, 3.5] } : {}),
  }
  const [a, b, c] = handles as [Spot, Spot, Spot]
  const head = (from: Spot, to: Spot): Mark => ({
    d: arrowHead(from, to, 5 + 3 * thing.width),
    fill: style.colour,
    alpha: style.alpha,
  })
  switch (shape) {
    case 'line':
      return [{ d: polyline([a, b]), ...pen }]
    case 'arrow':
      return [{ d: polyline([a, b]), ...pen }, head(a, b)]
    case 'circle':
      return [{ d: ellipsePath(a.x, a.y, dist(a, b)), ...pen }]
    case 'ellipse':
      return c ? [{ d: ellipsePath(a.x, a.y, dist(a, b), dist(a, c), Math.atan2(b.y - a.y, b.x - a.x)), ...pen }] : []
    case 'arc':
      return c ? [{ d: polyline(arcThrough(a, c, b)), ...pen }] : []
    case 'axes':
      return c ? [b, c].flatMap(end => [{ d: polyline([a, end]), ...pen }, head(a, end)]) : []
    default:
      return [{ d: polyline(handles, true), ...pen }]
  }
}

/**
 * What is told of a shape while it is drawn: its length or radius in points, and its angle in degrees, counted as in
 * mathematics.
 */
export function shapeMeasure({ shape, handles }: Shape): { length: number; angle: number } {
  const [a, b] = handles as [Spot, Spot]
  const angle = (Math.atan2(a.y - b.y, b.x - a.x) * 180) / Math.PI
  const whole = handles.reduce((s, p, i) => s + dist(p, handles[(i + 1) % handles.length]!), 0)
  return {
    length: ['triangle', 'rectangle', 'polygon'].includes(shape) ? whole : dist(a, b),
    angle: (angle + 360) % 360,
  }
}

function arcThrough(a: Spot, b: Spot, c: Spot): Spot[] {
  const centre = circumcentre(a, b, c)
  if (!centre) return [a, b, c]
  const from = Math.atan2(a.y - centre.y, a.x - centre.x),
    span = sweep(centre, a, b, c),
    r = dist(centre, a)
  return Array.from({ length: 49 }, (_, i) => ({
    x: centre.x + r * Math.cos(from + (span * i) / 48),
    y: centre.y + r * Math.sin(from + (span * i) / 48),
  }))
}

/** The signed angle from `a` over `b` to `c` about a centre. */
function sweep(centre: Spot, a: Spot, b: Spot, c: Spot): number {
  const at = (p: Spot) => Math.atan2(p.y - centre.y, p.x - centre.x)
  const full = 2 * Math.PI
  const up = (at(c) - at(a) + full) % full
  return (at(b) - at(a) + full) % full <= up ? up : up - full
}

function circumcentre(a: Spot, b: Spot, c: Spot): Spot | null {
  const d = 2 * (a.x * (b.y - c.y) + b.x * (c.y - a.y) + c.x * (a.y - b.y))
  if (Math.abs(d) < 1e-6) return null
  const sq = (p: Spot) => p.x * p.x + p.y * p.y
  return {
    x: (sq(a) * (b.y - c.y) + sq(b) * (c.y - a.y) + sq(c) * (a.y - b.y)) / d,
    y: (sq(a) * (c.x - b.x) + sq(b) * (a.x - c.x) + sq(c) * (b.x - a.x)) / d,
  }
}

/** The ellipse with the moments of a closed line, and how far the line lies off it, in shares of its radii. */
function fitEllipse(line: Spot[]) {
  const centre = { x: mean(line.map(p => p.x)), y: mean(line.map(p => p.y)) }
  const xx = mean(line.map(p => (p.x - centre.x) ** 2)),
    yy = mean(line.map(p => (p.y - centre.y) ** 2)),
    xy = mean(line.map(p => (p.x - centre.x) * (p.y - centre.y)))
  const turn = 0.5 * Math.atan2(2 * xy, xx - yy)
  const cos = Math.cos(turn),
    sin = Math.sin(turn)
  const along = line.map(p => Math.abs((p.x - centre.x) * cos + (p.y - centre.y) * sin)),
    across = line.map(p => Math.abs(-(p.x - centre.x) * sin + (p.y - centre.y) * cos))
  const long = Math.max(...along),
    short = Math.max(Math.max(...across), 1e-6)
  const off = mean(along.map((u, i) => Math.abs(Math.hypot(u / long, across[i]! / short) - 1)))
  return { centre, long, short, turn, off }
}

/** Corners of a closed line, begun at the sharpest place so that no side is cut. */
function closedCorners(line: Spot[], least: number): Spot[] {
  const open = dist(line[0]!, line[line.length - 1]!) < least ? line.slice(0, -1) : line
  const centre = { x: mean(open.map(p => p.x)), y: mean(open.map(p => p.y)) }
  const far = open.reduce((best, p, i) => (dist(p, centre) > dist(open[best]!, centre) ? i : best), 0)
  const round = [...open.slice(far), ...open.slice(0, far), open[far]!]
  const corners = simplify(round, least).slice(0, -1)
  return corners.filter(
    (c, i) =>
      Math.abs(
        180 - turnAt(corners[(i + corners.length - 1) % corners.length]!, c, corners[(i + 1) % corners.length]!),
      ) > 18,
  )
}

/** Corners of a line (Douglas and Peucker 1973): no point lies further than `least` off it. */
function simplify(line: Spot[], least: number): Spot[] {
  const a = line[0]!,
    b = line[line.length - 1]!
  let worst = 0,
    at = 0
  for (let i = 1; i < line.length - 1; i++) {
    const off = offSegment(line[i]!, a, b)
    if (off > worst) {
      worst = off
      at = i
    }
  }
  return worst <= least
    ? [a, b]
    : [...simplify(line.slice(0, at + 1), least).slice(0, -1), ...simplify(line.slice(at), least)]
}

/** Level, upright or at a half right angle, where it nearly is. */
function snapped(from: Spot, to: Spot): Spot[] {
  const angle = Math.atan2(to.y - from.y, to.x - from.x)
  const near = Math.round(angle / (Math.PI / 4)) * (Math.PI / 4)
  if (Math.abs(angle - near) > (SNAP * Math.PI) / 180) return [from, to]
  const r = dist(from, to)
  return [from, { x: from.x + r * Math.cos(near), y: from.y + r * Math.sin(near) }]
}

/** The inner angle at `b`, degrees. */
function turnAt(a: Spot, b: Spot, c: Spot): number {
  const dot = (a.x - b.x) * (c.x - b.x) + (a.y - b.y) * (c.y - b.y)
  return (Math.acos(Math.min(1, Math.max(-1, dot / (dist(a, b) * dist(b, c) || 1)))) * 180) / Math.PI
}

function offLine(p: Spot, a: Spot, b: Spot): number {
  const d = dist(a, b)
  return d ? Math.abs((b.x - a.x) * (a.y - p.y) - (a.x - p.x) * (b.y - a.y)) / d : dist(p, a)
}

function offSegment(p: Spot, a: Spot, b: Spot): number {
  const d = (b.x - a.x) ** 2 + (b.y - a.y) ** 2
  const f = d ? Math.min(1, Math.max(0, ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / d)) : 0
  return Math.hypot(p.x - a.x - f * (b.x - a.x), p.y - a.y - f * (b.y - a.y))
}

function lengthOf(line: readonly Spot[]): number {
  return line.reduce((s, p, i) => (i ? s + dist(p, line[i - 1]!) : 0), 0)
}

/** A line brought to `n` points at even distances. */
function evenly(raw: readonly Spot[], n: number): Spot[] {
  const step = lengthOf(raw) / (n - 1)
  const out = [raw[0]!]
  let left = step
  for (let i = 1; i < raw.length; i++) {
    let from = raw[i - 1]!
    let span = dist(from, raw[i]!)
    while (span >= left && span > 0 && out.length < n - 1) {
      from = { x: from.x + ((raw[i]!.x - from.x) * left) / span, y: from.y + ((raw[i]!.y - from.y) * left) / span }
      out.push(from)
      span -= left
      left = step
    }
    left -= span
  }
  out.push(raw[raw.length - 1]!)
  return out
}
