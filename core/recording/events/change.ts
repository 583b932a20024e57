import { busyUntil, MOMENTARY, NO_INK, type EventKind } from './kind'
import { reflowObject } from './onPage'
import type { ChangeEvent } from './change.schema'

export const change: EventKind<ChangeEvent, 'content'> = {
  ...NO_INK,
  ...MOMENTARY,
  brings: () => [],
  lifetime: 'content',
  undoable: true,
  retroactive: true,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  refs: event => [event.target],
  restrict: (event, counts) => (counts(event.target) ? event : null),
  mapIds: (event, ids) => ({ ...event, id: ids.brought(event.id), target: ids.referred(event.target) }),
  reflow: (event, by) => change.mapObjects(event, thing => reflowObject(thing, by)),
  objects: event => [{ id: event.target, thing: event.thing }],
  mapObjects: (event, object) => ({ ...event, thing: object(event.thing) }),
  busy: event => busyUntil(event, event.t),
  apply: (event, board) => board.changeObject(event, event.target, event.thing),
}
