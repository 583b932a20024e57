/** Geometry of a photographed sheet. Points in pixels, origin top left; corners clockwise from top left. */
export interface Point {
  x: number
  y: number
}
export type Quad = [Point, Point, Point, Point]

/** A grey picture: one byte a pixel, row by row. */
export interface Grey {
  width: number
  height: number
  data: Uint8Array | Uint8ClampedArray
}

/** Four points in the order top left, top right, bottom right, bottom left, as they lie in the picture. */
export function inOrder(points: readonly Point[]): Quad {
  const middle = {
    x: points.reduce((n, p) => n + p.x, 0) / points.length,
    y: points.reduce((n, p) => n + p.y, 0) / points.length,
  }
  const round = points.toSorted(
    (a, b) => Math.atan2(a.y - middle.y, a.x - middle.x) - Math.atan2(b.y - middle.y, b.x - middle.x),
  )
  const first = round.reduce((best, p, i) => (p.x + p.y < round[best]!.x + round[best]!.y ? i : best), 0)
  return [0, 1, 2, 3].map(i => round[(first + i) % 4]!) as Quad
}

const length = (a: Point, b: Point) => Math.hypot(b.x - a.x, b.y - a.y)

/** Height over width of A4 and of US Letter, upright. */
const PAPERS = [Math.SQRT2, 11 / 8.5]
/** What the teacher may say of a sheet; `free` keeps the shape that is seen, `guess` takes a usual one that is near. */
export const SHEET_FORMATS = ['guess', 'a4', 'letter', 'square', 'free'] as const
export type SheetFormat = (typeof SHEET_FORMATS)[number]

/**
 * Size in pixels of the sheet once it is straight. Its shape is reckoned from the vanishing of its sides, with the lens
 * in the middle of the
 * picture (Z. Zhang, L.-W. He: Whiteboard scanning and image enhancement, 2007); one that is nearly A4 or Letter is
 * taken to be that.
 * Without the picture's size, or where the sides tell nothing, it is the longer of each pair of opposite sides.
 */
export function straightSize(
  [a, b, c, d]: Quad,
  picture?: { width: number; height: number },
  format: SheetFormat = 'guess',
): { width: number; height: number } {
  const w = Math.max(length(a, b), length(d, c)),
    h = Math.max(length(a, d), length(b, c))
  const seen = picture ? shapeOf([a, b, c, d], picture) : null
  const ratio = seen && seen > 0.6 * (h / w) && seen < 1.9 * (h / w) ? seen : h / w
  const paper = picture ? shapeAs(format, ratio) : ratio
  return paper * w >= h
    ? { width: Math.max(2, Math.round(w)), height: Math.max(2, Math.round(w * paper)) }
    : { width: Math.max(2, Math.round(h / paper)), height: Math.max(2, Math.round(h)) }
}

/** Height over width of a sheet of a format, upright or across as it was seen. */
function shapeAs(format: SheetFormat, seen: number): number {
  const either = (p: number) => (seen >= 1 ? p : 1 / p)
  switch (format) {
    case 'a4':
      return either(PAPERS[0]!)
    case 'letter':
      return either(PAPERS[1]!)
    case 'square':
      return 1
    case 'free':
      return seen
    case 'guess':
      return [...PAPERS, ...PAPERS.map(p => 1 / p)].find(p => Math.abs(seen / p - 1) < 0.05) ?? seen
  }
}

/** True height over width of a flat rectangle seen in perspective; null where it cannot be told. */
function shapeOf([a, b, c, d]: Quad, picture: { width: number; height: number }): number | null {
  const scale = Math.max(picture.width, picture.height)
  type V = [number, number, number]
  const v = (p: Point): V => [(p.x - picture.width / 2) / scale, (p.y - picture.height / 2) / scale, 1]
  const cross = (p: V, q: V): V => [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]]
  const dot = (p: V, q: V) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2]
  const [m1, m2, m3, m4] = [v(a), v(b), v(d), v(c)] as const
  const k2 = dot(cross(m1, m4), m3) / dot(cross(m2, m4), m3),
    k3 = dot(cross(m1, m4), m2) / dot(cross(m3, m4), m2)
  const n2 = m2.map((x, i) => k2 * x - m1[i]!) as V,
    n3 = m3.map((x, i) => k3 * x - m1[i]!) as V
  // Sides that hardly vanish: the camera looked straight down, and lengths are true as they are.
  if (Math.abs(n2[2]) < 0.02 || Math.abs(n3[2]) < 0.02) return null
  const focal = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2])
  if (!(focal > 0.25 && focal < 16)) return null
  const side = (n: V) => (n[0] ** 2 + n[1] ** 2) / focal + n[2] ** 2
  return Math.sqrt(side(n3) / side(n2))
}

/** Whether four corners make a sheet: convex, turning one way, and not a sliver. */
export function isSheet(quad: Quad, least = 20): boolean {
  return quad.every((p, i) => {
    const q = quad[(i + 1) % 4]!,
      r = quad[(i + 2) % 4]!
    return (q.x - p.x) * (r.y - q.y) - (q.y - p.y) * (r.x - q.x) > 0 && length(p, q) >= least
  })
}

/** The whole picture as corners. */
export const wholePicture = (width: number, height: number): Quad => [
  { x: 0, y: 0 },
  { x: width, y: 0 },
  { x: width, y: height },
  { x: 0, y: height },
]

/**
 * Brings roughly known corners to the sheet's true edge: across each side the steepest change of brightness is looked
 * for at many
 * places, a straight line is laid through them, and neighbouring lines meet in the corner.
 * @param reach how far from a side its edge is looked for, pixels
 */
export function refineCorners(grey: Grey, rough: Quad, reach: number): Quad {
  const lines = rough.map((a, i) => edgeLine(grey, a, rough[(i + 1) % 4]!, reach))
  return rough.map((corner, i) => {
    const meet = intersection(lines[(i + 3) % 4]!, lines[i]!)
    return meet && length(meet, corner) < 2.5 * reach ? meet : corner
  }) as Quad
}

/** A line as a point and a direction of length 1. */
interface Line {
  p: Point
  d: Point
}

function edgeLine(grey: Grey, a: Point, b: Point, reach: number): Line {
  const l = length(a, b) || 1,
    d = { x: (b.x - a.x) / l, y: (b.y - a.y) / l },
    n = { x: -d.y, y: d.x }
  const hits: Point[] = []
  for (let i = 0; i < 80; i++) {
    const t = l * (0.06 + (0.88 * i) / 79),
      at = { x: a.x + d.x * t, y: a.y + d.y * t }
    const s = steepest(grey, at, n, reach)
    if (s !== null) hits.push({ x: at.x + n.x * s, y: at.y + n.y * s })
  }
  let fit = through(hits) ?? { p: a, d }
  // Twice without those that lie off the line: a finger, a shadow's edge, writing near the border.
  for (const most of [3, 1.5]) {
    const near = hits.filter(h => Math.abs((h.x - fit.p.x) * -fit.d.y + (h.y - fit.p.y) * fit.d.x) < most)
    if (near.length >= 12) fit = through(near)!
  }
  return hits.length >= 12 ? fit : { p: a, d }
}

/**
 * Distance along `n` of the steepest change from paper (inside, at positive distance) to ground; null where there is
 * none.
 */
function steepest(grey: Grey, at: Point, n: Point, reach: number): number | null {
  const value = (s: number) => sample(grey, at.x + n.x * s, at.y + n.y * s)
  let best = 0,
    where: number | null = null
  const rise = (s: number) => value(s + 1.5) - value(s - 1.5)
  for (let s = -reach; s <= reach; s++) {
    const r = rise(s)
    if (r > best) {
      best = r
      where = s
    }
  }
  if (where === null || best < 12) return null
  const [l, m, r] = [rise(where - 1), best, rise(where + 1)]
  const bend = l - 2 * m + r
  return where + (bend < 0 ? Math.max(-0.5, Math.min(0.5, (l - r) / (2 * bend))) : 0)
}

function sample({ width, height, data }: Grey, x: number, y: number): number {
  const u = Math.max(0, Math.min(width - 1.001, x - 0.5)),
    v = Math.max(0, Math.min(height - 1.001, y - 0.5))
  const i = Math.floor(u),
    k = Math.floor(v),
    f = u - i,
    g = v - k
  const row = k * width + i,
    below = Math.min(height - 1, k + 1) * width + i
  return (data[row]! * (1 - f) + data[row + 1]! * f) * (1 - g) + (data[below]! * (1 - f) + data[below + 1]! * f) * g
}

/** The line with the least squared distance from some points (their main axis); null for fewer than two. */
function through(points: readonly Point[]): Line | null {
  if (points.length < 2) return null
  const p = {
    x: points.reduce((n, q) => n + q.x, 0) / points.length,
    y: points.reduce((n, q) => n + q.y, 0) / points.length,
  }
  let xx = 0,
    xy = 0,
    yy = 0
  for (const q of points) {
    xx += (q.x - p.x) ** 2
    xy += (q.x - p.x) * (q.y - p.y)
    yy += (q.y - p.y) ** 2
  }
  const angle = 0.5 * Math.atan2(2 * xy, xx - yy)
  return { p, d: { x: Math.cos(angle), y: Math.sin(angle) } }
}

function intersection(a: Line, b: Line): Point | null {
  const cross = a.d.x * b.d.y - a.d.y * b.d.x
  if (Math.abs(cross) < 0.05) return null
  const t = ((b.p.x - a.p.x) * b.d.y - (b.p.y - a.p.y) * b.d.x) / cross
  return { x: a.p.x + a.d.x * t, y: a.p.y + a.d.y * t }
}
