import { atMoment, NO_CONTENT, type EventKind } from './kind'
import type { PauseEvent } from './pause.schema'

export const pause: EventKind<PauseEvent, 'control'> = {
  ...NO_CONTENT,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: false,
  replayed: false,
  inEditList: false,
  mapIds: event => event,
  mapTimes: atMoment,
  reflow: event => event,
  end: event => event.t,
  busy: () => null,
  apply: () => {},
}
