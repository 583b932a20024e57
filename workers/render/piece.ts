import { dequal } from 'dequal/lite'
import { wholeCut } from '../../core/cut/cut'
import { editionLength, editionOf, type Edition } from '../../core/edition'
import type { Box } from '../../core/folio/model'
import { unionOf } from '../../core/geometry/geometry'
import { frameTimes, type FrameMode, type FrameTime } from '../../core/video/frames'
import { Planes } from '../../core/video/planes'
import {
  paintLasting,
  paintOverlay,
  ScenePainter,
  viewScale,
  type Context2D,
  type PagePicture,
  type PictureOf,
} from '../../core/scene/canvas'
import { extentOf } from '../../core/scene/extent'
import { DESK, isLasting, OutlineCache, parted, sceneOf, type Lasting, type Overlay } from '../../core/scene/scene'
import { turnCard } from '../../core/scene/turnCard'
import type { Stretch } from '../../core/recording/stretches'
import { CameraReader, drawPortrait, fillBox } from './camera'
import type { ClipPiece, RenderPiece } from './job'

/** A part of a video, ready to be drawn at any of its moments, ms. */
export interface Drawer {
  readonly duration: number
  /** What is drawn, as encoders take it in, where only that is converted which changed; else the canvas is. */
  readonly planes: Planes | null
  frames(mode: FrameMode, keys: readonly number[]): FrameTime[]
  draw(t: number): Promise<void>
  close(): Promise<void>
}

/** Length of a part, ms. */
export const durationOf = (piece: RenderPiece | ClipPiece): number =>
  'clip' in piece ? piece.duration : editionLength(piece.source.ledger, piece.source.take)

export const openPiece = (piece: RenderPiece | ClipPiece, canvas: OffscreenCanvas): Promise<Drawer> =>
  'clip' in piece ? openClip(piece, canvas) : PieceDrawer.open(piece, canvas)

/** A clip fills the picture; without a camera it is an empty page with a voice. */
async function openClip(piece: ClipPiece, canvas: OffscreenCanvas): Promise<Drawer> {
  const camera = piece.clip && (await CameraReader.open(piece.clip))
  const context = canvas.getContext('2d', { alpha: false })!
  const all = { x: 0, y: 0, w: canvas.width, h: canvas.height }
  return {
    duration: piece.duration,
    planes: null,
    frames(mode, keys) {
      // Like a take that is shown whole, with the camera all over it.
      return frameTimes(wholeCut(piece.duration), [], mode, keys, [], camera ? [{ from: 0, to: piece.duration }] : [])
    },
    async draw(t) {
      const picture = await camera?.at(t)
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.globalAlpha = 1
      context.fillStyle = DESK.ground
      context.fillRect(0, 0, all.w, all.h)
      if (picture) fillBox(context, picture, all)
    },
    async close() {
      await camera?.close()
    },
  }
}

/**
 * A question's cut. What is finished of the board is drawn beside, and laid under what grows and under the camera's
 * picture.
 */
class PieceDrawer implements Drawer {
  private readonly edition: Edition
  private readonly cache = new OutlineCache()
  private readonly painter: ScenePainter
  private readonly below: OffscreenCanvas
  readonly planes: Planes | null
  /** Where something grew in the picture before, points. */
  private grown: Box[] = []
  private readonly output: OffscreenCanvasRenderingContext2D
  /** Where the camera's picture is shown, lesson ms. */
  private readonly alive: readonly Stretch[]

  private constructor(
    private readonly piece: RenderPiece,
    private readonly canvas: OffscreenCanvas,
    private readonly cameras: ReadonlyMap<string, CameraReader>,
    private readonly pictures: PagePicture[],
    private readonly documents: ReadonlyMap<string, PagePicture>,
    private readonly bitmaps: readonly ImageBitmap[],
  ) {
    this.edition = editionOf(piece.source)
    this.alive = cameras.size ? this.edition.pictured : []
    this.output = canvas.getContext('2d', { alpha: false, willReadFrequently: !cameras.size })!
    this.planes = cameras.size ? null : new Planes(canvas.width, canvas.height)
    const below = new OffscreenCanvas(canvas.width, canvas.height)
    const context = below.getContext('2d', { alpha: false, willReadFrequently: true })!
    context.imageSmoothingQuality = 'high'
    this.painter = new ScenePainter(context as Context2D, below)
    this.painter.reset()
    this.below = below
  }

  static async open(piece: RenderPiece, canvas: OffscreenCanvas): Promise<PieceDrawer> {
    const bitmaps = await Promise.all(piece.views.map(v => createImageBitmap(v.picture)))
    const pictureOf = (bitmap: ImageBitmap, box: Box): PagePicture => ({
      box,
      draw: (context, b) =>
        (context as unknown as OffscreenCanvasRenderingContext2D).drawImage(bitmap, b.x, b.y, b.w, b.h),
    })
    const placed = await Promise.all(
      piece.documents.map(async d => ({
        id: d.id,
        bitmap: await createImageBitmap(d.picture, { imageOrientation: 'from-image' }),
      })),
    )
    const documents = new Map(
      placed.map(({ id, bitmap }) => [id, pictureOf(bitmap, { x: 0, y: 0, w: bitmap.width, h: bitmap.height })]),
    )
    const cameras = new Map<string, CameraReader>()
    for (const [take, track] of Object.entries(piece.source.ledger.portrait ? piece.tracks : {})) {
      const camera = await CameraReader.open(track)
      if (camera) cameras.set(take, camera)
    }
    return new PieceDrawer(
      piece,
      canvas,
      cameras,
      piece.views.map((view, i) => pictureOf(bitmaps[i]!, view.frame.box)),
      documents,
      [...bitmaps, ...placed.map(p => p.bitmap)],
    )
  }

  get duration(): number {
    return this.edition.duration
  }

  frames(mode: FrameMode, keys: readonly number[]): FrameTime[] {
    const edges = this.alive.flatMap(s => [s.from, s.to])
    const { board, time } = this.edition
    const changes = edges.length ? [...board.changes(), ...edges].sort((a, b) => a - b) : board.changes()
    return frameTimes(time, changes, mode, keys, board.movements(), this.alive)
  }

  /** Draws the picture of cut time `t` ms. */
  async draw(t: number): Promise<void> {
    const { time } = this.edition
    const board = this.edition.boardAt(t)
    const i = Math.max(
      0,
      this.piece.views.findIndex(v => v.frame === board.frame || dequal(v.frame, board.frame)),
    )
    const { page, frame } = this.piece.views[i]!
    const turn = time.turnAt(t)
    const view = board.look ?? frame.box
    const scene = sceneOf(board, page, view, this.cache)
    if (turn) scene.drawings.push(turnCard(view, turn.turn.seconds, turn.turn.hold * (1 - turn.share)))
    const pictureOf = (id: string) => (id === page.id ? this.pictures[i] : this.documents.get(id))
    const { finished, growing } = parted(scene)
    const painted = this.painter.paint(finished, pictureOf)
    const fresh = painted ? (this.painter.added?.map(d => extentOf(d, view)) ?? [view]) : []
    const grown = growing.map(d => extentOf(d, view))
    this.lay([...fresh, ...this.grown, ...grown], growing, view, pictureOf)
    this.grown = grown
    if (!this.cameras.size) return
    const { width: w, height: h } = this.canvas
    // Where the student is to try, nobody looks on.
    const place = turn || !this.alive.length ? null : this.edition.portraitAt(t, { x: 0, y: 0, w, h })
    const camera = this.cameras.get(time.pieceAt(t)?.take ?? '')
    const picture = place && (await camera?.at(time.toTake(t)))
    if (picture) drawPortrait(this.output, picture, this.edition.ledger.portrait!.shape, place)
  }

  /** Lays what is finished into the parts of the picture that changed, and what grows over it. */
  private lay(changed: readonly Box[], growing: readonly (Lasting | Overlay)[], view: Box, pictureOf: PictureOf) {
    const { output, planes } = this
    // A camera's picture lies over all of it, and goes on where nothing else changes.
    if (planes && !changed.length) return
    const { width, height } = this.canvas
    const { scale, dx, dy } = viewScale(view, width)
    let box: Box = { x: 0, y: 0, w: width, h: height }
    if (planes) {
      const { x, y, w, h } = unionOf(changed)
      box = planes.around({ x: x * scale + dx, y: y * scale + dy, w: w * scale, h: h * scale })
    }
    if (!box.w || !box.h) return
    output.setTransform(1, 0, 0, 1, 0, 0)
    output.globalAlpha = 1
    output.drawImage(this.below, box.x, box.y, box.w, box.h, box.x, box.y, box.w, box.h)
    output.setTransform(scale, 0, 0, scale, dx, dy)
    for (const drawing of growing) {
      if (isLasting(drawing)) paintLasting(output as Context2D, drawing, pictureOf)
      else paintOverlay(output as Context2D, drawing, view)
    }
    output.setTransform(1, 0, 0, 1, 0, 0)
    planes?.put(output.getImageData(box.x, box.y, box.w, box.h).data, box)
  }

  async close(): Promise<void> {
    for (const bitmap of this.bitmaps) bitmap.close()
    for (const camera of this.cameras.values()) await camera.close()
  }
}
