import { describe, expect, it } from 'vitest'
import { DROP_EVERY_MS, DROP_MS, spoiled } from '../../app/devices/faults'
import { hearingFindings, HearingTest, SoundWatch } from '../../core/sound'
import { sine } from '../support/make'

/** What the simulated microphones do wrong is what the check and the watch find. */
const RATE = 48_000
const voice = sine(300, RATE, 6 * RATE).map((s, i) => Math.round(s * 0.3 * (Math.floor(i / RATE / 0.4) % 2)))
function through(fault: Parameters<typeof spoiled>[0], seconds = 6) {
  const test = new HearingTest(),
    watch = new SoundWatch(0)
  for (let t = 0; t < seconds * 1000; t += 10) {
    const piece = voice.subarray(((t % 6000) * RATE) / 1000, ((t % 6000) * RATE) / 1000 + 480)
    const pcm = spoiled(fault, piece, t, RATE)
    if (!pcm) continue
    test.push(pcm, RATE)
    watch.push(pcm, RATE, t, t + 10)
  }
  return {
    findings: hearingFindings(test.result()).map(f => f.id),
    drops: watch.drops,
    warnings: watch.warnings(seconds * 1000).map(w => w.fault),
  }
}

describe('simulated faults', () => {
  it.each([
    [null, 'voice'],
    ['silent', 'silent'],
    ['clipping', 'clipping'],
    ['hum', 'hum'],
  ] as const)('%s is found before a take as %s', (fault, id) => {
    expect(through(fault).findings).toContain(id)
  })
  it('a muted one is told during a take, one that drops out each time', () => {
    expect(through('silent').warnings).toContain('mute')
    expect(through('drops', 9).drops).toEqual(
      [1, 2].map(n => ({ from: n * DROP_EVERY_MS - DROP_MS, to: n * DROP_EVERY_MS })),
    )
  })
})
