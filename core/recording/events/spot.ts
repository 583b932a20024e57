import { BRINGS_NOTHING, busyUntil, MOMENTARY, REFERS_TO_NOTHING, type EventKind } from './kind'
import { reflowBox } from './onPage'
import type { SpotEvent } from './spot.schema'

export const spot: EventKind<SpotEvent, 'ephemeral'> = {
  ...BRINGS_NOTHING,
  ...REFERS_TO_NOTHING,
  ...MOMENTARY,
  lifetime: 'ephemeral',
  undoable: false,
  retroactive: false,
  survivesRemoval: true,
  replayed: true,
  inEditList: false,
  mapIds: event => event,
  reflow: reflowBox,
  busy: event => busyUntil(event, event.t),
  apply: (event, board) => board.spotlight(event.t, event.box),
}
