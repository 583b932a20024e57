import {
  AudioSampleSink,
  AudioSampleSource,
  BlobSource,
  BufferTarget,
  ALL_FORMATS,
  Input,
  Output,
  type AudioEncodingConfig,
} from 'mediabunny'
import { seededRandom } from '../../core/ink/hand'
import { SOUND_RATE } from '../../core/sound/place'
import { formatOf } from './codecs'
import type { Container } from './job'
import { asSample } from './sound'

/** A coder of AAC begins so many samples late where it cannot be tried out: one frame (ISO/IEC 14496-3, 4.5.1.1). */
const AAC_FRAME = 1024
const LENGTH = 24_000
/** Where the burst is that it is known by, samples. */
const BURST = { from: 12_000, to: 15_000 }
const MOST_DELAY = 4096

const known = new Map<string, Promise<number>>()

/**
 * How many samples later a coded sound begins than it was given, as this browser codes it and files tell: found by
 * coding a burst and reading it again. @param rate samples a second. The containers have no place for it that all players read.
 */
export function encoderDelay(
  container: Container,
  config: AudioEncodingConfig,
  rate: number = SOUND_RATE,
): Promise<number> {
  const key = `${config.codec} ${rate}`
  const delay = known.get(key) ?? tried(container, config, rate).catch(() => (config.codec === 'aac' ? AAC_FRAME : 0))
  known.set(key, delay)
  return delay
}

async function tried(container: Container, config: AudioEncodingConfig, rate: number): Promise<number> {
  const random = seededRandom(48)
  const burst = Float32Array.from({ length: LENGTH }, (_, i) =>
    i >= BURST.from && i < BURST.to ? (random() - 0.5) * 0.8 : 0,
  )
  const target = new BufferTarget()
  const output = new Output({ format: formatOf(container), target })
  const source = new AudioSampleSource(config)
  output.addAudioTrack(source)
  await output.start()
  const sample = asSample(burst, 0, rate)
  await source.add(sample)
  sample.close()
  await output.finalize()
  const input = new Input({ source: new BlobSource(new Blob([target.buffer!])), formats: ALL_FORMATS })
  const track = await input.getPrimaryAudioTrack()
  const heard = new Float32Array(LENGTH + 2 * MOST_DELAY)
  for await (const part of new AudioSampleSink(track!).samples()) {
    const plane = new Float32Array(part.numberOfFrames)
    part.copyTo(plane, { planeIndex: 0, format: 'f32-planar' })
    const at = Math.round(part.timestamp * rate)
    plane.forEach((x, i) => {
      if (at + i >= 0 && at + i < heard.length) heard[at + i] = x
    })
    part.close()
  }
  let best = { delay: 0, score: 0 }
  for (let delay = -64; delay <= MOST_DELAY; delay++) {
    let score = 0
    for (let i = BURST.from; i < BURST.to; i += 2) score += burst[i]! * heard[i + delay]!
    if (score > best.score) best = { delay, score }
  }
  return Math.max(0, best.delay)
}
