import { AudioSampleSink, type AudioSample } from 'mediabunny'
import type { SoundPiece } from '../core/edition/edition'
import { SOUND_RATE } from '../core/sound/place'
import { audioTrackOf, fromMiddle } from './tracks'

/** Sound goes out in blocks of this many samples, about a third of a second. */
const BLOCK = 16_384
/** Length of the fade on both sides of a cut, samples (4 ms), so that it does not click. */
const FADE = Math.round(SOUND_RATE * 0.004)

/** So much before what is wanted a decoder begins, s: some need it to get going (Opus: RFC 7845, 4.6). */
const PRE_ROLL = 0.1

/** A sound that can be read from any moment. */
export interface ReadSound {
  /** Samples from one moment to another, s, and maybe some around them. */
  samples(from: number, to: number): AsyncGenerator<AudioSample>
}

/** The sounds of takes, opened, by the takes' ids. */
export class OpenSounds {
  private readonly sinks = new Map<string, Promise<ReadSound | null>>()
  constructor(private readonly sounds: Readonly<Record<string, Blob>>) {}

  of(take: string): Promise<ReadSound | null> {
    const known = this.sinks.get(take)
    if (known) return known
    const sound = this.sounds[take]
    const opened = sound ? openSound(sound) : Promise.resolve(null)
    this.sinks.set(take, opened)
    return opened
  }
}

/**
 * A stretch of a sound plan as mono blocks at 48 kHz, one after another, exactly as long; silence where there is none.
 * Samples are placed by their timestamps. Only a little of the sound is in memory at any time.
 * @param from where it begins, lesson ms; @param to where it ends, the end of the plan when left out
 */
export async function* plannedSound(
  plan: readonly SoundPiece[],
  sounds: OpenSounds,
  from = 0,
  to = Infinity,
): AsyncGenerator<Float32Array> {
  const first = samplesAt(from)
  let made = first
  for (const [i, piece] of plan.entries()) {
    const begins = samplesAt(piece.at)
    const ends = samplesAt(Math.min(to, piece.at + piece.ms))
    if (ends <= made) continue
    if (begins >= samplesAt(Math.min(to, 1e12))) break
    const sink = piece.from === null ? null : await sounds.of(piece.take)
    // Where the piece begins in its take, and the part of it that is asked for.
    const source = samplesAt(piece.from ?? 0) - begins
    const total = samplesAt(piece.at + piece.ms) - begins
    for await (const block of stretchSound(sink, source + made, source + ends)) {
      fade(block.pcm, block.at - source - begins, total, i > 0, i < plan.length - 1)
      made += block.pcm.length
      yield block.pcm
    }
  }
}

/** The sound of a clip: all of it, exactly so long. @param duration ms */
export async function* clipSound(duration: number, sound: Blob | null): AsyncGenerator<Float32Array> {
  const total = samplesAt(duration)
  for await (const block of stretchSound(sound && (await openSound(sound)), 0, total)) {
    fade(block.pcm, block.at, total, true, true)
    yield block.pcm
  }
}

const samplesAt = (ms: number) => Math.round((ms / 1000) * SOUND_RATE)

async function openSound(sound: Blob): Promise<ReadSound | null> {
  const track = await audioTrackOf(sound)
  if (!track) return null
  const whole = new AudioSampleSink(track)
  const middle = new AudioSampleSink(fromMiddle(track))
  return {
    samples: (from, to) => (from < 2 * PRE_ROLL ? whole.samples(0, to) : middle.samples(from - PRE_ROLL, to)),
  }
}

/** Samples [from, end) of a take, in blocks. */
async function* stretchSound(sink: ReadSound | null, from: number, end: number) {
  let at = from
  let block = new Float32Array(Math.min(BLOCK, end - at))
  const ready = () => {
    const out = { at, pcm: block }
    at += block.length
    block = new Float32Array(Math.min(BLOCK, end - at))
    return out
  }
  if (sink) {
    for await (const sample of sink.samples(from / SOUND_RATE, end / SOUND_RATE)) {
      const pcm = monoAt48k(sample)
      const start = Math.round(sample.timestamp * SOUND_RATE)
      sample.close()
      for (let i = Math.max(0, at - start); i < pcm.length && start + i < end; ) {
        while (start + i >= at + block.length && at < end) yield ready()
        const into = start + i - at
        const n = Math.min(pcm.length - i, block.length - into)
        if (n <= 0) break
        block.set(pcm.subarray(i, i + n), into)
        i += n
      }
    }
  }
  while (at < end) yield ready()
}

/** One channel at 48 kHz; linear where an outside file has another rate. */
function monoAt48k(sample: AudioSample): Float32Array {
  const plane = new Float32Array(sample.numberOfFrames)
  sample.copyTo(plane, { planeIndex: 0, format: 'f32-planar' })
  if (sample.sampleRate === SOUND_RATE) return plane
  const step = sample.sampleRate / SOUND_RATE
  return Float32Array.from({ length: Math.round(plane.length / step) }, (_, i) => {
    const at = i * step
    const k = Math.floor(at)
    const a = plane[Math.min(k, plane.length - 1)]!
    return a + (plane[Math.min(k + 1, plane.length - 1)]! - a) * (at - k)
  })
}

function fade(pcm: Float32Array, at: number, total: number, fadeIn: boolean, fadeOut: boolean) {
  for (let i = 0; i < pcm.length; i++) {
    const n = at + i
    if (fadeIn && n < FADE) pcm[i]! *= n / FADE
    if (fadeOut && total - n < FADE) pcm[i]! *= (total - n) / FADE
  }
}
