import { NO_CONTENT, type EventKind } from './kind'
import type { BackEvent } from './back.schema'

export const back: EventKind<BackEvent, 'control'> = {
  ...NO_CONTENT,
  lifetime: 'control',
  undoable: false,
  retroactive: false,
  survivesRemoval: true,
  replayed: true,
  inEditList: true,
  mapIds: event => event,
  mapTimes: (event, times) => ({ ...event, t: times.moment(event.t), to: times.rewound(event.to) }),
  reflow: event => event,
  end: event => event.t,
  busy: () => null,
  apply: (event, board) => board.rewind(event.t, event.to),
}
