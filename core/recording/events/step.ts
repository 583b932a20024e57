import { atMoment, NO_CONTENT, type EventKind } from './kind'
import type { StepEvent } from './step.schema'

export const step: EventKind<StepEvent, 'control'> = {
  ...NO_CONTENT,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: false,
  replayed: false,
  inEditList: true,
  mapIds: (event, ids) => ({ ...event, id: ids.brought(event.id) }),
  mapTimes: atMoment,
  reflow: event => event,
  end: event => event.t,
  busy: () => null,
  apply: () => {},
}
