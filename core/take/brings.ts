import { BoardIndex } from './board'
import type { TakeEvent } from './events'

/**
 * Whether a take brought anything to the board that she did not take back, beyond what it began with.
 * @param since until when its log is that of the take it goes on after, take ms
 */
export function bringsInk(events: readonly TakeEvent[], since = -1): boolean {
  const index = new BoardIndex(events)
  const stays = (id: string) => index.item(id)?.by.inForce === true
  return events.some(e => {
    if (e.t <= since) return false
    if (e.type === 'stroke' || e.type === 'place') return stays(e.id)
    return e.type === 'write' && e.strokes.some(s => stays(s.id))
  })
}
