import { describe, expect, it } from 'vitest'
import { seededRandom } from '../../core/ink'
import { addressesIn, checkAddresses, unlikeness } from '../../core/publish'
import { align } from '../../core/sound'

describe('addresses of a page', () => {
  const page = (body: string) =>
    `<html><head><style>p{src:url(fonts/a.woff2)}</style></head><body>${body}<script>x="src=no"</script></body></html>`
  it('are found as they are meant', () => {
    const html = page(
      '<img src="a%20b.png"><a href="x?a=1&amp;b=2">x</a><img src="data:,"><section data-sound="s.m4a">',
    )
    expect(addressesIn(html)).toEqual(['a%20b.png', 'x?a=1&b=2', 's.m4a', 'fonts/a.woff2'])
  })
  it('lead somewhere, or are named with what to do', () => {
    const has = (path: string) => ['a b.png', 'fonts/a.woff2'].includes(path)
    const good =
      '<a href="#q1">1</a><i id="q1"></i><img src="a%20b.png"><a href="https://site.example/x">x</a><a href="mailto:a@b.example">m</a>'
    expect(checkAddresses(page(good), has)).toEqual([])
    const bad = '<a href="#q9">9</a><video src="gone.mp4"></video><img src="%E0%A4%A.png"><a href="https://">x</a>'
    expect(checkAddresses(page(bad), has).map(f => f.file)).toEqual([
      'index.html',
      'gone.mp4',
      '%E0%A4%A.png',
      'index.html',
    ])
    expect(checkAddresses(page(bad), has).every(f => f.next.length > 10)).toBe(true)
  })
})

describe('two pictures', () => {
  const [w, h] = [120, 60]
  const drawn = (dots: [number, number][]) => {
    const data = new Uint8ClampedArray(4 * w * h).fill(255)
    for (const [x, y] of dots) data.set([20, 40, 120], 4 * (y * w + x))
    return data
  }
  const line = (y: number, from = 10, to = 110) =>
    Array.from({ length: to - from }, (_, i): [number, number] => [from + i, y])
  it('are alike when a line lies a pixel beside, and not when it is missing or elsewhere', () => {
    expect(unlikeness(drawn(line(20)), drawn(line(20)), w)).toBe(0)
    expect(unlikeness(drawn(line(20)), drawn(line(21)), w)).toBe(0)
    expect(unlikeness(drawn(line(20)), drawn([]), w)).toBeCloseTo(100 / (w * h), 3)
    expect(unlikeness(drawn(line(20)), drawn(line(26)), w)).toBeCloseTo(200 / (w * h), 3)
    expect(unlikeness(drawn(line(20)), drawn(line(20, 60)), w)).toBeGreaterThan(0.005)
  })
})

describe('where a sound lies', () => {
  const random = seededRandom(3)
  const noise = Float32Array.from({ length: 12_000 }, () => random() - 0.5)
  it.each([0, 1, -1, 57, -300, 320])('%i samples later is found, under other noise', lag => {
    const later = noise.map((_, i) => 0.5 * (noise[i - lag] ?? 0) + 0.1 * (random() - 0.5))
    const found = align(noise, later, 400)!
    expect(found.lag).toBe(lag)
    expect(found.alike).toBeGreaterThan(0.9)
  })
  it('is not told of silence, and another sound is not alike', () => {
    expect(align(noise, new Float32Array(12_000), 400)).toBeNull()
    expect(
      align(
        noise.map(x => x / 1e3),
        noise,
        400,
      ),
    ).toBeNull()
    expect(
      align(
        noise,
        Float32Array.from({ length: 12_000 }, () => random() - 0.5),
        400,
      )!.alike,
    ).toBeLessThan(0.2)
  })
})
