import { VideoSample } from 'mediabunny'
import { editionOf } from '../core/edition'
import { createFile } from '../workers/opfs'
import { codecsFor, videoConfig } from '../workers/render/codecs'
import type { Container, RenderJob } from '../workers/render/job'
import { openPiece } from '../workers/render/piece'
import { renderVideo } from '../workers/render/video'
import { makeLesson } from './lesson'

/** Bench side in the browser: renders a made-up lesson, and encodes the same pictures with nothing around. */
const SIZE = { width: 1280, height: 720 }

async function jobOf(minutes: number, container: Container, n = 0): Promise<RenderJob> {
  const lesson = makeLesson(minutes)
  const paper = new OffscreenCanvas(SIZE.width, SIZE.height)
  const context = paper.getContext('2d')!
  context.fillStyle = '#ffffff'
  context.fillRect(0, 0, SIZE.width, SIZE.height)
  context.fillStyle = '#22242e'
  context.font = '34px serif'
  context.fillText('Solve the equation and check your answer. Show all working.', 60, 60)
  const picture = await paper.convertToBlob()
  const frame = { pageId: lesson.page.id, box: lesson.frame }
  const take = { durationMs: lesson.durationMs, frame, startedAt: '2026-11-27T10:00:00.000Z', gaps: [] }
  const source = { take, events: lesson.events, ledger: lesson.ledger, pages: [] }
  return {
    file: `bench-${n}.${container}`,
    container,
    size: SIZE,
    mode: 'on-change',
    title: 'Bench',
    author: '',
    parts: [
      {
        video: null,
        pieces: [
          {
            source,
            documents: [],
            views: [{ page: lesson.page, frame, picture }],
            sounds: { [lesson.ledger.takeId]: wav(lesson.durationMs) },
            tracks: {},
          },
        ],
      },
    ],
    chapters: editionOf(source).chapters(),
  }
}

/** Speech-like noise as a WAV file, so that sound is decoded and coded as in earnest. */
function wav(durationMs: number): Blob {
  const samples = Math.round(durationMs * 48)
  const bytes = new DataView(new ArrayBuffer(44 + samples * 2))
  const text = (at: number, s: string) => [...s].forEach((c, i) => bytes.setUint8(at + i, c.charCodeAt(0)))
  text(0, 'RIFF')
  bytes.setUint32(4, 36 + samples * 2, true)
  text(8, 'WAVEfmt ')
  bytes.setUint32(16, 16, true)
  bytes.setUint16(20, 1, true)
  bytes.setUint16(22, 1, true)
  bytes.setUint32(24, 48_000, true)
  bytes.setUint32(28, 96_000, true)
  bytes.setUint16(32, 2, true)
  bytes.setUint16(34, 16, true)
  text(36, 'data')
  bytes.setUint32(40, samples * 2, true)
  for (let i = 0; i < samples; i++)
    bytes.setInt16(44 + i * 2, Math.sin(i / 40) * 9000 * Math.abs(Math.sin(i / 15_000)), true)
  return new Blob([bytes.buffer], { type: 'audio/wav' })
}

/**
 * The pictures alone through the browser's encoder, from the canvas, drawn while it is at work on the one before: no
 * sound, no file.
 * @returns ms
 */
async function bare(job: RenderJob): Promise<number> {
  const canvas = new OffscreenCanvas(SIZE.width, SIZE.height)
  const drawer = await openPiece(job.parts[0]!.pieces[0]!, canvas)
  const frames = drawer.frames(
    job.mode,
    job.chapters.map(c => c.t),
  )
  const { video } = await codecsFor(job.container, SIZE)
  const { contentHint } = videoConfig(video, SIZE)
  const vp9 = video === 'vp9'
  const encoder = new VideoEncoder({
    output: () => {},
    error: e => {
      throw e
    },
  })
  encoder.configure({
    codec: vp9 ? 'vp09.00.31.08' : 'avc1.64001f',
    ...SIZE,
    latencyMode: 'quality',
    contentHint,
    ...(vp9 ? { bitrateMode: 'quantizer' as const } : { bitrate: 1_500_000, bitrateMode: 'variable' as const }),
  })
  const began = performance.now()
  for (const f of frames) {
    if (f.fresh) await drawer.draw(f.t)
    const sample = new VideoSample(canvas, { timestamp: f.t / 1000, duration: f.duration / 1000 })
    const frame = sample.toVideoFrame()
    encoder.encode(frame, { keyFrame: f.key, ...(vp9 ? { vp9: { quantizer: 30 } } : {}) })
    frame.close()
    sample.close()
    while (encoder.encodeQueueSize > 4) await new Promise(r => encoder.addEventListener('dequeue', r, { once: true }))
  }
  await encoder.flush()
  encoder.close()
  await drawer.close()
  return performance.now() - began
}

self.addEventListener(
  'message',
  async ({ data }: MessageEvent<{ kind: 'render' | 'bare'; minutes: number; container: Container; n?: number }>) => {
    try {
      const job = await jobOf(data.minutes, data.container, data.n)
      if (data.kind === 'bare') return self.postMessage({ tookMs: await bare(job) })
      const file = await createFile(job.file)
      const result = await renderVideo(job, file, () => {}, new AbortController().signal)
      await file.discard()
      self.postMessage(result)
    } catch (error) {
      self.postMessage({ error: String(error) })
    }
  },
)
