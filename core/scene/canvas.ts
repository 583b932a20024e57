import type { Box } from '../folio/model'
import { pathSteps, type Mark } from '../ink/mark'
import type { Outline } from '../ink/stroke'
import {
  DESK,
  isGround,
  isLasting,
  isOverlay,
  PAPER,
  TRAIL,
  trailPen,
  type Lasting,
  type Overlay,
  type Scene,
} from './scene'

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
  bezierCurveTo(ax: number, ay: number, bx: number, by: number, x: number, y: number): void
  setLineDash(dash: number[]): void
  save(): void
  restore(): void
  translate(x: number, y: number): void
  scale(x: number, y: number): void
  lineCap: unknown
  lineJoin: unknown
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
/** Pictures by page, and by document for those put on the board. */
export type PictureOf = (pageId: string) => PagePicture | undefined

/** The transform that lays `view` over a surface of `width` pixels; heights follow. */
export function viewScale(view: Box, width: number): { scale: number; dx: number; dy: number } {
  const scale = width / view.w
  return { scale, dx: -view.x * scale, dy: -view.y * scale }
}

/**
 * Paints scenes on one canvas. What is finished is kept there and only what has come is added, as long as the board
 * only
 * grows; anything else is painted anew. The result is the same as painting each scene whole.
 */
export class ScenePainter {
  private drawn: string[] = []
  private viewKey = ''
  private picture: PagePicture | undefined
  private overlaid = false
  /** What the last painting added to what was there; null where it was painted whole. */
  added: readonly Lasting[] | null = null

  constructor(
    private readonly context: Context2D,
    private readonly size: { width: number; height: number },
  ) {}

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
    const lasting = scene.drawings.filter(isLasting)
    const overlay = scene.drawings.filter(isOverlay)
    const grows =
      !this.overlaid &&
      viewKey === this.viewKey &&
      picture === this.picture &&
      lasting.length >= this.drawn.length &&
      this.drawn.every((key, i) => lasting[i]!.key === key)
    this.added = grows && !overlay.length ? lasting.slice(this.drawn.length) : null
    if (this.added?.length === 0) return false
    const { scale, dx, dy } = viewScale(scene.view, this.size.width)
    this.context.setTransform(scale, 0, 0, scale, dx, dy)
    if (!grows) {
      this.ground(scene, picture, scale)
      this.drawn = []
      this.viewKey = viewKey
      this.picture = picture
    }
    for (const drawing of lasting.slice(this.drawn.length)) {
      paintLasting(this.context, drawing, pictureOf)
      this.drawn.push(drawing.key)
    }
    for (const drawing of overlay) paintOverlay(this.context, drawing, scene.view)
    this.overlaid = overlay.length > 0
    return true
  }

  private ground(scene: Scene, picture: PagePicture | undefined, scale: number) {
    const { context } = this
    for (const drawing of scene.drawings.filter(isGround)) {
      switch (drawing.kind) {
        case 'squares':
          drawSquares(context, drawing.box, scale)
          break
        case 'page':
          context.globalAlpha = 1
          context.fillStyle = PAPER
          context.fillRect(drawing.box.x, drawing.box.y, drawing.box.w, drawing.box.h)
          picture?.draw(context, picture.box)
          break
        default:
          drawing satisfies never
      }
    }
  }
}

/** Paints ink or a thing, on a context whose unit is the point. */
export function paintLasting(context: Context2D, drawing: Lasting, pictureOf: PictureOf): void {
  switch (drawing.kind) {
    case 'picture':
      pictureOf(drawing.documentId)?.draw(context, drawing.box)
      break
    case 'marks':
      for (const mark of drawing.marks) paintMark(context, mark)
      for (const outline of drawing.outlines) fillOutline(context, outline)
      break
    case 'ink':
      for (const outline of drawing.outlines) fillOutline(context, outline)
      break
    default:
      drawing satisfies never
  }
}

/** Paints what lies over everything for a while. */
export function paintOverlay(context: Context2D, drawing: Overlay, view: Box): void {
  switch (drawing.kind) {
    case 'shade':
      paintShade(context, drawing.box, drawing.dark, view)
      break
    case 'trail':
      paintTrail(context, drawing.points)
      break
    default:
      drawing satisfies never
  }
  context.globalAlpha = 1
}

/** All of the view but a box. */
function paintShade(context: Context2D, b: Box, dark: number, { x, y, w, h }: Box) {
  context.globalAlpha = dark
  context.fillStyle = '#26241f'
  context.beginPath()
  for (const [i, [px, py]] of [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ].entries())
    (i ? context.lineTo : context.moveTo).call(context, px!, py!)
  context.closePath()
  for (const [i, [px, py]] of [
    [b.x, b.y],
    [b.x, b.y + b.h],
    [b.x + b.w, b.y + b.h],
    [b.x + b.w, b.y],
  ].entries())
    (i ? context.lineTo : context.moveTo).call(context, px!, py!)
  context.closePath()
  context.fill('nonzero')
}

function paintTrail(context: Context2D, p: readonly number[]) {
  context.strokeStyle = TRAIL
  context.lineCap = 'round'
  for (let i = 3; i + 2 < p.length; i += 3) {
    const { width, alpha } = trailPen(p[i + 2]!)
    context.globalAlpha = alpha
    context.lineWidth = width
    context.beginPath()
    context.moveTo(p[i - 3]!, p[i - 2]!)
    context.lineTo(p[i]!, p[i + 1]!)
    context.stroke()
  }
}

/** Paints one mark. */
export function paintMark(context: Context2D, mark: Mark): void {
  const s = mark.scale ?? 1
  context.save()
  context.translate(mark.x ?? 0, mark.y ?? 0)
  context.scale(s, s)
  context.globalAlpha = mark.alpha ?? 1
  context.beginPath()
  for (const [command, ...c] of pathSteps(mark.d)) {
    if (command === 'M') context.moveTo(c[0]!, c[1]!)
    else if (command === 'L') context.lineTo(c[0]!, c[1]!)
    else if (command === 'Q') context.quadraticCurveTo(c[0]!, c[1]!, c[2]!, c[3]!)
    else if (command === 'C') context.bezierCurveTo(c[0]!, c[1]!, c[2]!, c[3]!, c[4]!, c[5]!)
    else context.closePath()
  }
  if (mark.fill) {
    context.fillStyle = mark.fill
    context.fill('nonzero')
  }
  if (mark.stroke) {
    context.strokeStyle = mark.stroke
    context.lineWidth = (mark.width ?? 1) / s
    context.lineCap = 'round'
    context.lineJoin = 'round'
    context.setLineDash(mark.dash ? mark.dash.map(d => d / s) : [])
    context.stroke()
  }
  context.restore()
  context.globalAlpha = 1
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
  const mid = (i: number, j: number): [number, number] => [
    (ring[2 * i]! + ring[2 * j]!) / 2,
    (ring[2 * i + 1]! + ring[2 * j + 1]!) / 2,
  ]
  context.moveTo(...mid(n - 1, 0))
  for (let i = 0; i < n; i++) context.quadraticCurveTo(ring[2 * i]!, ring[2 * i + 1]!, ...mid(i, (i + 1) % n))
  context.closePath()
}
