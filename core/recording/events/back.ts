import { BRINGS_NOTHING, MOMENTARY, REFERS_TO_NOTHING, type EventKind } from './kind'
import type { BackEvent } from './back.schema'

export const back: EventKind<BackEvent, 'control'> = {
  ...BRINGS_NOTHING,
  ...REFERS_TO_NOTHING,
  ...MOMENTARY,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: true,
  replayed: true,
  inEditList: true,
  mapIds: event => event,
  mapTimes: (event, times) => ({ ...event, t: times.moment(event.t), to: times.rewound(event.to) }),
  apply: (event, board) => board.rewind(event.t, event.to),
}
