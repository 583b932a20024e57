import { newId } from '../folio/known'
import type { Ledger, Mend, Portrait, Question, Step, Take } from '../folio/model'
import type { Stretch } from '../recording/stretches'
import { kindOf, type TakeEvent } from '../recording/events'

/** The last step is shorter than this only if something is written in it, ms. */
const LEAST_LAST_STEP = 1500
/** Two step marks nearer than this are one, ms. */
const LEAST_STEP = 250

/** Where steps begin; one that begins where the teacher went back may stand very near to what was struck. */
interface Start {
  t: number
  back: boolean
  struck: boolean
}

/**
 * The ledger a take begins with: a step from its start, one from each step mark, and one from wherever the teacher went
 * back. What she took
 * back is struck. Times in take ms.
 * @param before the steps of the take that this one goes on after, up to that moment; they stay as they are
 */
export function ledgerOf(
  takeId: string,
  events: readonly TakeEvent[],
  durationMs: number,
  before: { steps: readonly Step[]; t: number } = { steps: [], t: 0 },
): Ledger {
  const starts: Start[] = [{ t: before.t, back: false, struck: false }]
  const old = before.steps.filter(s => s.t < before.t || (s.added && s.t === before.t)).map(s => ({ ...s }))
  for (const event of events) {
    if (event.t < before.t || (event.t === before.t && before.t > 0)) continue
    if (event.type === 'step') starts.push({ t: event.t, back: false, struck: false })
    if (event.type !== 'back') continue
    for (const start of starts) start.struck ||= start.t >= event.to
    // Going back farther than the retake begins strikes what was there before it.
    for (const step of old) step.struck ||= step.t >= event.to
    starts.push({ t: event.t, back: true, struck: false })
  }
  // A mark just before the end, with nothing after it, ends the last step and begins none.
  const last = events.findLast(e => e.type !== 'step' && e.type !== 'pause')?.t ?? 0
  const isEmptyEnd = (t: number) => durationMs - t < LEAST_LAST_STEP && last <= t
  const apart = starts.filter(
    (s, i) =>
      i === 0 || s.back || (s.t - starts[i - 1]!.t >= LEAST_STEP && s.t <= durationMs - LEAST_STEP && !isEmptyEnd(s.t)),
  )
  // A step without any length is none, except where it is all there is.
  const long = apart.filter((s, i) => (apart[i + 1]?.t ?? durationMs) > s.t)
  const steps = (long.length || old.length ? long : apart.slice(0, 1)).map(s => ({
    id: newId(),
    t: s.t,
    title: '',
    words: '',
    struck: s.struck,
  }))
  const turns = events.flatMap(e => (e.type === 'turn' ? [{ id: e.id, t: e.t, seconds: e.seconds, hold: e.hold }] : []))
  return { takeId, steps: [...old, ...steps], turns }
}

/**
 * The ledger of a question's finished take. A retake keeps the steps, the pauses for the student and the portrait's
 * place of what it goes on after.
 */
export function ledgerOfTake(
  take: Pick<Take, 'id' | 'durationMs' | 'after'>,
  events: readonly TakeEvent[],
  question: Pick<Question, 'ledger' | 'shelved'> | undefined,
): Ledger {
  const { after } = take
  const parent = after && [question?.ledger, ...(question?.shelved ?? [])].find(l => l?.takeId === after.takeId)
  if (!parent) return ledgerOf(take.id, events, take.durationMs)
  const made = ledgerOf(take.id, events, take.durationMs, { steps: parent.steps, t: after.t })
  return {
    ...made,
    turns: [...parent.turns.filter(t => t.t <= after.t), ...made.turns.filter(t => t.t > after.t)],
    ...portraitOf(parent),
    ...editsUntil(parent, after.t, events, made.steps),
  }
}

/**
 * What was done to the steps of a ledger before a moment of its take, for the ledger of a retake that goes on from there:
 * what was taken out stays out.
 * @param steps of the retake
 */
function editsUntil(parent: Ledger, t: number, events: readonly TakeEvent[], steps: readonly Step[]): Partial<Ledger> {
  const until = <S extends Stretch>(all: readonly S[] = []): S[] =>
    all.flatMap(s => (s.from < t ? [{ ...s, to: Math.min(s.to, t) }] : []))
  const lost = mendsIn(parent, events, { from: t, to: Infinity })
  const stay = mendsIn(parent, events, { from: 0, to: t })
  // What was recorded once more of a step before it is mended in a take of its own.
  const anywhere = steps.some(s => s.anew)
  const mends = (parent.mends ?? []).filter(m => !lost.includes(m) && (anywhere || stay.includes(m)))
  const old = new Set(parent.steps.map(s => s.id))
  const before = new Set(steps.flatMap(s => (old.has(s.id) ? [s.id] : [])))
  const order = parent.order && [
    ...parent.order.filter(id => before.has(id)),
    ...steps.flatMap(s => (before.has(s.id) ? [] : [s.id])),
  ]
  return only({
    strikes: until(parent.strikes),
    paces: until(parent.paces),
    guards: until(parent.guards),
    mends,
    order: order ?? [],
    joints: parent.joints,
  })
}

/** What of a ledger is there; empty lists are left out. */
const only = (parts: Partial<Ledger>): Partial<Ledger> =>
  Object.fromEntries(Object.entries(parts).filter(([, v]) => (Array.isArray(v) ? v.length > 0 : v !== undefined)))

/**
 * The mends of what was recorded in a stretch of a ledger's take: they are lost where that is recorded anew.
 * @param events of the take
 */
export function mendsIn(ledger: Ledger, events: readonly TakeEvent[], { from, to }: Stretch): Mend[] {
  const came = new Map<string, number>()
  const note = (event: TakeEvent) => {
    for (const item of kindOf(event).brings(event)) came.set(item, event.t)
  }
  events.forEach(note)
  for (const mend of ledger.mends ?? []) mend.events.forEach(note)
  const inside = (t: number | undefined) => t !== undefined && t >= from && t < to
  const isThere = (event: TakeEvent) => {
    const targets = kindOf(event).refs(event)
    return targets.length ? targets.some(id => inside(came.get(id))) : inside(event.t)
  }
  return (ledger.mends ?? []).filter(m => m.events.some(isThere))
}

const portraitOf = ({ portrait }: Ledger) => (portrait ? { portrait } : {})

/** A new take's ledger, with the place of the camera's picture where the take has one and the ledger does not say. */
export function withPortrait(ledger: Ledger, take: Pick<Take, 'camera'>, portrait: Portrait | undefined): Ledger {
  return take.camera && portrait ? { portrait, ...ledger } : ledger
}

/**
 * The steps of one take for another that has the same course: its ink talked over, or its sound written over. What was
 * struck stays out; what was tightened by the old sound is not.
 * @param inkStays its ink is the same, and so is what was mended of it
 */
export function newSteps(ledger: Ledger, take: Pick<Take, 'id' | 'durationMs'>, inkStays: boolean): Ledger {
  const steps = ledger.steps.filter(s => s.t < take.durationMs).map(s => ({ ...s, id: newId() }))
  const named = new Map(ledger.steps.map((s, i) => [s.id, steps[i]?.id]))
  return {
    takeId: take.id,
    steps,
    turns: ledger.turns.filter(t => t.t < take.durationMs).map(t => ({ ...t, id: newId() })),
    ...portraitOf(ledger),
    ...only({
      strikes: ledger.strikes?.filter(s => !s.pause),
      guards: ledger.guards,
      order: ledger.order?.flatMap(id => named.get(id) ?? []),
      joints: ledger.joints,
      mends: inkStays ? ledger.mends : [],
    }),
  }
}

/** Puts a ledger in use; the one of another take that was in use is kept beside it. */
export function putInUse(question: Question, ledger: Ledger): void {
  const others = [...question.shelved, ...(question.ledger ? [question.ledger] : [])]
  question.shelved = others.filter(
    (l, i) => l.takeId !== ledger.takeId && others.findLastIndex(x => x.takeId === l.takeId) === i,
  )
  question.ledger = ledger
  question.proofed = false
}

/** The takes that an edition is made from: the ledger's own, and those of steps that were recorded anew. */
export const takesIn = (ledger: Ledger): string[] => [
  ...new Set([ledger.takeId, ...ledger.steps.flatMap(s => [s.anew, s.voice].flatMap(x => (x ? [x.takeId] : [])))]),
]

/** Where a step begins and ends, take ms. */
export function stretchOf(ledger: Ledger, index: number, durationMs: number): Stretch {
  return { from: ledger.steps[index]!.t, to: ledger.steps[index + 1]?.t ?? durationMs }
}

/** The name of a step, or "Step 3" where it has none. */
export function stepName(step: Step, index: number): string {
  return step.title.trim() || `Step ${index + 1}`
}

/** The index of the step that holds take time `t`. */
export function stepAt(ledger: Ledger, t: number): number {
  let i = ledger.steps.length - 1
  while (i > 0 && ledger.steps[i]!.t > t) i--
  return i
}

/** The steps in the order of the edition; a copy stands twice. */
export function inOrder(ledger: Pick<Ledger, 'steps' | 'order'>): Step[] {
  if (!ledger.order) return ledger.steps
  const byId = new Map(ledger.steps.map(s => [s.id, s]))
  const named = ledger.order.flatMap(id => byId.get(id) ?? [])
  // A step that the order does not know of comes last, so that none is lost.
  const known = new Set(ledger.order)
  return [...named, ...ledger.steps.filter(s => !known.has(s.id))]
}
