import { layFigure } from '../figures'
import { layGuide } from '../guides'
import type { TakeEvent } from '../take/events'
import { layoutKey, type LaidOut } from './form'

/**
 * The layouts of all that is placed, null where there are none; what cannot be laid out has none, and is drawn as a
 * crossed box.
 */
export function laidOutIn(events: Iterable<TakeEvent>): LaidOut | null {
  const out: LaidOut = { guides: {}, figures: {} }
  for (const event of events) {
    if (event.type !== 'place' && event.type !== 'change') continue
    const { thing } = event
    try {
      if (thing.kind === 'guide') {
        const { moves: _, order: __, ...drawn } = layGuide(thing.spec)
        out.guides[layoutKey(thing.spec)] = drawn
      } else if (thing.kind === 'figure') out.figures[layoutKey(thing.spec)] = layFigure(thing.spec)
    } catch {
      /* Its numbers do not fit: drawing says so in its place. */
    }
  }
  return Object.keys(out.guides).length + Object.keys(out.figures).length ? out : null
}
