import { describe, expect, it } from 'vitest'
import { PEAKS_PER_SECOND, speechOf, stretched } from '../../core/sound'

const RATE = 48_000
const tone = (hz: number, seconds: number) =>
  Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => 0.5 * Math.sin((2 * Math.PI * hz * i) / RATE))
/** Zero crossings upwards a second: the pitch of a tone. */
function pitch(pcm: Float32Array): number {
  let n = 0
  for (let i = 1; i < pcm.length; i++) if (pcm[i - 1]! < 0 && pcm[i]! >= 0) n++
  return n / (pcm.length / RATE)
}

describe('sound at another speed', () => {
  it.each([0.5, 0.75, 1.5, 2, 3])('%s × as fast keeps its pitch and its loudness, and does not click', speed => {
    for (const hz of [110, 220, 440]) {
      const out = stretched(tone(hz, 1), speed)
      expect(out.length).toBe(Math.round(RATE / speed))
      expect(Math.abs(pitch(out) / hz - 1)).toBeLessThan(0.03)
      const loud = Math.sqrt(out.reduce((s, v) => s + v * v, 0) / out.length)
      expect(loud).toBeGreaterThan(0.5 / Math.SQRT2 - 0.04)
      let step = 0
      for (let i = 1; i < out.length; i++) step = Math.max(step, Math.abs(out[i]! - out[i - 1]!))
      expect(step).toBeLessThan(0.06)
    }
  })
  it('begins and ends as it did, so that one piece follows the other', () => {
    const whole = tone(200, 2)
    const [a, b] = [stretched(whole.subarray(0, RATE), 2), stretched(whole.subarray(RATE), 2)]
    expect(Math.abs(a[a.length - 1]! - whole[RATE - 1]!)).toBeLessThan(1e-6)
    expect(Math.abs(b[0]! - whole[RATE]!)).toBeLessThan(1e-6)
  })
  it('as fast as it was is a copy; very little is only shortened', () => {
    const pcm = tone(440, 0.1)
    expect(stretched(pcm, 1)).toEqual(pcm)
    expect(stretched(pcm.subarray(0, 100), 2)).toHaveLength(50)
    expect(stretched(new Float32Array(), 2)).toHaveLength(0)
  })
})

describe('where somebody speaks', () => {
  const peaks = (...parts: [level: number, ms: number][]) =>
    Uint8Array.from(parts.flatMap(([level, ms]) => Array<number>((ms / 1000) * PEAKS_PER_SECOND).fill(level)))
  it('is what is clearly louder than the room; a breath is no pause', () => {
    const found = speechOf(peaks([8, 1000], [120, 1000], [9, 200], [110, 500], [8, 2000], [90, 500], [8, 500]))
    expect(found).toHaveLength(2)
    expect(found[0]!.from).toBeGreaterThan(850)
    expect(found[0]!.to).toBeLessThan(2850)
    expect(found[1]!.from).toBeGreaterThan(4500)
  })
  it('is nowhere in a loud room without a voice, nor in silence', () => {
    expect(speechOf(peaks([40, 3000]))).toEqual([])
    expect(speechOf(new Uint8Array())).toEqual([])
  })
})
