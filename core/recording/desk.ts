import type { Thing } from '../folio/thing'
import type { Matrix } from '../ink/alter'
import type { PenRole } from '../ink/roles'
import type { InkTool, Stroke } from '../ink/stroke'
import type { Board, BoardIndex } from './board'
import type { EphemeralDraft, StrokeEvent, TakeEvent } from './events'
import type { PenSample, TakeRecorder } from './recorder'

/**
 * What the hand's tools work on: they place, change, move, erase and take back, and never say when. A running take, the
 * rehearsal before it and
 * the mending after it are desks. What cannot be done now (a take that is paused, a board that only plays) is not done,
 * and gives null.
 */
export interface Desk {
  readonly board: Pick<BoardIndex, 'at' | 'last' | 'frameAt' | 'movesOf' | 'isRevealed'>
  /** All that was done here, in order. */
  readonly events: readonly TakeEvent[]
  /** The stroke that is being written, if any. */
  readonly growing: StrokeEvent | undefined
  /** Whether the board is that of another take, and only plays. */
  readonly sealed: boolean
  /** How long something goes on drawing itself, ms. */
  readonly busyMs: number
  readonly canUndo: boolean
  readonly canRedo: boolean

  /** The board as it stands now. @param pageId whose ink; that of the frame when left out */
  now(pageId?: string): Board
  /** @returns the stroke's id */
  penDown(role: PenRole, tool: InkTool, sample: PenSample, size?: number): string | null
  /** A pointer that leaves a trail; it goes on and ends like a stroke. */
  trailDown(sample: PenSample): string | null
  penMove(samples: readonly PenSample[]): void
  penUp(): void
  /**
   * Puts a thing there.
   * @param over ms in which it is drawn; `held`: the held line it is; `instead`: what it takes the place of.
   * @returns its id
   */
  place(thing: Thing, over?: number, of?: { held?: string; instead?: string[] }): string | null
  /** Makes a thing another. */
  change(target: string, thing: Thing): void
  /** Moves, grows or recolours strokes and things, as one operation. */
  alter(targets: readonly string[], how: { matrix?: Matrix; role?: PenRole }): void
  /** Leaves only ranges of samples of strokes, as one operation. */
  cut(strokes: readonly { id: string; keep: [number, number][] }[]): void
  /** Takes strokes and things off the board, as one operation. */
  erase(targets: readonly string[]): void
  /** Writes ink for the teacher; the strokes' own times count from 0. One operation. @returns its id */
  write(strokes: readonly Stroke[], of?: { guide: string; move: number }): string | null
  /** Shows students something for a while: goes closer to a piece of the page or back, puts a piece in the light. */
  show(what: EphemeralDraft): void
  undo(): void
  redo(): void
}

/** A desk over a recorder that runs: what is done there happens now. */
export class TakeDesk implements Desk {
  /** @param clock machine time, ms */
  constructor(
    private readonly recorder: TakeRecorder,
    private readonly clock: () => number,
  ) {}

  get board() {
    return this.recorder.board
  }
  get events() {
    return this.recorder.events
  }
  get growing() {
    return this.recorder.growing
  }
  get sealed() {
    return this.recorder.sealed
  }
  get busyMs() {
    return Math.max(0, this.recorder.busyUntil - this.recorder.time(this.clock()))
  }
  get canUndo() {
    return this.recorder.undoTarget !== undefined
  }
  get canRedo() {
    return this.recorder.redoTarget !== undefined
  }

  now(pageId?: string) {
    return this.board.at(this.recorder.time(this.clock()), pageId)
  }
  penDown(role: PenRole, tool: InkTool, sample: PenSample, size = 1) {
    return this.recorder.penDown(role, tool, sample, size)
  }
  trailDown(sample: PenSample) {
    return this.recorder.trailDown(sample)
  }
  penMove(samples: readonly PenSample[]) {
    this.recorder.penMove(samples)
  }
  penUp() {
    this.recorder.penUp()
  }
  place(thing: Thing, over = 0, of: { held?: string; instead?: string[] } = {}) {
    return this.recorder.place(thing, this.clock(), over, of)
  }
  change(target: string, thing: Thing) {
    this.recorder.change(target, thing, this.clock())
  }
  alter(targets: readonly string[], how: { matrix?: Matrix; role?: PenRole }) {
    this.recorder.alter(targets, this.clock(), how)
  }
  cut(strokes: readonly { id: string; keep: [number, number][] }[]) {
    this.recorder.cut(strokes, this.clock())
  }
  erase(targets: readonly string[]) {
    this.recorder.erase(targets, this.clock())
  }
  write(strokes: readonly Stroke[], of?: { guide: string; move: number }) {
    return this.recorder.write(strokes, this.clock(), of)
  }
  show(what: EphemeralDraft) {
    this.recorder.show(what, this.clock())
  }
  undo() {
    this.recorder.undo(this.clock())
  }
  redo() {
    this.recorder.redo(this.clock())
  }
}
