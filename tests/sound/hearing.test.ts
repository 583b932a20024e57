import { execFileSync, spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import { dropsMissed, falseAlarms, mix, watched } from '../../bench/watching'
import { deviceFinding, hearingFindings, HearingTest, levelOf, SoundWatch } from '../../core/sound'

/** Signals made by sox, levels measured by ffmpeg's volumedetect and astats: neither was written here. */
const RATE = 48_000
const lesson = join(import.meta.dirname, '../../demo/voice/still-to-climb.ogg')
let speech: Int16Array
const samples = (bytes: Buffer) =>
  new Int16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
const sox = (...effects: string[]) =>
  samples(
    execFileSync('sox', ['-n', '-r', String(RATE), '-c', '1', '-b', '16', '-t', 'raw', '-', ...effects], {
      maxBuffer: 1 << 28,
    }),
  )
const ffmpeg = (pcm: Int16Array, filter: string) =>
  spawnSync(
    'ffmpeg',
    ['-hide_banner', '-f', 's16le', '-ar', String(RATE), '-ac', '1', '-i', '-', '-af', filter, '-f', 'null', '-'],
    { input: Buffer.from(pcm.buffer), encoding: 'utf8', maxBuffer: 1 << 28 },
  ).stderr
function hear(pcm: Int16Array) {
  const test = new HearingTest()
  for (let i = 0; i < pcm.length; i += 480) test.push(pcm.subarray(i, i + 480), RATE)
  return test.result()
}

beforeAll(() => {
  speech = samples(
    execFileSync('ffmpeg', ['-v', 'error', '-i', lesson, '-ac', '1', '-ar', String(RATE), '-f', 's16le', '-'], {
      maxBuffer: 1 << 28,
    }),
  )
})

describe('levels', () => {
  it.each([
    ['sine', '440'],
    ['whitenoise', ''],
    ['pinknoise', ''],
  ])('of %s are those that volumedetect and astats measure', (kind, hz) => {
    const pcm = sox('synth', '3', kind, ...(hz ? [hz] : []), 'vol', '-14dB')
    const volume = ffmpeg(pcm, 'volumedetect'),
      stats = ffmpeg(pcm, 'astats=measure_perchannel=none')
    expect(levelOf(pcm)).toBeCloseTo(Number(/mean_volume: (-[\d.]+)/.exec(volume)![1]), 0)
    expect(Math.abs(levelOf(pcm) - Number(/RMS level dB: (-[\d.]+)/.exec(stats)![1]))).toBeLessThan(0.05)
    expect(Math.abs(hear(pcm).peak - Number(/Peak level dB: (-[\d.]+)/.exec(stats)![1]))).toBeLessThan(0.05)
  })
})

describe('the check of a microphone', () => {
  it('hears a voice in a quiet room', () => {
    const voice = mix(speech.subarray(0, 6 * RATE), sox('synth', '6', 'pinknoise', 'vol', '-62dB'))
    expect(hearingFindings(hear(voice))).toEqual([
      { id: 'voice', state: 'holds', says: 'The microphone is heard.', mend: '' },
    ])
  })
  it.each([50, 60] as const)('finds hum of %i Hz under a voice, and in silence', hz => {
    const hum = sox('synth', '6', 'sawtooth', String(hz), 'vol', '-38dB')
    expect(hear(mix(speech.subarray(0, 6 * RATE), hum)).hum?.hz).toBe(hz)
    expect(hear(hum).hum?.hz).toBe(hz)
  })
  it('takes no voice, noise or tone for hum', () => {
    for (let s = 0; s + 5 < speech.length / RATE; s += 15)
      expect(
        hear(mix(speech.subarray(s * RATE, (s + 5) * RATE), sox('synth', '5', 'pinknoise', 'vol', '-55dB'))).hum,
      ).toBeNull()
    expect(hear(sox('synth', '5', 'brownnoise', 'vol', '-50dB')).hum).toBeNull()
    expect(hear(sox('synth', '5', 'sine', '440', 'vol', '-20dB')).hum).toBeNull()
  })
  it('finds clipping where astats counts flat peaks, silence, a weak voice and a loud room', () => {
    const loud = sox('synth', '5', 'sine', '220', 'gain', '6')
    expect(Number(/Peak count: ([\d.]+)/.exec(ffmpeg(loud, 'astats=measure_perchannel=none'))![1])).toBeGreaterThan(
      1000,
    )
    expect(hearingFindings(hear(loud)).map(f => f.id)).toContain('clipping')
    expect(hearingFindings(hear(new Int16Array(5 * RATE)))[0]!.id).toBe('silent')
    expect(hearingFindings(hear(sox('synth', '5', 'pinknoise', 'vol', '-60dB'))).map(f => f.id)).toEqual(['quiet'])
    expect(hearingFindings(hear(sox('synth', '5', 'pinknoise', 'vol', '-24dB'))).map(f => f.id)).toContain('noise')
  })
})

describe('whether it is the right microphone', () => {
  it('is told from what the devices call themselves', () => {
    expect(deviceFinding('Desk microphone', true, true, [])).toBeNull()
    expect(deviceFinding('Desk microphone', true, true, ['Another microphone'])).toBeNull()
    expect(deviceFinding('Desk microphone', true, false, ['Another microphone'])).toMatchObject({
      state: 'warns',
      says: 'Desk microphone is listened to; Another microphone is connected, too.',
    })
    expect(deviceFinding('The microphone of last time', false, true, [])).toMatchObject({
      state: 'fails',
      says: 'The microphone of last time is not connected.',
    })
    expect(deviceFinding('Internal Microphone Array', true, true, ['Camera', 'Wireless headset'])).toMatchObject({
      state: 'warns',
      says: 'Wireless headset is connected, too.',
    })
    expect(deviceFinding('USB headset', true, true, ['Internal microphone'])).toBeNull()
    expect(deviceFinding('Monitor of Built-in Audio', true, true, [])).toMatchObject({ state: 'fails' })
    expect(deviceFinding('Desk microphone', true, false, ['Monitor of Built-in Audio'])).toBeNull()
  })
})

describe('watching a running take', () => {
  it.each([false, true])(
    'tells every drop-out of 200 ms and more within 2 s (as zeros: %s; 100 of each in the bench)',
    zeros => {
      expect(dropsMissed(speech, 12, zeros)).toBe(0)
    },
  )
  it('gives no false alarm in three minutes of speech from a busy machine (an hour in the bench)', () => {
    expect(falseAlarms(speech, 3)).toBe(0)
  })
  it('tells of a device that is gone, of mute, of clipping, and of writing on without a word', () => {
    const voice = speech.subarray(0, 8 * RATE)
    expect(watched(voice, { gaps: [[3000, 8000]] }).told).toEqual([{ fault: 'lost', at: 4250 }])
    expect(watched(sox('synth', '4', 'sine', '220', 'gain', '9'), {}).told.map(w => w.fault)).toEqual(['clipping'])
    const quiet = new Int16Array(40 * RATE)
    expect(levelOf(speech)).toBeGreaterThan(-35)
    expect(watched(quiet, { wrote: Array.from({ length: 38 }, (_, i) => i * 1000) }).told.map(w => w.fault)).toContain(
      'no-voice',
    )
    expect(watched(quiet, {}).told).toEqual([])
    // A microphone with a gate is silent between words, and that is no fault.
    const gated = speech.map(s => s),
      watch = new SoundWatch(0)
    for (let i = 0; i + 480 <= gated.length; i += 480) {
      const piece = gated.subarray(i, i + 480)
      watch.push(levelOf(piece) < -40 ? new Int16Array(480) : piece, RATE, i / 48, i / 48 + 10)
      expect(watch.warnings(i / 48 + 10)).toEqual([])
    }
    const muted = new SoundWatch(0)
    for (let t = 0; t < 3000; t += 10) muted.push(new Int16Array(480), RATE, t, t + 10)
    expect(muted.warnings(3000).map(w => w.fault)).toEqual(['mute'])
  })
  it('takes no pause of the take for a loss', () => {
    const watch = new SoundWatch(0)
    watch.push(speech.subarray(0, 480), RATE, 0, 10)
    watch.goOn(60_000)
    watch.push(speech.subarray(480, 960), RATE, 60_000, 60_010)
    expect([watch.drops, watch.warnings(60_020)]).toEqual([[], []])
  })
})
