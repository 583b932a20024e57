import {
  BufferTarget,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  Output,
  VideoSample,
  VideoSampleSource,
  type EncodedPacket,
  type InputVideoTrack,
  type VideoCodec,
} from 'mediabunny'
import { PLANES_COLOUR, type Planes } from '../../core/video/planes'
import { cancelled } from '../job'
import { videoTrackOf } from '../tracks'
import { formatOf, videoConfig } from './codecs'
import type { RenderJob } from './job'
import { durationOf, openPiece } from './piece'

/** How many pictures were put into a video, and how many of them were drawn. */
export interface PictureCount {
  pictures: number
  drawn: number
}
/** Puts the pictures of a video in, one after another. Yields up to where the video has its pictures, ms. */
export type PictureWay = AsyncGenerator<number, void, unknown>

/**
 * The pictures of a video by the cheapest way there is: taken over from finished videos, else drawn and encoded.
 * @returns the track to be added to the output, and what fills it once the output has begun
 * @throws Trouble `cancelled`
 */
export async function picturesOf(
  job: RenderJob,
  codec: VideoCodec,
  canvas: OffscreenCanvas,
  count: PictureCount,
  signal: AbortSignal,
): Promise<{ track: VideoSampleSource | EncodedVideoPacketSource; fill: () => PictureWay }> {
  const tracks = await finishedTracks(job, codec, canvas, signal)
  if (tracks) {
    const track = new EncodedVideoPacketSource(codec)
    return { track, fill: () => takeOver(track, tracks, count) }
  }
  const track = new VideoSampleSource(videoConfig(codec, job.size))
  return { track, fill: () => encode(track, job, canvas, count) }
}

/** Draws and encodes pieces one after another. */
async function* encode(
  track: VideoSampleSource,
  job: RenderJob,
  canvas: OffscreenCanvas,
  count: PictureCount,
): PictureWay {
  let offset = 0
  let taken: Promise<void> = Promise.resolve()
  for (const piece of job.parts.flatMap(p => p.pieces)) {
    const drawer = await openPiece(piece, canvas)
    try {
      const keys = job.chapters.map(c => c.t - offset).filter(t => t >= 0 && t < drawer.duration)
      for (const frame of drawer.frames(job.mode, keys)) {
        if (frame.fresh) {
          await drawer.draw(frame.t)
          count.drawn++
        }
        const times = { timestamp: (offset + frame.t) / 1000, duration: frame.duration / 1000 }
        const sample = drawer.planes ? sampleOf(drawer.planes, times) : new VideoSample(canvas, times)
        // While the encoder has enough to do, the next picture is drawn and the sound is coded.
        await taken
        taken = track.add(sample, { keyFrame: frame.key }).finally(() => sample.close())
        // Where it fails before it is waited for, that is told when it is.
        taken.catch(() => {})
        count.pictures++
        yield offset + frame.t + frame.duration
      }
      await taken
    } finally {
      await drawer.close()
    }
    offset += drawer.duration
  }
}

/** A picture of planes as they are now. @param times s */
function sampleOf({ bytes, width, height }: Planes, times: { timestamp: number; duration: number }): VideoSample {
  const size = { format: 'I420', codedWidth: width, codedHeight: height } as const
  return new VideoSample(new VideoFrame(bytes, { ...size, timestamp: 0, colorSpace: PLANES_COLOUR }), times)
}

interface Finished {
  track: InputVideoTrack
  config: VideoDecoderConfig
  durationMs: number
}

/**
 * The tracks of a job's finished videos, with clips that have none encoded for it in memory.
 * @returns null where pictures have to be encoded: no videos, or such as one decoder would not take one after another
 */
async function finishedTracks(
  job: RenderJob,
  codec: VideoCodec,
  canvas: OffscreenCanvas,
  signal: AbortSignal,
): Promise<Finished[] | null> {
  if (!job.parts.some(p => p.video)) return null
  const found: Finished[] = []
  for (const part of job.parts) {
    const video = part.video ?? (await encodedAlone({ ...job, parts: [part], chapters: [] }, codec, canvas, signal))
    const track = await videoTrackOf(video)
    const config = await track?.getDecoderConfig()
    if (!track || !config || (await track.getCodec()) !== codec) return null
    found.push({ track, config, durationMs: part.pieces.reduce((sum, p) => sum + durationOf(p), 0) })
  }
  return found.every(f => sameConfig(f.config, found[0]!.config)) ? found : null
}

async function encodedAlone(
  job: RenderJob,
  codec: VideoCodec,
  canvas: OffscreenCanvas,
  signal: AbortSignal,
): Promise<Blob> {
  const target = new BufferTarget()
  const output = new Output({ format: formatOf(job.container), target })
  const track = new VideoSampleSource(videoConfig(codec, job.size))
  output.addVideoTrack(track)
  await output.start()
  for await (const _ of encode(track, job, canvas, { pictures: 0, drawn: 0 })) if (signal.aborted) throw cancelled()
  await output.finalize()
  return new Blob([target.buffer!])
}

/** Whether one decoder can go on from one to the other without being told anew. */
function sameConfig(a: VideoDecoderConfig, b: VideoDecoderConfig): boolean {
  const bytes = ({ description: d }: VideoDecoderConfig) =>
    d ? String(ArrayBuffer.isView(d) ? new Uint8Array(d.buffer, d.byteOffset, d.byteLength) : new Uint8Array(d)) : ''
  return (
    a.codec === b.codec && a.codedWidth === b.codedWidth && a.codedHeight === b.codedHeight && bytes(a) === bytes(b)
  )
}

/** Takes coded pictures over one after another; the last one of a video stays until the next video begins. */
async function* takeOver(into: EncodedVideoPacketSource, videos: readonly Finished[], count: PictureCount): PictureWay {
  let offset = 0
  for (const { track, config, durationMs } of videos) {
    const end = offset + durationMs
    let waiting: EncodedPacket | null = null
    const put = async (packet: EncodedPacket, until: number) => {
      await into.add(
        packet.clone({ duration: Math.max(0.001, until / 1000 - packet.timestamp) }),
        count.pictures ? undefined : { decoderConfig: config },
      )
      count.pictures++
    }
    for await (const packet of new EncodedPacketSink(track).packets()) {
      const next = packet.clone({ timestamp: packet.timestamp + offset / 1000 })
      if (waiting) {
        await put(waiting, next.timestamp * 1000)
        yield next.timestamp * 1000
      }
      waiting = next
    }
    if (waiting) await put(waiting, end)
    yield end
    offset = end
  }
}
