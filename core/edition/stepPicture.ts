import type { Box } from '../folio/basics'
import { boxOfSamples, grownBox, unionOf } from '../geometry'
import { POINT_SIZE } from '../ink/stroke'
import { boxOfThing } from '../things'
import type { Board } from '../recording/board'

/** So much is shown round what was written in a step, and a step with little ink shows at least so much, points. */
const AROUND = 10
const LEAST = { w: 150, h: 34 }

/** What was written in a step: the board at its end, what of it is the step's own, and the piece that holds that. */
export interface StepPicture {
  board: Board
  own: Board
  /** Null where nothing was written in it. */
  box: Box | null
}

/**
 * What a step shows. @param from where it begins, @param to where it ends, on the time of the board
 * @param at gives the board at a moment
 */
export function pictureOfStep(at: (t: number) => Board, from: number, to: number): StepPicture {
  const board = at(Math.max(from, to - 1))
  const own: Board = {
    ...board,
    strokes: board.strokes.filter(s => (s.stroke.points[POINT_SIZE - 1] ?? 0) >= from),
    things: board.things.filter(t => board.t - t.ms >= from),
  }
  const boxes = [
    ...own.strokes.map(s => boxOfSamples(s.stroke.points, POINT_SIZE)),
    ...own.things.map(t => boxOfThing(t.thing)),
  ]
  if (!boxes.length) return { board, own, box: null }
  const tight = grownBox(unionOf(boxes), AROUND)
  const w = Math.max(tight.w, LEAST.w),
    h = Math.max(tight.h, LEAST.h)
  return { board, own, box: { x: tight.x, y: tight.y - (h - tight.h) / 2, w, h } }
}
