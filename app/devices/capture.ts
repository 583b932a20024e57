// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- no module can declare the worklet's globals
/// <reference path="./worklet.d.ts" />
import { ClockOffset } from '#core/recording'
import workletUrl from './capture.worklet?worker&url'

/** Mono samples with the machine time (`performance.now()`, ms) at which the first of them was heard. */
export type SoundListener = (pcm: Int16Array, rate: number, capturedAt: number) => void

/** Captured buffers that may wait for a busy machine before any is lost: about two seconds. */
const WAITING_BUFFERS = 200

/**
 * Mono samples as a device gives them: its own time of the first one, and when they arrived by the machine's clock
 * (since the epoch), ms.
 */
export interface Piece {
  pcm: Int16Array
  rate: number
  device: number
  arrived: number
}

/** Lays pieces of a device on the machine's clock, and hands them on. */
export function placing(listen: SoundListener): (piece: Piece) => void {
  const clock = new ClockOffset()
  return piece => {
    const end = piece.device + (piece.pcm.length / piece.rate) * 1000
    const offset = clock.place(end, piece.arrived) - end
    listen(piece.pcm, piece.rate, piece.device + offset - performance.timeOrigin)
  }
}

/**
 * Listens to the sound of a stream. Where the browser hands over captured pieces with their own times, a worker reads
 * them; elsewhere an audio worklet counts, with the clock's course learnt from when pieces arrive.
 * @returns stops listening
 */
export async function captureSound(stream: MediaStream, listen: SoundListener): Promise<() => void> {
  const track = stream.getAudioTracks()[0]
  if (!track) return () => {}
  const place = placing(listen)
  const Processor = (
    globalThis as {
      MediaStreamTrackProcessor?: new (init: { track: MediaStreamTrack; maxBufferSize: number }) => {
        readable: ReadableStream
      }
    }
  ).MediaStreamTrackProcessor
  return Processor
    ? readInWorker(new Processor({ track, maxBufferSize: WAITING_BUFFERS }).readable, place)
    : readInWorklet(stream, place)
}

function readInWorker(readable: ReadableStream, place: (piece: Piece) => void): () => void {
  const worker = new Worker(new URL('../../workers/capture.worker.ts', import.meta.url), { type: 'module' })
  worker.addEventListener('message', (event: MessageEvent<Piece | { ended: true }>) => {
    if ('pcm' in event.data) place(event.data)
  })
  worker.postMessage({ readable }, [readable])
  return () => worker.terminate()
}

async function readInWorklet(stream: MediaStream, place: (piece: Piece) => void): Promise<() => void> {
  const context = new AudioContext()
  await context.resume()
  await context.audioWorklet.addModule(workletUrl)
  const source = context.createMediaStreamSource(stream)
  const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 })
  node.port.onmessage = ({ data }: MessageEvent<{ pcm: Int16Array; frame: number }>) =>
    place({
      pcm: data.pcm,
      rate: context.sampleRate,
      device: (data.frame / context.sampleRate) * 1000,
      arrived: performance.timeOrigin + performance.now(),
    })
  source.connect(node)
  return () => {
    source.disconnect()
    node.port.close()
    void context.close()
  }
}
