import { AudioSampleSource, BufferTarget, Mp4OutputFormat, Output, Quality } from 'mediabunny'
import { Resampler } from '../../core/sound/resample'
import { SOUND_RATE } from '../../core/sound/place'
import { cancelled } from '../job'
import { OpenSounds, plannedSound } from '../plannedSound'
import { aac, noEncoder } from './codecs'
import { encoderDelay } from './encoderDelay'
import type { LessonSoundJob } from './job'
import { asSample, earlier } from './sound'
import { timeless } from './timeless'

/** Speech is as clear at half the rate and 32 kbit/s; AAC in MP4 is what every browser plays. */
const RATE = SOUND_RATE / 2
const BITRATE = 32_000

/** The sound of an edition as a replay plays it. @throws Trouble `no-encoder`, `cancelled` */
export async function lessonSound(job: LessonSoundJob, signal: AbortSignal): Promise<Blob> {
  if (!(await aac())) throw noEncoder('AAC sound', 'Publish from another browser.')
  const config = { codec: 'aac' as const, quality: new Quality({ bitrate: BITRATE }) }
  const target = new BufferTarget()
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'in-memory' }), target })
  const source = new AudioSampleSource(config)
  output.addAudioTrack(source)
  await output.start()
  const whole = halved(plannedSound(job.plan, new OpenSounds(job.sounds)))
  let at = 0
  for await (const block of earlier(whole, await encoderDelay('mp4', config, RATE))) {
    if (signal.aborted) throw cancelled()
    const sample = asSample(block, at, RATE)
    await source.add(sample)
    sample.close()
    at += block.length
  }
  await output.finalize()
  timeless(new Uint8Array(target.buffer!))
  return new Blob([target.buffer!], { type: 'audio/mp4' })
}

/** Half as many samples a second. */
async function* halved(sound: AsyncGenerator<Float32Array>): AsyncGenerator<Float32Array> {
  const resampler = new Resampler()
  for await (const block of sound) yield asFloats(resampler.push(asWhole(block), 0.5))
  yield asFloats(resampler.flush())
}

// Plain loops: a lesson has a hundred million samples.
function asWhole(block: Float32Array): Int16Array {
  const out = new Int16Array(block.length)
  for (let i = 0; i < block.length; i++) out[i] = Math.max(-1, Math.min(1, block[i]!)) * 32767
  return out
}
function asFloats(pcm: Int16Array): Float32Array {
  const out = new Float32Array(pcm.length)
  for (let i = 0; i < pcm.length; i++) out[i] = pcm[i]! / 32768
  return out
}
