import { describe, expect, it } from 'vitest'
import {
  applied,
  paintPrint,
  pathData,
  printOfDrawn,
  type Drawn,
  type Matrix,
  type PathCommand,
  type PrintContext,
} from '../../core/lesson'
import { seededRandom } from '../../core/ink'

const UPRIGHT: Matrix = [1, 0, 0, 1, 0, 0]
const letter: PathCommand[] = [
  ['M', 0, 0],
  ['L', 500, 0],
  ['Q', 700, 350, 500, 700],
  ['C', 400, 750, 100, 750, 0, 700],
  ['Z'],
]
const at = (x: number, y: number, size = 0.012): Matrix => [size, 0, 0, -size, x, y]
const drawn = (matrix: Matrix, more: Partial<Drawn> = {}): Drawn => ({
  path: letter,
  matrix,
  paint: { fill: '#000000' },
  clips: [],
  ...more,
})
const rectangle = (x: number, y: number, w: number, h: number): PathCommand[] => [
  ['M', x, y],
  ['L', x + w, y],
  ['L', x + w, y + h],
  ['L', x, y + h],
  ['Z'],
]

/** Points of path data that is relative, read by the grammar of SVG 2, 9.3: each command's points, absolute. */
function pointsOf(data: string): number[] {
  const out: number[] = []
  let [x, y, fromX, fromY] = [0, 0, 0, 0]
  for (const [, letter, rest] of data.matchAll(/([mlqcz])([^mlqcz]*)/g)) {
    if (letter === 'z') {
      ;[x, y] = [fromX, fromY]
      continue
    }
    const numbers = [...rest!.matchAll(/-?\d+/g)].map(n => Number(n[0]))
    const size = { m: 2, l: 2, q: 4, c: 6 }[letter!]!
    expect(numbers.length % size).toBe(0)
    for (let k = 0; k < numbers.length; k += size) {
      for (let i = 0; i < size; i += 2) out.push(x + numbers[k + i]!, y + numbers[k + i + 1]!)
      ;[x, y] = out.slice(-2) as [number, number]
      if (letter === 'm') [fromX, fromY] = [x, y]
    }
  }
  return out
}

/** A context that tells where each point that was filled or stroked lies, and what clips held. */
function listener() {
  const told: { kind: string; paint: unknown; width: number; points: number[]; clips: number[][] }[] = []
  let matrix: Matrix = UPRIGHT
  let clips: number[][] = []
  const stack: number[][][] = []
  const placed = (data: string) => {
    const p = pointsOf(data)
    return p.flatMap((v, i) => (i % 2 ? [] : applied(matrix, v, p[i + 1]!)))
  }
  const context = {
    save: () => void stack.push(clips),
    restore: () => void (clips = stack.pop()!),
    setTransform: (...m: Matrix) => void (matrix = m),
    setLineDash() {},
    fill: (p: string) => void told.push({ kind: 'fill', paint: context.fillStyle, width: 0, points: placed(p), clips }),
    stroke: (p: string) =>
      void told.push({
        kind: 'stroke',
        paint: context.strokeStyle,
        width: context.lineWidth * Math.hypot(matrix[0], matrix[1]),
        points: placed(p),
        clips,
      }),
    clip: (p: string) => void (clips = [...clips, placed(p)]),
  } as unknown as PrintContext<string>
  return { told, context }
}
const painted = (all: Drawn[], scale = 1) => {
  const { told, context } = listener()
  paintPrint(context, printOfDrawn(all, 300, 200), scale, d => d)
  return told
}
const near = (a: readonly number[], b: readonly number[], within: number) => {
  expect(a).toHaveLength(b.length)
  a.forEach((v, i) => expect(Math.abs(v - b[i]!)).toBeLessThanOrEqual(within))
}
const placedPoints = ({ path, matrix }: Drawn, scale: number) =>
  path.flatMap(([, ...p]) => p.flatMap((v, i) => (i % 2 ? [] : applied(matrix, v, p[i + 1]!)))).map(v => v * scale)

describe('a print', () => {
  it('paints each shape where it was drawn, to a twentieth of a point at any turn and size', () => {
    const random = seededRandom(7)
    for (let i = 0; i < 200; i++) {
      const size = 0.004 + random() * 0.03
      const angle = random() * 7
      const [c, s] = [Math.cos(angle) * size, Math.sin(angle) * size]
      const one = drawn([c, s, s, -c, 100 + random() * 100, 80 + random() * 60])
      const [told] = painted([one], 3)
      near(told!.points, placedPoints(one, 3), 0.05 * 3)
    }
  })
  it('has a shape once, and what is painted alike in one mark; another colour begins another', () => {
    const print = printOfDrawn(
      [drawn(at(10, 20)), drawn(at(18, 20)), drawn(at(26, 20), { paint: { fill: '#c00000' } })],
      300,
      200,
    )
    expect(print.shapes).toHaveLength(1)
    expect(print.marks.map(m => m.at)).toEqual([
      [0, 500, 1000, 0, 400, 0],
      [0, 1300, 1000],
    ])
  })
  it('leaves out what is beside the frame, and keeps a line that only reaches in by its width', () => {
    const line = (y: number): Drawn => ({
      ...drawn(UPRIGHT),
      path: [
        ['M', 0, y],
        ['L', 300, y],
      ],
      paint: { stroke: '#000', width: 4 },
    })
    expect(painted([drawn(at(-20, 20)), drawn(at(10, 400))])).toEqual([])
    expect(painted([line(-3), line(-5)])).toHaveLength(1)
  })
  it('keeps a line’s width in points', () => {
    const [told] = painted([{ ...drawn([0.5, 0, 0, 0.5, 0, 0]), paint: { stroke: '#123456', width: 3 } }], 2)
    expect(told).toMatchObject({ kind: 'stroke', paint: '#123456' })
    expect(told!.width).toBeCloseTo(3, 3)
  })
  it('holds what is clipped, but not by a clip that leaves all of the frame', () => {
    const clip = (path: PathCommand[], matrix = UPRIGHT) => ({ path, matrix, even: false })
    const whole = clip(rectangle(-5, -5, 400, 300))
    const part = clip(rectangle(20, 30, 40, 50))
    const slanted = clip(rectangle(0, 0, 500, 500), [0.7, 0.7, -0.7, 0.7, 150, -200])
    const [a, b] = painted([drawn(at(30, 40), { clips: [whole, part] }), drawn(at(30, 40), { clips: [slanted] })])
    expect(a!.clips.map(c => c.slice(0, 2))).toEqual([[20, 30]])
    expect(b!.clips).toHaveLength(1)
    expect(painted([drawn(at(30, 40), { clips: [whole] })])[0]!.clips).toEqual([])
  })
  it('names its path data relative, with a letter only where the way goes on otherwise', () => {
    expect(pathData([['M', 1, 1], ['L', 2, 1], ['L', 2, 3], ['Z'], ['M', 5, 5], ['M', 6, 6]], 1)).toBe(
      'm1 1l1 0 0 2zm4 4m1 1',
    )
  })
})
