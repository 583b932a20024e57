import { BRINGS_NOTHING, busyUntil, overSpan, REFERS_TO_NOTHING, type EventKind } from './kind'
import { reflowBox } from './onPage'
import type { LookEvent } from './look.schema'

export const look: EventKind<LookEvent, 'ephemeral'> = {
  ...BRINGS_NOTHING,
  ...REFERS_TO_NOTHING,
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
