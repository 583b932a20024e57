import type { Thing } from '../folio/thing'
import type { Placed } from '../recording/operation'
import { kindOf, type TakeEvent } from '../recording/events'
import { isThing } from '../recording/board'
import type { Shown } from './shown'

/** The move of a layout guide that was written. */
export interface WrittenMove {
  guide: Extract<Thing, { kind: 'guide' }>
  move: number
}

/** What a step brought to the board, as it stands there when the step is over. */
export interface StepContent {
  things: Thing[]
  moves: WrittenMove[]
  /** Whether the student is asked to try in it. */
  turn: boolean
}

/** Just before a moment, ms: what comes then belongs to what follows. */
const JUST = 1e-3

/** @param from, @param to of the step, lesson ms */
export function stepContent({ events, always, index }: Shown, from: number, to: number): StepContent {
  const placed = (id: string, t: number): Placed | null => {
    const item = index.item(id)
    return item && isThing(item) && item.shownAt(t) ? item.valueAt(t) : null
  }
  const inked = (id: string, t: number) => index.item(id)?.shownAt(t) === true
  const end = to - JUST
  const out: StepContent = { things: [], moves: [], turn: false }
  const said = (event: TakeEvent) => {
    if (event.type === 'turn') out.turn = true
    for (const { id } of kindOf(event).objects(event)) {
      const value = placed(id, end)
      if ('id' in event && value?.source === event.id) out.things.push(value.thing)
    }
    if (event.type !== 'write' || event.guide === undefined || !event.strokes.some(s => inked(s.id, end))) return
    const guide = placed(event.guide, end)?.thing
    if (guide?.kind === 'guide') out.moves.push({ guide, move: event.move ?? 0 })
  }
  for (const event of [...events, ...always]) if (event.t >= from && event.t < to) said(event)
  return out
}
