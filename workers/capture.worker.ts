import { z } from 'zod'

/**
 * Reads captured sound from a track and hands it on as mono 16-bit pieces with their capture time and the time they
 * arrived, both in ms; the two together let the take's clock be learnt. Losing a piece shows as a jump of its time.
 */
const Start = z.object({ readable: z.instanceof(ReadableStream) })

self.addEventListener('message', async event => {
  const start = Start.safeParse(event.data)
  if (!start.success) return
  const reader = (start.data.readable as ReadableStream<AudioData>).getReader()
  for (;;) {
    const { done, value } = await reader.read()
    if (done) break
    const arrived = performance.timeOrigin + performance.now()
    const plane = new Float32Array(value.numberOfFrames)
    value.copyTo(plane, { planeIndex: 0, format: 'f32-planar' })
    const pcm = Int16Array.from(plane, v => Math.round(Math.max(-1, Math.min(1, v)) * 32767))
    self.postMessage(
      { pcm, rate: value.sampleRate, device: value.timestamp / 1000, arrived },
      { transfer: [pcm.buffer] },
    )
    value.close()
  }
  self.postMessage({ ended: true })
})
