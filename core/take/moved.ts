import { afterSpace, type Frame, type Page, type Space, spacesSince } from '../folio'
import { asFrame } from '../folio/frame'
import { moveBy } from '../ink/alter'
import { boxOfThing } from '../things/draw'
import { transformThing } from '../things/transform'
import type { TakeEvent } from './events'

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
 * A log as it lies on its pages now: ink and frames move along with the room that was put into a page after the take. The log itself stays.
 * @param first the frame in which the take began
 */
export function moveLog(events: readonly TakeEvent[], first: Frame, startedAt: string, pages: readonly Page[]): { events: TakeEvent[], first: Frame } {
  const since = new Map(pages.map(p => [p.id, spacesSince(p, startedAt)]))
  if (![...since.values()].some(s => s.some(x => x.side === 'below'))) return { events: [...events], first }
  const of = (pageId: string) => since.get(pageId) ?? []
  let on = first.pageId
  const moved = events.map((event): TakeEvent => {
    if (event.type === 'frame') {
      on = event.frame.pageId
      return { ...event, frame: movedFrame(event.frame, of(on)) }
    }
    switch (event.type) {
      case 'stroke': case 'trail': return { ...event, points: movedPoints(event.points, of(on)) }
      case 'write': return { ...event, strokes: event.strokes.map(s => ({ ...s, points: movedPoints(s.points, of(on)) })) }
      case 'place': case 'change': return { ...event, thing: transformThing(event.thing, moveBy(0, shiftOf(boxOfThing(event.thing), of(on)))) }
      case 'look': case 'spot': return event.box ? { ...event, box: { ...event.box, y: event.box.y + shiftOf(event.box, of(on)) } } : event
      default: return event
    }
  })
  return { events: moved, first: movedFrame(first, of(first.pageId)) }
}

/** What is on a page goes whole: its middle tells on which side of the line it was. */
function shiftOf(box: { y: number, h: number }, spaces: readonly Space[]): number {
  let by = 0
  for (const space of spaces) if (space.side === 'below' && box.y + box.h / 2 + by >= space.y) by += space.size
  return by
}

function movedPoints(points: readonly number[], spaces: readonly Space[]): number[] {
  let low = Infinity, high = -Infinity
  for (let i = 1; i < points.length; i += 4) {
    low = Math.min(low, points[i]!)
    high = Math.max(high, points[i]!)
  }
  const by = shiftOf({ y: low, h: high - low }, spaces)
  return by ? points.map((n, i) => i % 4 === 1 ? n + by : n) : [...points]
}
