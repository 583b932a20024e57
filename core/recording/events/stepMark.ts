import { BRINGS_NOTHING, MOMENTARY, REFERS_TO_NOTHING, type EventKind } from './kind'
import type { StepEvent, TurnEvent } from './schemas'

/** The kind of an event that marks a moment for the edit list, and does nothing to the board. */
export const stepMark = <E extends StepEvent | TurnEvent>(): EventKind<E, 'control'> => ({
  ...BRINGS_NOTHING,
  ...REFERS_TO_NOTHING,
  ...MOMENTARY,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: false,
  replayed: false,
  inEditList: true,
  mapIds: (event, ids) => ({ ...event, id: ids.brought(event.id) }),
  apply: () => {},
})
