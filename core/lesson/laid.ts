import { layFigure } from '../figures'
import { layGuide } from '../guides'
import { kindOf, type TakeEvent } from '../recording/events'
import { layoutKey, type LaidOut } from './form'

/**
 * The layouts of all that is placed, null where there are none; what cannot be laid out has none, and is drawn as a
 * crossed box.
 */
export function laidOutIn(events: Iterable<TakeEvent>): LaidOut | null {
  const out: LaidOut = { guides: {}, figures: {} }
  const things = [...events].flatMap(e =>
    kindOf(e)
      .objects(e)
      .map(o => o.thing),
  )
  for (const thing of things) {
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
