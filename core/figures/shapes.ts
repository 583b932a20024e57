import type { FigureSpec, Spot } from '../folio/thing'
import { Trouble } from '../folio/trouble'
import type { FigureLabel, FigureLayout, FigureLine } from './solids'

type Of<K extends FigureSpec['figure']> = Extract<FigureSpec, { figure: K }>

const unclear = (what: string, next: string) =>
  new Trouble('figure-unclear', what, 'What you typed is still there.', next)
const DEGREE = Math.PI / 180
const rounded = (v: number) => String(Math.round(v * 100) / 100)

/**
 * The angles (degrees) and sides of a triangle from three of them, sides a, b, c opposite to A, B, C: by the law of
 * cosines, or the law of sines.
 * @throws Trouble `figure-unclear` for measures that make no triangle
 */
export function solveTriangle({ sides, angles }: Pick<Of<'triangle'>, 'sides' | 'angles'>): {
  sides: number[]
  angles: number[]
} {
  const none = unclear(
    'There is no triangle with these measures.',
    'Two sides together are longer than the third; angles make 180°.',
  )
  const [a, b, c] = sides
  if (a && b && c) {
    if (a + b <= c || a + c <= b || b + c <= a) throw none
    const angle = (x: number, y: number, z: number) => Math.acos((y * y + z * z - x * x) / (2 * y * z)) / DEGREE
    return { sides: [a, b, c], angles: [angle(a, b, c), angle(b, a, c), angle(c, a, b)] }
  }
  const known = angles.filter(v => v !== null).length
  const full = angles.map(v => v ?? 180 - angles.reduce<number>((s, x) => s + (x ?? 0), 0))
  if (known < 2 || full.some(v => v <= 0) || Math.abs(full.reduce((s, v) => s + v, 0) - 180) > 1e-6) throw none
  const sines = full.map(v => Math.sin(v * DEGREE))
  const i = sides.findIndex(s => s !== null)
  const scale = i < 0 ? 4 / Math.max(...sines) : sides[i]! / sines[i]!
  return { sides: sines.map(s => s * scale), angles: full }
}

/** Any triangle from its sides or its angles, c below; what was given is written, a right angle has its square. */
export function triangle(spec: Of<'triangle'>): FigureLayout {
  const { sides, angles } = solveTriangle(spec)
  const [, b, c] = sides as [number, number, number]
  const alpha = angles[0]! * DEGREE
  const corners: [Spot, Spot, Spot] = [
    { x: 0, y: 0 },
    { x: c, y: 0 },
    { x: b * Math.cos(alpha), y: -b * Math.sin(alpha) },
  ]
  const lines: FigureLine[] = [{ points: corners, closed: true }]
  const labels: FigureLabel[] = []
  const arcs: NonNullable<FigureLayout['arcs']> = []
  const middle = { x: (corners[0].x + corners[1].x + corners[2].x) / 3, y: corners[2].y / 3 }
  const least = Math.min(...sides)
  corners.forEach((corner, i) => {
    const [p, q] = [corners[(i + 1) % 3]!, corners[(i + 2) % 3]!]
    const at = (to: Spot) => Math.atan2(to.y - corner.y, to.x - corner.x)
    const r = least * 0.24
    const isRight = Math.abs(angles[i]! - 90) < 1e-6
    if (isRight && (spec.angles[i] !== null || spec.marked)) {
      const on = (to: Spot, s: number) => {
        const far = Math.hypot(to.x - corner.x, to.y - corner.y)
        return { x: corner.x + ((to.x - corner.x) / far) * s, y: corner.y + ((to.y - corner.y) / far) * s }
      }
      const [u, v] = [on(p, r * 0.6), on(q, r * 0.6)]
      lines.push({ points: [u, { x: u.x + v.x - corner.x, y: u.y + v.y - corner.y }, v], thin: true })
    } else if (spec.angles[i] !== null || spec.marked) {
      const [from, to] = between(at(p), at(q))
      arcs.push({ at: corner, r, from, to })
      const half = (from + to) / 2
      labels.push({
        text: `${rounded(angles[i]!)}°`,
        at: { x: corner.x + r * 1.75 * Math.cos(half), y: corner.y + r * 1.75 * Math.sin(half) },
        align: [0, 0],
      })
    }
    // The side opposite, labelled outside.
    const side = { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 }
    const far = Math.hypot(side.x - middle.x, side.y - middle.y) || 1
    const text = spec.labels[i] || (spec.sides[i] !== null ? rounded(sides[i]!) : '')
    if (text)
      labels.push({ text, at: side, align: [(-(side.x - middle.x) / far) * 1.5, (-(side.y - middle.y) / far) * 1.5] })
  })
  return { lines, circles: [], arcs, labels }
}

/** Two directions as the shorter way from one to the other. */
function between(a: number, b: number): [number, number] {
  let [from, to] = [Math.min(a, b), Math.max(a, b)]
  if (to - from > Math.PI) [from, to] = [to, from + 2 * Math.PI]
  return [from, to]
}

/** An ellipse seen flat, as so many points of it. */
const oval = (at: Spot, rx: number, ry: number, from = 0, to = 2 * Math.PI): Spot[] =>
  Array.from({ length: 33 }, (_, i) => {
    const a = from + ((to - from) * i) / 32
    return { x: at.x + rx * Math.cos(a), y: at.y + ry * Math.sin(a) }
  })

/** Cylinder, cone or sphere, hidden edges dashed, with radius and height. */
export function round({ solid, radius: r, height: h }: Of<'round'>): FigureLayout {
  const flat = r * 0.32
  const top = { x: 0, y: -h },
    foot = { x: 0, y: 0 }
  const base: FigureLine[] = [
    { points: oval(foot, r, flat, 0, Math.PI) },
    { points: oval(foot, r, flat, Math.PI, 2 * Math.PI), dashed: true },
  ]
  const radius = (at: Spot): FigureLine => ({ points: [at, { x: at.x + r, y: at.y }], thin: true })
  const radiusLabel = (at: Spot): FigureLabel => ({
    text: `r = ${rounded(r)}`,
    at: { x: at.x + r / 2, y: at.y },
    align: [0, 1.1],
  })
  const height: FigureLabel = { text: `h = ${rounded(h)}`, at: { x: r, y: -h / 2 }, align: [-1.15, 0] }
  if (solid === 'sphere') {
    const all = oval(foot, r, r)
    return {
      lines: [
        { points: all, closed: true },
        { points: oval(foot, r, flat, 0, Math.PI) },
        { points: oval(foot, r, flat, Math.PI, 2 * Math.PI), dashed: true },
        radius(foot),
      ],
      circles: [{ at: foot, r: 0, dot: true }],
      labels: [radiusLabel(foot)],
    }
  }
  if (solid === 'cone')
    return {
      lines: [
        ...base,
        { points: [{ x: -r, y: 0 }, top, { x: r, y: 0 }] },
        { points: [foot, top], dashed: true, thin: true },
        radius(foot),
      ],
      circles: [{ at: foot, r: 0, dot: true }],
      labels: [
        { text: `r = ${rounded(r)}`, at: { x: r / 2, y: 0 }, align: [0, -1.3] },
        { text: `h = ${rounded(h)}`, at: { x: 0, y: -h * 0.45 }, align: [-1.15, 0] },
      ],
    }
  return {
    lines: [
      ...base,
      { points: oval(top, r, flat), closed: true },
      {
        points: [
          { x: -r, y: 0 },
          { x: -r, y: -h },
        ],
      },
      {
        points: [
          { x: r, y: 0 },
          { x: r, y: -h },
        ],
      },
      radius(top),
    ],
    circles: [{ at: top, r: 0, dot: true }],
    labels: [radiusLabel(top), height],
  }
}

/** A box, closed or open at the top, with its dimensions; or its net. */
export function box({ size: [w, d, h], open, net }: Of<'box'>): FigureLayout {
  return net ? boxNet(w, d, h, open) : openBox(w, d, h, open)
}

function openBox(w: number, d: number, h: number, open: boolean): FigureLayout {
  const k = 0.5 * Math.SQRT1_2
  const at = (x: number, y: number, z: number): Spot => ({ x: x + y * k, y: -z - y * k })
  const front = [at(0, 0, 0), at(w, 0, 0), at(w, 0, h), at(0, 0, h)]
  const lines: FigureLine[] = [
    { points: front, closed: true },
    { points: [at(w, 0, 0), at(w, d, 0), at(w, d, h), at(w, 0, h)] },
    { points: [at(0, 0, h), at(0, d, h), at(w, d, h)] },
    // Through an open top the inner back edges are seen as far as the front lets them.
    { points: [at(0, d, h), at(0, d, 0), at(w, d, 0)], dashed: true },
    { points: [at(0, 0, 0), at(0, d, 0)], dashed: true },
  ]
  if (open)
    lines.push({ points: [at(0, d, h), { x: at(0, d, h).x, y: Math.min(at(0, 0, h).y, at(0, d, 0).y) }], thin: true })
  return {
    lines,
    circles: [],
    labels: [
      { text: rounded(w), at: at(w / 2, 0, 0), align: [0, -1.3] },
      { text: rounded(d), at: at(w, d / 2, 0), align: [-1.2, -0.8] },
      { text: rounded(h), at: at(0, 0, h / 2), align: [1.2, 0] },
    ],
  }
}

/** The base in the middle, its sides folded out, the lid above the back one. */
function boxNet(w: number, d: number, h: number, open: boolean): FigureLayout {
  const rectangle = (x: number, y: number, a: number, b: number): FigureLine => ({
    points: [
      { x, y },
      { x: x + a, y },
      { x: x + a, y: y + b },
      { x, y: y + b },
    ],
    closed: true,
  })
  return {
    lines: [
      rectangle(0, 0, w, d),
      rectangle(0, -h, w, h),
      rectangle(0, d, w, h),
      rectangle(-h, 0, h, d),
      rectangle(w, 0, h, d),
      ...(open ? [] : [rectangle(0, -h - d, w, d)]),
    ],
    circles: [],
    labels: [
      { text: rounded(w), at: { x: w / 2, y: d + h }, align: [0, -1.3] },
      { text: rounded(d), at: { x: w + h, y: d / 2 }, align: [-1.2, 0] },
      { text: rounded(h), at: { x: w, y: d + h / 2 }, align: [-1.2, 0] },
    ],
  }
}
