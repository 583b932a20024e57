import {
  AudioSample,
  AudioSampleSink,
  AudioSampleSource,
  BufferTarget,
  FlacOutputFormat,
  Output,
  StreamTarget,
  WavOutputFormat,
} from 'mediabunny'
import { registerFlacEncoder } from '@mediabunny/flac-encoder'
import { z } from 'zod'
import { SoundSeal } from '../core/sound/checksum'
import { Peaks } from '../core/sound/peaks'
import { SOUND_RATE, SoundPlacer } from '../core/sound/place'
import { serveJobs } from './job'
import { audioTrackOf } from './tracks'
import { createFile, finishedFile, type OpenFile } from './opfs'

registerFlacEncoder()

const Chunk = z.object({ t0: z.number(), rate: z.number().positive(), pcm: z.instanceof(Int16Array) })
/** A file must hold something: a take without any length still gets a moment of silence. */
const Begin = z.object({
  name: z.string(),
  coded: z.boolean(),
  durationMs: z
    .number()
    .int()
    .transform(ms => Math.max(20, ms)),
})

const Wav = z.object({ durationMs: z.number(), chunks: z.array(Chunk) })
/** The sound of a take that came in a file, and how long the take is. */
const FromFile = z.object({ sound: z.instanceof(Blob), durationMs: z.number() })
/** Recordings end a little after their take at most, ms. */
const LONGER_MS = 5000
const Prefix = z.object({ sound: z.instanceof(Blob), until: z.number().nonnegative() })

/**
 * How long reading a file again may take: at least so long, and so much more for each second of sound, ms. It takes
 * about 2 ms a second here.
 */
const LEAST_READING_MS = 10_000
const READING_MS_A_SECOND = 100

interface Settling {
  file: OpenFile
  name: string
  output: Output
  source: AudioSampleSource
  placer: SoundPlacer
  peaks: Peaks
  seal: SoundSeal
  samples: number
}
let settling: Settling | null = null

/**
 * Turns the recorded pieces of a take into one sound file: placed on the take's clock, `coded` without loss (FLAC) or
 * as bare samples (WAV).
 * One take at a time: `begin`, `chunks` in order, `finish`, which reads the file again and tells whether it holds the
 * `same` samples.
 */
serveJobs(self, {
  async begin(value) {
    await settling?.file.discard()
    const { name, coded, durationMs } = Begin.parse(value)
    const file = await createFile(name)
    const output = new Output({
      format: coded ? new FlacOutputFormat() : new WavOutputFormat(),
      target: new StreamTarget(new WritableStream({ write: ({ data, position }) => file.write(data, position) })),
    })
    const source = new AudioSampleSource({ codec: coded ? 'flac' : 'pcm-s16', transform: { sampleFormat: 's16' } })
    output.addAudioTrack(source)
    await output.start()
    settling = {
      file,
      name,
      output,
      source,
      placer: new SoundPlacer(durationMs),
      peaks: new Peaks(SOUND_RATE),
      seal: new SoundSeal(),
      samples: 0,
    }
  },
  async chunks(value) {
    for (const chunk of z.array(Chunk).parse(value)) await add(settling!.placer.push(chunk))
  },
  /** Recorded pieces as a WAV file in memory, for when nothing can be written to disk. */
  async wav(value) {
    const { durationMs, chunks } = Wav.parse(value)
    const placer = new SoundPlacer(durationMs),
      target = new BufferTarget()
    const output = new Output({ format: new WavOutputFormat(), target })
    const source = new AudioSampleSource({ codec: 'pcm-s16', transform: { sampleFormat: 's16' } })
    output.addAudioTrack(source)
    await output.start()
    let samples = 0
    for (const pcm of [...chunks.flatMap(c => placer.push(c)), ...placer.finish()])
      samples += await hand(source, pcm, samples)
    await output.finalize()
    return new Blob([target.buffer!], { type: 'audio/wav' })
  },
  /** The first `until` ms of another take's sound. */
  async prefix(value) {
    const { sound, until } = Prefix.parse(value)
    const end = Math.round((until / 1000) * SOUND_RATE)
    for await (const { pcm, rate, at } of soundOf(sound)) {
      const start = Math.round(at * SOUND_RATE)
      if (start >= end) break
      await add(
        settling!.placer.push({
          t0: at * 1000,
          rate,
          pcm: pcm.subarray(0, Math.max(0, Math.round(((end - start) * rate) / SOUND_RATE))),
        }),
      )
    }
  },
  /** The drawn sound of a file that came from elsewhere. */
  async peaks(value, { progress, signal }) {
    const { sound, durationMs } = FromFile.parse(value)
    let peaks: Peaks | undefined
    let told = 0
    for await (const { pcm, rate, at } of soundOf(sound)) {
      signal.throwIfAborted()
      // Sound that goes on after its take has ended was not recorded with it.
      if (at * 1000 > durationMs + LONGER_MS) throw new Error('it is longer than its take')
      peaks ??= new Peaks(rate)
      peaks.push(pcm)
      if (at * 1000 - told > 5000) progress((told = at * 1000))
    }
    if (!peaks) throw new Error('there is no sound in it')
    return peaks.finish()
  },
  async finish() {
    const s = settling!
    await add(s.placer.finish())
    await s.output.finalize()
    s.file.close()
    settling = null
    const sound = new Blob([await finishedFile(s.name)], { type: await s.output.getMimeType() })
    const limit = LEAST_READING_MS + (s.samples / SOUND_RATE) * READING_MS_A_SECOND
    // A decoder that does not answer has not read it.
    const same = await Promise.race([
      holds(sound, s.seal),
      new Promise<boolean>(r => setTimeout(() => r(false), limit)),
    ])
    return { sound, same, peaks: s.peaks.finish(), gaps: s.placer.gaps, samples: s.samples }
  },
})

/** Whether a sound file, read again, holds what was put in. */
async function holds(sound: Blob, seal: SoundSeal): Promise<boolean> {
  const read = new SoundSeal()
  try {
    for await (const { pcm } of soundOf(sound)) read.push(pcm)
  } catch {
    return false
  }
  return seal.sameAs(read)
}

/** The samples of a sound file, a little at a time; `at` in seconds. */
async function* soundOf(file: Blob): AsyncGenerator<{ pcm: Int16Array; rate: number; at: number }> {
  const track = await audioTrackOf(file)
  if (!track) return
  for await (const sample of new AudioSampleSink(track).samples()) {
    const wide = new Int32Array(sample.numberOfFrames)
    sample.copyTo(wide, { planeIndex: 0, format: 's32-planar' })
    // Browsers hand out 32 bits that lie a little under the 16 that were coded; the library's own way to 16 would round
    // them down.
    const pcm = Int16Array.from(wide, v => Math.max(-0x8000, Math.min(0x7fff, Math.round(v / 0x1_0000))))
    const { sampleRate: rate, timestamp: at } = sample
    sample.close()
    yield { pcm, rate, at }
  }
}

async function add(blocks: Int16Array[]) {
  const s = settling!
  for (const pcm of blocks) {
    s.peaks.push(pcm)
    s.seal.push(pcm)
    s.samples += await hand(s.source, pcm, s.samples)
  }
}

/** Hands samples on. @param at how many came before @returns how many these are */
async function hand(source: AudioSampleSource, pcm: Int16Array, at: number): Promise<number> {
  const sample = new AudioSample({
    data: pcm as Int16Array<ArrayBuffer>,
    format: 's16',
    numberOfChannels: 1,
    sampleRate: SOUND_RATE,
    timestamp: at / SOUND_RATE,
  })
  await source.add(sample)
  sample.close()
  return pcm.length
}
