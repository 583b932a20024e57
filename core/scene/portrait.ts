import type { Box } from '../folio/basics'
import { CORNERS, type Corner } from '../folio/known'
import type { Frame, Portrait } from '../folio/model'
import type { Thing } from '../folio/thing'
import { applyTo, boxHolds, grownBox, type Matrix } from '../geometry'
import { POINT_SIZE, type Stroke } from '../ink/stroke'
import { BoardFollower, kindOf, type ObjectPlacement, type OperationRef, type TakeEvent } from '../recording/events'
import { boxOfThing } from '../things'

/**
 * How the edge of the picture is drawn: its colour, its width and the roundness of its corners, both as shares of the
 * picture's height.
 */
export const PORTRAIT_EDGE = '#fbf9f3'
export const PORTRAIT_EDGE_WIDTH = 0.02
export const PORTRAIT_ROUND = 0.08
/** How long moving to another corner takes, and how soon it may move again, ms. */
export const PORTRAIT_MOVE_MS = 400
const REST_MS = 1200
/** Distance from the frame's edges, and how near ink may come, as shares of the frame's height. */
const MARGIN = 0.03
const NEAR = 0.05
/** Ink is remembered in squares of so many points. */
const CELL = 12
/** Another corner is only better when it has so much less ink than this one. */
const BETTER = 3

/** Where a portrait stands in a view when it is in `corner`, in the view's unit. */
export function portraitBox({ shape, size }: Portrait, corner: Corner, view: Box): Box {
  const h = view.h * size,
    w = shape === 'wide' ? (h * 16) / 9 : h,
    margin = view.h * MARGIN
  return {
    x: corner.endsWith('left') ? view.x + margin : view.x + view.w - margin - w,
    y: corner.startsWith('top') ? view.y + margin : view.y + view.h - margin - h,
    w,
    h,
  }
}

/**
 * The way of a portrait through a take: it stands in its corner, moves to the one with the least ink when the ink comes
 * near, and back only
 * where nothing has been written. The same log gives the same way on screen and in the video.
 */
export class PortraitPath extends BoardFollower {
  /** Where it stands from when on, take ms, ascending. */
  readonly moves: { t: number; corner: Corner }[]
  private readonly ink = new Map<string, Set<number>>()
  /** Where what can be moved lies now: samples of ink and spots of things, flat x, y. */
  private readonly places = new Map<string, number[]>()
  private readonly views: { t: number; box: Box; frame: Frame }[] = []
  private read = 0

  /** @param first the frame in which the take begins */
  constructor(
    private readonly portrait: Portrait,
    first: Frame,
    events: readonly TakeEvent[] = [],
  ) {
    super()
    this.moves = [{ t: 0, corner: portrait.corner }]
    this.views.push({ t: 0, box: first.box, frame: first })
    this.follow(events)
  }

  /** Takes in what a log has more than when it was last followed. */
  follow(events: readonly TakeEvent[]): void {
    for (; this.read < events.length; this.read++) kindOf(events[this.read]!).apply(events[this.read]!, this)
  }

  /** Ink at a place of the page, as it is written. @param t take ms */
  wrote(t: number, x: number, y: number): void {
    const {
      frame: { pageId },
      box,
    } = this.view
    const cells = this.ink.get(pageId) ?? new Set()
    this.ink.set(pageId, cells.add(cellOf(x, y)))
    if (!boxHolds(grownBox(portraitBox(this.portrait, this.corner, box), box.h * NEAR), { x, y })) return
    const last = this.moves[this.moves.length - 1]!
    if (this.moves.length > 1 && t - last.t < REST_MS) return
    const best = this.emptiest(this.corner)
    const there = this.inkAt(best)
    if (there === 0 || there + BETTER <= this.inkAt(this.corner)) this.moveTo(best, t)
  }

  /** Where it stands at `t`, in the unit of `view`; on its way between two corners for a moment. */
  at(t: number, view: Box): Box {
    const i = Math.max(
      0,
      this.moves.findLastIndex(m => m.t <= t),
    )
    const now = this.moves[i]!,
      before = this.moves[i - 1]
    const to = portraitBox(this.portrait, now.corner, view)
    const share = Math.min(1, (t - now.t) / PORTRAIT_MOVE_MS)
    if (!before || share >= 1) return to
    const from = portraitBox(this.portrait, before.corner, view),
      s = share * share * (3 - 2 * share)
    return { ...to, x: from.x + (to.x - from.x) * s, y: from.y + (to.y - from.y) * s }
  }

  private get view() {
    return this.views[this.views.length - 1]!
  }
  private get corner(): Corner {
    return this.moves[this.moves.length - 1]!.corner
  }

  override setFrame(t: number, frame: Frame): void {
    this.look(t, frame, frame.box)
  }
  override zoom(t: number, box: Box | null): void {
    this.look(t, this.view.frame, box ?? this.view.frame.box)
  }
  override rewind(t: number, to: number): void {
    const before = this.views.findLast(v => v.t <= to) ?? this.views[0]!
    this.look(t, before.frame, before.box)
  }
  override addStrokes(_by: OperationRef, strokes: readonly Stroke[]): void {
    for (const s of strokes) this.writeAll(s.id, s.points)
  }
  override addObject(by: OperationRef, { thing }: ObjectPlacement): void {
    this.put(by.id, by.t, spotsOf(thing))
  }
  override changeObject(by: OperationRef, target: string, thing: Thing): void {
    this.put(target, by.t, spotsOf(thing))
  }
  override transform(by: OperationRef, targets: readonly string[], { matrix }: { matrix?: Matrix }): void {
    if (matrix) for (const id of targets) this.put(id, by.t, moved(this.places.get(id) ?? [], matrix))
  }

  private writeAll(id: string, points: readonly number[]) {
    const spots: number[] = []
    for (let i = 0; i + 3 < points.length; i += POINT_SIZE) {
      spots.push(points[i]!, points[i + 1]!)
      this.wrote(points[i + 3]!, points[i]!, points[i + 1]!)
    }
    this.places.set(id, spots)
  }

  private put(id: string, t: number, spots: number[]) {
    this.places.set(id, spots)
    for (let i = 0; i < spots.length; i += 2) this.wrote(t, spots[i]!, spots[i + 1]!)
  }

  private look(t: number, frame: Frame, box: Box) {
    this.views.push({ t, box, frame })
    const home = this.portrait.corner
    const best = this.inkAt(home) === 0 ? home : this.inkAt(this.corner) === 0 ? this.corner : this.emptiest()
    if (best !== this.corner) this.moveTo(best, t)
  }

  private moveTo(corner: Corner, t: number) {
    const last = this.moves[this.moves.length - 1]!
    this.moves.push({ t: Math.max(t, last.t), corner })
  }

  /** How many squares with ink lie where it would stand. */
  private inkAt(corner: Corner): number {
    const {
      frame: { pageId },
      box,
    } = this.view
    const cells = this.ink.get(pageId)
    if (!cells) return 0
    const b = grownBox(portraitBox(this.portrait, corner, box), box.h * NEAR)
    let n = 0
    for (let x = Math.floor(b.x / CELL); x <= Math.floor((b.x + b.w) / CELL); x++) {
      for (let y = Math.floor(b.y / CELL); y <= Math.floor((b.y + b.h) / CELL); y++) if (cells.has(keyOf(x, y))) n++
    }
    return n
  }

  /** The corner with the least ink: its own if that is one of them, else one beside it. */
  private emptiest(except?: Corner): Corner {
    const home = this.portrait.corner
    const turns = (c: Corner) =>
      (c.startsWith('top') === home.startsWith('top') ? 0 : 1) + (c.endsWith('left') === home.endsWith('left') ? 0 : 1)
    return CORNERS.filter(c => c !== except).sort((a, b) => this.inkAt(a) - this.inkAt(b) || turns(a) - turns(b))[0]!
  }
}

/** The corners, middles of sides and middle of a thing, flat x, y. */
function spotsOf(thing: Thing): number[] {
  const b = boxOfThing(thing)
  return [0, 0.5, 1].flatMap(u => [0, 0.5, 1].flatMap(v => [b.x + b.w * u, b.y + b.h * v]))
}

function moved(spots: readonly number[], matrix: Matrix): number[] {
  const to: number[] = []
  for (let i = 0; i < spots.length; i += 2) {
    const p = applyTo(matrix, { x: spots[i]!, y: spots[i + 1]! })
    to.push(p.x, p.y)
  }
  return to
}

const keyOf = (column: number, row: number) => column * 65_536 + row
const cellOf = (x: number, y: number) => keyOf(Math.floor(x / CELL), Math.floor(y / CELL))
