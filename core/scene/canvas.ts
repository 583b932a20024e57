import type { Box } from '../folio/model'
import type { Outline } from '../ink/stroke'
import { DESK, PAPER, type Scene } from './scene'

/** What is used of a 2D context: the browser's on screen and in workers alike. */
export interface Context2D {
  fillStyle: unknown
  strokeStyle: unknown
  globalAlpha: number
  lineWidth: number
  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void
  fillRect(x: number, y: number, w: number, h: number): void
  clearRect(x: number, y: number, w: number, h: number): void
  beginPath(): void
  moveTo(x: number, y: number): void
  lineTo(x: number, y: number): void
  quadraticCurveTo(cx: number, cy: number, x: number, y: number): void
  closePath(): void
  fill(rule?: 'nonzero'): void
  stroke(): void
}

/** A picture of (part of) a page, and how to put it on a context. */
export interface PagePicture {
  /** The part of the page it shows, points. */
  box: Box
  draw(context: Context2D, box: Box): void
}
export type PictureOf = (pageId: string) => PagePicture | undefined

/** The transform that lays `view` over a surface of `width` pixels; heights follow. */
export function viewScale(view: Box, width: number): { scale: number, dx: number, dy: number } {
  const scale = width / view.w
  return { scale, dx: -view.x * scale, dy: -view.y * scale }
}

/**
 * Paints scenes on one canvas. What is finished is kept there and only what has come is added, as long as ink only
 * grows; anything else is painted anew. The result is the same as painting each scene whole.
 */
export class ScenePainter {
  private drawn: string[] = []
  private viewKey = ''
  private picture: PagePicture | undefined

  constructor(private readonly context: Context2D, private readonly size: { width: number, height: number }) {}

  /** Forgets what has been drawn, so that the next scene is painted whole. */
  reset(): void {
    this.viewKey = ''
  }

  /**
   * Paints a scene, or what it has more than the last one.
   * @returns whether anything was painted
   */
  paint(scene: Scene, pictureOf: PictureOf): boolean {
    const pageDrawing = scene.drawings.find(d => d.kind === 'page')
    const picture = pageDrawing && pictureOf(pageDrawing.pageId)
    const viewKey = `${scene.view.x},${scene.view.y},${scene.view.w},${pageDrawing?.pageId}`
    const ink = scene.drawings.filter(d => d.kind === 'ink')
    const grows = viewKey === this.viewKey && picture === this.picture && ink.length >= this.drawn.length
      && this.drawn.every((key, i) => ink[i]!.key === key)
    if (grows && ink.length === this.drawn.length) return false
    const { scale, dx, dy } = viewScale(scene.view, this.size.width)
    this.context.setTransform(scale, 0, 0, scale, dx, dy)
    if (!grows) {
      this.ground(scene, picture, scale)
      this.drawn = []
      this.viewKey = viewKey
      this.picture = picture
    }
    for (const drawing of ink.slice(this.drawn.length)) {
      for (const outline of drawing.outlines) fillOutline(this.context, outline)
      this.drawn.push(drawing.key)
    }
    return true
  }

  private ground(scene: Scene, picture: PagePicture | undefined, scale: number) {
    const { context } = this
    for (const drawing of scene.drawings) {
      if (drawing.kind === 'squares') drawSquares(context, drawing.box, scale)
      if (drawing.kind === 'page') {
        context.globalAlpha = 1
        context.fillStyle = PAPER
        context.fillRect(drawing.box.x, drawing.box.y, drawing.box.w, drawing.box.h)
        picture?.draw(context, picture.box)
      }
    }
  }
}

/** Squared paper (5 mm), as lies beyond the page. */
function drawSquares(context: Context2D, box: Box, scale: number) {
  context.globalAlpha = 1
  context.fillStyle = DESK.ground
  context.fillRect(box.x, box.y, box.w, box.h)
  context.strokeStyle = DESK.rule
  context.lineWidth = 1 / scale
  context.beginPath()
  for (let x = Math.ceil(box.x / DESK.every) * DESK.every; x < box.x + box.w; x += DESK.every) {
    context.moveTo(x, box.y)
    context.lineTo(x, box.y + box.h)
  }
  for (let y = Math.ceil(box.y / DESK.every) * DESK.every; y < box.y + box.h; y += DESK.every) {
    context.moveTo(box.x, y)
    context.lineTo(box.x + box.w, y)
  }
  context.stroke()
}

/** Fills one outline; corners of the ring become control points, so that the edge is smooth at any size. */
export function fillOutline(context: Context2D, outline: Outline): void {
  context.globalAlpha = outline.alpha
  context.fillStyle = outline.colour
  context.beginPath()
  for (const ring of outline.rings) traceRing(context, ring)
  context.fill('nonzero')
  context.globalAlpha = 1
}

function traceRing(context: Context2D, ring: readonly number[]) {
  const n = ring.length / 2
  if (n < 3) return
  const mid = (i: number, j: number): [number, number] => [(ring[2 * i]! + ring[2 * j]!) / 2, (ring[2 * i + 1]! + ring[2 * j + 1]!) / 2]
  context.moveTo(...mid(n - 1, 0))
  for (let i = 0; i < n; i++) context.quadraticCurveTo(ring[2 * i]!, ring[2 * i + 1]!, ...mid(i, (i + 1) % n))
  context.closePath()
}
