/**
 * The one way in which anything but ink is drawn: an SVG path (absolute M, L, Q, C and Z only) in local units, placed
 * on the page. Filled or
 * stroked; `width` and `dash` in page points.
 */
export interface Mark {
  d: string
  x?: number
  y?: number
  scale?: number
  fill?: string
  stroke?: string
  width?: number
  dash?: number[]
  alpha?: number
}

const n = (v: number) => String(Math.round(v * 100) / 100)

/** A polyline as a path. */
export function polyline(points: readonly { x: number; y: number }[], closed = false): string {
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

export const boxPath = (b: { x: number; y: number; w: number; h: number }) =>
  polyline(
    [
      { x: b.x, y: b.y },
      { x: b.x + b.w, y: b.y },
      { x: b.x + b.w, y: b.y + b.h },
      { x: b.x, y: b.y + b.h },
    ],
    true,
  )

/** An arrow's head at `to`, of a given length, as a filled triangle. */
export function arrowHead(from: { x: number; y: number }, to: { x: number; y: number }, length: number): string {
  const a = Math.atan2(to.y - from.y, to.x - from.x)
  const back = (turn: number) => ({ x: to.x - length * Math.cos(a + turn), y: to.y - length * Math.sin(a + turn) })
  return polyline([to, back(0.42), back(-0.42)], true)
}

/** A step of a path: its letter and its coordinates. */
export type PathStep = readonly [command: string, ...numbers: number[]]

const kept = new Map<string, PathStep[]>()
/** A path taken apart; the last few thousand are kept, as the same letters are drawn again and again. */
export function pathSteps(d: string): PathStep[] {
  let steps = kept.get(d)
  if (!steps) {
    steps = (d.match(/[A-Za-z][^A-Za-z]*/g) ?? []).map(
      s => [s[0]!, ...(s.slice(1).match(/-?\d*\.?\d+(?:e-?\d+)?/g) ?? []).map(Number)] as PathStep,
    )
    if (kept.size > 4000) kept.clear()
    kept.set(d, steps)
  }
  return steps
}

/** The rectangle of all coordinates of a path (control points included). */
export function pathBox(d: string): { x: number; y: number; w: number; h: number } | null {
  let x0 = Infinity,
    y0 = Infinity,
    x1 = -Infinity,
    y1 = -Infinity
  for (const [, ...c] of pathSteps(d)) {
    for (let i = 0; i + 1 < c.length; i += 2) {
      x0 = Math.min(x0, c[i]!)
      x1 = Math.max(x1, c[i]!)
      y0 = Math.min(y0, c[i + 1]!)
      y1 = Math.max(y1, c[i + 1]!)
    }
  }
  return x0 <= x1 ? { x: x0, y: y0, w: x1 - x0, h: y1 - y0 } : null
}
