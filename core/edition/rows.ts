import { stepName } from '../cut/ledger'
import type { CutStep } from '../cut/cut'
import type { Box } from '../folio/basics'
import type { Part } from '../folio/model'
import { boxOfSamples, grownBox, unionOf } from '../geometry'
import { layGuide } from '../guides'
import { withoutColours } from '../maths'
import { POINT_SIZE } from '../ink/stroke'
import { boxOfThing } from '../things'
import type { Board } from '../take/board'
import type { TakeEvent } from '../take/events'
import type { Edition } from './edition'

/** Names are so long at most. */
const MOST_NAME = 80
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

/** What names the steps of a question, for the source of its edition. */
export const namerOf =
  ({ parts }: { parts: readonly Part[] }) =>
  (edition: Edition) =>
    namesOf(edition, parts)

/**
 * The names of an edition's steps: what the teacher typed, else the part that they belong to and what was placed or
 * revealed there, else their place in the solution.
 * @param parts of the question
 * @returns by the steps' places in the order of the edition
 */
export function namesOf(edition: Edition, parts: readonly Part[] = []): Map<number, string> {
  const names = new Map<number, string>()
  const { steps } = edition.time
  if (steps.every(s => s.step.title.trim())) return new Map(steps.map(s => [s.place, s.step.title.trim()]))
  // Events come in the order of the edition, but for what was mended.
  const own = steps.map((): TakeEvent[] => [])
  let i = 0
  for (const event of edition.events) {
    while (i > 0 && event.t < steps[i]!.from) i--
    while (i < steps.length - 1 && event.t >= steps[i]!.to) i++
    if (event.t < (steps[i]?.to ?? 0)) own[i]!.push(event)
  }
  steps.forEach((shown, k) => {
    names.set(shown.place, shown.step.title.trim() || derived(edition, shown, own[k]!, parts))
  })
  return names
}

function derived(
  edition: Edition,
  { step, index, from, to }: CutStep,
  events: readonly TakeEvent[],
  parts: readonly Part[],
): string {
  const part = parts.length ? partOf(edition, from, to, parts) : null
  const what = whatOf(events, edition)
  if (what) return `${part ? `${part}: ` : ''}${what}`.slice(0, MOST_NAME)
  return part ? `${part}, step ${index + 1}` : stepName(step, index)
}

/** What was placed or revealed there, the most telling first; empty where it was only written. */
function whatOf(events: readonly TakeEvent[], edition: Edition): string {
  const things = events.flatMap(e => (e.type === 'place' || e.type === 'change' ? [e.thing] : []))
  const option = things.findLast(t => t.kind === 'option')
  if (option?.kind === 'option')
    return `${option.label} ${{ out: 'is out', stays: 'stays', answer: 'is the answer' }[option.state]}${option.reason ? `: ${option.reason}` : ''}`
  const line = things.find(t => t.kind === 'line')
  if (line?.kind === 'line') return withoutColours(line.source)
  const move = events.find(e => e.type === 'write' && e.guide !== undefined)
  if (move?.type === 'write') return sayingOf(move, edition)
  const typed = things.find(t => t.kind === 'guide' || t.kind === 'figure')
  if (typed && 'text' in typed && typed.text) return typed.text
  return events.some(e => e.type === 'turn') ? 'Your turn' : ''
}

/** What a move of a guide is said like. */
function sayingOf(move: Extract<TakeEvent, { type: 'write' }>, edition: Edition): string {
  const guide = edition.board.at(move.t).things.find(t => t.id === move.guide)?.thing
  return guide?.kind === 'guide' ? (layGuide(guide.spec).moves[move.move ?? 0]?.say ?? '') : ''
}

/** The part of the question below which most of the step was written. */
function partOf(edition: Edition, from: number, to: number, parts: readonly Part[]): string | null {
  const { box, board } = pictureOfStep(t => edition.board.at(t), from, to)
  if (!box) return null
  const here = parts.flatMap(p => (p.place && p.place.pageId === board.frame?.pageId ? [{ p, y: p.place.box.y }] : []))
  return here.sort((a, b) => a.y - b.y).findLast(({ y }) => y <= box.y + box.h / 2)?.p.label ?? null
}
