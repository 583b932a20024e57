/** A place on the screen, CSS px. */
export interface Point {
  x: number
  y: number
}

/** What a hand on a canvas does. */
export interface HandEvents {
  begin(e: PointerEvent): void
  grow(e: PointerEvent): void
  end(): void
  /** The line that was begun was none: a second finger came, or the browser took the touch away. */
  drop(): void
  pinch(by: number, at: Point, move: Point): void
}

/**
 * One line at a time from a pen, a mouse or a finger: the pointer that began it alone makes it grow. Where a pen was
 * used, fingers and palms write no more; two fingers move and zoom.
 */
export class WritingHand {
  private writing: number | null = null
  private hasPen = false
  private readonly fingers = new Map<number, Point>()

  constructor(private readonly events: HandEvents) {}

  watch(target: HTMLElement, signal: AbortSignal): void {
    const on = (type: 'pointerdown' | 'pointermove' | 'pointerup' | 'pointercancel', run: (e: PointerEvent) => void) =>
      target.addEventListener(type, run, { signal })
    on('pointerdown', e => {
      if (e.button !== 0) return
      target.setPointerCapture(e.pointerId)
      this.down(e)
    })
    on('pointermove', e => this.move(e))
    on('pointerup', e => this.up(e, false))
    on('pointercancel', e => this.up(e, true))
  }

  down(e: PointerEvent): void {
    if (e.pointerType === 'touch') {
      this.fingers.set(e.pointerId, { x: e.clientX, y: e.clientY })
      if (this.hasPen || this.fingers.size > 1) {
        if (this.writing !== null && this.fingers.has(this.writing)) this.stop()
        return
      }
    }
    if (e.pointerType === 'pen') {
      this.hasPen = true
      // A palm that lies there already has begun a line that is none.
      if (this.writing !== null && this.fingers.has(this.writing)) this.stop()
    }
    if (this.writing !== null) return
    this.writing = e.pointerId
    this.events.begin(e)
  }

  private stop(): void {
    this.writing = null
    this.events.drop()
  }

  move(e: PointerEvent): void {
    const isPinch = this.writing === null && this.fingers.size === 2 && this.fingers.has(e.pointerId)
    const before = isPinch ? this.spread() : null
    if (this.fingers.has(e.pointerId)) this.fingers.set(e.pointerId, { x: e.clientX, y: e.clientY })
    if (e.pointerId === this.writing) this.events.grow(e)
    if (!before) return
    const now = this.spread()
    if (before.size > 0) this.events.pinch(now.size / before.size, now, { x: now.x - before.x, y: now.y - before.y })
  }

  up(e: PointerEvent, isTaken: boolean): void {
    this.fingers.delete(e.pointerId)
    if (e.pointerId !== this.writing) return
    if (isTaken) return this.stop()
    this.writing = null
    this.events.end()
  }

  /** How far two fingers are apart, and where their middle is. */
  private spread(): Point & { size: number } {
    const [a, b] = [...this.fingers.values()] as [Point, Point]
    return { size: Math.hypot(a.x - b.x, a.y - b.y), x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }
  }
}
