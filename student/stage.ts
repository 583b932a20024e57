import type { Box } from '../core/folio/basics'
import type { Lesson, LessonView } from '../core/lesson/form'
import {
  paintLasting,
  paintOverlay,
  ScenePainter,
  viewScale,
  type Context2D,
  type PagePicture,
} from '../core/scene/canvas'
import { isLasting, OutlineCache, parted, sceneOf, type Lasting, type Overlay } from '../core/scene/scene'
import { BoardIndex, type Board } from '../core/recording/board'
import { Prints } from './prints'
import { between, following, lastInk, NEAREST, round, viewOf, WHOLE, within, zoomedAt, type Zoom } from './view'

/** Going to another view takes so long, ms. */
const GLIDE = 350
/** The view follows the ink on pictures that are narrower than this, CSS px. */
const NARROW = 620
/** On a narrow screen she writes at this zoom. */
const WRITING = 1.5
/** Where the hand works is looked up so often, ms. */
const FOLLOW_EVERY = 500

/** What is not needed at once is done so much later, ms. */
const WARM_UP = 400
/** Two taps that come so near are one double tap, ms. */
const DOUBLE_TAP = 260

const calm = matchMedia('(prefers-reduced-motion: reduce)')

/**
 * The picture of a lesson: its scene at a moment, drawn sharp at the size and zoom at which it is seen. It is the same
 * scene as that of the video and of the teacher's screen.
 */
export class Stage {
  readonly index: BoardIndex
  private readonly cache = new OutlineCache()
  private readonly context: CanvasRenderingContext2D
  /** What grows, and what is over everything for a while: what is finished below it is not painted anew for that. */
  private readonly live: CanvasRenderingContext2D
  private dirty = false
  private painter: ScenePainter
  private readonly images = new Map<string, HTMLImageElement>()
  private readonly prints = new Prints()
  private readonly views = new Map<string, LessonView>()
  private zoom: Zoom = WHOLE
  /** While the view goes elsewhere, all that it passes is painted once, and moved: painting anew would not keep up. */
  private glide: { from: Zoom; to: Zoom; painted: Zoom; at: number } | null = null
  /** Whether the view is her own, until she taps it back. */
  private own = false
  private looked = 0
  /** While she writes herself, the view stays where it is. */
  holds = false
  /** Noted when the size changes: asking for it lays the page out, and that takes time from the ink. */
  private narrow = false
  private laid = ''
  private shown = 0
  /** Whether the view may follow the ink. */
  follows = true
  board: Board
  /** Told of each picture drawn: what of the page is seen. */
  onDraw: (view: Box, board: Board) => void = () => {}
  onZoom: (zoomed: boolean) => void = () => {}
  /** Told when a picture is painted. */
  onPainted: () => void = () => {}

  constructor(
    private readonly lesson: Lesson,
    readonly canvas: HTMLCanvasElement,
    private readonly above: HTMLCanvasElement,
  ) {
    this.index = BoardIndex.of({ until: () => lesson }, lesson.first)
    for (const view of lesson.views) this.views.set(JSON.stringify(view.frame), view)
    this.context = canvas.getContext('2d', { alpha: false })!
    this.live = above.getContext('2d')!
    this.painter = this.newPainter()
    this.board = this.index.at(0)
    new ResizeObserver(() => this.fit()).observe(canvas)
    setTimeout(() => this.warmUp(), WARM_UP)
  }

  /** Outlines all ink once, and paints the print for a closer view, so that the first jump does not wait for it. */
  private warmUp() {
    const view = this.lesson.views[0]!
    if (!this.canvas.width) return
    sceneOf(this.index.at(Infinity), view.page, this.lesson.first.box, this.cache)
    if (this.narrow) this.prints.of(view, this.canvas.width * NEAREST, this.canvas.width)
  }

  /** What is painted, the lowest first. */
  get layers(): readonly HTMLCanvasElement[] {
    return [this.canvas, this.above]
  }

  private newPainter(): ScenePainter {
    const { width, height } = this.canvas
    return new ScenePainter(this.context as unknown as Context2D, { width, height })
  }

  private fit(wanted?: number) {
    const { clientWidth: w } = this.canvas
    this.narrow = w <= NARROW
    const width = wanted ?? Math.round(w * Math.min(3, devicePixelRatio || 1))
    if (!width || width === this.canvas.width) return
    this.canvas.width = this.above.width = width
    this.canvas.height = this.above.height = Math.round((width * 9) / 16)
    this.painter = this.newPainter()
    this.draw(this.shown)
  }

  /** Lets go of its pictures, which take megabytes; {@link restore} brings them back. */
  release(): void {
    for (const canvas of [this.canvas, this.above]) canvas.width = canvas.height = 0
    this.prints.release()
  }
  /** Draws it again where it was let go of. @param width pixels across; those of the screen when left out */
  restore(width?: number): void {
    this.fit(width)
  }

  /** Draws the picture of a moment. @param t lesson ms */
  draw(t: number): void {
    this.shown = t
    if (!this.canvas.width) return
    this.board = this.index.at(t >= this.lesson.duration ? Infinity : t)
    const frame = this.board.frame ?? this.lesson.first
    const of = this.views.get(JSON.stringify(frame)) ?? this.lesson.views[0]!
    this.follow(t, frame.box)
    const whole = this.board.look && !this.own ? this.board.look : frame.box
    const seen = viewOf(whole, this.zoomNow())
    const view = this.glide ? viewOf(whole, this.glide.painted) : seen
    this.lay(view, seen)
    const scene = sceneOf(this.board, of.page, view, this.cache)
    const pictureOf = (id: string) => (id === of.page.id ? this.ground(of, view) : this.placed(id))
    const { finished, growing } = parted(scene)
    this.painter.paint(finished, pictureOf)
    this.drawAbove(growing, view, pictureOf)
    this.onDraw(view, this.board)
    this.onPainted()
  }

  /** Lays what is painted so that what is to be seen fills the picture. */
  private lay(painted: Box, seen: Box) {
    const share = (v: number, of: number) => `${((100 * v) / of).toFixed(3)}%`
    const transform =
      painted === seen
        ? ''
        : `translate(${share(painted.x - seen.x, seen.w)}, ${share(painted.y - seen.y, seen.h)}) scale(${painted.w / seen.w})`
    if (transform === this.laid) return
    this.laid = transform
    for (const canvas of this.canvas.parentElement!.querySelectorAll('canvas')) canvas.style.transform = transform
  }

  private drawAbove(
    drawings: readonly (Lasting | Overlay)[],
    view: Box,
    pictureOf: (id: string) => PagePicture | undefined,
  ) {
    if (!this.dirty && !drawings.length) return
    const { width, height } = this.above
    this.live.setTransform(1, 0, 0, 1, 0, 0)
    this.live.clearRect(0, 0, width, height)
    const { scale, dx, dy } = viewScale(view, width)
    this.live.setTransform(scale, 0, 0, scale, dx, dy)
    const context = this.live as unknown as Context2D
    for (const drawing of drawings) {
      if (isLasting(drawing)) paintLasting(context, drawing, pictureOf)
      else paintOverlay(context, drawing, view)
    }
    this.dirty = drawings.length > 0
  }

  private follow(t: number, box: Box) {
    if (this.holds) return
    if (this.own || !this.follows || !this.narrow || this.board.look) {
      if (!this.own && this.zoom.scale > 1 && !this.glide) this.glideTo(WHOLE)
      return
    }
    const now = performance.now()
    if (now - this.looked < FOLLOW_EVERY || t >= this.lesson.duration) return
    this.looked = now
    const to = following(this.board, box) ?? WHOLE
    const near = Math.abs(to.x - this.zoom.x) + Math.abs(to.y - this.zoom.y) < 0.16 / this.zoom.scale
    if (near && Math.abs(Math.log(to.scale / this.zoom.scale)) < 0.25) return
    this.glideTo(to)
  }

  private glideTo(to: Zoom) {
    const from = this.zoomNow()
    this.glide = calm.matches ? null : { from, to, painted: round(from, to), at: performance.now() }
    this.zoom = to
    this.onZoom(to.scale > 1.01)
    this.onItsWay()
  }

  /** Draws until the view has arrived, also while nothing plays. */
  private onItsWay() {
    requestAnimationFrame(() => {
      if (!this.glide) return
      this.draw(this.shown)
      this.onItsWay()
    })
  }

  private zoomNow(): Zoom {
    if (!this.glide) return this.zoom
    const share = (performance.now() - this.glide.at) / GLIDE
    if (share >= 1) this.glide = null
    return this.glide ? between(this.glide.from, this.glide.to, share) : this.zoom
  }

  /** Goes closer, or farther, round a place. @param at in shares of the picture */
  zoomBy(by: number, at: { x: number; y: number }): void {
    this.look(zoomedAt(this.zoomNow(), by, at))
  }
  /** Moves what is seen. @param dx @param dy in shares of the picture */
  moveBy(dx: number, dy: number): void {
    const now = this.zoomNow()
    this.look(within({ scale: now.scale, x: now.x - dx / now.scale, y: now.y - dy / now.scale }))
  }
  /** The whole picture again; it follows the ink again after that. */
  whole(): void {
    this.own = false
    this.looked = performance.now() + 2000
    this.glideTo(WHOLE)
    this.draw(this.shown)
  }
  /** On a narrow screen, as close as it is written at comfortably, where the ink is; elsewhere nothing changes. */
  closeIn(): void {
    if (!this.narrow || this.own || this.zoom.scale >= WRITING) return
    const { box } = this.board.frame ?? this.lesson.first
    const ink = lastInk(this.board, box)
    // Lines begin at the left: the view does, too, where the ink is not far to the right.
    const x = (ink?.x ?? 0) < 1 / WRITING ? 0 : 1
    this.glideTo(within({ scale: WRITING, x, y: ink?.y ?? 0.6 }))
    this.draw(this.shown)
  }
  get zoomed(): boolean {
    return this.zoom.scale > 1.01
  }
  private look(to: Zoom) {
    this.glide = null
    this.own = to.scale > 1
    this.zoom = to
    this.onZoom(this.own)
    this.draw(this.shown)
  }

  /** What lies under the ink, sharp. */
  private ground(of: LessonView, view: Box): PagePicture | undefined {
    const { box } = of.frame
    const wanted = (this.canvas.width * box.w) / view.w
    const print = this.prints.of(of, wanted, this.canvas.width)
    if (print) return pagePicture(print, box)
    const { pictures } = of
    return this.picture((pictures.find(p => p.width >= wanted) ?? pictures.at(-1))?.path ?? '', box)
  }

  /** The print of a view, for what is drawn of it elsewhere; null where it has pictures. */
  printOf(view: LessonView): HTMLCanvasElement | null {
    return this.prints.of(view, this.canvas.width, this.canvas.width)
  }

  private picture(path: string, box: Box): PagePicture | undefined {
    const image = this.image(path)
    if (image.complete && image.naturalWidth) return pagePicture(image, box)
    // Until it is there, another size of it is shown.
    const other = [...this.views.values()]
      .filter(v => v.pictures.some(p => p.path === path))
      .flatMap(v => v.pictures)
      .map(p => this.images.get(p.path))
      .find(i => i?.complete && i.naturalWidth)
    return other && pagePicture(other, box)
  }

  private placed(id: string): PagePicture | undefined {
    const path = this.lesson.documents.find(d => d.id === id)?.path
    const image = path ? this.image(path) : undefined
    return image?.complete && image.naturalWidth ? pagePicture(image, { x: 0, y: 0, w: 1, h: 1 }) : undefined
  }

  private image(path: string): HTMLImageElement {
    const known = this.images.get(path)
    if (known) return known
    const image = new Image()
    this.images.set(path, image)
    image.onload = () => {
      this.painter.reset()
      this.draw(this.shown)
    }
    image.src = path
    return image
  }
}

const pictures = new WeakMap<HTMLImageElement | HTMLCanvasElement, PagePicture>()
/** A picture as the painter takes it; the same for the same image, so that it is not painted anew. */
function pagePicture(image: HTMLImageElement | HTMLCanvasElement, box: Box): PagePicture {
  const known = pictures.get(image)
  if (known) return known
  const made: PagePicture = {
    box,
    draw: (context, b) => {
      const to = context as unknown as CanvasRenderingContext2D
      // A print is nearly of the size that is wanted; anything else is made smaller with care, which takes long.
      to.imageSmoothingQuality = image instanceof HTMLCanvasElement ? 'low' : 'high'
      to.drawImage(image, b.x, b.y, b.w, b.h)
    },
  }
  pictures.set(image, made)
  return made
}

/** Pinch, drag and double tap on a picture; a tap is given on. */
export function gestures(stage: Stage, target: HTMLElement, tap: () => void): void {
  const fingers = new Map<number, { x: number; y: number }>()
  let moved = false
  let waiting: ReturnType<typeof setTimeout> | undefined
  const share = (x: number, y: number) => {
    const { left, top, width, height } = target.parentElement!.getBoundingClientRect()
    return { x: (x - left) / width, y: (y - top) / height }
  }
  const spread = () => {
    const [a, b] = [...fingers.values()]
    return a && b ? { size: Math.hypot(a.x - b.x, a.y - b.y), x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 } : null
  }
  target.addEventListener('pointerdown', e => {
    if (e.button !== 0) return
    fingers.set(e.pointerId, { x: e.clientX, y: e.clientY })
    if (fingers.size === 1) moved = false
    target.setPointerCapture(e.pointerId)
  })
  target.addEventListener('pointermove', e => {
    const was = fingers.get(e.pointerId)
    if (!was) return
    const before = spread()
    fingers.set(e.pointerId, { x: e.clientX, y: e.clientY })
    const now = spread()
    const { width, height } = target.parentElement!.getBoundingClientRect()
    if (before && now) {
      moved = true
      stage.zoomBy(now.size / before.size, share(now.x, now.y))
      stage.moveBy((now.x - before.x) / width, (now.y - before.y) / height)
    } else if (stage.zoomed && (moved || Math.hypot(e.clientX - was.x, e.clientY - was.y) > 3)) {
      moved = true
      stage.moveBy((e.clientX - was.x) / width, (e.clientY - was.y) / height)
    }
  })
  const up = (e: PointerEvent) => {
    if (!fingers.delete(e.pointerId) || moved || e.type === 'pointercancel') return
    if (waiting) {
      clearTimeout(waiting)
      waiting = undefined
      if (stage.zoomed) stage.whole()
      else stage.zoomBy(2.2, share(e.clientX, e.clientY))
      return
    }
    // A second tap goes closer instead.
    waiting = setTimeout(() => {
      waiting = undefined
      tap()
    }, DOUBLE_TAP)
  }
  target.addEventListener('pointerup', up)
  target.addEventListener('pointercancel', up)
  target.addEventListener(
    'wheel',
    e => {
      if (!e.ctrlKey) return
      e.preventDefault()
      stage.zoomBy(Math.exp(-e.deltaY / 300), share(e.clientX, e.clientY))
    },
    { passive: false },
  )
}
