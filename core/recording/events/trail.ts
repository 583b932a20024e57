import { busyUntil, NO_CONTENT, type EventKind } from './kind'
import { lastTime, reflowSamples } from './samples'
import type { TrailEvent } from './trail.schema'

export const trail: EventKind<TrailEvent, 'ephemeral'> = {
  ...NO_CONTENT,
  lifetime: 'ephemeral',
  undoable: false,
  retroactive: false,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  mapIds: (event, ids) => ({ ...event, id: ids.brought(event.id) }),
  mapTimes: (event, times) => ({ ...event, t: times.moment(event.t), points: times.samples(event.points) }),
  reflow: (event, by) => ({ ...event, points: reflowSamples(event.points, by) }),
  mapSamples: (event, samples) => ({ ...event, points: samples(event.points) }),
  end: event => lastTime(event.points, event.t),
  busy: event => busyUntil(event, trail.end(event)),
  apply: (event, board) => board.pointer(event.id, event.points),
}
