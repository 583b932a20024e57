import { moveBy } from '../../geometry'
import { boxOfThing } from '../../things/draw'
import { transformThing } from '../../things/transform'
import { atMoment, busyUntil, NO_CONTENT, type EventKind } from './kind'
import type { ChangeEvent } from './change.schema'

export const change: EventKind<ChangeEvent, 'content'> = {
  ...NO_CONTENT,
  lifetime: 'content',
  undoable: true,
  retroactive: true,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  refs: event => [event.target],
  restrict: (event, counts) => (counts(event.target) ? event : null),
  mapIds: (event, ids) => ({ ...event, id: ids.brought(event.id), target: ids.referred(event.target) }),
  mapTimes: atMoment,
  reflow: (event, by) => change.mapObjects(event, t => transformThing(t, moveBy(0, by.offset(boxOfThing(t))))),
  objects: event => [{ id: event.target, thing: event.thing }],
  mapObjects: (event, object) => ({ ...event, thing: object(event.thing) }),
  end: event => event.t,
  busy: event => busyUntil(event, event.t),
  apply: (event, board) => board.changeObject(event, event.target, event.thing),
}
