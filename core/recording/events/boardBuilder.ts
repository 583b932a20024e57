import type { Box, Frame } from '../../folio/basics'
import type { Thing } from '../../folio/thing'
import type { Matrix } from '../../ink/alter'
import type { PenRole } from '../../ink/roles'
import type { Stroke } from '../../ink/stroke'

/** The operation that an event is: undo takes it back by its id. */
export interface OperationRef {
  readonly id: string
  /** Source or timeline ms. */
  readonly t: number
}
/** Which move of a layout guide was written. */
export interface GuideMove {
  guide: string
  move: number
}
/** An object as it comes to the board. */
export interface ObjectPlacement {
  thing: Thing
  /** How long it takes to be drawn, ms. */
  over: number
  /** The held line that it was. */
  held?: string
  /** The items whose place it takes, by their ids. */
  instead?: readonly string[]
}
/** Ranges of samples that are left of a stroke: first included, last not. */
export interface StrokeRanges {
  id: string
  keep: readonly (readonly [number, number])[]
}

/**
 * All that an event can do to a board, and to whoever follows one: the board itself, the places of its items, the
 * corner of the camera's picture. An event that is made of these needs no other place than its module.
 */
export interface BoardBuilder {
  addStrokes(by: OperationRef, strokes: readonly Stroke[], move?: GuideMove): void
  addObject(by: OperationRef, placement: ObjectPlacement): void
  changeObject(by: OperationRef, target: string, thing: Thing): void
  transform(by: OperationRef, targets: readonly string[], how: { matrix?: Matrix; role?: PenRole }): void
  splitStrokes(by: OperationRef, strokes: readonly StrokeRanges[]): void
  remove(by: OperationRef, targets: readonly string[]): void
  /** @param off whether the operation is taken back, or else brought back */
  toggle(t: number, target: string, off: boolean): void
  /** Everything stands again as it stood at `to`. */
  rewind(t: number, to: number): void
  setFrame(t: number, frame: Frame): void
  /** @param over ms that the way there takes */
  zoom(t: number, box: Box | null, over: number): void
  spotlight(t: number, box: Box | null): void
  pointer(id: string, points: readonly number[]): void
}

/** A builder of nothing: who follows a part of a log extends it by what that part is. */
export class BoardFollower implements BoardBuilder {
  /** Is told of each operation that brings, changes or removes something. */
  protected operation(_by: OperationRef): void {}
  addStrokes(by: OperationRef, _strokes: readonly Stroke[], _move?: GuideMove): void {
    this.operation(by)
  }
  addObject(by: OperationRef, _placement: ObjectPlacement): void {
    this.operation(by)
  }
  changeObject(by: OperationRef, _target: string, _thing: Thing): void {
    this.operation(by)
  }
  transform(by: OperationRef, _targets: readonly string[], _how: { matrix?: Matrix; role?: PenRole }): void {
    this.operation(by)
  }
  splitStrokes(by: OperationRef, _strokes: readonly StrokeRanges[]): void {
    this.operation(by)
  }
  remove(by: OperationRef, _targets: readonly string[]): void {
    this.operation(by)
  }
  toggle(_t: number, _target: string, _off: boolean): void {}
  rewind(_t: number, _to: number): void {}
  setFrame(_t: number, _frame: Frame): void {}
  zoom(_t: number, _box: Box | null, _over: number): void {}
  spotlight(_t: number, _box: Box | null): void {}
  pointer(_id: string, _points: readonly number[]): void {}
}
