import { ALL_FORMATS, AudioSample, AudioSampleSink, AudioSampleSource, BlobSource, FlacOutputFormat, Input, Output, StreamTarget } from 'mediabunny'
import { registerFlacEncoder } from '@mediabunny/flac-encoder'
import { z } from 'zod'
import { Peaks } from '../core/sound/peaks'
import { SOUND_RATE, SoundPlacer } from '../core/sound/place'
import { wavHeader } from '../core/sound/wav'
import { serveJobs } from './job'
import { createFile, finishedFile, type OpenFile } from './opfs'

registerFlacEncoder()

const Chunk = z.object({ t0: z.number(), rate: z.number().positive(), pcm: z.instanceof(Int16Array) })
/** A file must hold something: a take without any length still gets a moment of silence. */
const Begin = z.object({ name: z.string(), durationMs: z.number().int().transform(ms => Math.max(20, ms)) })

const Wav = z.object({ durationMs: z.number(), chunks: z.array(Chunk) })
const Prefix = z.object({ sound: z.instanceof(Blob), until: z.number().nonnegative() })

interface Settling { file: OpenFile, name: string, output: Output, source: AudioSampleSource, placer: SoundPlacer, peaks: Peaks, samples: number }
let settling: Settling | null = null

/**
 * Turns the recorded pieces of a take into one sound file: placed on the take's clock, coded without loss (FLAC).
 * One take at a time: `begin`, `chunks` in order, `finish`.
 */
serveJobs(self, {
  async begin(value) {
    await settling?.file.discard()
    const { name, durationMs } = Begin.parse(value)
    const file = await createFile(name)
    const output = new Output({
      format: new FlacOutputFormat(),
      target: new StreamTarget(new WritableStream({ write: ({ data, position }) => file.write(data, position) })),
    })
    const source = new AudioSampleSource({ codec: 'flac', transform: { sampleFormat: 's16' } })
    output.addAudioTrack(source)
    await output.start()
    settling = { file, name, output, source, placer: new SoundPlacer(durationMs), peaks: new Peaks(SOUND_RATE), samples: 0 }
  },
  async chunks(value) {
    for (const chunk of z.array(Chunk).parse(value)) await add(settling!.placer.push(chunk))
  },
  /** Recorded pieces as a WAV file in memory, for when nothing can be written to disk. */
  wav(value) {
    const { durationMs, chunks } = Wav.parse(value)
    const placer = new SoundPlacer(durationMs)
    const pcm = [...chunks.flatMap(c => placer.push(c)), ...placer.finish()]
    return Promise.resolve(new Blob([wavHeader(pcm.reduce((sum, p) => sum + p.length, 0), SOUND_RATE), ...pcm as Int16Array<ArrayBuffer>[]], { type: 'audio/wav' }))
  },
  /** The first `until` ms of another take's sound. */
  async prefix(value) {
    const { sound, until } = Prefix.parse(value)
    const end = Math.round((until / 1000) * SOUND_RATE)
    for await (const { pcm, rate, at } of soundOf(sound)) {
      const start = Math.round(at * SOUND_RATE)
      if (start >= end) break
      await add(settling!.placer.push({ t0: at * 1000, rate, pcm: pcm.subarray(0, Math.max(0, Math.round(((end - start) * rate) / SOUND_RATE))) }))
    }
  },
  /** The drawn sound of a file that came from elsewhere. */
  async peaks(value) {
    let peaks: Peaks | undefined
    for await (const { pcm, rate } of soundOf(z.instanceof(Blob).parse(value))) {
      peaks ??= new Peaks(rate)
      peaks.push(pcm)
    }
    return peaks?.finish() ?? new Uint8Array()
  },
  async finish() {
    const s = settling!
    await add(s.placer.finish())
    await s.output.finalize()
    s.file.close()
    settling = null
    const file = await finishedFile(s.name)
    return { sound: new Blob([file], { type: 'audio/flac' }), peaks: s.peaks.finish(), gaps: s.placer.gaps, samples: s.samples }
  },
})

/** The samples of a sound file, a little at a time; `at` in seconds. */
async function* soundOf(file: Blob): AsyncGenerator<{ pcm: Int16Array, rate: number, at: number }> {
  const track = await new Input({ source: new BlobSource(file), formats: ALL_FORMATS }).getPrimaryAudioTrack()
  if (!track) return
  for await (const sample of new AudioSampleSink(track).samples()) {
    const pcm = new Int16Array(sample.numberOfFrames)
    sample.copyTo(pcm, { planeIndex: 0, format: 's16-planar' })
    const { sampleRate: rate, timestamp: at } = sample
    sample.close()
    yield { pcm, rate, at }
  }
}

async function add(blocks: Int16Array[]) {
  const s = settling!
  for (const pcm of blocks) {
    s.peaks.push(pcm)
    const sample = new AudioSample({ data: pcm as Int16Array<ArrayBuffer>, format: 's16', numberOfChannels: 1, sampleRate: SOUND_RATE, timestamp: s.samples / SOUND_RATE })
    await s.source.add(sample)
    sample.close()
    s.samples += pcm.length
  }
}
