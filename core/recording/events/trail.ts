import { BRINGS_NOTHING, REFERS_TO_NOTHING, type EventKind } from './kind'
import { INKED } from './onPage'
import type { TrailEvent } from './trail.schema'

export const trail: EventKind<TrailEvent, 'ephemeral'> = {
  ...BRINGS_NOTHING,
  ...REFERS_TO_NOTHING,
  ...INKED,
  lifetime: 'ephemeral',
  undoable: false,
  retroactive: false,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  mapIds: (event, ids) => ({ ...event, id: ids.brought(event.id) }),
  apply: (event, board) => board.pointer(event.id, event.points),
}
