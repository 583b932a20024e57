import { MOMENTARY, NO_INK, NO_OBJECTS, type EventKind } from './kind'
import type { EraseEvent } from './erase.schema'

export const erase: EventKind<EraseEvent, 'content'> = {
  ...NO_INK,
  ...NO_OBJECTS,
  ...MOMENTARY,
  brings: () => [],
  lifetime: 'content',
  undoable: true,
  retroactive: true,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  refs: event => event.strokes,
  restrict(event, counts) {
    const strokes = event.strokes.filter(counts)
    return strokes.length ? { ...event, strokes } : null
  },
  mapIds: (event, ids) => ({
    ...event,
    id: ids.brought(event.id),
    strokes: event.strokes.map(ids.referred),
  }),
  apply: (event, board) => board.remove(event, event.strokes),
}
