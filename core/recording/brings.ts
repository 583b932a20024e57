import { BoardIndex } from './board'
import { kindOf, type TakeEvent } from './events'

/**
 * Whether a take brought anything to the board that she did not take back, beyond what it began with.
 * @param before the log of the take that it goes on after, or is written over
 */
export function bringsInk(events: readonly TakeEvent[], before: readonly TakeEvent[] = []): boolean {
  const index = new BoardIndex(events),
    old = new BoardIndex(before)
  const stays = (id: string) => index.item(id)?.by.inForce === true && !old.item(id)
  return events.some(e => kindOf(e).brings(e).some(stays))
}
