import { describe, expect, it } from 'vitest'
import type { SoundPiece } from '../../core/edition'
import { seededRandom } from '../../core/ink'
import { SOUND_RATE } from '../../core/sound'
import { plannedSound } from '../../workers/plannedSound'
import { heldSound, wholeSound } from '../support/sound'

/** Four seconds in which each sample tells where it is. */
const ramp = Float32Array.from({ length: 4 * SOUND_RATE }, (_, i) => i / (4 * SOUND_RATE))
const sounds = heldSound(ramp)
const at = (ms: number) => Math.round((ms / 1000) * SOUND_RATE)
const plan: SoundPiece[] = [
  { at: 0, ms: 500, take: 't', from: 1000 },
  { at: 500, ms: 250, take: 't', from: null },
  { at: 750, ms: 333, take: 't', from: 200 },
  { at: 1083, ms: 700, take: 't', from: 3000 },
]

describe('the sound of a plan', () => {
  it('is exactly as long, each piece the sound of its take to the sample, and silence where there is none', async () => {
    const out = await wholeSound(plan, sounds)
    expect(out).toHaveLength(at(1783))
    for (const { at: begins, ms, from } of plan)
      for (const share of [0.1, 0.5, 0.9]) {
        const k = at(begins + ms * share)
        const wanted = from === null ? 0 : ramp[at(from) + k - at(begins)]!
        expect(out[k]).toBeCloseTo(wanted, 6)
      }
  })
  it('is the same whether it is made whole or in stretches', async () => {
    const whole = await wholeSound(plan, sounds)
    const random = seededRandom(3)
    for (let n = 0; n < 30; n++) {
      const from = Math.floor(random() * 1500)
      const to = from + 20 + Math.floor(random() * 250)
      const blocks: number[] = []
      for await (const block of plannedSound(plan, sounds, from, to)) blocks.push(...block)
      expect(blocks).toEqual([...whole.subarray(at(from), at(to))])
    }
  })
  it('does not click at a joint: it goes out and comes in within a few milliseconds', async () => {
    const loud = Float32Array.from({ length: SOUND_RATE }, () => 0.8)
    const out = await wholeSound(
      [
        { at: 0, ms: 300, take: 't', from: 0 },
        { at: 300, ms: 300, take: 't', from: 600 },
      ],
      heldSound(loud),
    )
    let step = 0
    for (let i = 1; i < out.length; i++) step = Math.max(step, Math.abs(out[i]! - out[i - 1]!))
    expect(step).toBeLessThan(0.005)
    expect([out[0], out[out.length - 1]]).toEqual([out[5], out[out.length - 5]])
  })
})
