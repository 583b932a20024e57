import { describe, expect, it } from 'vitest'
import {
  applyTo,
  boxHolds,
  boxOfSamples,
  boxOfSpots,
  boxPath,
  cornersOf,
  grownBox,
  growAbout,
  inside,
  moveBy,
  pathBox,
  transformedBox,
  unionOf,
} from '../../core/geometry'
import { seededRandom } from '../../core/ink'

const box = { x: 10, y: 20, w: 30, h: 40 }

describe('boxes', () => {
  it('hold what they are made of', () => {
    expect(boxOfSpots(cornersOf(box))).toEqual(box)
    expect(boxOfSamples([10, 20, 0.5, 0, 40, 60, 0.5, 9, 12, 30, 1, 20], 4)).toEqual(box)
    expect(pathBox(boxPath(box))).toEqual(box)
    expect(unionOf([box, { x: 0, y: 0, w: 1, h: 1 }])).toEqual({ x: 0, y: 0, w: 40, h: 60 })
    expect(pathBox('')).toBeNull()
  })
  it('know what lies in them, and near them', () => {
    expect([
      boxHolds(box, { x: 10, y: 60 }),
      boxHolds(box, { x: 9, y: 60 }),
      boxHolds(box, { x: 9, y: 60 }, 1),
    ]).toEqual([true, false, true])
    expect(grownBox(box, 5)).toEqual({ x: 5, y: 15, w: 40, h: 50 })
  })
  it('move and grow as their points do', () => {
    const random = seededRandom(3)
    for (let i = 0; i < 200; i++) {
      const m =
        i % 2 ? moveBy(random() * 50, -random() * 50) : growAbout(0.5 + random() * 3, { x: random() * 90, y: 7 })
      const to = transformedBox(box, m)
      for (const p of cornersOf(box)) expect(boxHolds(to, applyTo(m, p), 1e-9)).toBe(true)
      const back = i % 2 ? moveBy(-m[4], -m[5]) : growAbout(1 / m[0], { x: m[4] / (1 - m[0]), y: m[5] / (1 - m[3]) })
      for (const [k, v] of Object.entries(transformedBox(to, back))) expect(v).toBeCloseTo(box[k as 'x'], 6)
    }
  })
})

describe('a ring', () => {
  it('holds what lies inside, also where it is dented', () => {
    const ring = [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 10, y: 10 },
      { x: 5, y: 4 },
      { x: 0, y: 10 },
    ]
    expect([inside({ x: 2, y: 2 }, ring), inside({ x: 5, y: 8 }, ring), inside({ x: 11, y: 2 }, ring)]).toEqual([
      true,
      false,
      false,
    ])
  })
})
