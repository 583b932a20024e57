import { NO_OBJECTS, REFERS_TO_NOTHING, type EventKind } from './kind'
import { INKED } from './onPage'
import type { StrokeEvent } from './stroke.schema'

export const stroke: EventKind<StrokeEvent, 'content'> = {
  ...REFERS_TO_NOTHING,
  ...NO_OBJECTS,
  ...INKED,
  lifetime: 'content',
  undoable: true,
  retroactive: false,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  brings: event => [event.id],
  restrict: (event, counts) => (counts(event.id) ? event : null),
  mapIds: (event, ids) => ({ ...event, id: ids.brought(event.id) }),
  ink: event => [event],
  apply: (event, board) => board.addStrokes(event, [event]),
}
