import { describe, expect, it } from 'vitest'
import {
  caught,
  splitStroke,
  layText,
  LETTERS,
  pathBox,
  piecesOf,
  seededRandom,
  shapeMarks,
  shapeMeasure,
  Steady,
  straighten,
  transformStroke,
  writeByHand,
  type Stroke,
} from '../../core/ink'
import type { Spot } from '../../core/folio'

const random = seededRandom(21)
/** A line as an unsteady hand draws it: about `stray` points off, every 4 points a sample. */
function drawn(corners: Spot[], stray = 1.2): number[] {
  const out: number[] = []
  let t = 0
  for (let i = 1; i < corners.length; i++) {
    const a = corners[i - 1]!,
      b = corners[i]!
    const n = Math.max(2, Math.round(Math.hypot(b.x - a.x, b.y - a.y) / 4))
    for (let k = i === 1 ? 0 : 1; k <= n; k++)
      out.push(
        a.x + ((b.x - a.x) * k) / n + (random() - 0.5) * 2 * stray,
        a.y + ((b.y - a.y) * k) / n + (random() - 0.5) * 2 * stray,
        0.5,
        (t += 8),
      )
  }
  return out
}
const round = (n: number, rx: number, ry: number, turn = 0, from = 0, to = 2 * Math.PI): Spot[] =>
  Array.from({ length: n + 1 }, (_, i) => {
    const a = from + ((to - from) * i) / n,
      x = rx * Math.cos(a),
      y = ry * Math.sin(a)
    return { x: 200 + x * Math.cos(turn) - y * Math.sin(turn), y: 200 + x * Math.sin(turn) + y * Math.cos(turn) }
  })
const turned = (p: Spot[], a: number): Spot[] =>
  p.map(({ x, y }) => ({
    x: 200 + (x - 200) * Math.cos(a) - (y - 200) * Math.sin(a),
    y: 200 + (x - 200) * Math.sin(a) + (y - 200) * Math.cos(a),
  }))
const polygon = (n: number, r: number): Spot[] =>
  Array.from({ length: n + 1 }, (_, i) => ({
    x: 200 + r * Math.cos((i * 2 * Math.PI) / n),
    y: 200 + r * Math.sin((i * 2 * Math.PI) / n),
  }))
const box = (w: number, h: number): Spot[] =>
  [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
    [-1, -1],
  ].map(([i, j]) => ({ x: 200 + (i! * w) / 2, y: 200 + (j! * h) / 2 }))

const SHAPES: [string, () => Spot[]][] = [
  [
    'line',
    () =>
      turned(
        [
          { x: 120, y: 200 },
          { x: 280, y: 200 },
        ],
        random() * 6,
      ),
  ],
  [
    'arrow',
    () =>
      turned(
        [
          { x: 110, y: 200 },
          { x: 290, y: 200 },
          { x: 268, y: 184 },
          { x: 290, y: 200 },
          { x: 268, y: 216 },
        ],
        random() * 6,
      ),
  ],
  ['rectangle', () => turned(box(120 + random() * 60, 60 + random() * 40), random() * 6)],
  [
    'triangle',
    () =>
      turned(
        [
          { x: 130, y: 250 },
          { x: 280, y: 240 },
          { x: 200 + random() * 40, y: 130 },
          { x: 130, y: 250 },
        ],
        random() * 6,
      ),
  ],
  ['circle', () => round(60, 70, 70)],
  ['ellipse', () => round(60, 90, 45, random() * 3)],
  ['polygon', () => turned(polygon(5 + Math.floor(random() * 2), 80), random() * 6)],
  ['arc', () => round(40, 80, 80, random() * 6, 0, 2 + random() * 2)],
  [
    'axes',
    () => [
      { x: 120, y: 100 },
      { x: 121, y: 260 },
      { x: 300, y: 261 },
    ],
  ],
]

describe('straightening', () => {
  it.each(SHAPES)('finds a hand-drawn %s in at least 19 of 20', (name, make) => {
    const found = Array.from({ length: 100 }, () => straighten(drawn(make()))?.shape)
    expect(found.filter(f => f === name).length, JSON.stringify(found)).toBeGreaterThanOrEqual(95)
  })
  it('puts a circle where it was drawn, a rectangle’s corners at right angles, and level lines level', () => {
    const circle = straighten(drawn(round(60, 70, 70)))!
    expect(Math.hypot(circle.handles[0]!.x - 200, circle.handles[0]!.y - 200)).toBeLessThan(3)
    expect(shapeMeasure(circle).length).toBeGreaterThan(67)
    expect(shapeMeasure(circle).length).toBeLessThan(73)
    const [a, b, c] = straighten(drawn(turned(box(140, 80), 0.6)))!.handles as [Spot, Spot, Spot]
    expect((a.x - b.x) * (c.x - b.x) + (a.y - b.y) * (c.y - b.y)).toBeCloseTo(0, 6)
    const line = straighten(
      drawn([
        { x: 100, y: 200 },
        { x: 300, y: 206 },
      ]),
    )!
    expect(line.handles[1]!.y).toBeCloseTo(line.handles[0]!.y, 6)
    expect(shapeMeasure(line).angle % 360).toBeCloseTo(0, 6)
  })
  it('leaves handwriting alone: at most 1 % of all letters and digits, written by a hand in usual sizes', () => {
    const text = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+-=()?'
    let strokes = 0,
      shapes = 0
    for (const size of [9, 12, 15, 18]) {
      for (let k = 0; k < 4; k++) {
        const made = writeByHand(
          layText(LETTERS, text, { x: 20, y: 100 }, size).paths,
          { role: 'working', t0: 0, jitter: 0.3, random },
          () => 's',
        )
        for (const s of made.strokes) {
          strokes++
          if (straighten(s.points)) shapes++
        }
      }
    }
    expect(strokes).toBeGreaterThan(1500)
    expect(shapes / strokes).toBeLessThanOrEqual(0.01)
  })
  it('is not troubled by a point, by samples without a place, or by 100,000 of them', () => {
    expect(straighten([])).toBeNull()
    expect(straighten([5, 5, 0.5, 0])).toBeNull()
    expect(straighten([Number.NaN, 0, 0, 0, 1, Number.NaN, 0, 1])).toBeNull()
    const long = Array.from({ length: 100_000 }, (_, i) => [100 + i / 500, 200, 0.5, i]).flat()
    expect(straighten(long)?.shape).toBe('line')
  })
  it('draws what it found: marks through its handles', () => {
    for (const [name, make] of SHAPES) {
      const shape = straighten(drawn(make()))
      if (shape?.shape !== name) continue
      const marks = shapeMarks({ ...shape, role: 'working', width: 2 })
      expect(marks.every(m => pathBox(m.d) !== null && !m.d.includes('NaN'))).toBe(true)
    }
  })
})

const stroke: Stroke = {
  id: 's',
  role: 'working',
  tool: 'pen',
  points: drawn(
    [
      { x: 0, y: 0 },
      { x: 100, y: 0 },
    ],
    0,
  ),
}

describe('changing strokes', () => {
  it('an eraser across the middle leaves two pieces with their own times', () => {
    const keep = splitStroke(stroke, { x: 50, y: -20 }, { x: 50, y: 20 }, 4)!
    expect(keep).toHaveLength(2)
    const pieces = piecesOf(stroke, keep)
    expect(Math.max(...pieces[0]!.points.filter((_, i) => i % 4 === 0))).toBeLessThan(50)
    expect(pieces[1]!.points.slice(-4)).toEqual(stroke.points.slice(-4))
    expect(splitStroke(stroke, { x: 50, y: 20 }, { x: 50, y: 40 }, 4)).toBeNull()
  })
  it('a ring catches what is mostly inside it', () => {
    const ring = [
      { x: -10, y: -10 },
      { x: 80, y: -10 },
      { x: 80, y: 10 },
      { x: -10, y: 10 },
    ]
    expect(caught(stroke, ring)).toBe(true)
    expect(
      caught(
        stroke,
        ring.map(p => ({ ...p, x: p.x - 40 })),
      ),
    ).toBe(false)
  })
  it('moving and growing keeps pressure and times', () => {
    const moved = transformStroke(stroke, [2, 0, 0, 2, 10, 5])
    expect(moved.points.slice(0, 4)).toEqual([10, 5, 0.5, stroke.points[3]])
    expect(moved.points.filter((_, i) => i % 4 === 3)).toEqual(stroke.points.filter((_, i) => i % 4 === 3))
  })
})

describe('steadying', () => {
  const shaky = Array.from({ length: 240 }, (_, i) => ({ x: i * 0.8, y: 50 + Math.sin(i * 1.9) * 1.5, now: i * 8 }))
  const wobble = (s: { y: number }[]) =>
    Math.sqrt(s.slice(40).reduce((sum, p) => sum + (p.y - 50) ** 2, 0) / (s.length - 40))
  it('smooths a shaking hand, the more the stronger it is set', () => {
    const at = (strength: number) => {
      const f = new Steady(strength)
      return wobble(shaky.map(p => f.next(p)))
    }
    expect(at(0)).toBe(wobble(shaky))
    expect(at(0.4)).toBeLessThan(0.8 * at(0))
    expect(at(1.4)).toBeLessThan(at(0.4))
  })
  it('follows a quick movement without a lag that can be seen: less than 3 points at 400 points a second', () => {
    const f = new Steady(0.8)
    const lag = Array.from({ length: 60 }, (_, i) => ({ x: i * 3.2, y: 0, now: i * 8 })).map(p => p.x - f.next(p).x)
    expect(Math.max(...lag)).toBeLessThan(3)
  })
})
