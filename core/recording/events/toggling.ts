import { BRINGS_NOTHING, MOMENTARY, type EventKind } from './kind'
import type { RedoEvent, UndoEvent } from './schemas'

/** The kind of an event that takes an operation back, or brings it back. @param off whether it takes it back */
export const toggling = <E extends UndoEvent | RedoEvent>(off: boolean): EventKind<E, 'control'> => ({
  ...BRINGS_NOTHING,
  ...MOMENTARY,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  refs: event => [event.target],
  mapIds: (event, ids) => ({ ...event, target: ids.referred(event.target) }),
  apply: (event, board) => board.toggle(event.t, event.target, off),
})
