import { atMoment, NO_CONTENT, type EventKind } from './kind'
import type { FrameEvent } from './frame.schema'

export const frame: EventKind<FrameEvent, 'control'> = {
  ...NO_CONTENT,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: true,
  replayed: true,
  inEditList: false,
  mapIds: event => event,
  mapTimes: atMoment,
  reflow: (event, by) => ({ ...event, frame: by.frame(event.frame) }),
  end: event => event.t,
  busy: () => null,
  apply: (event, board) => board.setFrame(event.t, event.frame),
}
