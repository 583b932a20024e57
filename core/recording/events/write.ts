import { busyUntil, NO_OBJECTS, REFERS_TO_NOTHING, type EventKind } from './kind'
import { lastTime, reflowSamples } from './onPage'
import type { WriteEvent } from './write.schema'

export const write: EventKind<WriteEvent, 'content'> = {
  ...REFERS_TO_NOTHING,
  ...NO_OBJECTS,
  lifetime: 'content',
  undoable: true,
  retroactive: false,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  brings: event => event.strokes.map(s => s.id),
  restrict(event, counts) {
    const strokes = event.strokes.filter(s => counts(s.id))
    return strokes.length ? { ...event, strokes } : null
  },
  mapIds: (event, ids) => ({
    ...event,
    id: ids.brought(event.id),
    ...(event.guide === undefined ? {} : { guide: ids.referred(event.guide) }),
    strokes: event.strokes.map(s => ({ ...s, id: ids.brought(s.id) })),
  }),
  mapTimes: (event, times) => ({
    ...event,
    t: times.moment(event.t),
    strokes: event.strokes.map(s => ({ ...s, points: times.samples(s.points) })).filter(s => s.points.length),
  }),
  reflow: (event, by) => write.mapSamples(event, points => reflowSamples(points, by)),
  mapSamples: (event, samples) => ({
    ...event,
    strokes: event.strokes.map(s => ({ ...s, points: samples(s.points) })),
  }),
  ink: event => event.strokes,
  end: event => event.strokes.reduce((end, s) => Math.max(end, lastTime(s.points, 0)), event.t),
  busy: event => (event.strokes.length ? busyUntil(event, write.end(event)) : null),
  apply: (event, board) =>
    board.addStrokes(
      event,
      event.strokes,
      event.guide === undefined ? undefined : { guide: event.guide, move: event.move ?? 0 },
    ),
}
