import type { Box, Frame, Page, Space, Thing } from '../folio'
import { afterSpace, spacesSince } from '../folio/layout'
import { asFrame } from '../folio/frame'
import { boxOfSamples, moveBy, transformedBox, type Matrix } from '../geometry'
import { POINT_SIZE } from '../ink/stroke'
import { boxOfThing } from '../things/draw'
import { transformThing } from '../things/transform'
import type { TakeEvent } from './events'
import { isSeen, meaningOf } from './meaning'

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
  const of = (pageId: string) => since.get(pageId) ?? []
  const places = new Places()
  for (const event of before()) places.note(event)
  let on = first.pageId
  const moved = events.flatMap((event): TakeEvent | TakeEvent[] => {
    places.note(event)
    if (event.type === 'frame') on = event.frame.pageId
    return movedEvent(event, of(on), places)
  })
  return { events: moved, first: movedFrame(first, of(first.pageId)) }
}

/** An event where it lies now. @param spaces room that was put into its page since */
function movedEvent(event: TakeEvent, spaces: readonly Space[], places: Places): TakeEvent | TakeEvent[] {
  const { moves } = meaningOf(event)
  switch (moves) {
    case 'points': {
      const inked = event as Extract<TakeEvent, { points: number[] }>
      return { ...inked, points: movedPoints(inked.points, spaces) }
    }
    case 'strokes': {
      const written = event as Extract<TakeEvent, { strokes: { points: number[] }[] }>
      return { ...written, strokes: written.strokes.map(s => ({ ...s, points: movedPoints(s.points, spaces) })) }
    }
    case 'thing': {
      const placed = event as Extract<TakeEvent, { thing: Thing }>
      return { ...placed, thing: transformThing(placed.thing, moveBy(0, shiftOf(boxOfThing(placed.thing), spaces))) }
    }
    case 'matrix': {
      const altered = event as Extract<TakeEvent, { type: 'alter' }>
      return altered.matrix ? alteredMoved(altered, altered.matrix as unknown as Matrix, places, spaces) : event
    }
    case 'box': {
      const seen = event as Extract<TakeEvent, { box: Box | null }>
      return seen.box ? { ...seen, box: { ...seen.box, y: seen.box.y + shiftOf(seen.box, spaces) } } : event
    }
    case 'frame': {
      const gone = event as Extract<TakeEvent, { frame: Frame }>
      return { ...gone, frame: movedFrame(gone.frame, spaces) }
    }
    case 'nowhere':
      return event
    default:
      return moves satisfies never
  }
}

/**
 * What was moved or grown, where it lies now: it is brought from where it lies now to where it lay, changed as it was,
 * and brought from there to
 * where that lies now. What is changed together and lies on both sides of the room is changed in as many events, of one
 * operation.
 */
function alteredMoved(
  event: Extract<TakeEvent, { type: 'alter' }>,
  matrix: Matrix,
  places: Places,
  spaces: readonly Space[],
): TakeEvent[] {
  const groups = new Map<string, { matrix: number[]; targets: string[] }>()
  for (const target of event.targets) {
    const box = places.before(target, event.id)
    const [from, to] = box ? [shiftOf(box, spaces), shiftOf(transformedBox(box, matrix), spaces)] : [0, 0]
    const [a, b, c, d, e, f] = matrix
    const key = `${from},${to}`
    const group = groups.get(key) ?? { matrix: [a, b, c, d, e - c * from, f - d * from + to], targets: [] }
    group.targets.push(target)
    groups.set(key, group)
  }
  return [...groups.values()].map(group => ({ ...event, ...group }))
}

/** Where strokes and things lay in the layout of the take, whatever was done to them. */
class Places {
  private readonly first = new Map<string, Box>()
  private readonly changes = new Map<string, { by: string; t: number; apply: (box: Box) => Box }[]>()
  private readonly undone = new Set<string>()

  note(event: TakeEvent): void {
    if (isSeen(event)) return
    switch (event.type) {
      case 'stroke':
        this.put(event.id, boxOfPoints(event.points))
        break
      case 'write':
        for (const s of event.strokes) this.put(s.id, boxOfPoints(s.points))
        break
      case 'place':
        this.put(event.id, boxOfThing(event.thing))
        break
      case 'change':
        this.change(event.target, event.id, event.t, () => boxOfThing(event.thing))
        break
      case 'alter':
        if (event.matrix)
          for (const target of event.targets)
            this.change(target, event.id, event.t, box => transformedBox(box, event.matrix as unknown as Matrix))
        break
      case 'undo':
        this.undone.add(event.target)
        break
      case 'redo':
        this.undone.delete(event.target)
        break
      case 'back':
        for (const [id, all] of this.changes)
          this.changes.set(
            id,
            all.filter(c => c.t <= event.to),
          )
        break
      case 'erase':
      case 'step':
      case 'pause':
      case 'frame':
      case 'split':
      case 'turn':
        break
      default:
        event satisfies never
    }
  }

  /** Where something lay before an operation. */
  before(id: string, operation: string): Box | null {
    const first = this.first.get(id)
    if (!first) return null
    return (this.changes.get(id) ?? [])
      .filter(c => c.by !== operation && !this.undone.has(c.by))
      .reduce((box, c) => c.apply(box), first)
  }

  private put(id: string, box: Box) {
    if (!this.first.has(id)) this.first.set(id, box)
  }
  private change(id: string, by: string, t: number, apply: (box: Box) => Box) {
    this.changes.set(id, [...(this.changes.get(id) ?? []), { by, t, apply }])
  }
}

/** What is on a page goes whole: its middle tells on which side of the line it was. */
function shiftOf(box: { y: number; h: number }, spaces: readonly Space[]): number {
  let by = 0
  for (const space of spaces) if (space.side === 'below' && box.y + box.h / 2 + by >= space.y) by += space.size
  return by
}

const boxOfPoints = (points: readonly number[]) => boxOfSamples(points, POINT_SIZE)

function movedPoints(points: readonly number[], spaces: readonly Space[]): number[] {
  const by = shiftOf(boxOfPoints(points), spaces)
  return by ? points.map((n, i) => (i % 4 === 1 ? n + by : n)) : [...points]
}
