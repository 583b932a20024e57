import { describe, expect, it } from 'vitest'
import {
  checksum,
  levelOf,
  Peaks,
  PEAKS_PER_SECOND,
  Resampler,
  SOUND_RATE,
  SoundPlacer,
  SoundSeal,
  type PlacedChunk,
} from '../../core/sound'
import { seededRandom } from '../../core/ink'
import { sine } from '../support/make'

function place(chunks: PlacedChunk[], durationMs: number) {
  const placer = new SoundPlacer(durationMs)
  const parts = [...chunks.flatMap(c => placer.push(c)), ...placer.finish()]
  const pcm = new Int16Array(parts.reduce((sum, p) => sum + p.length, 0))
  let at = 0
  for (const p of parts) {
    pcm.set(p, at)
    at += p.length
  }
  return { pcm, gaps: placer.gaps }
}
/** Pieces of half a second of a continuous sine. */
function pieces(seconds: number, rate: number, late = (_: number) => 0): PlacedChunk[] {
  return Array.from({ length: seconds * 2 }, (_, i) => ({
    t0: i * 500 + late(i),
    rate,
    pcm: sine(440, rate, rate / 2, i / 2),
  }))
}

describe('placing recorded sound', () => {
  it('passes sound from a steady clock through unchanged', () => {
    const { pcm, gaps } = place(pieces(5, SOUND_RATE), 5000)
    expect(gaps).toEqual([])
    expect(pcm).toEqual(sine(440, SOUND_RATE, 5 * SOUND_RATE))
  })
  it('makes silence of what was lost, where it was lost, and reports it', () => {
    const chunks = pieces(10, SOUND_RATE).filter((_, i) => i !== 6 && i !== 7)
    const { pcm, gaps } = place(chunks, 10_000)
    expect(pcm.length).toBe(10 * SOUND_RATE)
    expect(gaps).toHaveLength(1)
    expect(gaps[0]!.from).toBeCloseTo(3000, -1)
    expect(gaps[0]!.to).toBeCloseTo(4000, -1)
    expect(levelOf(pcm.subarray(3.1 * SOUND_RATE, 3.9 * SOUND_RATE))).toBe(-100)
    expect(pcm.subarray(4.2 * SOUND_RATE, 5 * SOUND_RATE)).toEqual(sine(440, SOUND_RATE, 0.8 * SOUND_RATE, 4.2))
  })
  it('brings 44.1 kHz to 48 kHz, length and pitch right', () => {
    const { pcm } = place(pieces(4, 44_100), 4000)
    expect(pcm.length).toBe(4 * SOUND_RATE)
    const wanted = sine(440, SOUND_RATE, 4 * SOUND_RATE)
    let worst = 0
    for (let i = 2000; i < pcm.length - 2000; i++) worst = Math.max(worst, Math.abs(pcm[i]! - wanted[i]!))
    expect(worst / 32768).toBeLessThan(0.01)
  })
  it.each([200, -200, 400])('follows a device clock that is off by %i ppm', ppm => {
    // The device makes more (or fewer) samples than its rate says; its pieces carry true times.
    const seconds = 120
    const n = Math.round(24_000 * (1 + ppm / 1e6))
    const chunks = Array.from({ length: seconds * 2 }, (_, i) => {
      const pcm = new Int16Array(n)
      pcm[100] = 30_000
      return { t0: i * 500, rate: SOUND_RATE, pcm }
    })
    const { pcm, gaps } = place(chunks, seconds * 1000)
    expect(gaps).toEqual([])
    expect(Math.abs(clickAt(pcm, 119.5) - (119_500 + 100 / 48))).toBeLessThan(5)
  })
  it('begins with silence where the sound begins late, and does not report a device’s slow start', () => {
    const { pcm, gaps } = place([{ t0: 120, rate: SOUND_RATE, pcm: sine(440, SOUND_RATE, 48_000) }], 1200)
    expect(gaps).toEqual([])
    expect(pcm.length).toBe(1.2 * SOUND_RATE)
    expect(levelOf(pcm.subarray(0, 5000))).toBe(-100)
  })
  it('makes silence of a take without sound', () => {
    const { pcm } = place([], 750)
    expect(pcm.length).toBe(36_000)
    expect(pcm.every(v => v === 0)).toBe(true)
  })
  it('cuts off what overlaps, rather than shifting what follows', () => {
    const { pcm } = place(
      [
        { t0: 0, rate: SOUND_RATE, pcm: sine(440, SOUND_RATE, 48_000) },
        { t0: 900, rate: SOUND_RATE, pcm: sine(440, SOUND_RATE, 48_000, 0.9) },
      ],
      1900,
    )
    expect(pcm.length).toBe(1.9 * SOUND_RATE)
    expect(Math.abs(pcm[80_000]! - sine(440, SOUND_RATE, 1, 80_000 / SOUND_RATE)[0]!)).toBeLessThan(400)
  })
})

/** Where the loudest sample near a moment is, ms. */
function clickAt(pcm: Int16Array, near: number): number {
  let best = Math.round((near - 0.1) * SOUND_RATE)
  for (let i = best; i < (near + 0.2) * SOUND_RATE && i < pcm.length; i++) if (pcm[i]! > pcm[best]!) best = i
  return (best / SOUND_RATE) * 1000
}

describe('resampling', () => {
  it('is exact at a ratio of one, whatever the pieces', () => {
    const input = sine(1000, 48_000, 9600)
    const r = new Resampler()
    const out: number[] = []
    for (let i = 0, n = 37; i < input.length; i += n, n = ((n * 7) % 500) + 1)
      out.push(...r.push(input.subarray(i, i + n), 1))
    out.push(...r.flush())
    expect(Int16Array.from(out.slice(0, 9600))).toEqual(input)
  })
  it('lets nothing through that the new rate cannot hold', () => {
    const r = new Resampler()
    const out = r.push(sine(15_000, 48_000, 48_000), 16_000 / 48_000)
    expect(levelOf(out.subarray(200, 15_000))).toBeLessThan(-35)
    const kept = new Resampler().push(sine(1000, 48_000, 48_000), 16_000 / 48_000)
    expect(levelOf(kept.subarray(200, 15_000))).toBeCloseTo(levelOf(sine(1000, 48_000, 48_000)), 0)
  })
})

describe('levels and peaks', () => {
  it('a full-scale sine is at −3.01 dBFS (common practice: RMS against full scale)', () => {
    expect(levelOf(sine(997, 48_000, 48_000, 0, 1))).toBeCloseTo(-3.01, 1)
    expect(levelOf(new Int16Array(100))).toBe(-100)
    expect(levelOf(new Int16Array())).toBe(-100)
  })
  it('peaks come 40 a second and show the loudest sample', () => {
    const peaks = new Peaks(48_000)
    const random = seededRandom(1)
    const pcm = new Int16Array(48_000)
    pcm[30_000] = -32_768
    for (let i = 0; i < pcm.length; ) {
      const n = 1 + Math.floor(random() * 900)
      peaks.push(pcm.subarray(i, i + n))
      i += n
    }
    const out = peaks.finish()
    expect(out.length).toBe(PEAKS_PER_SECOND)
    expect(out[25]).toBe(255)
    expect(out.filter(v => v > 0)).toHaveLength(1)
  })
})

describe('sound beyond the end of a take', () => {
  it('is no part of it, and nothing is missing there', () => {
    const { pcm, gaps } = place(
      pieces(10, SOUND_RATE).filter((_, i) => i !== 12),
      3000,
    )
    expect([pcm.length, gaps]).toEqual([3 * SOUND_RATE, []])
  })
})

describe('checksums', () => {
  const pcm = sine(440, SOUND_RATE, 5000)
  it('go on from piece to piece', () => {
    expect(checksum(pcm.subarray(1234), checksum(pcm.subarray(0, 1234)))).toBe(checksum(pcm))
    // Bytes are counted as they are.
    expect(checksum(Uint8Array.of(1, 250, 0, 7))).toBe(checksum(Int16Array.of(1, 250, 0, 7)))
  })
  it('show a changed sample, two that changed places, and a lost piece', () => {
    const changed = pcm.slice(),
      swapped = pcm.slice()
    changed[700]! ^= 1
    ;[swapped[10], swapped[30]] = [swapped[30]!, swapped[10]!]
    expect(new Set([pcm, changed, swapped, pcm.subarray(480)].map(p => checksum(p))).size).toBe(4)
  })
})

describe('the seal of a sound', () => {
  const pcm = sine(440, SOUND_RATE, 10_000)
  const sealOf = (pcm: Int16Array, piece = pcm.length) => {
    const seal = new SoundSeal()
    for (let i = 0; i < pcm.length; i += piece) seal.push(pcm.subarray(i, i + piece))
    return seal
  }
  it('is the same however the sound is cut into pieces', () => {
    expect([480, 4096, 5000].map(piece => sealOf(pcm).sameAs(sealOf(pcm, piece)))).toEqual([true, true, true])
  })
  it('is another after one changed sample, in a whole block and in the last one, and after any loss', () => {
    for (const at of [100, 9990]) {
      const changed = pcm.slice()
      changed[at]! ^= 1
      expect(sealOf(pcm).sameAs(sealOf(changed)), `sample ${at}`).toBe(false)
    }
    expect([9999, 8192, 4096, 0].map(n => sealOf(pcm).sameAs(sealOf(pcm.subarray(0, n))))).toEqual([
      false,
      false,
      false,
      false,
    ])
  })
  it('forgives only a missing last part block of one value', () => {
    const quiet = pcm.slice()
    quiet.fill(0, 8192)
    expect(sealOf(quiet).sameAs(sealOf(quiet.subarray(0, 8192)))).toBe(true)
    quiet[9000] = 1
    expect(sealOf(quiet).sameAs(sealOf(quiet.subarray(0, 8192)))).toBe(false)
  })
})
