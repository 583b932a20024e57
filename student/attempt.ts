import type { Box } from '../core/folio/basics'
import { fillOutline, viewScale, type Context2D } from '../core/scene/canvas'
import { outlineStroke, type Stroke } from '../core/ink/stroke'
import { quantise } from '../core/ink/quantise'
import { forget, keep, kept } from './kept'
import { WritingHand, type Point } from './writingHand'

/** Her own ink is a pencil's; on dark paper a light one's. */
const PENCIL = '#6b6e75'
const PENCIL_DARK = '#c9cbd1'
/** Canvases are no sharper than this, pixels for each CSS px. */
const MOST_DENSITY = 2
/** An eraser takes what it comes nearer to than this, points. */
const REACH = 7

/** What a student wrote at one pause, on the page, by points; flat x, y, pressure, ms. */
type Ink = number[][]

/** A student's own writing over the page: hers, kept in her browser. */
export class Attempt {
  private ink: Ink
  private readonly undone: Ink = []
  private growing: number[] | null = null
  private view: Box | null = null
  /** Lines that are finished, painted once for the view and size they are seen in. */
  private finished: { canvas: HTMLCanvasElement; of: string } | null = null
  private frame = 0
  /** Whether what is drawn now takes away. */
  erasing = false
  shown = true
  onChange: () => void = () => {}
  /** Told of each line that comes, and of those that go. */
  onAdd: (line: number[]) => void = () => {}
  onGone: (lines: readonly number[][]) => void = () => {}

  /** @param name under which it is kept; null where it is not */
  constructor(
    private readonly name: string | null,
    private readonly canvas: HTMLCanvasElement,
    private readonly dark: boolean,
  ) {
    this.ink = name === null ? [] : readInk(kept(name))
    for (const line of this.ink) this.known.add(JSON.stringify(line))
  }

  get strokes(): Ink {
    return this.ink
  }
  get isEmpty(): boolean {
    return this.ink.length === 0
  }
  get canUndo(): boolean {
    return this.ink.length > 0
  }
  get canRedo(): boolean {
    return this.undone.length > 0
  }

  undo(): void {
    const last = this.ink.pop()
    if (last) {
      this.undone.push(last)
      this.onGone([last])
    }
    this.changed()
  }
  redo(): void {
    const last = this.undone.pop()
    if (last) {
      this.ink.push(last)
      this.onAdd(last)
    }
    this.changed()
  }
  clear(): void {
    this.onGone(this.ink)
    this.ink = []
    if (this.name !== null) forget(this.name)
    this.changed()
  }

  /** Lines that were written here, or known of; what else is kept comes from the same page in another tab. */
  private readonly known = new Set<string>()
  private takeIn(name: string) {
    for (const line of this.ink) this.known.add(JSON.stringify(line))
    const others = readInk(kept(name)).filter(line => !this.known.has(JSON.stringify(line)))
    for (const line of others) this.known.add(JSON.stringify(line))
    this.ink.push(...others)
  }

  private changed() {
    if (this.name !== null) {
      this.takeIn(this.name)
      if (this.ink.length) keep(this.name, JSON.stringify(this.ink))
      else forget(this.name)
    }
    this.finished = null
    this.draw()
    this.onChange()
  }

  /**
   * Lets it be written with pen, finger or mouse while it is open.
   * @param pinch told how two fingers spread (a factor) round a place, and move, CSS px
   * @returns ends that
   */
  open(pinch: (by: number, at: Point, move: Point) => void = () => {}): () => void {
    const { canvas } = this
    const abort = new AbortController()
    canvas.classList.add('open')
    const hand = new WritingHand({
      begin: e => {
        if (!this.view) return
        this.growing = []
        this.add(e)
      },
      grow: e => {
        const samples = e.getCoalescedEvents?.() ?? []
        for (const sample of samples.length ? samples : [e]) this.add(sample)
      },
      end: () => this.lift(),
      drop: () => {
        this.growing = null
        this.drawSoon()
      },
      pinch,
    })
    hand.watch(canvas, abort.signal)
    return () => {
      this.lift()
      abort.abort()
      canvas.classList.remove('open')
    }
  }

  private lift(): void {
    const line = this.growing
    if (!line) return
    this.growing = null
    if (!this.erasing && line.length) {
      this.ink.push(line)
      this.undone.length = 0
      this.onAdd(line)
    }
    this.changed()
  }

  private add(e: PointerEvent) {
    if (!this.growing) return
    const { left, top, width, height } = this.canvas.getBoundingClientRect()
    const view = this.view!
    const x = view.x + ((e.clientX - left) / width) * view.w
    const y = view.y + ((e.clientY - top) / height) * view.h
    if (this.erasing) {
      const near = (s: readonly number[]) => s.some((n, k) => k % 4 === 0 && Math.hypot(n - x, s[k + 1]! - y) < REACH)
      const gone = this.ink.filter(near)
      if (!gone.length) return
      this.ink = this.ink.filter(s => !gone.includes(s))
      this.finished = null
      this.onGone(gone)
    } else this.growing.push(...quantise(x, y, e.pointerType === 'mouse' ? 0.5 : e.pressure || 0.5, e.timeStamp))
    this.drawSoon()
  }

  /** Once for each picture, however many samples come. */
  private drawSoon() {
    if (this.frame) return
    this.frame = requestAnimationFrame(() => {
      this.frame = 0
      this.draw()
    })
  }

  /** Draws it where something else of the page is seen now. */
  see(view: Box): void {
    const was = this.view
    if (!was || was.x !== view.x || was.y !== view.y || was.w !== view.w) this.draw(view)
  }

  /** Draws it over what of the page is seen. */
  draw(view = this.view): void {
    this.view = view
    const { canvas } = this
    const width = Math.round(canvas.clientWidth * Math.min(MOST_DENSITY, devicePixelRatio || 1))
    if (canvas.width !== width && width) {
      canvas.width = width
      canvas.height = Math.round((width * 9) / 16)
    }
    const context = canvas.getContext('2d')!
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.clearRect(0, 0, canvas.width, canvas.height)
    if (!view || !this.shown || !canvas.width) return
    if (this.growing && !this.erasing) {
      context.drawImage(this.finishedOn(view), 0, 0)
      this.paint(context, [this.growing], view)
    } else this.paint(context, this.ink, view)
  }

  /** All finished lines as one picture, so that a line that grows among two hundred is drawn alone. */
  private finishedOn(view: Box): HTMLCanvasElement {
    const { width, height } = this.canvas
    const of = [view.x, view.y, view.w, width].join()
    if (this.finished?.of !== of) {
      const canvas = Object.assign(document.createElement('canvas'), { width, height })
      this.paint(canvas.getContext('2d')!, this.ink, view)
      this.finished = { canvas, of }
    }
    return this.finished.canvas
  }

  /** Paints lines on any canvas that shows a view of the page. */
  private paint(context: CanvasRenderingContext2D, lines: Ink, view: Box) {
    const { scale, dx, dy } = viewScale(view, context.canvas.width)
    context.setTransform(scale, 0, 0, scale, dx, dy)
    const colour = this.dark ? PENCIL_DARK : PENCIL
    for (const points of lines) {
      const stroke: Stroke = { id: '', role: 'working', tool: 'pen', points }
      for (const outline of outlineStroke(stroke)) fillOutline(context as unknown as Context2D, { ...outline, colour })
    }
  }

  /** Her lines on a canvas of their own. @param view what of the page it shows */
  copyTo(canvas: HTMLCanvasElement, view: Box): void {
    const context = canvas.getContext('2d')!
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.clearRect(0, 0, canvas.width, canvas.height)
    this.paint(context, this.ink, view)
  }

  /** Lets go of its pictures; what she wrote stays. */
  release(): void {
    cancelAnimationFrame(this.frame)
    this.frame = 0
    this.finished = null
    // What is seen next is drawn, whatever was seen before.
    this.view = null
    this.canvas.width = this.canvas.height = 0
  }
}

/** What was kept, as far as it is ink. */
export function readInk(text: string | null): Ink {
  try {
    const value: unknown = JSON.parse(text ?? '[]')
    return Array.isArray(value)
      ? value.filter((s): s is number[] => Array.isArray(s) && s.length % 4 === 0 && s.every(Number.isFinite))
      : []
  } catch {
    return []
  }
}
