import { MOMENTARY, NO_INK, NO_OBJECTS, type EventKind } from './kind'
import type { SplitEvent } from './split.schema'

export const split: EventKind<SplitEvent, 'content'> = {
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
  refs: event => event.strokes.map(s => s.id),
  restrict(event, counts) {
    const strokes = event.strokes.filter(s => counts(s.id))
    return strokes.length ? { ...event, strokes } : null
  },
  mapIds: (event, ids) => ({
    ...event,
    id: ids.brought(event.id),
    strokes: event.strokes.map(s => ({ ...s, id: ids.referred(s.id) })),
  }),
  apply: (event, board) => board.splitStrokes(event, event.strokes),
}
