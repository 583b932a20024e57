import { describe, expect, it } from 'vitest'
import { offsets, often, type Fault } from '../../bench/inkAndVoice'

const single = (ms: number) => ms > 240_000 && ms < 480_000 && Math.floor(ms / 10) % 37 === 0
const FAULTS: Fault[] = [
  {
    name: '200 ppm fast, buffers late by up to 40 ms, 300 ms lost again and again',
    minutes: 12,
    ppm: 200,
    lose: often,
    lateMs: 40,
  },
  {
    name: '200 ppm slow, beginning to count anew, single buffers lost under load',
    minutes: 12,
    ppm: -200,
    lose: single,
    lateMs: 15,
    rebase: true,
  },
  { name: 'without any fault', minutes: 4, ppm: 0, lose: () => false, lateMs: 5 },
]

describe('ink and voice over 12 minutes (an hour in the bench)', () => {
  it.each(FAULTS)(
    'stay within 40 ms with a device $name',
    async fault => {
      const found = await offsets(fault)
      expect(found.length).toBeGreaterThan(fault.minutes * 60 * 0.9)
      const worst = (from: number, to: number) =>
        Math.max(...found.filter(f => f.at >= from * 60_000 && f.at < to * 60_000).map(f => Math.abs(f.off)))
      // Start, middle and end; the first second is when the device is still starting.
      const m = fault.minutes
      for (const [from, to] of [
        [1 / 60, 1],
        [m / 2 - 0.5, m / 2 + 0.5],
        [m - 1, m],
      ] as const)
        expect(worst(from, to)).toBeLessThanOrEqual(40)
      expect(worst(1 / 60, m)).toBeLessThanOrEqual(40)
    },
    60_000,
  )
})
