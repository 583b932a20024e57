import type { Stroke } from '../ink/stroke'
import { tracesOf } from '../things/traces'
import type { SeenEvent, TakeEvent } from './events'

type Has<E, K extends string, V> = E extends { [P in K]: V } ? true : false

/**
 * How an event goes along when room is made in its page; what it carries says so: samples, strokes, a thing, a matrix
 * for what it changes, a piece
 * of the page, a frame.
 */
export type Moves<E> =
  Has<E, 'points', number[]> extends true
    ? 'points'
    : Has<E, 'strokes', { points: number[] }[]> extends true
      ? 'strokes'
      : E extends { thing: unknown }
        ? 'thing'
        : E extends { matrix?: unknown }
          ? 'matrix'
          : E extends { box: unknown }
            ? 'box'
            : E extends { frame: unknown }
              ? 'frame'
              : 'nowhere'

export type Movement = 'points' | 'strokes' | 'thing' | 'matrix' | 'box' | 'frame' | 'nowhere'

/** What an event means to those who do not draw it. */
interface Meaning<E extends TakeEvent> {
  /** Whether it is an operation that undo takes back, by its id. */
  readonly operation: E extends { id: string } ? boolean : false
  /** Whether nothing of it stays on the board: students see it for a while. */
  readonly seen: E extends SeenEvent ? true : false
  /** Whether it stays when the ink of its stretch is taken out: where the take went on is where it went on. */
  readonly stays: boolean
  readonly moves: Moves<E>
  /** What it does something to: strokes, things and operations, by their ids. */
  refers(event: E): readonly string[]
  /** Its ink for a reader of InkML, so that he sees what students see. */
  ink(event: E): Stroke[]
  /** When it is over, take ms. */
  ends(event: E): number
}

const none = (): Stroke[] => []
const nothing = (): string[] => []
const target = (event: { target: string }) => [event.target]
const atOnce = (event: { t: number }) => event.t
const lastSample = (event: { t: number; points: readonly number[] }) => event.points[event.points.length - 1] ?? event.t

/** A row for each event; the compiler asks for it. What is drawn of an event is `BoardIndex.append`'s. */
export const MEANING: { readonly [T in TakeEvent['type']]: Meaning<Extract<TakeEvent, { type: T }>> } = {
  stroke: {
    operation: true,
    seen: false,
    stays: false,
    moves: 'points',
    refers: nothing,
    ink: event => [event],
    ends: lastSample,
  },
  write: {
    operation: true,
    seen: false,
    stays: false,
    moves: 'strokes',
    refers: nothing,
    ink: event => event.strokes,
    ends: event => event.strokes.reduce((end, s) => Math.max(end, s.points[s.points.length - 1] ?? 0), event.t),
  },
  place: {
    operation: true,
    seen: false,
    stays: false,
    moves: 'thing',
    refers: e => e.instead ?? [],
    ink: e => tracesOf(e.thing, e.id, e.t, e.over),
    ends: event => event.t + event.over,
  },
  change: { operation: true, seen: false, stays: false, moves: 'thing', refers: target, ink: none, ends: atOnce },
  alter: {
    operation: true,
    seen: false,
    stays: false,
    moves: 'matrix',
    refers: e => e.targets,
    ink: none,
    ends: atOnce,
  },
  split: {
    operation: true,
    seen: false,
    stays: false,
    moves: 'nowhere',
    refers: e => e.strokes.map(s => s.id),
    ink: none,
    ends: atOnce,
  },
  erase: {
    operation: true,
    seen: false,
    stays: false,
    moves: 'nowhere',
    refers: e => e.strokes,
    ink: none,
    ends: atOnce,
  },
  undo: { operation: false, seen: false, stays: false, moves: 'nowhere', refers: target, ink: none, ends: atOnce },
  redo: { operation: false, seen: false, stays: false, moves: 'nowhere', refers: target, ink: none, ends: atOnce },
  trail: { operation: false, seen: true, stays: false, moves: 'points', refers: nothing, ink: none, ends: lastSample },
  look: {
    operation: false,
    seen: true,
    stays: true,
    moves: 'box',
    refers: nothing,
    ink: none,
    ends: event => event.t + event.over,
  },
  spot: { operation: false, seen: true, stays: true, moves: 'box', refers: nothing, ink: none, ends: atOnce },
  frame: { operation: false, seen: false, stays: true, moves: 'frame', refers: nothing, ink: none, ends: atOnce },
  back: { operation: false, seen: false, stays: true, moves: 'nowhere', refers: nothing, ink: none, ends: atOnce },
  step: { operation: false, seen: false, stays: false, moves: 'nowhere', refers: nothing, ink: none, ends: atOnce },
  pause: { operation: false, seen: false, stays: false, moves: 'nowhere', refers: nothing, ink: none, ends: atOnce },
  turn: { operation: false, seen: false, stays: false, moves: 'nowhere', refers: nothing, ink: none, ends: atOnce },
}

/** What an event means, whatever it is. */
export const meaningOf = (event: TakeEvent) =>
  MEANING[event.type] as unknown as Omit<Meaning<TakeEvent>, 'moves'> & { readonly moves: Movement }

/** Whether an event is only seen for a while. */
export const isSeen = (event: TakeEvent): event is SeenEvent => MEANING[event.type].seen

/**
 * The moment an event is over, take ms: the last sample of ink, the end of what goes on for a while, the time of
 * anything else.
 */
export const endOf = (event: TakeEvent): number => meaningOf(event).ends(event)

/** All ink of an event. */
export const inkOf = (event: TakeEvent): Stroke[] => meaningOf(event).ink(event)
