import { BRINGS_NOTHING, MOMENTARY, REFERS_TO_NOTHING, type EventKind } from './kind'
import type { FrameEvent } from './frame.schema'

export const frame: EventKind<FrameEvent, 'control'> = {
  ...BRINGS_NOTHING,
  ...REFERS_TO_NOTHING,
  ...MOMENTARY,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: true,
  replayed: true,
  inEditList: false,
  mapIds: event => event,
  reflow: (event, by) => ({ ...event, frame: by.frame(event.frame) }),
  apply: (event, board) => board.setFrame(event.t, event.frame),
}
