/** Boxes, points and paths: the one place where they are reckoned with. Lengths in any unit; y goes down. */

export interface Spot {
  x: number
  y: number
}
export interface Rect {
  x: number
  y: number
  w: number
  h: number
}

/** x′ = a x + c y + e, y′ = b x + d y + f: the order of SVG and canvas. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number]

export const moveBy = (dx: number, dy: number): Matrix => [1, 0, 0, 1, dx, dy]
/** Grows by `s` about a point that stays. */
export const growAbout = (s: number, at: Spot): Matrix => [s, 0, 0, s, at.x - s * at.x, at.y - s * at.y]

/** Where a point goes by a matrix; both in points of the page. */
export function applyTo(m: Matrix, p: Spot): Spot {
  return { x: m[0] * p.x + m[2] * p.y + m[4], y: m[1] * p.x + m[3] * p.y + m[5] }
}

/** `value` held between `low` and `high`. */
export function clamp(value: number, low: number, high: number): number {
  return Math.min(Math.max(value, low), high)
}

/** The corners of a box, clockwise from the top left. */
export const cornersOf = ({ x, y, w, h }: Rect): [Spot, Spot, Spot, Spot] => [
  { x, y },
  { x: x + w, y },
  { x: x + w, y: y + h },
  { x, y: y + h },
]

/** The smallest box that holds all samples, flat, of which the first two numbers are x and y. */
export function boxOfSamples(points: readonly number[], size: number): Rect {
  let x0 = Infinity,
    y0 = Infinity,
    x1 = -Infinity,
    y1 = -Infinity
  for (let i = 0; i + 1 < points.length; i += size) {
    x0 = Math.min(x0, points[i]!)
    x1 = Math.max(x1, points[i]!)
    y0 = Math.min(y0, points[i + 1]!)
    y1 = Math.max(y1, points[i + 1]!)
  }
  return { x: x0, y: y0, w: x1 - x0, h: y1 - y0 }
}

/** The smallest box that holds all points (at least one). */
export const boxOfSpots = (spots: readonly Spot[]): Rect =>
  boxOfSamples(
    spots.flatMap(p => [p.x, p.y]),
    2,
  )

/** The smallest box that holds all of `boxes` (at least one). */
export function unionOf(boxes: readonly Rect[]): Rect {
  const x = Math.min(...boxes.map(b => b.x))
  const y = Math.min(...boxes.map(b => b.y))
  return { x, y, w: Math.max(...boxes.map(b => b.x + b.w)) - x, h: Math.max(...boxes.map(b => b.y + b.h)) - y }
}

/** The box round a box that was moved or grown. */
export const transformedBox = (box: Rect, m: Matrix): Rect => boxOfSpots(cornersOf(box).map(p => applyTo(m, p)))

/** Whether two boxes lie over each other by more than `by` points. */
export const boxesMeet = (a: Rect, b: Rect, by = 0): boolean =>
  a.x < b.x + b.w - by && b.x < a.x + a.w - by && a.y < b.y + b.h - by && b.y < a.y + a.h - by

/** A box with so much more on each side. */
export const grownBox = (b: Rect, by: number): Rect => ({ x: b.x - by, y: b.y - by, w: b.w + 2 * by, h: b.h + 2 * by })

/** Whether a point lies in a box, or no farther from it than `by`. */
export const boxHolds = (b: Rect, { x, y }: Spot, by = 0): boolean =>
  x >= b.x - by && x <= b.x + b.w + by && y >= b.y - by && y <= b.y + b.h + by

/** Whether a point lies inside a closed line (even-odd rule). */
export function inside(p: Spot, ring: readonly Spot[]): boolean {
  let within = false
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const a = ring[i]!,
      b = ring[j]!
    if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) within = !within
  }
  return within
}

const n = (v: number) => String(Math.round(v * 100) / 100)

/** A polyline as a path. */
export function polyline(points: readonly Spot[], closed = false): string {
  return points.map((p, i) => `${i ? 'L' : 'M'}${n(p.x)} ${n(p.y)}`).join('') + (closed ? 'Z' : '')
}

/** An ellipse as four cubic curves, good to 0.03 % of its radius. */
export function ellipsePath(cx: number, cy: number, rx: number, ry = rx, turn = 0): string {
  const k = 0.5522847498,
    cos = Math.cos(turn),
    sin = Math.sin(turn)
  const at = (x: number, y: number) => `${n(cx + x * rx * cos - y * ry * sin)} ${n(cy + x * rx * sin + y * ry * cos)}`
  return `M${at(1, 0)}C${at(1, k)} ${at(k, 1)} ${at(0, 1)}C${at(-k, 1)} ${at(-1, k)} ${at(-1, 0)}C${at(-1, -k)} ${at(-k, -1)} ${at(0, -1)}C${at(k, -1)} ${at(1, -k)} ${at(1, 0)}Z`
}

/**
 * An arc of a circle from one angle to another (radians, clockwise on the page), in pieces of at most a quarter turn.
 */
export function arcPath(cx: number, cy: number, r: number, from: number, to: number): string {
  const pieces = Math.max(1, Math.ceil(Math.abs(to - from) / (Math.PI / 2)))
  const step = (to - from) / pieces
  const k = (4 / 3) * Math.tan(step / 4)
  let d = `M${n(cx + r * Math.cos(from))} ${n(cy + r * Math.sin(from))}`
  for (let i = 0; i < pieces; i++) {
    const a = from + i * step,
      b = a + step
    const p = (t: number, s: number) =>
      `${n(cx + r * (Math.cos(t) - s * Math.sin(t)))} ${n(cy + r * (Math.sin(t) + s * Math.cos(t)))}`
    d += `C${p(a, k)} ${p(b, -k)} ${p(b, 0)}`
  }
  return d
}

export const boxPath = (box: Rect) => polyline(cornersOf(box), true)

/** An arrow's head at `to`, of a given length, as a filled triangle. */
export function arrowHead(from: Spot, to: Spot, length: number): string {
  const a = Math.atan2(to.y - from.y, to.x - from.x)
  const back = (turn: number) => ({ x: to.x - length * Math.cos(a + turn), y: to.y - length * Math.sin(a + turn) })
  return polyline([to, back(0.42), back(-0.42)], true)
}

/** A step of a path: its letter and its coordinates. */
export type PathStep = readonly [command: string, ...numbers: number[]]

const cache = new Map<string, PathStep[]>()
/** A path taken apart; the last few thousand are kept, as the same letters are drawn again and again. */
export function pathSteps(d: string): PathStep[] {
  let steps = cache.get(d)
  if (!steps) {
    steps = (d.match(/[A-Za-z][^A-Za-z]*/g) ?? []).map(
      s => [s[0]!, ...(s.slice(1).match(/-?\d*\.?\d+(?:e-?\d+)?/g) ?? []).map(Number)] as PathStep,
    )
    if (cache.size > 4000) cache.clear()
    cache.set(d, steps)
  }
  return steps
}

/** The rectangle of all coordinates of a path (control points included). */
export function pathBox(d: string): Rect | null {
  const box = boxOfSamples(
    pathSteps(d).flatMap(([, ...c]) => c),
    2,
  )
  return box.w >= 0 ? box : null
}
