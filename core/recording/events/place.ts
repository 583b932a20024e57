import { tracesOf } from '../../things/traces'
import { busyUntil, overSpan, type EventKind } from './kind'
import { reflowObject } from './onPage'
import type { PlaceEvent } from './place.schema'

export const place: EventKind<PlaceEvent, 'content'> = {
  mapSamples: event => event,
  lifetime: 'content',
  undoable: true,
  retroactive: false,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  refs: event => event.instead ?? [],
  brings: event => [event.id],
  restrict(event, counts) {
    const { instead = [], ...bare } = event
    if (!counts(event.id)) return null
    const left = instead.filter(counts)
    return left.length ? { ...bare, instead: left } : bare
  },
  mapIds: (event, ids) => ({
    ...event,
    id: ids.brought(event.id),
    ...(event.instead ? { instead: event.instead.map(ids.referred) } : {}),
  }),
  mapTimes: overSpan,
  reflow: (event, by) => place.mapObjects(event, thing => reflowObject(thing, by)),
  objects: event => [event],
  mapObjects: (event, object) => ({ ...event, thing: object(event.thing) }),
  ink: event => tracesOf(event.thing, event.id, event.t, event.over),
  end: event => event.t + event.over,
  busy: event => (place.ink(event).length ? busyUntil(event, place.end(event)) : null),
  apply: (event, board) => board.addObject(event, event),
}
