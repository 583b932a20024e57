import { createRequire } from 'node:module'
import { beforeAll, describe, expect, it } from 'vitest'
import { inOrder, isSheet, straightSize, type Quad } from '../../core/photo'
import { cleanPhoto, findSheet, whenReady, type Cv, type Pixels } from '../../workers/photo/clean'

// Loaded as Node does: the runner's own import would wait for ever on the library's `then`.
const cv = createRequire(import.meta.url)('@techstark/opencv-js') as Cv
beforeAll(() => new Promise<void>(ready => whenReady(cv, ready)), 60_000)

/**
 * A homography from the unit square to four corners, solved by Gauss elimination; independent of the picture library.
 */
function mapping([a, b, c, d]: Quad): (u: number, v: number) => { x: number; y: number } {
  const rows: number[][] = []
  const square = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ] as const
  ;[a, b, c, d].forEach((p, i) => {
    const [u, v] = square[i]!
    rows.push([u, v, 1, 0, 0, 0, -u * p.x, -v * p.x, p.x], [0, 0, 0, u, v, 1, -u * p.y, -v * p.y, p.y])
  })
  for (let i = 0; i < 8; i++) {
    const best = rows.slice(i).reduce((m, r, k) => (Math.abs(r[i]!) > Math.abs(rows[m]![i]!) ? k + i : m), i)
    ;[rows[i], rows[best]] = [rows[best]!, rows[i]!]
    const lead = rows[i]![i]!
    rows[i] = rows[i]!.map(x => x / lead)
    for (let k = 0; k < 8; k++)
      if (k !== i) {
        const f = rows[k]![i]!
        rows[k] = rows[k]!.map((x, n) => x - f * rows[i]![n]!)
      }
  }
  const h = rows.map(r => r[8]!)
  return (u, v) => {
    const w = h[6]! * u + h[7]! * v + 1
    return { x: (h[0]! * u + h[1]! * v + h[2]!) / w, y: (h[3]! * u + h[4]! * v + h[5]!) / w }
  }
}

/**
 * A synthetic photo: a sheet with lines of "writing" on a darker desk, in uneven light, its corners known. Drawn with 2
 * × 2 samples a pixel at the edge.
 */
function photo(width: number, height: number, quad: Quad): Pixels {
  const data = new Uint8ClampedArray(width * height * 4)
  const inside = (x: number, y: number) =>
    quad.every((p, i) => {
      const q = quad[(i + 1) % 4]!
      return (q.x - p.x) * (y - p.y) - (q.y - p.y) * (x - p.x) >= 0
    })
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const share =
        (Number(inside(x + 0.25, y + 0.25)) +
          Number(inside(x + 0.75, y + 0.25)) +
          Number(inside(x + 0.25, y + 0.75)) +
          Number(inside(x + 0.75, y + 0.75))) /
        4
      const light = 0.55 + 0.45 * (x / width) * (1 - 0.4 * (y / height))
      const grain = ((((x * 2654435761) ^ (y * 40503)) >>> 8) % 13) - 6
      const i = (y * width + x) * 4,
        value = (share * 238 + (1 - share) * 92) * light + grain
      data[i] = value
      data[i + 1] = value * 0.98
      data[i + 2] = value * 0.93
      data[i + 3] = 255
    }
  const at = mapping(quad)
  for (let line = 0; line < 22; line++)
    for (let k = 0; k < 3000; k++) {
      const p = at(0.1 + 0.0002667 * k, 0.08 + line * 0.038)
      if (Math.sin(k / 9 + line) > 0)
        for (let d = -2; d <= 2; d++) {
          const i = (Math.round(p.y + d) * width + Math.round(p.x)) * 4
          data[i]! *= 0.35
          data[i + 1]! *= 0.35
          data[i + 2]! *= 0.37
        }
    }
  return { width, height, data }
}

describe('a photographed sheet', () => {
  const quads: [string, Quad][] = [
    [
      'nearly straight',
      [
        { x: 610.4, y: 205.2 },
        { x: 3302.7, y: 240.9 },
        { x: 3350.1, y: 2790.6 },
        { x: 580.8, y: 2755.3 },
      ],
    ],
    [
      'from one side',
      [
        { x: 1050.5, y: 210.3 },
        { x: 2790.2, y: 330.7 },
        { x: 3150.6, y: 2820.4 },
        { x: 690.1, y: 2700.8 },
      ],
    ],
    [
      'turned',
      [
        { x: 1400.3, y: 160.6 },
        { x: 3500.9, y: 900.2 },
        { x: 2700.4, y: 2850.7 },
        { x: 620.6, y: 2100.1 },
      ],
    ],
  ]
  it.each(quads)(
    '%s: its corners are found to within 4 pixels in 12 megapixels',
    (_, quad) => {
      const found = findSheet(cv, photo(4000, 3000, quad))
      expect(found).not.toBeNull()
      const off = quad.map((p, i) => Math.hypot(p.x - found![i]!.x, p.y - found![i]!.y))
      expect(Math.max(...off)).toBeLessThanOrEqual(4)
    },
    60_000,
  )

  it('is straightened: a mark known on the sheet lies where it belongs, to within 4 pixels', () => {
    const quad = quads[1]![1],
      picture = photo(4000, 3000, quad)
    const at = mapping(quad)(0.31, 0.944)
    for (let dy = -9; dy <= 9; dy++)
      for (let dx = -9; dx <= 9; dx++)
        picture.data.set([0, 0, 0, 255], ((Math.round(at.y) + dy) * 4000 + Math.round(at.x) + dx) * 4)
    const clean = cleanPhoto(cv, picture, findSheet(cv, picture)!, false)
    let n = 0,
      sx = 0,
      sy = 0
    for (let y = Math.round(clean.height * 0.93); y < clean.height * 0.96; y++)
      for (let x = Math.round(clean.width * 0.28); x < clean.width * 0.34; x++) {
        if (clean.data[(y * clean.width + x) * 4]! < 40) {
          n++
          sx += x
          sy += y
        }
      }
    expect(n).toBeGreaterThan(100)
    expect(Math.hypot(sx / n + 0.5 - 0.31 * clean.width, sy / n + 0.5 - 0.944 * clean.height)).toBeLessThanOrEqual(4)
  }, 60_000)

  it('is evened out: the paper is white on its dark side, too, and pencil keeps its grey', () => {
    const quad = quads[0]![1]
    const clean = cleanPhoto(cv, photo(4000, 3000, quad), quad, true)
    const shades = [0.05, 0.95].map(u => {
      const values = []
      for (let y = 400; y < clean.height - 400; y += 37)
        values.push(clean.data[(y * clean.width + Math.round(u * clean.width)) * 4]!)
      return values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!
    })
    expect(Math.min(...shades)).toBeGreaterThan(235)
    const dark = clean.data
      .filter((_, i) => i % 4 === 0 && i > 4 * clean.width * 100)
      .reduce((m, v) => Math.min(m, v), 255)
    expect(dark).toBeLessThan(140)
    expect(dark).toBeGreaterThan(20)
  }, 60_000)

  it.each([
    ['A4', 210, 297],
    ['Letter', 216, 279],
    ['a square', 200, 200],
  ])('%s seen aslant keeps its shape', (_, w, h) => {
    // A pinhole camera of 3500 pixels focal length, tilted by 35° and turned by 12°, its lens over the middle of the
    // picture.
    const tilt = (35 * Math.PI) / 180,
      turn = (12 * Math.PI) / 180
    const project = (x: number, y: number) => {
      const u = x * Math.cos(turn) - y * Math.sin(turn),
        v = x * Math.sin(turn) + y * Math.cos(turn)
      const z = 420 - v * Math.sin(tilt)
      return { x: 2000 + (3500 * u) / z, y: 1500 + (3500 * v * Math.cos(tilt)) / z }
    }
    const quad = [
      project(-w / 2, -h / 2),
      project(w / 2, -h / 2),
      project(w / 2, h / 2),
      project(-w / 2, h / 2),
    ] as Quad
    const size = straightSize(quad, { width: 4000, height: 3000 })
    expect(size.height / size.width).toBeCloseTo(h / w, 1)
  })

  it('a picture without a sheet gives none', () => {
    const data = new Uint8ClampedArray(800 * 600 * 4).map((_, i) =>
      i % 4 === 3 ? 255 : (((i * 2654435761) >>> 13) % 60) + 90,
    )
    expect(findSheet(cv, { width: 800, height: 600, data })).toBeNull()
  })

  it('corners come in order whatever the order they were given in, and crossed ones are no sheet', () => {
    const [a, b, c, d] = quads[2]![1]
    expect(inOrder([c, a, d, b])).toEqual([a, b, c, d])
    expect(isSheet([a, b, c, d])).toBe(true)
    expect(isSheet([a, c, b, d])).toBe(false)
    expect(
      straightSize([
        { x: 0, y: 0 },
        { x: 300, y: 0 },
        { x: 300, y: 400 },
        { x: 0, y: 400 },
      ]),
    ).toEqual({ width: 300, height: 400 })
  })
})
