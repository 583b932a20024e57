import { produce, setAutoFreeze } from 'immer'
import type { Folio } from './model'

// States are handed to workers and to the store as they are; freezing them would only take time.
setAutoFreeze(false)

/**
 * The folio after a change. What does not change is shared with the state before, so that many states for undo take little room.
 * @param edit changes the draft it is given, and returns nothing
 */
export function changed(folio: Folio, edit: (draft: Folio) => void): Folio {
  return produce(folio, (draft) => { edit(draft) })
}
