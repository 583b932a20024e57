import {
  BufferTarget,
  EncodedPacket,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  Output,
  StreamTarget,
  WebMOutputFormat,
  type Target,
} from 'mediabunny'
import { z } from 'zod'
import { checksum } from '../core/sound/checksum'
import { keyPictureSize, type Colours, type Picture } from '../core/recording/pictures'
import { serveJobs } from './job'
import { createFile, finishedFile, type OpenFile } from './opfs'
import { videoTrackOf } from './tracks'

const Begin = z.object({ name: z.string(), durationMs: z.number().nonnegative() })
const Prefix = z.object({ camera: z.instanceof(Blob), until: z.number().nonnegative() })
const Pictures = z.array(
  z.object({
    t: z.number().nonnegative(),
    key: z.boolean(),
    data: z.instanceof(Uint8Array),
    colours: z.custom<Colours>().optional(),
  }),
)

const InMemory = z.object({ durationMs: z.number().nonnegative(), pictures: Pictures })

interface Track {
  durationMs: number
  output: Output
  source: EncodedVideoPacketSource
  waiting: Picture | null
  size: { width: number; height: number } | null
  times: number[]
  sum: number
}
let settling: (Track & { file: OpenFile; name: string }) | null = null

async function openTrack(target: Target, durationMs: number): Promise<Track> {
  const output = new Output({ format: new WebMOutputFormat(), target })
  const source = new EncodedVideoPacketSource('vp8')
  output.addVideoTrack(source)
  await output.start()
  return { durationMs, output, source, waiting: null, size: null, times: [], sum: 0 }
}

/**
 * Puts the coded pictures of a camera into one WebM file. One take at a time: `begin`, `pictures` in order, `finish`,
 * which reads the file again.
 */
serveJobs(self, {
  async begin(value) {
    await settling?.file.discard()
    const { name, durationMs } = Begin.parse(value)
    const file = await createFile(name)
    const track = await openTrack(
      new StreamTarget(new WritableStream({ write: ({ data, position }) => file.write(data, position) })),
      durationMs,
    )
    settling = { ...track, file, name }
  },
  /** Recorded pictures as a file in memory, for when nothing can be written to disk. */
  async memory(value) {
    const { durationMs, pictures } = InMemory.parse(value)
    const target = new BufferTarget()
    const track = await openTrack(target, durationMs)
    for (const picture of pictures) await add(track, picture)
    await write(track, durationMs)
    await track.output.finalize()
    return new Blob([target.buffer!], { type: 'video/webm' })
  },
  async pictures(value) {
    for (const picture of Pictures.parse(value)) await add(settling!, picture)
  },
  /** The first `until` ms of another take's track. */
  async prefix(value) {
    const { camera, until } = Prefix.parse(value)
    const track = await videoTrackOf(camera)
    if (track) {
      const colours = (await track.getDecoderConfig())?.colorSpace as Colours | undefined
      for await (const p of new EncodedPacketSink(track).packets()) {
        if (p.timestamp * 1000 >= until) break
        await add(settling!, {
          t: p.timestamp * 1000,
          key: p.type === 'key',
          data: p.data,
          ...(colours ? { colours } : {}),
        })
      }
    }
  },
  async finish() {
    const s = settling!
    await write(s, s.durationMs)
    await s.output.finalize()
    s.file.close()
    settling = null
    const camera = new Blob([await finishedFile(s.name)], { type: 'video/webm' })
    return { camera, same: (await sumOf(camera)) === s.sum, size: s.size, times: s.times }
  },
})

async function add(s: Track, picture: Picture) {
  // What was captured while the take was being stopped is no part of it.
  if (picture.t >= s.durationMs) return
  s.size ??= keyPictureSize(picture.data)
  await write(s, picture.t)
  s.waiting = picture
}

/** Writes the picture that waits: it stays until the next one comes. */
async function write(s: Track, until: number) {
  const picture = s.waiting
  if (!picture) return
  const packet = new EncodedPacket(
    picture.data,
    picture.key ? 'key' : 'delta',
    picture.t / 1000,
    Math.max(0.001, (until - picture.t) / 1000),
  )
  const colorSpace = picture.colours as VideoColorSpaceInit | undefined
  await s.source.add(
    packet,
    s.times.length
      ? undefined
      : {
          decoderConfig: {
            codec: 'vp8',
            codedWidth: s.size!.width,
            codedHeight: s.size!.height,
            ...(colorSpace ? { colorSpace } : {}),
          },
        },
  )
  s.times.push(picture.t)
  s.sum = checksum(picture.data, s.sum)
  s.waiting = null
}

async function sumOf(camera: Blob): Promise<number> {
  const track = await videoTrackOf(camera)
  let sum = 0
  if (track) for await (const packet of new EncodedPacketSink(track).packets()) sum = checksum(packet.data, sum)
  return sum
}
