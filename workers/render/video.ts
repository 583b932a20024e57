import { AudioSampleSource, Mp4OutputFormat, Output, Quality, StreamTarget, VideoSample, VideoSampleSource, WebMOutputFormat, type MetadataTags } from 'mediabunny'
import { Cut } from '../../core/cut/cut'
import type { Box, Frame } from '../../core/folio/model'
import { struckOf } from '../../core/cut/ledger'
import { chplBody, matroskaChapters, promoteChapters } from '../../core/publish/chapterBoxes'
import { frameTimes } from '../../core/publish/frames'
import { OutlineCache, sceneOf } from '../../core/scene/scene'
import { turnCard } from '../../core/scene/turnCard'
import { ScenePainter, type Context2D, type PagePicture } from '../../core/scene/canvas'
import { SOUND_RATE } from '../../core/sound/place'
import { BoardIndex } from '../../core/take/board'
import { cancelled } from '../job'
import type { OpenFile } from '../opfs'
import { codecsFor, videoConfig } from './codecs'
import type { RenderJob, RenderPiece, RenderProgress, RenderResult } from './job'
import { asSample, cutSound } from './sound'

const sameFrame = (a: Frame, b: Frame | undefined) => JSON.stringify(a) === JSON.stringify(b)

/** A question's cut, ready to be drawn at any moment. */
export class PieceDrawer {
  readonly cut: Cut
  readonly board: BoardIndex
  private readonly cache = new OutlineCache()
  private readonly painter: ScenePainter

  private constructor(private readonly piece: RenderPiece, canvas: OffscreenCanvas, private readonly pictures: PagePicture[], private readonly documents: ReadonlyMap<string, PagePicture>) {
    this.cut = new Cut(piece.ledger, piece.takeDuration)
    this.board = new BoardIndex(piece.events, struckOf(piece.ledger, piece.takeDuration), piece.views[0]!.frame)
    const context = canvas.getContext('2d', { alpha: false })!
    context.imageSmoothingQuality = 'high'
    this.painter = new ScenePainter(context as Context2D, canvas)
    this.painter.reset()
  }

  static async open(piece: RenderPiece, canvas: OffscreenCanvas): Promise<PieceDrawer & { close(): void }> {
    const bitmaps = await Promise.all(piece.views.map(v => createImageBitmap(v.picture)))
    const pictureOf = (bitmap: ImageBitmap, box: Box): PagePicture => ({ box, draw: (context, b) => (context as unknown as OffscreenCanvasRenderingContext2D).drawImage(bitmap, b.x, b.y, b.w, b.h) })
    const placed = await Promise.all(piece.documents.map(async d => ({ id: d.id, bitmap: await createImageBitmap(d.picture, { imageOrientation: 'from-image' }) })))
    const documents = new Map(placed.map(({ id, bitmap }) => [id, pictureOf(bitmap, { x: 0, y: 0, w: bitmap.width, h: bitmap.height })]))
    const drawer = new PieceDrawer(piece, canvas, piece.views.map((view, i) => pictureOf(bitmaps[i]!, view.frame.box)), documents)
    return Object.assign(drawer, { close: () => [...bitmaps, ...placed.map(p => p.bitmap)].forEach(b => b.close()) })
  }

  /** Draws the picture of cut time `t` ms. */
  draw(t: number): void {
    const board = this.board.at(this.cut.toTake(t))
    const i = Math.max(0, this.piece.views.findIndex(v => v.frame === board.frame || sameFrame(v.frame, board.frame)))
    const { page, frame } = this.piece.views[i]!
    const turn = this.cut.turnAt(t)
    const view = board.look ?? frame.box
    const scene = sceneOf(board, page, view, this.cache)
    if (turn) scene.drawings.push(turnCard(view, turn.turn.seconds, turn.turn.hold * (1 - turn.share)))
    this.painter.paint(scene, id => id === page.id ? this.pictures[i] : this.documents.get(id))
  }
}

/**
 * Makes one video: draws, encodes and writes it piece by piece into `file`, chapters inside.
 * Only pictures that differ are drawn; see `frameTimes` for when one is encoded.
 * @throws Trouble `cancelled`, `storage-full`, `no-encoder`
 */
export async function renderVideo(job: RenderJob, file: OpenFile, progress: (p: RenderProgress) => void, signal: AbortSignal): Promise<RenderResult> {
  const began = performance.now()
  const codecs = await codecsFor(job.container, job.size)
  const cuts = job.pieces.map(p => new Cut(p.ledger, p.takeDuration))
  const total = cuts.reduce((sum, c) => sum + c.duration, 0)
  const chapterBytes = job.container === 'webm' ? matroskaChapters(job.chapters, total) : chplBody(job.chapters)
  const output = new Output({
    format: job.container === 'mp4' ? new Mp4OutputFormat({ metadataFormat: 'udta' }) : new WebMOutputFormat(),
    target: new StreamTarget(new WritableStream({ write: ({ data, position }) => file.write(data, position) }), { chunked: true, chunkSize: 1 << 20 }),
  })
  const video = new VideoSampleSource(videoConfig(codecs.video, job.size))
  const audio = new AudioSampleSource({ codec: codecs.audio, quality: new Quality({ bitrate: 80_000 }) })
  output.addVideoTrack(video)
  output.addAudioTrack(audio)
  output.setMetadataTags(tagsOf(job, chapterBytes))
  await output.start()

  const canvas = new OffscreenCanvas(job.size.width, job.size.height)
  const count = { pictures: 0, drawn: 0, told: began }
  let offset = 0
  let samples = 0
  try {
    for (const [i, piece] of job.pieces.entries()) {
      const drawer = await PieceDrawer.open(piece, canvas)
      const sound = cutSound(drawer.cut, piece.sound)
      const keys = job.chapters.map(c => c.t - offset).filter(t => t >= 0 && t < drawer.cut.duration)
      for (const frame of frameTimes(drawer.cut, drawer.board.changes(), job.mode, keys, drawer.board.movements())) {
        if (signal.aborted) throw cancelled()
        if (frame.fresh) { drawer.draw(frame.t); count.drawn++ }
        const sample = new VideoSample(canvas, { timestamp: (offset + frame.t) / 1000, duration: frame.duration / 1000 })
        await video.add(sample, { keyFrame: frame.key })
        sample.close()
        count.pictures++
        samples = await soundUpTo(sound, audio, samples, offset + frame.t + frame.duration)
        tell(offset + frame.t)
      }
      samples = await soundUpTo(sound, audio, samples, Number.POSITIVE_INFINITY)
      offset += cuts[i]!.duration
      drawer.close()
    }
    await output.finalize()
  }
  catch (error) {
    await output.cancel().catch(() => {})
    throw error
  }
  if (job.container === 'webm') liftChapters(file, chapterBytes.length)
  return {
    file: job.file, bytes: file.size(), durationMs: total, pictures: count.pictures, drawn: count.drawn,
    tookMs: performance.now() - began, codecs: `${codecs.video}+${codecs.audio}`,
  }

  function tell(done: number) {
    const now = performance.now()
    if (now - count.told < 200) return
    count.told = now
    const spent = now - began
    progress({ done, total, leftMs: spent > 1000 && done > 0 ? (spent / done) * (total - done) : null })
  }
}

async function soundUpTo(sound: AsyncGenerator<Float32Array>, audio: AudioSampleSource, from: number, untilMs: number): Promise<number> {
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
