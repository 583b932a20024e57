import type { Box, Frame, Page, Space, Thing } from '../folio'
import { afterSpace, spacesSince } from '../folio/layout'
import { asFrame } from '../folio/frame'
import { boxOfSamples, transformedBox, type Matrix } from '../geometry'
import { POINT_SIZE, type Stroke } from '../ink/stroke'
import { boxOfThing } from '../things/draw'
import { BoardFollower, kindOf, type ObjectPlacement, type OperationRef, type Reflow, type TakeEvent } from './events'

/** A frame after room was made in its page: it moves, or grows where the room is inside it. */
export function movedFrame(frame: Frame, spaces: readonly Space[]): Frame {
  let box = frame.box
  for (const space of spaces) {
    const moved = afterSpace(box, space)
    box = moved.h === box.h ? moved : asFrame(moved)
  }
  return { ...frame, box }
}

/**
 * A log as it lies on its pages now: ink and frames move along with the room that was put into a page after the take.
 * The log itself stays.
 * @param first the frame in which the take began
 * @param before the log as it lay when these events were made, where they do something to what is in it
 */
export function moveLog(
  events: readonly TakeEvent[],
  first: Frame,
  startedAt: string,
  pages: readonly Page[],
  before: () => readonly TakeEvent[] = () => [],
): { events: TakeEvent[]; first: Frame } {
  const since = new Map(pages.map(p => [p.id, spacesSince(p, startedAt)]))
  if (![...since.values()].some(s => s.some(x => x.side === 'below'))) return { events: [...events], first }
  const layout = new LayoutSince(since)
  for (const event of before()) kindOf(event).apply(event, layout)
  layout.show(first.pageId)
  const begin = layout.frame(first)
  const moved = events.flatMap((event): TakeEvent | TakeEvent[] => {
    const kind = kindOf(event)
    kind.apply(event, layout)
    return kind.reflow(event, layout)
  })
  return { events: moved, first: begin }
}

/**
 * The layout of pages since a take: where its strokes and objects lay in its own, whatever was done to them, and how far
 * down things go on the page that is in front.
 */
class LayoutSince extends BoardFollower implements Reflow {
  private readonly first = new Map<string, Box>()
  private readonly changes = new Map<string, { by: string; t: number; apply: (box: Box) => Box }[]>()
  private readonly undone = new Set<string>()

  private spaces: readonly Space[] = []

  /** @param since room that was put into pages since the take, by their ids */
  constructor(private readonly since: ReadonlyMap<string, readonly Space[]>) {
    super()
  }

  /** A page comes to the front. */
  show(pageId: string): void {
    this.spaces = this.since.get(pageId) ?? []
  }

  offset(box: Pick<Box, 'y' | 'h'>): number {
    return offsetOf(box, this.spaces)
  }
  frame(frame: Frame): Frame {
    return movedFrame(frame, this.spaces)
  }

  override addStrokes(_by: OperationRef, strokes: readonly Stroke[]): void {
    for (const s of strokes) this.put(s.id, boxOfSamples(s.points, POINT_SIZE))
  }
  override addObject(by: OperationRef, { thing }: ObjectPlacement): void {
    this.put(by.id, boxOfThing(thing))
  }
  override changeObject(by: OperationRef, target: string, thing: Thing): void {
    this.change(target, by, () => boxOfThing(thing))
  }
  override transform(by: OperationRef, targets: readonly string[], { matrix }: { matrix?: Matrix }): void {
    if (matrix) for (const target of targets) this.change(target, by, box => transformedBox(box, matrix))
  }
  override toggle(_t: number, target: string, off: boolean): void {
    if (off) this.undone.add(target)
    else this.undone.delete(target)
  }
  override rewind(_t: number, to: number): void {
    for (const [id, all] of this.changes)
      this.changes.set(
        id,
        all.filter(c => c.t <= to),
      )
  }
  override setFrame(_t: number, frame: Frame): void {
    this.show(frame.pageId)
  }

  boxBefore(id: string, operation: string): Box | null {
    const first = this.first.get(id)
    if (!first) return null
    return (this.changes.get(id) ?? [])
      .filter(c => c.by !== operation && !this.undone.has(c.by))
      .reduce((box, c) => c.apply(box), first)
  }

  private put(id: string, box: Box) {
    if (!this.first.has(id)) this.first.set(id, box)
  }
  private change(id: string, by: OperationRef, apply: (box: Box) => Box) {
    this.changes.set(id, [...(this.changes.get(id) ?? []), { by: by.id, t: by.t, apply }])
  }
}

/** What is on a page goes whole: its middle tells on which side of the line it was. */
function offsetOf(box: Pick<Box, 'y' | 'h'>, spaces: readonly Space[]): number {
  let by = 0
  for (const space of spaces) if (space.side === 'below' && box.y + box.h / 2 + by >= space.y) by += space.size
  return by
}
