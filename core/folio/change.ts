import { produce, setAutoFreeze } from 'immer'

// States are handed to workers and to the store as they are; freezing them would only take time.
setAutoFreeze(false)

/**
 * A folio, ledger or other document after a change. What does not change is shared with the state before, so that many
 * states for undo take little room.
 * @param edit changes the draft it is given, and returns nothing
 */
export function changed<T extends object>(before: T, edit: (draft: T) => void): T {
  return produce(before, draft => {
    edit(draft as T)
  })
}
