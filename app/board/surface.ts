import type { Box, Folio, Frame, Page } from '#core/folio'
import {
  OutlineCache,
  ScenePainter,
  sceneOf,
  fillOutline,
  isDark,
  isLasting,
  isOverlay,
  markOnDark,
  onDark,
  paintLasting,
  paintMark,
  paintOverlay,
  viewScale,
  type Context2D,
  type Drawing,
  type Lasting,
  type Overlay,
  type PagePicture,
} from '#core/scene'
import { outlineStroke, type Mark, type Stroke } from '#core/ink'
import type { Board } from '#core/recording'
import { pictureOfFrame } from '../paper/pageStore'
import { pictureOfDocument } from './pictures'

/**
 * A board on screen: one canvas for what is finished, one above it for the stroke that is being written, both drawn by
 * the same scene as the video.
 */
export class BoardSurface {
  private readonly cache = new OutlineCache()
  private painter: ScenePainter | null = null
  private picture: PagePicture | undefined
  private pictureKey = ''
  private page: Page | null = null
  private view: Box = { x: 0, y: 0, w: 1, h: 1 }
  private board: Board = { t: 0, strokes: [], things: [] }
  private readonly live: CanvasRenderingContext2D | null
  /** Drawings that change by themselves, or lie over everything. */
  private moving: (Lasting | Overlay)[] = []
  private readonly still: CanvasRenderingContext2D

  constructor(
    private readonly base: HTMLCanvasElement,
    private readonly top: HTMLCanvasElement | null,
    private readonly onTrouble: (error: unknown) => void,
  ) {
    this.still = base.getContext('2d', { alpha: false })!
    // The live canvas may go to the screen without waiting for the page.
    this.live = top?.getContext('2d', { desynchronized: true }) ?? null
  }

  /** What part of which page fills the canvas, `width` × `height` CSS pixels. */
  place(page: Page, folio: Folio, frame: Frame, view: Box, width: number, height: number): void {
    const dpr = Math.min(3, window.devicePixelRatio || 1)
    for (const canvas of [this.base, this.top]) {
      if (!canvas) continue
      canvas.width = Math.max(1, Math.round(width * dpr))
      canvas.height = Math.max(1, Math.round(height * dpr))
    }
    this.page = page
    this.view = view
    this.still.imageSmoothingQuality = 'high'
    this.painter = new ScenePainter(this.still as unknown as Context2D, this.base)
    void this.loadPicture(page, folio, frame)
    this.show(this.board)
  }

  /**
   * Shows a board; `without` names a stroke that is drawn on the live canvas. What is still being written by itself,
   * trails and the light go
   * on the live canvas, too, where there is one: the finished board below is not painted anew for them.
   * @param over what lies over everything
   * @returns whether something on it moves by itself
   */
  show(board: Board, without?: string, over: readonly Drawing[] = []): boolean {
    this.board = without ? { ...board, strokes: board.strokes.filter(s => s.stroke.id !== without) } : board
    if (!this.page || !this.painter) return false
    const scene = sceneOf(this.board, this.page, this.view, this.cache)
    scene.drawings.push(...over)
    const pictures = (id: string) => (id === this.page?.id ? this.picture : pictureOfDocument(id, () => this.repaint()))
    if (!this.top) {
      this.painter.paint(scene, pictures)
      return false
    }
    this.moving = scene.drawings.filter((d): d is Lasting | Overlay => isOverlay(d) || (isLasting(d) && !d.done))
    const still = { ...scene, drawings: scene.drawings.filter(d => !(this.moving as Drawing[]).includes(d)) }
    this.painter.paint(still, pictures)
    return this.moving.length > 0
  }

  private repaint() {
    this.painter?.reset()
    this.show(this.board)
  }

  /**
   * Draws what moves: the growing stroke, what is writing itself, and what is shown to the teacher only.
   * @param hints marks for her eyes, in points
   */
  showLive(stroke: Stroke | null, hints: readonly Mark[] = []): void {
    if (!this.live || !this.top) return
    this.live.setTransform(1, 0, 0, 1, 0, 0)
    this.live.clearRect(0, 0, this.top.width, this.top.height)
    if (!stroke && !hints.length && !this.moving.length) return
    const { scale, dx, dy } = viewScale(this.view, this.top.width)
    this.live.setTransform(scale, 0, 0, scale, dx, dy)
    const context = this.live as unknown as Context2D
    for (const drawing of this.moving) {
      if (isLasting(drawing)) paintLasting(context, drawing, id => pictureOfDocument(id, () => this.repaint()))
      else paintOverlay(context, drawing, this.view)
    }
    const dark = this.page !== null && isDark(this.page)
    for (const mark of hints) paintMark(context, dark ? markOnDark(mark) : mark)
    if (stroke) for (const outline of outlineStroke(stroke)) fillOutline(context, dark ? onDark(outline) : outline)
  }

  private async loadPicture(page: Page, folio: Folio, frame: Frame) {
    const box = visible(this.view, page)
    const scale = this.base.width / this.view.w
    const key = JSON.stringify([page, frame.inset, box, scale])
    if (key === this.pictureKey) return
    this.pictureKey = key
    try {
      const canvas = box.w > 0 && box.h > 0 ? await pictureOfFrame(folio, frame, scale, box) : null
      if (key !== this.pictureKey) return
      this.picture = canvas
        ? {
            box,
            draw: (context, b) =>
              (context as unknown as CanvasRenderingContext2D).drawImage(canvas, b.x, b.y, b.w, b.h),
          }
        : undefined
      this.show(this.board)
      this.base.dataset.page = 'shown'
    } catch (error) {
      this.pictureKey = ''
      this.onTrouble(error)
    }
  }
}

function visible(view: Box, page: Page): Box {
  const x = Math.max(0, view.x),
    y = Math.max(0, view.y)
  return { x, y, w: Math.min(page.width, view.x + view.w) - x, h: Math.min(page.height, view.y + view.h) - y }
}
