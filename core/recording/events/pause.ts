import { BRINGS_NOTHING, MOMENTARY, REFERS_TO_NOTHING, type EventKind } from './kind'
import type { PauseEvent } from './pause.schema'

export const pause: EventKind<PauseEvent, 'control'> = {
  ...BRINGS_NOTHING,
  ...REFERS_TO_NOTHING,
  ...MOMENTARY,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: false,
  replayed: false,
  inEditList: false,
  mapIds: event => event,
  apply: () => {},
}
