import { z } from 'zod'
import { ClockOffset, type CodedPicture } from '#core/recording'

/**
 * A coded picture with the machine time (`performance.now()`, ms) at which it was captured, and its mean brightness,
 * 0…255.
 */
export type PictureListener = (picture: CodedPicture & { light: number }, capturedAt: number) => void

const Colours = z.object({ fullRange: z.boolean(), matrix: z.string(), primaries: z.string(), transfer: z.string() })
const Size = z.object({ width: z.number(), height: z.number() })
const Said = z.union([
  z.object({ size: Size }),
  z.object({ stopped: z.literal(true) }),
  z.object({ failed: z.string() }),
  z.object({
    data: z.instanceof(Uint8Array),
    key: z.boolean(),
    device: z.number(),
    arrived: z.number(),
    light: z.number(),
    colours: Colours.optional(),
  }),
])

export interface PictureCapture {
  /** Size of the coded pictures, pixels; null until the first one came. */
  size(): z.infer<typeof Size> | null
  /** Asks for a picture that stands on its own. */
  askKey(): void
  /** Hands on what is still being coded, then stops. */
  stop(): Promise<void>
}

/** How long is waited for the last pictures, ms. */
const LAST_MS = 1500
type FrameSource = new (init: { track: MediaStreamTrack; maxBufferSize: number }) => { readable: ReadableStream }

/**
 * Codes the pictures of a stream in a worker.
 * @param height most height of the coded pictures, pixels;
 * @param failed is told when they cannot be coded
 */
export function capturePictures(
  stream: MediaStream,
  height: number,
  listen: PictureListener,
  failed: () => void,
): PictureCapture {
  const worker = new Worker(new URL('../../workers/camera.worker.ts', import.meta.url), { type: 'module' })
  const clock = new ClockOffset()
  let size: z.infer<typeof Size> | null = null
  let stopped = () => {}
  worker.addEventListener('message', event => {
    const said = Said.parse(event.data)
    if ('size' in said) size = said.size
    else if ('stopped' in said) stopped()
    else if ('failed' in said) failed()
    else listen(said, clock.place(said.device, said.arrived) - performance.timeOrigin)
  })
  worker.addEventListener('error', failed)
  const track = stream.getVideoTracks()[0]!
  const Processor = (globalThis as { MediaStreamTrackProcessor?: FrameSource }).MediaStreamTrackProcessor
  let stopReading = () => {}
  if (Processor) {
    const own = track.clone()
    const { readable } = new Processor({ track: own, maxBufferSize: 4 })
    worker.postMessage({ start: { height, readable } }, [readable])
    // A copy that goes on would keep the camera on.
    stopReading = () => own.stop()
  } else {
    worker.postMessage({ start: { height } })
    stopReading = readElement(stream, frame => worker.postMessage({ frame }, [frame]))
  }
  return {
    size: () => size,
    askKey: () => worker.postMessage({ key: true }),
    async stop() {
      stopReading()
      await new Promise<void>(done => {
        stopped = done
        setTimeout(done, LAST_MS)
        worker.postMessage({ stop: true })
      })
      worker.terminate()
    },
  }
}

/** Where the browser does not hand over captured pictures, they are taken from a playing element. @returns stops it */
function readElement(stream: MediaStream, give: (frame: VideoFrame) => void): () => void {
  const element = document.createElement('video')
  element.muted = true
  element.srcObject = stream
  let stopped = false
  const next = () =>
    element.requestVideoFrameCallback((_, { mediaTime }) => {
      if (stopped) return
      give(new VideoFrame(element, { timestamp: Math.round(mediaTime * 1e6) }))
      next()
    })
  next()
  void element.play()
  return () => {
    stopped = true
    element.srcObject = null
  }
}
