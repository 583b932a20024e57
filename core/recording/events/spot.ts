import { atMoment, busyUntil, NO_CONTENT, type EventKind } from './kind'
import { reflowBox } from './samples'
import type { SpotEvent } from './spot.schema'

export const spot: EventKind<SpotEvent, 'ephemeral'> = {
  ...NO_CONTENT,
  lifetime: 'ephemeral',
  undoable: false,
  retroactive: false,
  survivesRemoval: true,
  replayed: true,
  inEditList: false,
  mapIds: event => event,
  mapTimes: atMoment,
  reflow: reflowBox,
  end: event => event.t,
  busy: event => busyUntil(event, event.t),
  apply: (event, board) => board.spotlight(event.t, event.box),
}
