import { Cut } from '../../core/cut/cut'
import { struckOf } from '../../core/cut/ledger'
import type { Box, Frame } from '../../core/folio/model'
import { frameTimes, type FrameMode, type FrameTime } from '../../core/publish/frames'
import { ScenePainter, type Context2D, type PagePicture } from '../../core/scene/canvas'
import { PortraitPath } from '../../core/scene/portrait'
import { DESK, OutlineCache, sceneOf } from '../../core/scene/scene'
import { turnCard } from '../../core/scene/turnCard'
import { BoardIndex, type Stretch } from '../../core/take/board'
import { CameraReader, drawPortrait, fillBox } from './camera'
import type { ClipPiece, RenderPiece } from './job'

const sameFrame = (a: Frame, b: Frame | undefined) => JSON.stringify(a) === JSON.stringify(b)

/** A part of a video, ready to be drawn at any of its moments, ms. */
export interface Drawer {
  readonly duration: number
  frames(mode: FrameMode, keys: readonly number[]): FrameTime[]
  draw(t: number): Promise<void>
  close(): Promise<void>
}

/** Length of a part, ms. */
export const durationOf = (piece: RenderPiece | ClipPiece): number => 'clip' in piece ? piece.duration : new Cut(piece.ledger, piece.takeDuration).duration

export const openPiece = (piece: RenderPiece | ClipPiece, canvas: OffscreenCanvas): Promise<Drawer> => 'clip' in piece ? openClip(piece, canvas) : PieceDrawer.open(piece, canvas)

/** A clip fills the picture; without a camera it is an empty page with a voice. */
async function openClip(piece: ClipPiece, canvas: OffscreenCanvas): Promise<Drawer> {
  const camera = piece.clip && await CameraReader.open(piece.clip)
  const context = canvas.getContext('2d', { alpha: false })!
  const all = { x: 0, y: 0, w: canvas.width, h: canvas.height }
  return {
    duration: piece.duration,
    frames(mode, keys) {
      // Like a take that is shown whole, with the camera all over it.
      const cut = new Cut({ takeId: 'clip', steps: [{ id: 'clip', t: 0, title: '', words: '', struck: false }], turns: [] }, piece.duration)
      return frameTimes(cut, [], mode, keys, [], camera ? [{ from: 0, to: piece.duration }] : [])
    },
    async draw(t) {
      const picture = await camera?.at(t)
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.globalAlpha = 1
      context.fillStyle = DESK.ground
      context.fillRect(0, 0, all.w, all.h)
      if (picture) fillBox(context, picture, all)
    },
    async close() { await camera?.close() },
  }
}

/** A question's cut. Where the camera's picture is shown, the board is drawn beside and laid under it. */
class PieceDrawer implements Drawer {
  readonly cut: Cut
  readonly board: BoardIndex
  private readonly cache = new OutlineCache()
  private readonly painter: ScenePainter
  private readonly below: OffscreenCanvas
  private readonly output: OffscreenCanvasRenderingContext2D
  private readonly path: PortraitPath | null
  /** Where the camera's picture is shown, take ms. */
  private readonly alive: Stretch[]

  private constructor(
    private readonly piece: RenderPiece, private readonly canvas: OffscreenCanvas, private readonly camera: CameraReader | null,
    private readonly pictures: PagePicture[], private readonly documents: ReadonlyMap<string, PagePicture>, private readonly bitmaps: readonly ImageBitmap[],
  ) {
    const { ledger, takeDuration, events, views } = piece
    const struck = struckOf(ledger, takeDuration), first = views[0]!.frame
    this.cut = new Cut(ledger, takeDuration)
    this.board = new BoardIndex(events, struck, first)
    this.path = camera && ledger.portrait ? new PortraitPath(ledger.portrait, first, events, struck) : null
    this.alive = this.path ? without({ from: 0, to: takeDuration }, piece.camera?.gaps ?? []) : []
    this.output = canvas.getContext('2d', { alpha: false })!
    // What is finished stays on the board's canvas, so that the camera's picture has to lie on another.
    const below = this.path ? new OffscreenCanvas(canvas.width, canvas.height) : canvas
    const context = below.getContext('2d', { alpha: false })!
    context.imageSmoothingQuality = 'high'
    this.painter = new ScenePainter(context as Context2D, below)
    this.painter.reset()
    this.below = below
  }

  static async open(piece: RenderPiece, canvas: OffscreenCanvas): Promise<PieceDrawer> {
    const bitmaps = await Promise.all(piece.views.map(v => createImageBitmap(v.picture)))
    const pictureOf = (bitmap: ImageBitmap, box: Box): PagePicture => ({ box, draw: (context, b) => (context as unknown as OffscreenCanvasRenderingContext2D).drawImage(bitmap, b.x, b.y, b.w, b.h) })
    const placed = await Promise.all(piece.documents.map(async d => ({ id: d.id, bitmap: await createImageBitmap(d.picture, { imageOrientation: 'from-image' }) })))
    const documents = new Map(placed.map(({ id, bitmap }) => [id, pictureOf(bitmap, { x: 0, y: 0, w: bitmap.width, h: bitmap.height })]))
    const camera = piece.camera && piece.ledger.portrait ? await CameraReader.open(piece.camera.track) : null
    return new PieceDrawer(piece, canvas, camera, piece.views.map((view, i) => pictureOf(bitmaps[i]!, view.frame.box)), documents, [...bitmaps, ...placed.map(p => p.bitmap)])
  }

  get duration(): number { return this.cut.duration }

  frames(mode: FrameMode, keys: readonly number[]): FrameTime[] {
    const edges = this.alive.flatMap(s => [s.from, s.to])
    const changes = edges.length ? [...this.board.changes(), ...edges].sort((a, b) => a - b) : this.board.changes()
    return frameTimes(this.cut, changes, mode, keys, this.board.movements(), this.alive)
  }

  /** Draws the picture of cut time `t` ms. */
  async draw(t: number): Promise<void> {
    const at = this.cut.toTake(t)
    const board = this.board.at(at)
    const i = Math.max(0, this.piece.views.findIndex(v => v.frame === board.frame || sameFrame(v.frame, board.frame)))
    const { page, frame } = this.piece.views[i]!
    const turn = this.cut.turnAt(t)
    const view = board.look ?? frame.box
    const scene = sceneOf(board, page, view, this.cache)
    if (turn) scene.drawings.push(turnCard(view, turn.turn.seconds, turn.turn.hold * (1 - turn.share)))
    this.painter.paint(scene, id => id === page.id ? this.pictures[i] : this.documents.get(id))
    if (!this.path) return
    const { width: w, height: h } = this.canvas
    this.output.drawImage(this.below, 0, 0)
    // Where the student is to try, nobody looks on.
    const picture = !turn && this.alive.some(s => at >= s.from && at < s.to) ? await this.camera!.at(at) : null
    if (picture) drawPortrait(this.output, picture, this.piece.ledger.portrait!.shape, this.path.at(at, { x: 0, y: 0, w, h }))
  }

  async close(): Promise<void> {
    for (const bitmap of this.bitmaps) bitmap.close()
    await this.camera?.close()
  }
}

/** A stretch without some pieces of it. */
function without(whole: Stretch, gaps: readonly Stretch[]): Stretch[] {
  let { from } = whole
  const out: Stretch[] = []
  for (const gap of [...gaps, { from: whole.to, to: whole.to }]) {
    if (gap.from > from) out.push({ from, to: gap.from })
    from = Math.max(from, gap.to)
  }
  return out
}
