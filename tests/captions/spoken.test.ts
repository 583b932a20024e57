import { describe, expect, it } from 'vitest'
import { timedToSpeech } from '../../core/captions/spoken'
import { spreadWords } from '../../core/captions/vtt'
import { seededRandom } from '../../core/ink'

describe('captions and what is heard', () => {
  const step = { from: 10_000, to: 30_000 }
  const words =
    'The balloon climbs. It climbs three hundred and eighteen metres a minute, for forty six minutes. Multiply.'

  it('come when their words are spoken, not in the silence before, between or after', () => {
    const spoken = [
      { from: 14_000, to: 16_000 },
      { from: 24_000, to: 27_000 },
    ]
    const cues = timedToSpeech(spreadWords(words, step.from, step.to), step, spoken)
    expect(cues[0]!.from).toBe(14_000)
    expect(cues.at(-1)!.to).toBeLessThanOrEqual(27_700)
    // None begins where nobody speaks.
    for (const cue of cues)
      expect(
        spoken.some(s => cue.from >= s.from && cue.from < s.to),
        `${cue.from}`,
      ).toBe(true)
    expect(cues.map(c => c.text)).toEqual(spreadWords(words, step.from, step.to).map(c => c.text))
  })
  it('end where a pause is heard near their end', () => {
    // Two sentences of one length: spread evenly the first would end at 15 s; she paused a little earlier.
    const cues = [
      { from: 10_000, to: 20_000, text: 'one' },
      { from: 20_000, to: 30_000, text: 'two' },
    ]
    const spoken = [
      { from: 10_000, to: 14_400 },
      { from: 16_000, to: 21_600 },
    ]
    expect(timedToSpeech(cues, step, spoken)).toEqual([
      { from: 10_000, to: 15_100, text: 'one' },
      { from: 16_000, to: 22_300, text: 'two' },
    ])
  })
  it('stay as they are where nothing is known of the sound, or nobody speaks', () => {
    const cues = spreadWords(words, step.from, step.to)
    expect(timedToSpeech(cues, step, [])).toEqual(cues)
    expect(timedToSpeech(cues, step, [{ from: 0, to: 9000 }])).toEqual(cues)
  })
  it('never overlap, never leave their step, and keep their order, whatever is heard (300 seeded steps)', () => {
    const random = seededRandom(2412)
    for (let n = 0; n < 300; n++) {
      const to = 1000 + Math.round(random() * 40_000)
      const spoken = []
      for (let t = random() * 2000; t < to * 1.2; t += 200 + random() * 3000) {
        const from = Math.round(t)
        t += 100 + random() * 4000
        spoken.push({ from, to: Math.round(t) })
      }
      const long = Array.from(
        { length: 1 + Math.floor(random() * 60) },
        (_, i) => `w${i}${random() < 0.2 ? '.' : ''}`,
      ).join(' ')
      const cues = timedToSpeech(spreadWords(long, 0, to), { from: 0, to }, spoken)
      for (const [i, cue] of cues.entries()) {
        expect(cue.from).toBeGreaterThanOrEqual(cues[i - 1]?.to ?? 0)
        expect(cue.to).toBeGreaterThan(cue.from)
        expect(cue.to).toBeLessThanOrEqual(to)
      }
    }
  })
})
