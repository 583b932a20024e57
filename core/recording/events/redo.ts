import { atMoment, NO_CONTENT, type EventKind } from './kind'
import type { RedoEvent } from './redo.schema'

export const redo: EventKind<RedoEvent, 'control'> = {
  ...NO_CONTENT,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  refs: event => [event.target],
  mapIds: (event, ids) => ({ ...event, target: ids.referred(event.target) }),
  mapTimes: atMoment,
  reflow: event => event,
  end: event => event.t,
  busy: () => null,
  apply: (event, board) => board.toggle(event.t, event.target, false),
}
