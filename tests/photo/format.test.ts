import { describe, expect, it } from 'vitest'
import { straightSize, type Quad } from '../../core/photo'

const quad: Quad = [
  { x: 100, y: 100 },
  { x: 900, y: 100 },
  { x: 900, y: 1150 },
  { x: 100, y: 1150 },
]
const picture = { width: 4000, height: 3000 }
const ratio = (format: Parameters<typeof straightSize>[2]) => {
  const { width, height } = straightSize(quad, picture, format)
  return height / width
}

describe('the format of a photographed sheet', () => {
  it('is taken as it is said: A4 and Letter upright, as they were seen, square, or just what is seen (ISO 216, ANSI A)', () => {
    expect(ratio('a4')).toBeCloseTo(297 / 210, 2)
    expect(ratio('letter')).toBeCloseTo(11 / 8.5, 2)
    expect(ratio('square')).toBeCloseTo(1, 2)
    expect(ratio('free')).toBeCloseTo(1050 / 800, 2)
  })
  it('is guessed where it is near to a usual one, and else left', () => {
    expect(ratio('guess')).toBeCloseTo(11 / 8.5, 2)
    const wide = quad.map(p => ({ x: p.x * 2.2, y: p.y })) as Quad
    const { width, height } = straightSize(wide, picture)
    expect(width / height).toBeCloseTo((800 * 2.2) / 1050, 1)
  })
})
