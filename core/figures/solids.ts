import type { Spot } from '../folio/thing'

/** A figure laid out in its own unit, y down: lines, areas, labels at their places. */
export interface FigureLine {
  points: Spot[]
  closed?: boolean
  dashed?: boolean
  thin?: boolean
  arrow?: boolean
  fill?: boolean
}
export interface FigureCircle {
  at: Spot
  r: number
  fill?: string
  thin?: boolean
  dot?: boolean
}
export interface FigureLabel {
  text: string
  at: Spot
  /** Which part of the label stands at its place: −1 its left or top end, 0 its middle, 1 its right or lower end. */ align?: readonly [
    number,
    number,
  ]
  size?: number
}
export interface FigureLayout {
  lines: FigureLine[]
  circles: FigureCircle[]
  labels: FigureLabel[]
  arcs?: { at: Spot; r: number; from: number; to: number }[]
}

const ring = (n: number, r: number, turn: number, at: Spot = { x: 0, y: 0 }): Spot[] =>
  Array.from({ length: n }, (_, i) => ({
    x: at.x + r * Math.cos(turn + (i * 2 * Math.PI) / n),
    y: at.y + r * Math.sin(turn + (i * 2 * Math.PI) / n),
  }))

/** The radius of the circle round a regular polygon of a given side. */
export const radiusOfSide = (sides: number, side: number) => side / (2 * Math.sin(Math.PI / sides))

/** Corners of a solid's base, on the ground: x to the right, y away from the viewer. */
function baseOf(sides: number, base: readonly number[]): Spot[] {
  if (sides === 4) {
    const [w, d] = [base[0]!, base[1] ?? base[0]!]
    return [
      { x: 0, y: 0 },
      { x: w, y: 0 },
      { x: w, y: d },
      { x: 0, y: d },
    ]
  }
  const corners = ring(sides, radiusOfSide(sides, base[0]!), -Math.PI / 2 + Math.PI / sides)
  const x = Math.min(...corners.map(c => c.x)),
    y = Math.min(...corners.map(c => c.y))
  return corners.map(c => ({ x: c.x - x, y: c.y - y }))
}

/** Cabinet projection: depth at half length, 45° upwards. */
const project = (p: Spot, height: number): Spot => ({
  x: p.x + p.y * 0.5 * Math.SQRT1_2,
  y: -height - p.y * 0.5 * Math.SQRT1_2,
})

/** Edges at a corner of the ground that is behind the solid are dashed: it lies inside the outline of all corners. */
function hidden(corner: Spot, all: readonly Spot[]): boolean {
  const hull = convexHull(all)
  return !hull.some(h => Math.abs(h.x - corner.x) < 1e-9 && Math.abs(h.y - corner.y) < 1e-9)
}

function convexHull(points: readonly Spot[]): Spot[] {
  const sorted = [...points].sort((a, b) => a.x - b.x || a.y - b.y)
  const half = (list: Spot[]) =>
    list.reduce<Spot[]>((out, p) => {
      while (
        out.length > 1 &&
        (out[out.length - 1]!.x - out[out.length - 2]!.x) * (p.y - out[out.length - 2]!.y) -
          (out[out.length - 1]!.y - out[out.length - 2]!.y) * (p.x - out[out.length - 2]!.x) <=
          1e-12
      )
        out.pop()
      return [...out, p]
    }, [])
  const lower = half(sorted),
    upper = half([...sorted].reverse())
  return [...lower.slice(0, -1), ...upper.slice(0, -1)]
}

/** A prism standing on its base. @param base side, or width and depth for four sides */
export function prism(base: readonly number[], sides: number, height: number): FigureLayout {
  const ground = baseOf(sides, base)
  const low = ground.map(p => project(p, 0)),
    high = ground.map(p => project(p, height))
  const all = [...low, ...high]
  const lines: FigureLine[] = [{ points: high, closed: true }]
  low.forEach((p, i) => {
    const next = (i + 1) % sides
    lines.push(
      { points: [p, low[next]!], dashed: hidden(p, all) || hidden(low[next]!, all) },
      { points: [p, high[i]!], dashed: hidden(p, all) },
    )
  })
  return { lines, circles: [], labels: [] }
}

/** A right pyramid over a regular base. */
export function pyramid(side: number, sides: number, height: number): FigureLayout {
  const ground = baseOf(sides, [side])
  const middle = { x: ground.reduce((s, p) => s + p.x, 0) / sides, y: ground.reduce((s, p) => s + p.y, 0) / sides }
  const low = ground.map(p => project(p, 0)),
    top = project(middle, height),
    foot = project(middle, 0)
  const all = [...low, top]
  const lines: FigureLine[] = low.flatMap((p, i) => {
    const next = low[(i + 1) % sides]!
    return [
      { points: [p, next], dashed: hidden(p, all) || hidden(next, all) },
      { points: [p, top], dashed: hidden(p, all) },
    ]
  })
  return { lines: [...lines, { points: [foot, top], thin: true, dashed: true }], circles: [], labels: [] }
}

/** The net of a prism: its sides in a row, both bases at the middle of it. Edges that are folded are thin. */
export function prismNet(base: readonly number[], sides: number, height: number): FigureLayout {
  const ground = baseOf(sides, base)
  const widths = ground.map((p, i) => Math.hypot(ground[(i + 1) % sides]!.x - p.x, ground[(i + 1) % sides]!.y - p.y))
  const edges = widths.reduce<number[]>((at, w) => [...at, at[at.length - 1]! + w], [0])
  const lines: FigureLine[] = [
    {
      points: [
        { x: 0, y: 0 },
        { x: edges[sides]!, y: 0 },
        { x: edges[sides]!, y: height },
        { x: 0, y: height },
      ],
      closed: true,
    },
  ]
  for (let i = 1; i < sides; i++)
    lines.push({
      points: [
        { x: edges[i]!, y: 0 },
        { x: edges[i]!, y: height },
      ],
      thin: true,
      dashed: true,
    })
  // The bases hang on the second side, one above and one below.
  const hung = ground.map(p => ({ x: p.x - ground[1]!.x, y: p.y - ground[1]!.y }))
  const turn = Math.atan2(hung[2 % sides]!.y, hung[2 % sides]!.x)
  const flat = hung.map(p => ({
    x: p.x * Math.cos(-turn) - p.y * Math.sin(-turn),
    y: p.x * Math.sin(-turn) + p.y * Math.cos(-turn),
  }))
  const up = flat.some(p => p.y > 1e-9) ? -1 : 1
  const place = (p: Spot, y: number, way: number): Spot => ({ x: edges[1]! + p.x, y: y + way * up * p.y })
  lines.push(
    { points: flat.map(p => place(p, 0, 1)), closed: true },
    { points: flat.map(p => place(p, height, -1)), closed: true },
  )
  return { lines, circles: [], labels: [] }
}

/** The slant height of a right pyramid: from the middle of a base edge to the top. */
export const slantHeight = (side: number, sides: number, height: number) =>
  Math.hypot(height, side / (2 * Math.tan(Math.PI / sides)))

/** The net of a right pyramid: its base with a triangle on each edge. */
export function pyramidNet(side: number, sides: number, height: number): FigureLayout {
  const r = radiusOfSide(sides, side),
    reach = side / (2 * Math.tan(Math.PI / sides)) + slantHeight(side, sides, height)
  const corners = ring(sides, r, -Math.PI / 2 + Math.PI / sides)
  const lines: FigureLine[] = [{ points: corners, closed: true, thin: true, dashed: true }]
  corners.forEach((p, i) => {
    const q = corners[(i + 1) % sides]!
    const m = { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 },
      d = Math.hypot(m.x, m.y)
    lines.push({ points: [p, { x: (m.x / d) * reach, y: (m.y / d) * reach }, q] })
  })
  return { lines, circles: [], labels: [] }
}

/** A regular polygon with its circle's radii and the perpendiculars to its sides, when asked for. */
export function regularPolygon(
  sides: number,
  radius: number,
  radii: boolean,
  bisectors: boolean,
  label: string,
): FigureLayout {
  const corners = ring(sides, radius, -Math.PI / 2)
  const centre = { x: 0, y: 0 }
  const lines: FigureLine[] = [{ points: corners, closed: true }]
  if (radii) for (const c of corners) lines.push({ points: [centre, c], thin: true })
  if (bisectors)
    corners.forEach((c, i) =>
      lines.push({
        points: [centre, { x: (c.x + corners[(i + 1) % sides]!.x) / 2, y: (c.y + corners[(i + 1) % sides]!.y) / 2 }],
        thin: true,
        dashed: true,
      }),
    )
  const under = Math.max(...corners.map(c => c.y))
  return {
    lines,
    circles: radii || bisectors ? [{ at: centre, r: 0, dot: true }] : [],
    labels: label ? [{ text: label, at: { x: 0, y: under }, align: [0, -1.4] }] : [],
  }
}
