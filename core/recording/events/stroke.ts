import { busyUntil, NO_CONTENT, type EventKind } from './kind'
import { lastTime, reflowSamples } from './samples'
import type { StrokeEvent } from './stroke.schema'

export const stroke: EventKind<StrokeEvent, 'content'> = {
  ...NO_CONTENT,
  lifetime: 'content',
  undoable: true,
  retroactive: false,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  brings: event => [event.id],
  restrict: (event, counts) => (counts(event.id) ? event : null),
  mapIds: (event, ids) => ({ ...event, id: ids.brought(event.id) }),
  mapTimes: (event, times) => ({ ...event, t: times.moment(event.t), points: times.samples(event.points) }),
  reflow: (event, by) => ({ ...event, points: reflowSamples(event.points, by) }),
  mapSamples: (event, samples) => ({ ...event, points: samples(event.points) }),
  ink: event => [event],
  end: event => lastTime(event.points, event.t),
  busy: event => busyUntil(event, stroke.end(event)),
  apply: (event, board) => board.addStrokes(event, [event]),
}
