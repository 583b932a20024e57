import type { Frame } from '../folio/model'
import { POINT_SIZE, type Stroke } from '../ink/stroke'
import { endOf, type MoreInk, type TakeEvent } from './events'
import type { z } from 'zod'

/** A stretch of time, `from` included, `to` not, in ms. */
export interface Stretch { from: number, to: number }

/** A stroke on the board and how many of its samples have been written by then. */
export interface BoardStroke { stroke: Stroke, count: number }
/** What is on the board at one moment, in drawing order. */
export interface Board {
  t: number, strokes: BoardStroke[]
  /** What students see then; missing where only one frame is known. */
  frame?: Frame
}

interface Kept {
  stroke: Stroke
  from: number
  /** The page it was written on; missing when only one is known. */
  pageId: string | undefined
  /** Moments at which the stroke goes off the board, comes back, goes off … */
  toggles: number[]
  /** Reasons it is off the board now: its own undo and the erasers in force. */
  hidden: Set<string>
}

/**
 * The board of one take at any moment. The log is read once, into the moments at which each stroke comes and goes;
 * a board is then a filter over the strokes, whatever the moment, so that seeking costs the same everywhere.
 *
 * Events inside `struck` stretches count as if they had not happened: a struck step takes its ink along.
 */
export class BoardIndex {
  private readonly kept: Kept[] = []
  private readonly byId = new Map<string, Kept>()
  private readonly erasures = new Map<string, string[]>()
  private readonly undone = new Set<string>()
  private readonly moments: number[] = []
  private sorted = true
  private readonly frames: { t: number, frame: Frame }[] = []

  /** @param first the frame in which the take begins; without it, all ink lies on one page */
  constructor(events: Iterable<TakeEvent> = [], private readonly struck: readonly Stretch[] = [], first?: Frame) {
    if (first) this.frames.push({ t: 0, frame: first })
    for (const event of events) this.append(event)
  }

  /** Adds the next event of the log. */
  append(event: TakeEvent): void {
    // A struck step takes its ink along, but where the take went on stays where it went on.
    if (event.type === 'frame') {
      this.frames.push({ t: event.t, frame: event.frame })
      return this.moment(event.t)
    }
    if (this.struck.some(s => event.t >= s.from && event.t < s.to)) return
    switch (event.type) {
      case 'stroke': this.addStroke(event); break
      case 'erase':
        this.erasures.set(event.id, event.strokes)
        this.hide(event.strokes, event.id, event.t)
        break
      case 'undo': this.undo(event.target, event.t); break
      case 'redo': this.redo(event.target, event.t); break
      case 'step': case 'pause': break
    }
  }

  /** Adds samples to a stroke that is being written. */
  extend(more: z.infer<typeof MoreInk>): void {
    const kept = this.byId.get(more.id)
    if (!kept) return
    for (const n of more.points) kept.stroke.points.push(n)
    this.note(more.points)
  }

  /** The frame at `t` ms. */
  frameAt(t: number): Frame | undefined {
    return this.frames.findLast(f => f.t <= t)?.frame
  }

  /** The board at `t` ms. @param pageId whose ink; that of the frame at the time when left out */
  at(t: number, pageId?: string): Board {
    const strokes: BoardStroke[] = []
    const frame = this.frameAt(t)
    const on = pageId ?? frame?.pageId
    for (const kept of this.kept) {
      if (kept.from > t || (on !== undefined && kept.pageId !== undefined && kept.pageId !== on) || !shownAt(kept.toggles, t)) continue
      const count = samplesUntil(kept.stroke.points, t)
      if (count) strokes.push({ stroke: kept.stroke, count })
    }
    return frame ? { t, strokes, frame } : { t, strokes }
  }

  /** The board after everything in the log. */
  last(pageId?: string): Board {
    return this.at(Number.POSITIVE_INFINITY, pageId)
  }

  /** Every moment (ms, ascending) at which the picture changes. */
  changes(): readonly number[] {
    if (!this.sorted) {
      this.moments.sort((a, b) => a - b)
      this.sorted = true
    }
    return this.moments
  }

  private addStroke(event: Extract<TakeEvent, { type: 'stroke' }>) {
    if (this.byId.has(event.id)) return
    const kept: Kept = { stroke: { id: event.id, role: event.role, tool: event.tool, points: [...event.points] }, from: event.t, pageId: this.frames.at(-1)?.frame.pageId, toggles: [], hidden: new Set() }
    this.kept.push(kept)
    this.byId.set(event.id, kept)
    this.moment(event.t)
    this.note(event.points)
  }

  private undo(target: string, t: number) {
    if (this.undone.has(target)) return
    const erased = this.erasures.get(target)
    if (erased) this.show(erased, target, t)
    else if (this.byId.has(target)) this.hide([target], target, t)
    else return
    this.undone.add(target)
  }

  private redo(target: string, t: number) {
    if (!this.undone.delete(target)) return
    const erased = this.erasures.get(target)
    if (erased) this.hide(erased, target, t)
    else this.show([target], target, t)
  }

  private hide(ids: readonly string[], why: string, t: number) {
    for (const id of ids) {
      const kept = this.byId.get(id)
      if (!kept || kept.hidden.has(why)) continue
      kept.hidden.add(why)
      if (kept.hidden.size === 1) this.toggle(kept, t)
    }
  }

  private show(ids: readonly string[], why: string, t: number) {
    for (const id of ids) {
      const kept = this.byId.get(id)
      if (kept?.hidden.delete(why) && kept.hidden.size === 0) this.toggle(kept, t)
    }
  }

  private toggle(kept: Kept, t: number) {
    kept.toggles.push(t)
    this.moment(t)
  }

  private note(points: readonly number[]) {
    for (let i = 3; i < points.length; i += POINT_SIZE) this.moment(points[i]!)
  }

  private moment(t: number) {
    const before = this.moments[this.moments.length - 1]
    if (before === t) return
    if (before !== undefined && before > t) this.sorted = false
    this.moments.push(t)
  }
}

/** An even number of comings and goings by `t` leaves the stroke on the board. */
function shownAt(toggles: readonly number[], t: number): boolean {
  let passed = 0
  while (passed < toggles.length && toggles[passed]! <= t) passed++
  return passed % 2 === 0
}

/** How many samples were written by `t` (binary search over their times). */
function samplesUntil(points: readonly number[], t: number): number {
  const n = points.length / POINT_SIZE
  if (n === 0 || points[points.length - 1]! <= t) return n
  let low = 0
  let high = n
  while (low < high) {
    const mid = (low + high) >> 1
    if (points[mid * POINT_SIZE + 3]! <= t) low = mid + 1
    else high = mid
  }
  return low
}

/** How long a log runs, ms: the end of its last event. */
export function logDuration(events: readonly TakeEvent[]): number {
  return events.reduce((longest, e) => Math.max(longest, endOf(e)), 0)
}
