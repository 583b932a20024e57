import { busyUntil, NO_CONTENT, overSpan, type EventKind } from './kind'
import { reflowBox } from './samples'
import type { LookEvent } from './look.schema'

export const look: EventKind<LookEvent, 'ephemeral'> = {
  ...NO_CONTENT,
  lifetime: 'ephemeral',
  undoable: false,
  retroactive: false,
  survivesRemoval: true,
  replayed: true,
  inEditList: false,
  mapIds: event => event,
  mapTimes: overSpan,
  reflow: reflowBox,
  end: event => event.t + event.over,
  busy: event => busyUntil(event, look.end(event)),
  apply: (event, board) => board.zoom(event.t, event.box, event.over),
}
