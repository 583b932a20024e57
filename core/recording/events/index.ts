import { alter } from './alter'
import { back } from './back'
import { change } from './change'
import { erase } from './erase'
import { frame } from './frame'
import { look } from './look'
import { pause } from './pause'
import { place } from './place'
import { redo } from './redo'
import { split } from './split'
import { spot } from './spot'
import { step } from './step'
import { stroke } from './stroke'
import { trail } from './trail'
import { turn } from './turn'
import { undo } from './undo'
import { write } from './write'
import type { Stroke } from '../../ink/stroke'
import type { EventKind, Lifetime } from './kind'
import type { TakeEvent } from './schemas'

export type * from './schemas'
export type * from './kind'
export * from './boardBuilder'

/** Every kind of event by its name; the compiler asks for each. Their schemas are `schemas.ts`. */
export const EVENT_KINDS = {
  stroke,
  write,
  place,
  change,
  alter,
  split,
  erase,
  undo,
  redo,
  frame,
  look,
  spot,
  trail,
  step,
  pause,
  turn,
  back,
} satisfies { readonly [T in TakeEvent['type']]: EventKind<Extract<TakeEvent, { type: T }>> }

/** What is known of an event. */
export const kindOf = <E extends TakeEvent>(event: E): EventKind<E> =>
  EVENT_KINDS[event.type] as unknown as EventKind<E>

/** Whether this version knows the event: a log of a newer one may hold others. */
export const isKnownEvent = (event: { type: string }): event is TakeEvent => Object.hasOwn(EVENT_KINDS, event.type)

/** Events of which nothing stays on the board: students see them for a while, and undo passes them over. */
export type EphemeralEvent = Extract<TakeEvent, { type: OfLifetime<'ephemeral'> }>
type OfLifetime<L extends Lifetime> = {
  [T in TakeEvent['type']]: (typeof EVENT_KINDS)[T]['lifetime'] extends L ? T : never
}[TakeEvent['type']]
/** Such an event before it has its moment; what the pen draws of it comes sample by sample instead. */
export type EphemeralDraft = Untimed<Exclude<EphemeralEvent, { points: unknown }>>
type Untimed<E> = E extends unknown ? Omit<E, 't'> : never

/**
 * The moment at which an event is over, ms: the last sample of ink, the end of what goes on for a while, the time of
 * anything else.
 */
export const endOf = (event: TakeEvent): number => kindOf(event).end(event)

/** All ink of an event. */
export const inkOf = (event: TakeEvent): Stroke[] => kindOf(event).ink(event)
