import { describe, expect, it } from 'vitest'
import {
  FIGURE_KINDS,
  labelsOf,
  layFigure,
  MOLECULES,
  OUTER,
  prismNet,
  pyramidNet,
  radiusOfSide,
  readFigure,
  regularPolygon,
  slantHeight,
} from '../../core/figures'
import type { Spot } from '../../core/folio'

const dist = (a: Spot, b: Spot) => Math.hypot(a.x - b.x, a.y - b.y)
/** Area of a closed line (shoelace formula). */
const area = (p: Spot[]) =>
  Math.abs(p.reduce((s, a, i) => s + a.x * p[(i + 1) % p.length]!.y - p[(i + 1) % p.length]!.x * a.y, 0)) / 2
const sidesOf = (p: Spot[]) => p.map((a, i) => dist(a, p[(i + 1) % p.length]!))

describe('figures as they are typed', () => {
  it.each(FIGURE_KINDS.map(k => [k.id, k.example] as const))('%s: “%s”', (kind, example) => {
    const layout = layFigure(readFigure(kind, example))
    expect(layout.lines.length + layout.circles.length).toBeGreaterThan(0)
    expect(
      [...layout.lines.flatMap(l => l.points), ...layout.circles.map(c => c.at)].every(
        p => Number.isFinite(p.x) && Number.isFinite(p.y),
      ),
    ).toBe(true)
  })
  it.each(FIGURE_KINDS.map(k => k.id).filter(id => id !== 'table'))(
    '%s: nothing or nonsense is answered with an example',
    kind => {
      for (const text of ['', '??'])
        expect(() => readFigure(kind, text)).toThrow(
          expect.objectContaining({ code: expect.stringMatching(/figure|scale/) as string }),
        )
    },
  )
  it('labels are the lines that have to be typeset', () => {
    expect(labelsOf(readFigure('rightTriangle', '4 by 3; a, b, c; alpha, beta'))).toEqual([
      'a',
      'b',
      'c',
      'alpha',
      'beta',
    ])
  })
})

describe('regular polygons', () => {
  it('sides follow Archimedes’ doubling (Measurement of a Circle): 12 and 24 sides, 3.10583 and 3.13263; 96 sides between 3 10/71 and 3 1/7', () => {
    const half = (n: number) =>
      sidesOf(regularPolygon(n, 1, false, false, '').lines[0]!.points).reduce((a, b) => a + b, 0) / 2
    expect(half(12)).toBeCloseTo(3.10583, 5)
    expect(half(24)).toBeCloseTo(3.13263, 5)
    expect(half(96)).toBeGreaterThan(3 + 10 / 71)
    expect(half(96)).toBeLessThan(3 + 1 / 7)
    // Doubling the sides: s' = √(2 − √(4 − s²)) for radius 1.
    let s = 1
    for (let n = 6; n <= 48; n *= 2) {
      expect(half(n)).toBeCloseTo((n * s) / 2, 10)
      s = Math.sqrt(2 - Math.sqrt(4 - s * s))
    }
  })
  it('area is ½ n r² sin(2π/n), and bisectors meet the sides at right angles in their middles', () => {
    for (const n of [3, 5, 6, 8]) {
      const { lines } = regularPolygon(n, 3, true, true, '')
      expect(area(lines[0]!.points)).toBeCloseTo(0.5 * n * 9 * Math.sin((2 * Math.PI) / n), 9)
      for (const l of lines.filter(x => x.dashed))
        expect(dist(l.points[0]!, l.points[1]!)).toBeCloseTo(3 * Math.cos(Math.PI / n), 9)
      for (const l of lines.filter(x => x.thin && !x.dashed)) expect(dist(l.points[0]!, l.points[1]!)).toBeCloseTo(3, 9)
    }
  })
})

describe('solids and their nets', () => {
  it('the net of a cuboid has its surface: 2(ab + bc + ca)', () => {
    const [a, b, c] = [4, 3, 2]
    const { lines } = prismNet([a, b], 4, c)
    expect(lines.filter(l => l.closed).reduce((s, l) => s + area(l.points), 0)).toBeCloseTo(
      2 * (a * b + b * c + c * a),
      9,
    )
    // The bases have the edges of the strip on which they hang.
    const bases = lines.filter(l => l.closed).slice(1)
    for (const base of bases) expect(sidesOf(base.points).sort()).toEqual([b, b, a, a].map(v => expect.closeTo(v, 9)))
  })
  it.each([3, 5, 6, 8])('the net of a prism with %i sides: strip and two regular bases that touch it', n => {
    const { lines } = prismNet([2], n, 4)
    const closed = lines.filter(l => l.closed)
    const one = (n * 4) / (4 * Math.tan(Math.PI / n))
    expect(area(closed[0]!.points)).toBeCloseTo(n * 2 * 4, 9)
    for (const base of closed.slice(1)) {
      expect(area(base.points)).toBeCloseTo(one, 9)
      for (const s of sidesOf(base.points)) expect(s).toBeCloseTo(2, 9)
    }
    expect(Math.max(...closed[1]!.points.map(p => p.y))).toBeCloseTo(0, 9)
    expect(Math.min(...closed[2]!.points.map(p => p.y))).toBeCloseTo(4, 9)
  })
  it.each([3, 4, 6])(
    'the net of a pyramid over %i sides: triangles with the slant height, edges that meet again at the top',
    n => {
      const { lines } = pyramidNet(3, n, 4)
      const edge = Math.hypot(4, radiusOfSide(n, 3))
      for (const t of lines.slice(1)) {
        expect(dist(t.points[0]!, t.points[2]!)).toBeCloseTo(3, 9)
        expect(dist(t.points[0]!, t.points[1]!)).toBeCloseTo(edge, 9)
        expect(dist(t.points[2]!, t.points[1]!)).toBeCloseTo(edge, 9)
        expect(area(t.points)).toBeCloseTo((3 * slantHeight(3, n, 4)) / 2, 9)
      }
    },
  )
  it('edges behind a solid are dashed: three of a cuboid', () => {
    expect(layFigure(readFigure('prism', '4 by 3 by 2')).lines.filter(l => l.dashed)).toHaveLength(3)
  })
})

describe('triangles, circles and axes', () => {
  it('a right triangle of 4 and 3 has a hypotenuse of 5, and its right angle between the legs', () => {
    const p = layFigure(readFigure('rightTriangle', '4 by 3; a, b, c')).lines[0]!.points
    expect(sidesOf(p).sort()).toEqual([3, 4, 5].map(v => expect.closeTo(v, 9)))
    expect((p[0]!.x - p[1]!.x) * (p[2]!.x - p[1]!.x) + (p[0]!.y - p[1]!.y) * (p[2]!.y - p[1]!.y)).toBeCloseTo(0, 9)
  })
  it('sectors take their angles', () => {
    const { lines } = layFigure(readFigure('circle', 'radius 2, sectors 90 120 150'))
    const angle = (l: { points: Spot[] }) => (Math.atan2(l.points[1]!.y, l.points[1]!.x) * 180) / Math.PI
    const spans = [0, 2, 4].map(i => (angle(lines[i + 1]!) - angle(lines[i]!) + 360) % 360)
    expect(spans).toEqual([90, 120, 150].map(v => expect.closeTo(v, 9)))
  })
  it('axes count one square a step, with zero on the axis', () => {
    const { labels } = layFigure(readFigure('axes', 'x -4 to 4 by 2 "t", y 0 to 30 by 10 "h"'))
    expect(labels.find(l => l.text === '−4')!.at).toEqual({ x: 0, y: expect.closeTo(0) as number })
    expect(labels.find(l => l.text === '30')!.at).toEqual({ x: 2, y: -3 })
  })
})

describe('molecules', () => {
  it.each(Object.keys(MOLECULES))(
    '%s: each atom has a full shell, and no electron is lost (octet rule, Lewis 1916)',
    formula => {
      const m = MOLECULES[formula]!
      let total = 0
      m.atoms.forEach(([symbol], i) => {
        const shared = m.bonds.filter(b => b[0] === i || b[1] === i).reduce((s, b) => s + b[2], 0)
        expect(2 * shared + 2 * m.lone[i]!.length, symbol).toBe(symbol === 'H' ? 2 : 8)
        expect(shared + 2 * m.lone[i]!.length, symbol).toBe(OUTER[symbol])
        total += OUTER[symbol]!
      })
      const drawn = layFigure({ figure: 'molecule', formula, dots: true })
      expect(drawn.circles.filter(c => c.dot).length + drawn.lines.length / 2).toBe(total)
      expect(layFigure({ figure: 'molecule', formula, dots: false }).lines).toHaveLength(
        m.bonds.reduce((s, b) => s + b[2], 0),
      )
    },
  )
  it('water is bent by 104.5° (from memory: any school text)', () => {
    const [, a, b] = MOLECULES.H2O!.atoms
    expect((Math.abs(Math.atan2(b![2], b![1]) - Math.atan2(a![2], a![1])) * 180) / Math.PI).toBeCloseTo(104.5, 6)
  })
})

describe('names that objects have of themselves', () => {
  it.each([
    ['molecule', 'constructor'],
    ['molecule', 'toString'],
    ['circuit', 'hasOwnProperty'],
    ['circuit', '__proto__'],
  ] as const)('are no %s: %s', (kind, text) => {
    expect(() => readFigure(kind, text)).toThrowError(
      expect.objectContaining({ code: expect.stringMatching(/figure-(unknown|unclear)/) as string }),
    )
  })
})

describe('measures as they are typed', () => {
  it.each([
    ['polygon', '6 sides, radius 2,5, radii', { radius: 2.5 }],
    ['circle', 'radius 1/2', { radius: 0.5 }],
    ['prism', '1,5 by 2 × 0.5', { base: [1.5, 2], height: 0.5 }],
    ['rightTriangle', '4,5 by 3; a, b, c', { a: 4.5, b: 3, labels: ['a', 'b', 'c'] }],
  ] as const)('%s: %s', (kind, text, measures) => expect(readFigure(kind, text)).toMatchObject(measures))
})
