import { describe, expect, it } from 'vitest'
import { layFigure, readFigure } from '../../core/figures'
import { structureOf } from '../../core/figures/condensed'
import { solveTriangle } from '../../core/figures/shapes'

const radians = (degrees: number) => (degrees * Math.PI) / 180

describe('a triangle', () => {
  // Law of cosines and law of sines (Euclid, Elements II 12–13; any text on trigonometry).
  it('from its sides has the angles that the law of cosines gives, from its angles the sides of the law of sines', () => {
    for (const [a, b, c] of [
      [3, 4, 5],
      [5, 6, 7],
      [2, 3, 4],
    ] as const) {
      const { angles } = solveTriangle({ sides: [a, b, c], angles: [null, null, null] })
      expect(angles.reduce((s, v) => s + v, 0)).toBeCloseTo(180)
      expect(a * a).toBeCloseTo(b * b + c * c - 2 * b * c * Math.cos(radians(angles[0]!)))
    }
    const { sides } = solveTriangle({ sides: [null, null, 8], angles: [40, 60, null] })
    expect(sides[0]! / Math.sin(radians(40))).toBeCloseTo(8 / Math.sin(radians(80)))
  })
  it('writes what was given, and squares a right angle', () => {
    const given = layFigure(readFigure('triangle', 'angles 30, 60, 90'))
    expect(given.labels.map(l => l.text)).toEqual(['30°', '60°'])
    expect(given.lines).toHaveLength(2)
    expect(layFigure(readFigure('triangle', 'sides 5, 6, 7')).labels.map(l => l.text)).toEqual(['5', '6', '7'])
    expect(layFigure(readFigure('triangle', 'sides 3, 4, 5 arcs; x, y, z')).labels.map(l => l.text)).toEqual(
      expect.arrayContaining(['x', 'y', 'z', '36.87°', '53.13°']) as string[],
    )
  })
  it.each(['sides 1, 2, 5', 'angles 90, 90, 10', 'sides 3, 4', 'sides 3, 4, banana', 'angles 200, 10'])(
    '%s is refused',
    text => {
      expect(() => readFigure('triangle', text)).toThrow()
    },
  )
})

describe('solids', () => {
  it.each([
    ['round', 'cylinder radius 2, height 5', ['r = 2', 'h = 5']],
    ['round', 'cone radius 2, height 4', ['r = 2', 'h = 4']],
    ['round', 'sphere radius 3', ['r = 3']],
    ['box', '4 by 3 by 2, open', ['4', '3', '2']],
    ['box', '4 by 3 by 2, open, net', ['4', '3', '2']],
  ] as const)('%s: %s has its dimensions', (kind, text, labels) => {
    expect(layFigure(readFigure(kind, text)).labels.map(l => l.text)).toEqual(labels)
  })
  it('the net of an open box has five faces, whose area is that of the box without its lid', () => {
    const area = (text: string) =>
      layFigure(readFigure('box', text)).lines.reduce(
        (s, { points: [a, , c] }) => s + Math.abs((c!.x - a!.x) * (c!.y - a!.y)),
        0,
      )
    expect(area('4 by 3 by 2, open, net')).toBeCloseTo(4 * 3 + 2 * (4 * 2 + 3 * 2))
    expect(area('4 by 3 by 2, net')).toBeCloseTo(2 * 4 * 3 + 2 * (4 * 2 + 3 * 2))
  })
})

describe('molecules beyond the list', () => {
  const count = (formula: string) => {
    const counts: Record<string, number> = {}
    for (const { symbol } of structureOf(formula).atoms) counts[symbol] = (counts[symbol] ?? 0) + 1
    return counts
  }
  // Formulas as in the IUPAC Recommendations on organic nomenclature (2013): atoms are counted, bonds are the valences'.
  it.each([
    ['CH3CH2OH', { C: 2, H: 6, O: 1 }],
    ['CH3CH2CH2CH3', { C: 4, H: 10 }],
    ['CH2=CHCH3', { C: 3, H: 6 }],
    ['CH≡CH', { C: 2, H: 2 }],
    ['CH3COOH', { C: 2, H: 4, O: 2 }],
    ['CH3CHO', { C: 2, H: 4, O: 1 }],
    ['CH3CH(CH3)CH3', { C: 4, H: 10 }],
    ['CH3CHClCH3', { C: 3, H: 7, Cl: 1 }],
    ['CH3NH2', { C: 1, H: 5, N: 1 }],
    ['CH3OCH3', { C: 2, H: 6, O: 1 }],
  ])('%s', (formula, atoms) => {
    expect(count(formula)).toEqual(atoms)
    const places = structureOf(formula).atoms.map(a => `${a.x.toFixed(2)},${a.y.toFixed(2)}`)
    expect(new Set(places).size).toBe(places.length)
  })
  it.each(['CH5', 'CH3CH3CH3', 'Xy2', 'CH2', 'constructor'])('%s is refused', formula => {
    expect(() => readFigure('molecule', formula)).toThrow(/molecule|formula/)
  })
  it('what is not understood in a figure is named', () => {
    expect(() => readFigure('box', '4 by 3 by 2, purple')).toThrow(/purple/)
    expect(() => readFigure('circle', 'radius 3, sectors 90 400')).toThrow()
    expect(() => readFigure('forces', '30° 5 F_1; banana')).toThrow()
  })
})
