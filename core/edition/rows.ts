import { stepName } from '../cut/ledger'
import type { CutStep } from '../cut/cut'
import type { Part } from '../folio/model'
import type { OptionThing } from '../folio/thing'
import { layGuide } from '../guides'
import { withoutColours } from '../maths'
import type { Edition } from './edition'
import type { StepContent } from './stepContent'
import { pictureOfStep } from './stepPicture'

/** Names are so long at most. */
const MOST_NAME = 80
/** What names the steps of a question, for the source of its edition: as she typed, else by what they hold. */
export const namerOf =
  ({ parts }: { parts: readonly Part[] }) =>
  (edition: Edition, step: CutStep) =>
    step.step.title.trim() || derived(edition, step, parts)

/** What tells the parts of a question, for the source of its edition. */
export const parterOf =
  ({ parts }: { parts: readonly Part[] }) =>
  (edition: Edition) =>
    partsOfSteps(edition, parts)

/**
 * The parts that an edition's steps belong to: the one below which most was written, or that of the step before.
 * @returns their labels by the steps' places in the order of the edition; empty where the question has none
 */
export function partsOfSteps(edition: Edition, parts: readonly Part[]): Map<number, string> {
  const out = new Map<number, string>()
  if (!parts.some(p => p.place)) return out
  let last: string | null = null
  const waiting: number[] = []
  for (const { place, from, to } of edition.time.steps) {
    last = partOf(edition, from, to, parts) ?? last
    if (last === null) waiting.push(place)
    else out.set(place, last)
  }
  // What comes before the first ink belongs to where that is.
  const [first] = out.values()
  for (const place of waiting) if (first !== undefined) out.set(place, first)
  return out
}

/** Steps of an edition, one after another, that belong to one part of the question. */
export interface Section {
  part: string
  from: number
  to: number
  steps: string[]
}

/** The sections of an edition; fewer than two where there is nothing to tell apart. */
export function sectionsOf(edition: Edition): Section[] {
  const out: Section[] = []
  for (const { step, place, from, to } of edition.time.steps) {
    const part = edition.parts.get(place)
    const last = out[out.length - 1]
    if (part === undefined) continue
    if (last?.part === part) {
      last.to = to
      last.steps.push(step.id)
    } else out.push({ part, from, to, steps: [step.id] })
  }
  return out
}

/** What a step is called: the part that it belongs to and what was placed or revealed there, else its place. */
function derived(edition: Edition, { step, index, from, to }: CutStep, parts: readonly Part[]): string {
  const part = parts.length ? partOf(edition, from, to, parts) : null
  const what = whatOf(edition.contentIn({ from, to }))
  if (what) return `${part ? `${part}: ` : ''}${what}`.slice(0, MOST_NAME)
  return part ? `${part}, step ${index + 1}` : stepName(step, index)
}

const OPTION_STATES = { out: 'is out', stays: 'stays', answer: 'is the answer' }
/** What was decided of an option, with the reason where one was given: "B is out: too small". */
export const optionInWords = ({ label, state, reason }: OptionThing): string =>
  `${label} ${OPTION_STATES[state]}${reason ? `: ${reason}` : ''}`

/** What was placed or revealed there, the most telling first; empty where it was only written. */
function whatOf({ things, moves, turn }: StepContent): string {
  const option = things.findLast(t => t.kind === 'option')
  if (option?.kind === 'option') return optionInWords(option)
  const line = things.find(t => t.kind === 'line')
  if (line?.kind === 'line') return withoutColours(line.source)
  const [move] = moves
  if (move) return layGuide(move.guide.spec).moves[move.move]?.say ?? ''
  const typed = things.find(t => t.kind === 'guide' || t.kind === 'figure')
  if (typed && 'text' in typed && typed.text) return typed.text
  return turn ? 'Your turn' : ''
}

/** The part of the question below which most of the step was written. */
function partOf(edition: Edition, from: number, to: number, parts: readonly Part[]): string | null {
  const { box, board } = pictureOfStep(t => edition.board.at(t), from, to)
  if (!box) return null
  const here = parts.flatMap(p => (p.place && p.place.pageId === board.frame?.pageId ? [{ p, y: p.place.box.y }] : []))
  return here.sort((a, b) => a.y - b.y).findLast(({ y }) => y <= box.y + box.h / 2)?.p.label ?? null
}
