import type { z } from 'zod'
import type { Frame } from '../folio/model'
import type { Thing } from '../folio/thing'
import { piecesOf, transformStroke, type Matrix } from '../ink/alter'
import { POINT_SIZE, type Stroke } from '../ink/stroke'
import { transformThing } from '../things/transform'
import type { PenRole } from '../ink/roles'
import {
  endOf,
  kindOf,
  type BoardBuilder,
  type GuideMove,
  type ObjectPlacement,
  type OperationRef,
  type StrokeRanges,
  type TakeEvent,
} from './events'
import type { MoreInk } from './journal'
import { Looks, TRAIL_MS, TICK_MS, type Seen } from './looks'
import { Item, Operation, type Ink, type Placed } from './operation'

/** What comes or goes softly takes so long, ms. */
const EASE_MS = 400

/**
 * A stroke on the board and how many of its samples have been written by then; `n` is its place in the drawing order.
 */
export interface BoardStroke {
  stroke: Stroke
  count: number
  /** The stroke as it was written, of which this may be a piece. */ of: string
  n: number
  /** How much of it is seen while it comes or goes softly, 0…1. */
  strength?: number
}
/**
 * A thing on the board: how much of it is drawn by then, 0…1; `ms` since its drawing began. `version` changes whenever
 * it does.
 */
export interface BoardThing {
  id: string
  thing: Thing
  version: string
  share: number
  ms: number
  n: number
  /** How much of it is seen while it comes or goes softly, 0…1. */
  strength?: number
}
/** What is on the board at one moment, in the order in which it came. */
export interface Board extends Seen {
  t: number
  strokes: BoardStroke[]
  things: BoardThing[]
  /** What students see then; missing where only one frame is known. */
  frame?: Frame
}

/**
 * A log that is put together as far as it is asked for, at least until `t`; both lists only grow. `always` is done to
 * what the events make of what is there; at `eased` moments, what comes or goes at once does so softly.
 */
export interface LogSource {
  until(t: number): { events: readonly TakeEvent[]; always: readonly TakeEvent[]; eased: readonly number[] }
}

/** Ink, or a thing and the time in which it is drawn, with all that is done to it. */
export type BoardIndexItem = Item<Ink> | (Item<Placed> & { over: number })

/**
 * The board of one take at any moment. The log is read once, into items and the operations that bring, change and
 * remove them; a board is
 * then a filter over the items, whatever the moment, so that seeking costs the same everywhere.
 */
export class BoardIndex {
  private readonly ink: Item<Ink>[] = []
  private readonly things: (Item<Placed> & { over: number })[] = []
  private readonly byId = new Map<string, BoardIndexItem>()
  private readonly operations = new Map<string, Operation>()
  private readonly moves = new Map<string, { by: Operation; move: number }[]>()
  private readonly revealed = new Map<string, Operation[]>()
  private readonly looks = new Looks()
  /** Whether what comes may still grow, as in a running take; its samples are then the board's own. */
  private live = false
  private readonly moments: number[] = []
  private readonly travels: number[] = []
  private readonly noted: (readonly number[])[] = []
  private sorted = true
  private readonly frames: { t: number; frame: Frame }[] = []
  /** Whether what comes next always was so. */
  private always = false
  private source: LogSource | null = null
  private readonly read = { events: 0, always: 0 }
  private readonly eased: number[] = []

  /** @param first the frame in which the take begins; without it, all ink lies on one page */
  constructor(events: Iterable<TakeEvent> = [], first?: Frame) {
    if (first) this.frames.push({ t: 0, frame: first })
    for (const event of events) this.append(event)
    this.live = true
  }

  /** The board of a log that is put together as far as it is asked for. */
  static of(source: LogSource, first: Frame): BoardIndex {
    const index = new BoardIndex([], first)
    index.source = source
    index.live = false
    return index
  }

  /** Reads what there is of the log until `t`. */
  private readUntil(t: number) {
    if (!this.source) return
    const { events, always, eased } = this.source.until(t)
    while (this.read.events < events.length) this.append(events[this.read.events++]!)
    while (this.read.always < always.length) this.append(always[this.read.always++]!, true)
    while (this.eased.length < eased.length) this.ease(eased[this.eased.length]!)
  }

  private ease(t: number) {
    this.eased.push(t)
    this.every(t, t + EASE_MS)
  }

  /** How much of an item is seen at `t`, 0…1: all or nothing, but where it comes or goes softly. */
  private strengthOf(
    item: Item<Ink> | Item<Placed>,
    t: number,
    eased: number | undefined,
    wholeAt: () => boolean,
  ): number {
    const here = item.shownAt(t)
    if (eased === undefined) return here ? 1 : 0
    const was = item.shownAt(eased - 1e-3)
    if (was === here || (here && !wholeAt())) return here ? 1 : 0
    const share = (t - eased) / EASE_MS
    return here ? share : 1 - share
  }

  /** Adds the next event of the log. @param always it is done to what all the others make of what is there */
  append(event: TakeEvent, always = false): void {
    this.always = always
    kindOf(event).apply(event, this.builder)
  }

  /** What events do to this board. */
  private readonly builder: BoardBuilder = {
    addStrokes: (by, strokes, move) => this.addStrokes(by, strokes, move),
    addObject: (by, placement) => this.addObject(by, placement),
    changeObject: (by, target, thing) =>
      this.change(by, [target], (operation, item) => {
        if (!isThing(item)) return
        item.sources.push(by.id)
        const placed = { thing, version: by.id, source: by.id }
        item.change(operation, () => placed, this.always)
      }),
    transform: (by, targets, how) => this.transform(by, targets, how),
    splitStrokes: (by, strokes) => this.splitStrokes(by, strokes),
    remove: (by, targets) => this.change(by, targets, (operation, item) => item.erase(operation)),
    toggle: (t, target, off) => this.toggle(target, t, off),
    rewind: (t, to) => this.goBack(to, t),
    setFrame: (t, frame) => {
      this.frames.push({ t, frame })
      this.looks.whole(t)
      this.moment(t)
    },
    zoom: (t, box, over) => {
      const { from, to } = this.looks.zoom(t, box, over)
      for (let at = from; at <= to; at += TICK_MS) this.travels.push(at)
      this.every(from, to)
    },
    spotlight: (t, box) => {
      const { from, to } = this.looks.spotlight(t, box)
      this.every(from, to)
    },
    pointer: (id, points) => {
      const fading = this.looks.pointer(id, points)
      this.note(points)
      if (fading) this.every(fading.from, fading.to)
    },
  }

  /** Adds samples to a stroke or a trail that is being written. */
  extend(more: z.infer<typeof MoreInk>): void {
    const item = this.byId.get(more.id) as Item<Ink> | undefined
    if (!item) {
      if (this.looks.extend(more.id, more.points)) this.noteTrail(more.points)
      return
    }
    const stroke = item.valueAt(Number.POSITIVE_INFINITY).strokes[0]!
    for (const n of more.points) stroke.points.push(n)
    this.note(more.points)
  }

  /** The frame at `t` ms. */
  frameAt(t: number): Frame | undefined {
    this.readUntil(t)
    return this.frames.findLast(f => f.t <= t)?.frame
  }

  /** The board at `t` ms. @param pageId whose ink; that of the frame at the time when left out */
  at(t: number, pageId?: string): Board {
    const frame = this.frameAt(t)
    const on = pageId ?? frame?.pageId
    const here = (item: { pageId: string | undefined }) =>
      on === undefined || item.pageId === undefined || item.pageId === on
    const board: Board = { t, strokes: [], things: [] }
    const eased = this.eased.findLast(e => e <= t && t < e + EASE_MS)
    for (const item of this.ink) {
      if (!here(item)) continue
      const { strokes } = item.valueAt(t)
      const strength = this.strengthOf(item, t, eased, () => strokes.every(s => (s.points.at(-1) ?? 0) <= eased!))
      if (!strength) continue
      for (const stroke of strokes) {
        const count = samplesUntil(stroke.points, t)
        if (count) board.strokes.push({ stroke, count, of: item.id, n: item.n, ...softly(strength) })
      }
    }
    for (const item of this.things) {
      if (!here(item)) continue
      const ms = t - item.by.t
      const strength = this.strengthOf(item, t, eased, () => item.by.t + item.over <= eased!)
      if (!strength) continue
      const { thing, version } = item.valueAt(t)
      const share = item.over > 0 ? Math.min(1, ms / item.over) : 1
      board.things.push({
        id: item.id,
        thing,
        version: share < 1 ? `${version}@${Math.floor(ms / TICK_MS)}` : version,
        share,
        ms,
        n: item.n,
        ...softly(strength),
      })
    }
    if (frame) board.frame = frame
    return Object.assign(board, this.looks.at(t, frame?.box))
  }

  /** The board after everything in the log. */
  last(pageId?: string): Board {
    return this.at(Number.POSITIVE_INFINITY, pageId)
  }

  /** A stroke or a thing by its id, whatever became of it; the whole log is read for it. */
  item(id: string): BoardIndexItem | undefined {
    this.readUntil(Infinity)
    return this.byId.get(id)
  }
  /** The frames that come one after another, from `t` ms on each. */
  frameChanges(): readonly { t: number; frame: Frame }[] {
    this.readUntil(Infinity)
    return this.frames
  }

  /** How many moves of a layout guide have been filled in and not taken back. */
  movesOf(guide: string): number {
    this.readUntil(Infinity)
    return (this.moves.get(guide) ?? []).filter(m => m.by.inForce).length
  }

  /** Whether a held line has been revealed and not taken back. */
  isRevealed(held: string): boolean {
    this.readUntil(Infinity)
    return (this.revealed.get(held) ?? []).some(o => o.inForce)
  }

  /** Every moment (ms, ascending) at which the picture changes. */
  changes(): readonly number[] {
    this.readUntil(Infinity)
    for (const points of this.noted)
      for (let i = POINT_SIZE - 1; i < points.length; i += POINT_SIZE) this.moment(points[i]!)
    this.noted.length = 0
    if (!this.sorted) {
      this.moments.sort((a, b) => a - b)
      this.sorted = true
    }
    return this.moments
  }

  /** Moments (ms, ascending) at which the view itself moves. */
  movements(): readonly number[] {
    this.readUntil(Infinity)
    return this.travels
  }

  private operation({ id, t }: OperationRef): Operation {
    // One operation may come in several events.
    const made = this.operations.get(id) ?? new Operation(id, t)
    this.operations.set(id, made)
    this.moment(t)
    return made
  }

  private addInk(by: Operation, { id, role, tool, size, points }: Stroke) {
    if (this.byId.has(id)) return
    const stroke: Stroke = {
      id,
      role,
      tool,
      ...(size === undefined ? {} : { size }),
      points: this.live ? points.slice() : points,
    }
    const item = new Item<Ink>(id, by, { strokes: [stroke] }, this.frames.at(-1)?.frame.pageId, this.byId.size)
    this.ink.push(item)
    this.byId.set(id, item)
    this.note(points)
  }

  private addStrokes(by: OperationRef, strokes: readonly Stroke[], move?: GuideMove) {
    const operation = this.operation(by)
    for (const stroke of strokes) this.addInk(operation, stroke)
    if (move) this.moves.set(move.guide, [...(this.moves.get(move.guide) ?? []), { by: operation, move: move.move }])
  }

  private addObject(by: OperationRef, { thing, over, held, instead = [] }: ObjectPlacement) {
    if (this.byId.has(by.id)) return
    const operation = this.operation(by)
    const placed = { thing, version: by.id, source: by.id }
    const item = Object.assign(
      new Item<Placed>(by.id, operation, placed, this.frames.at(-1)?.frame.pageId, this.byId.size),
      { over },
    )
    this.things.push(item)
    this.byId.set(by.id, item)
    for (const replaced of instead) this.byId.get(replaced)?.erase(operation)
    if (held) this.revealed.set(held, [...(this.revealed.get(held) ?? []), operation])
    this.every(by.t, by.t + over)
  }

  private transform(
    by: OperationRef,
    targets: readonly string[],
    { matrix, role }: { matrix?: Matrix; role?: PenRole },
  ) {
    this.change(by, targets, (operation, item) => {
      if (isThing(item))
        item.change(
          operation,
          ({ thing, source }) => ({ thing: transformThing(thing, matrix, role), version: by.id, source }),
          this.always,
        )
      else
        (item as Item<Ink>).change(
          operation,
          ({ strokes }) => ({
            strokes: strokes.map(s => {
              // A changed stroke has another name, so that surfaces draw it anew.
              const moved = matrix ? transformStroke(s, matrix) : s
              return { ...moved, id: `${s.id}~${by.id}`, ...(role ? { role } : {}) }
            }),
          }),
          this.always,
        )
    })
  }

  private splitStrokes(by: OperationRef, ranges: readonly StrokeRanges[]) {
    const keep = new Map(ranges.map(s => [s.id, s.keep]))
    this.change(by, [...keep.keys()], (operation, item) => {
      // Only ink has samples.
      if (isThing(item)) return
      const ink = item as Item<Ink>
      // Ranges count over all pieces that were left before, one after another.
      ink.change(
        operation,
        ({ strokes }) => ({ strokes: splitPieces(strokes, keep.get(item.id)!, by.id) }),
        this.always,
      )
    })
  }

  private change(
    by: OperationRef,
    targets: readonly string[],
    apply: (operation: Operation, item: BoardIndexItem) => void,
  ) {
    const operation = this.operation(by)
    for (const target of targets) {
      const item = this.byId.get(target)
      if (item) apply(operation, item)
    }
  }

  private toggle(target: string, t: number, off: boolean) {
    const operation = this.operations.get(target)
    if (!operation || operation.inForce !== off) return
    operation.toggle(t)
    this.moment(t)
  }

  /** Everything stands again as it stood at `to`; what came since is off the board, but still there to be looked at. */
  private goBack(to: number, t: number) {
    for (const operation of this.operations.values()) operation.goBack(to, t)
    const frame = this.frameAt(to)
    if (frame && frame !== this.frames.at(-1)!.frame) this.frames.push({ t, frame })
    this.looks.goBack(to, t)
    this.moment(t)
  }

  /** Ink changes the picture with each of its samples; they are counted when they are asked for. */
  private note(points: readonly number[]) {
    this.noted.push(this.live ? points.slice() : points)
  }

  private noteTrail(points: readonly number[]) {
    this.note(points)
    const last = points[points.length - 1]
    if (last !== undefined) this.every(last, last + TRAIL_MS)
  }

  /** A picture that moves by itself between two moments. */
  private every(from: number, to: number) {
    for (let t = from; t < to; t += TICK_MS) this.moment(t)
    this.moment(to)
  }

  private moment(t: number) {
    const before = this.moments[this.moments.length - 1]
    if (before === t) return
    if (before !== undefined && before > t) this.sorted = false
    this.moments.push(t)
  }
}

/** Whether an item is a thing, and no ink. */
export const isThing = (item: BoardIndexItem): item is Item<Placed> & { over: number } => 'over' in item

const softly = (strength: number) => (strength < 1 ? { strength } : {})

function splitPieces(strokes: readonly Stroke[], keep: readonly (readonly [number, number])[], by: string): Stroke[] {
  let offset = 0
  return strokes.flatMap(stroke => {
    const n = stroke.points.length / POINT_SIZE
    const own = keep
      .map(([a, b]) => [Math.max(0, a - offset), Math.min(n, b - offset)] as [number, number])
      .filter(([a, b]) => b > a)
    offset += n
    return piecesOf({ ...stroke, id: `${stroke.id}~${by}` }, own)
  })
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
