import type { Box, Frame } from '../../folio/basics'
import type { Thing } from '../../folio/thing'
import type { Stroke } from '../../ink/stroke'
import type { Stretch } from '../stretches'
import type { BoardBuilder } from './boardBuilder'
import type { TakeEvent } from './schemas'

/** New names for what an event brings, and for what it refers to. */
export interface IdMap {
  brought(id: string): string
  referred(id: string): string
}
/** Times of a take on another clock: timeline time, whole milliseconds. */
export interface TimeMap {
  moment(t: number): number
  /** Flat samples with their times; those that lie after the end may be left out. */
  samples(points: number[]): number[]
  /** Where a going back leads. */
  rewound(to: number): number
}
/** The layout of a page after room was put into it. */
export interface Reflow {
  /** How far down something goes as a whole, points. */
  offset(box: Pick<Box, 'y' | 'h'>): number
  frame(frame: Frame): Frame
  /** Where an item lay in the layout of the take before an operation; null where that is not known. */
  boxBefore(id: string, operation: string): Box | null
}

/** `content` comes to the board and stays there; `ephemeral` is seen for a while; `control` is neither. */
export type Lifetime = 'content' | 'ephemeral' | 'control'

/** All that is known of one kind of event; whoever reads events asks here, and has no list of kinds. */
export interface EventKind<E extends TakeEvent, L extends Lifetime = Lifetime> {
  readonly lifetime: L
  /** Whether it is an operation that undo takes back, by its id. */
  readonly undoable: boolean
  /** Whether it does something to what is there, and can be done to it as if it had always been so. */
  readonly retroactive: boolean
  /** Whether it stays when its stretch is removed with its ink: where the take went on is where it went on. */
  readonly survivesRemoval: boolean
  /** Whether a replay needs it; what only parts a take into steps and pauses is in the edit list. */
  readonly replayed: boolean
  /** Whether the edit list has it in its own words: steps, pauses for the student, going back. */
  readonly inEditList: boolean
  /** The items and operations that it does something to, by their ids. */
  refs(event: E): readonly string[]
  /** The items that it brings to the board, by their ids. */
  brings(event: E): readonly string[]
  /** What is left of it where only some items count; null where nothing is. */
  restrict(event: E, counts: (item: string) => boolean): E | null
  mapIds(event: E, ids: IdMap): E
  mapTimes(event: E, times: TimeMap): E
  /** It, as it lies after room was put into its page; several where what it does differs from item to item. */
  reflow(event: E, by: Reflow): E | E[]
  /** It with other samples for those of its ink, as a lesson's form keeps them apart. */
  mapSamples(event: E, samples: (points: number[]) => number[]): E
  /** The objects that it carries, each with the item that shows it. */
  objects(event: E): readonly { id: string; thing: Thing }[]
  mapObjects(event: E, object: (thing: Thing) => Thing): E
  /** Its ink for a reader of InkML, so that he sees what students see. */
  ink(event: E): Stroke[]
  /** The moment at which it is over, ms. */
  end(event: E): number
  /** While something is written or moves, ms: such a stretch is not tightened as a pause; null where nothing is. */
  busy(event: E): Stretch | null
  apply(event: E, board: BoardBuilder): void
}

/** What has no end of its own still takes a moment, ms. */
const SHORTEST = 50
const none = () => []
const same = <E>(event: E): E => event

/** Members of an event without ink. */
export const NO_INK = { mapSamples: same, ink: none }
/** Members of an event that carries no objects. */
export const NO_OBJECTS = { objects: none, mapObjects: same }
/** Members of an event that brings nothing to the board, whatever it does there. */
export const BRINGS_NOTHING = { ...NO_INK, ...NO_OBJECTS, brings: none, restrict: same }
/** Members of an event that refers to nothing. */
export const REFERS_TO_NOTHING = { refs: none }

/** An event without any time but its own, on another clock. */
export const atMoment = <E extends { t: number }>(event: E, times: TimeMap): E => ({
  ...event,
  t: times.moment(event.t),
})
/** One that goes on for a while, on another clock. */
export function overSpan<E extends { t: number; over: number }>(event: E, times: TimeMap): E {
  const t = times.moment(event.t)
  return { ...event, t, over: times.moment(event.t + event.over) - t }
}
/** The span of an event that is seen to happen until a moment, ms. */
export const busyUntil = (event: { t: number }, end: number): Stretch => ({
  from: event.t,
  to: Math.max(end, event.t + SHORTEST),
})

/** Members of an event that happens in a moment, and lies nowhere on a page. */
export const MOMENTARY = { mapTimes: atMoment, reflow: same, end: (event: { t: number }) => event.t, busy: () => null }
