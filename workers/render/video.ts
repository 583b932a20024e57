import { AudioSampleSource, Output, Quality, StreamTarget, type MetadataTags } from 'mediabunny'
import { chplBody, matroskaChapters, promoteChapters } from '../../core/video/chapterBoxes'
import { SOUND_RATE } from '../../core/sound/place'
import { cancelled } from '../job'
import type { OpenFile } from '../opfs'
import { codecsFor, formatOf } from './codecs'
import { encoderDelay } from './encoderDelay'
import type { RenderJob, RenderProgress, RenderResult } from './job'
import { durationOf } from './piece'
import { picturesOf } from './pictures'
import { asSample, earlier, soundOf } from './sound'

/** How far sound may be ahead of the pictures, ms. */
const SOUND_AHEAD_MS = 1000

/**
 * Makes one video: draws, encodes and writes it piece by piece into `file`, chapters inside.
 * Only pictures that differ are drawn; see `frameTimes` for when one is encoded. Pictures of finished videos are taken
 * over; sound is coded
 * from its source in any case, so that it runs on without a seam.
 * @throws Trouble `cancelled`, `storage-full`, `no-encoder`
 */
export async function renderVideo(
  job: RenderJob,
  file: OpenFile,
  progress: (p: RenderProgress) => void,
  signal: AbortSignal,
): Promise<RenderResult> {
  const began = performance.now()
  const codecs = await codecsFor(job.container, job.size)
  const pieces = job.parts.flatMap(p => p.pieces)
  const total = pieces.reduce((sum, p) => sum + durationOf(p), 0)
  const chapterBytes = job.container === 'webm' ? matroskaChapters(job.chapters, total) : chplBody(job.chapters)
  const output = new Output({
    format: formatOf(job.container),
    target: new StreamTarget(new WritableStream({ write: ({ data, position }) => file.write(data, position) }), {
      chunked: true,
      chunkSize: 1 << 20,
    }),
  })
  const count = { pictures: 0, drawn: 0 }
  const pictures = await picturesOf(
    job,
    codecs.video,
    new OffscreenCanvas(job.size.width, job.size.height),
    count,
    signal,
  )
  const audioConfig = { codec: codecs.audio, quality: new Quality({ bitrate: 80_000 }) }
  const audio = new AudioSampleSource(audioConfig)
  output.addVideoTrack(pictures.track)
  output.addAudioTrack(audio)
  output.setMetadataTags(tagsOf(job, chapterBytes))
  await output.start()

  const sound = earlier(soundOf(pieces), await encoderDelay(job.container, audioConfig))
  let coded = Promise.resolve(0)
  let asked = 0
  let told = began
  // Sound is coded while pictures are; whichever is behind is waited for, and only one block at a time is asked for.
  const codeUpTo = (ms: number) => {
    coded = coded.then(samples => soundUpTo(sound, audio, samples, ms))
    // Where it fails before it is waited for, that is told when it is.
    coded.catch(() => {})
  }
  try {
    for await (const done of pictures.fill()) {
      if (signal.aborted) throw cancelled()
      if (done > asked) {
        await coded
        codeUpTo((asked = done + SOUND_AHEAD_MS))
      }
      tell(done)
    }
    codeUpTo(Number.POSITIVE_INFINITY)
    await coded
    await output.finalize()
  } catch (error) {
    await coded.catch(() => {})
    await output.cancel().catch(() => {})
    throw error
  }
  if (job.container === 'webm') liftChapters(file, chapterBytes.length)
  return {
    file: job.file,
    bytes: file.size(),
    durationMs: total,
    pictures: count.pictures,
    drawn: count.drawn,
    tookMs: performance.now() - began,
    codecs: `${codecs.video}+${codecs.audio}`,
  }

  function tell(done: number) {
    const now = performance.now()
    if (now - told < 200) return
    told = now
    const spent = now - began
    progress({ done, total, leftMs: spent > 1000 && done > 0 ? (spent / done) * (total - done) : null })
  }
}

async function soundUpTo(
  sound: AsyncGenerator<Float32Array>,
  audio: AudioSampleSource,
  from: number,
  untilMs: number,
): Promise<number> {
  let at = from
  while ((at / SOUND_RATE) * 1000 < untilMs) {
    const next = await sound.next()
    if (next.done) break
    const sample = asSample(next.value, at)
    await audio.add(sample)
    sample.close()
    at += next.value.length
  }
  return at
}

function tagsOf(job: RenderJob, chapterBytes: Uint8Array): MetadataTags {
  const bytes = chapterBytes as Uint8Array<ArrayBuffer>
  const tags: MetadataTags = { title: job.title, ...(job.author ? { artist: job.author } : {}) }
  if (job.chapters.length) tags.raw = job.container === 'mp4' ? { chpl: bytes } : { CHAPTERS: bytes }
  return tags
}

function liftChapters(file: OpenFile, length: number) {
  const head = new Uint8Array(Math.min(file.size(), length + 65_536))
  file.read(head, 0)
  if (promoteChapters(head, length)) file.write(head, 0)
}
