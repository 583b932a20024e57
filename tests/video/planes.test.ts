import { describe, expect, it } from 'vitest'
import { seededRandom } from '../../core/ink'
import { Planes } from '../../core/video/planes'

/** Y′CbCr by ITU-R BT.709-6, items 3.2 to 3.4, on the full range of eight bits. */
function bt709([r, g, b]: readonly [number, number, number]): [number, number, number] {
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b
  return [y, 128 + (b - y) / 1.8556, 128 + (r - y) / 1.5748].map(v => Math.min(255, Math.max(0, v))) as never
}
const opaque = (pixels: readonly (readonly [number, number, number])[]) =>
  new Uint8ClampedArray(pixels.flatMap(p => [...p, 255]))

describe('planes of a picture', () => {
  it('are those of BT.709, within one of 255', () => {
    const random = seededRandom(4)
    const colours = [
      ...([
        [255, 0, 0],
        [0, 255, 0],
        [0, 0, 255],
        [255, 255, 255],
        [0, 0, 0],
      ] as const),
      ...Array.from({ length: 500 }, () => [0, 0, 0].map(() => Math.floor(256 * random())) as [number, number, number]),
    ]
    for (const colour of colours) {
      const planes = new Planes(2, 2)
      planes.put(opaque([colour, colour, colour, colour]), { x: 0, y: 0, w: 2, h: 2 })
      const [y, u, v] = bt709(colour as [number, number, number])
      for (const [i, wanted] of [y, y, y, y, u, v].entries())
        expect(Math.abs(planes.bytes[i]! - wanted), `${colour}: ${i}`).toBeLessThanOrEqual(1)
    }
  })
  it('put in by parts are the same as put in whole', () => {
    const [w, h] = [16, 12]
    const random = seededRandom(5)
    const rgba = new Uint8ClampedArray(w * h * 4).map(() => Math.floor(256 * random()))
    const whole = new Planes(w, h)
    whole.put(rgba, { x: 0, y: 0, w, h })
    const parts = new Planes(w, h)
    for (const x of [0, 6])
      for (const y of [0, 4]) {
        const box = { x, y, w: x ? 10 : 6, h: y ? 8 : 4 }
        const part = Array.from({ length: box.h }, (_, r) =>
          Array.from(rgba.subarray(((y + r) * w + x) * 4, ((y + r) * w + x + box.w) * 4)),
        )
        parts.put(new Uint8ClampedArray(part.flat()), box)
      }
    expect(parts.bytes).toEqual(whole.bytes)
  })
  it('need whole pairs of pixels, inside the picture', () => {
    const planes = new Planes(100, 50)
    expect(planes.around({ x: 3, y: 5, w: 4, h: 1 })).toEqual({ x: 2, y: 4, w: 6, h: 2 })
    expect(planes.around({ x: 2, y: 4, w: 4, h: 2 })).toEqual({ x: 2, y: 4, w: 4, h: 2 })
    expect(planes.around({ x: -9, y: 44, w: 500, h: 500 })).toEqual({ x: 0, y: 44, w: 100, h: 6 })
    expect(planes.around({ x: 300, y: 4, w: 4, h: 2 }).w).toBe(0)
  })
})
