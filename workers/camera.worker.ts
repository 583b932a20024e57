import { z } from 'zod'

/**
 * Codes the camera's pictures while they are captured (VP8, which every browser that can code at all can code in real
 * time), and hands each on
 * with its capture time and the time it arrived, both in ms.
 */
const Message = z.union([
  z.object({
    start: z.object({ height: z.number().int().positive(), readable: z.instanceof(ReadableStream).optional() }),
  }),
  z.object({ frame: z.custom<VideoFrame>(v => v instanceof VideoFrame) }),
  z.object({ key: z.literal(true) }),
  z.object({ stop: z.literal(true) }),
])

/** Pictures a second, at most; and a picture that stands on its own at least this often, µs. */
const RATE = 24
const KEY_EVERY = 2_000_000
/** Pictures that wait for the coder before any is left out. */
const WAITING = 4
/** Brightness is measured on a picture so small. */
const SMALL = { width: 16, height: 9 }

let encoder: VideoEncoder | null = null
let canvas: OffscreenCanvas | null = null
let height = 360
let wantsKey = true
let last = { coded: Number.NEGATIVE_INFINITY, key: Number.NEGATIVE_INFINITY }
const arrivals = new Map<number, number>()
const small = new OffscreenCanvas(SMALL.width, SMALL.height)
const measure = small.getContext('2d', { willReadFrequently: true })!
let light = 255
let colours: VideoColorSpaceInit | undefined

function open(frame: VideoFrame): OffscreenCanvas {
  const scale = Math.min(1, height / frame.displayHeight)
  const even = (n: number) => Math.max(2, 2 * Math.round((n * scale) / 2))
  const size = { width: even(frame.displayWidth), height: even(frame.displayHeight) }
  encoder = new VideoEncoder({
    output(chunk, metadata) {
      // Told with the first picture only.
      colours = metadata?.decoderConfig?.colorSpace ?? colours
      const data = new Uint8Array(chunk.byteLength)
      chunk.copyTo(data)
      const arrived = arrivals.get(chunk.timestamp) ?? performance.timeOrigin + performance.now()
      arrivals.delete(chunk.timestamp)
      self.postMessage(
        { data, key: chunk.type === 'key', device: chunk.timestamp / 1000, arrived, light, colours },
        { transfer: [data.buffer] },
      )
    },
    error: error => self.postMessage({ failed: String(error) }),
  })
  encoder.configure({
    codec: 'vp8',
    ...size,
    bitrate: Math.round(size.width * size.height * 3.5),
    framerate: RATE,
    latencyMode: 'realtime',
  })
  self.postMessage({ size })
  return new OffscreenCanvas(size.width, size.height)
}

function take(frame: VideoFrame) {
  const arrived = performance.timeOrigin + performance.now()
  const { timestamp } = frame
  if (timestamp - last.coded < 1_000_000 / RATE - 8000 || (encoder && encoder.encodeQueueSize >= WAITING))
    return frame.close()
  canvas ??= open(frame)
  const context = canvas.getContext('2d', { alpha: false })!
  context.drawImage(frame, 0, 0, canvas.width, canvas.height)
  frame.close()
  measure.drawImage(canvas, 0, 0, SMALL.width, SMALL.height)
  const { data } = measure.getImageData(0, 0, SMALL.width, SMALL.height)
  light = data.reduce((sum, v, i) => (i % 4 === 3 ? sum : sum + v), 0) / (SMALL.width * SMALL.height * 3)
  const keyFrame = wantsKey || timestamp - last.key >= KEY_EVERY
  wantsKey = false
  last = { coded: timestamp, key: keyFrame ? timestamp : last.key }
  arrivals.set(timestamp, arrived)
  const scaled = new VideoFrame(canvas, { timestamp })
  encoder!.encode(scaled, { keyFrame })
  scaled.close()
}

self.addEventListener('message', async event => {
  const message = Message.safeParse(event.data)
  if (!message.success) return
  if ('frame' in message.data) return take(message.data.frame)
  if ('key' in message.data) {
    wantsKey = true
    return
  }
  if ('stop' in message.data) {
    await encoder?.flush().catch(() => {})
    return self.postMessage({ stopped: true })
  }
  height = message.data.start.height
  const reader = (message.data.start.readable as ReadableStream<VideoFrame> | undefined)?.getReader()
  while (reader) {
    const { done, value } = await reader.read()
    if (done) break
    take(value)
  }
})
