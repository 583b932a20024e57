import { newId } from '../folio/known'
import type { Ledger, Pace, Step, Strike } from '../folio/model'
import type { Stretch } from '../recording/stretches'
import { inOrder, stepAt, stretchOf } from './ledger'
import { isRemade } from './versions'

/** What is taken out is at least so long, ms. */
const LEAST_STRIKE = 40
/** Steps are at least so long when they are split, ms. */
const LEAST_STEP = 250

/**
 * Takes a stretch of the take out of the edition; what lies over it with its ink treated the same way is joined to it.
 * @param inkStays what was written in it stands there at once
 * @returns the strike's id, or null where there is nothing to take out
 */
export function strikeStretch(ledger: Ledger, { from, to }: Stretch, inkStays: boolean): string | null {
  const a = Math.round(Math.min(from, to))
  const b = Math.round(Math.max(from, to))
  if (b - a < LEAST_STRIKE) return null
  const all = ledger.strikes ?? []
  const meets = all.filter(s => s.inkStays === inkStays && !s.pause && s.from <= b && s.to >= a)
  const strike: Strike = {
    id: newId(),
    from: Math.min(a, ...meets.map(s => s.from)),
    to: Math.max(b, ...meets.map(s => s.to)),
    inkStays,
  }
  ledger.strikes = [...all.filter(s => !meets.includes(s)), strike].sort((x, y) => x.from - y.from)
  return strike.id
}

/** Brings back what was taken out there: whole strikes, paces and all. @param id of a strike or a pace */
export function unstrike(ledger: Ledger, id: string): void {
  ledger.strikes = ledger.strikes?.filter(s => s.id !== id)
  ledger.paces = ledger.paces?.filter(p => p.id !== id)
}

/**
 * Lets the edition begin, or end, at a moment of the take: all before, or after, is out. What was written before the
 * beginning stands there at once; what comes after the end never does.
 */
export function trimTo(ledger: Ledger, t: number, side: 'start' | 'end', takeDuration: number): string | null {
  const id =
    side === 'start'
      ? strikeStretch(ledger, { from: 0, to: t }, true)
      : strikeStretch(ledger, { from: t, to: takeDuration }, false)
  // What was recorded once more of a step has a time of its own: such a step goes as a whole.
  for (const [i, step] of ledger.steps.entries()) {
    const { from, to } = stretchOf(ledger, i, takeDuration)
    if (!isRemade(step) || (side === 'start' ? to > t : from < t)) continue
    step.struck = true
    if (side === 'start') step.inkStays = true
    else delete step.inkStays
  }
  return id
}

/**
 * Makes a step two at a moment of the take.
 * @returns the id of the second, or null where the moment lies too near to its ends
 */
export function splitStep(ledger: Ledger, t: number, takeDuration: number): string | null {
  const i = stepAt(ledger, t)
  const step = ledger.steps[i]
  const { from, to } = stretchOf(ledger, i, takeDuration)
  if (!step || isRemade(step) || t - from < LEAST_STEP || to - t < LEAST_STEP) return null
  const second: Step = { ...step, id: newId(), t: Math.round(t), title: '', words: '' }
  ledger.steps.splice(i + 1, 0, second)
  if (ledger.order) ledger.order = ledger.order.flatMap(id => (id === step.id ? [id, second.id] : [id]))
  return second.id
}

/** Makes a step one with the one after it in the take; names and words are put together. @returns whether it could */
export function joinSteps(ledger: Ledger, id: string): boolean {
  const i = ledger.steps.findIndex(s => s.id === id)
  const step = ledger.steps[i]
  const next = ledger.steps[i + 1]
  if (!step || !next || isRemade(step) || isRemade(next) || step.struck !== next.struck) return false
  step.title = [step.title, next.title]
    .filter(t => t.trim())
    .join('; ')
    .slice(0, 300)
  step.words = [step.words, next.words]
    .filter(t => t.trim())
    .join(' ')
    .slice(0, 5000)
  ledger.steps.splice(i + 1, 1)
  if (ledger.order) ledger.order = ledger.order.filter(x => x !== next.id)
  return true
}

/**
 * Moves the mark at which a step begins; it stays between its neighbours. What was added before it has no length, and
 * goes with it.
 * @returns where it is now, take ms
 */
export function moveMark(ledger: Ledger, id: string, t: number, takeDuration: number): number | null {
  const i = ledger.steps.findIndex(s => s.id === id)
  const step = ledger.steps[i]
  if (!step || step.added) return null
  const added: Step[] = []
  for (let k = i - 1; ledger.steps[k]?.added; k--) added.push(ledger.steps[k]!)
  const earlier = ledger.steps[i - 1 - added.length]
  if (!earlier) return null
  const before = earlier.t + LEAST_STEP
  const after = (ledger.steps[i + 1]?.t ?? takeDuration) - LEAST_STEP
  if (before > after) return null
  const to = Math.round(Math.min(after, Math.max(before, t)))
  for (const moved of [...added, step]) moved.t = to
  return to
}

/** Moves a step by places of the edition. @param at its place there; @returns its new place */
export function moveStep(ledger: Ledger, at: number, by: number): number {
  const order = inOrder(ledger).map(s => s.id)
  const to = Math.max(0, Math.min(order.length - 1, at + by))
  const [id] = order.splice(at, 1)
  if (id === undefined) return at
  order.splice(to, 0, id)
  setOrder(ledger, order)
  return to
}

/** Puts a copy of a step behind it. @param at its place in the edition */
export function copyStep(ledger: Ledger, at: number): void {
  const order = inOrder(ledger).map(s => s.id)
  const id = order[at]
  if (id !== undefined) order.splice(at + 1, 0, id)
  setOrder(ledger, order)
}

/** Takes a copy of a step away; the last one of a step stays. @param at its place in the edition */
export function dropCopy(ledger: Ledger, at: number): void {
  const order = inOrder(ledger).map(s => s.id)
  if (order.filter(id => id === order[at]).length < 2) return
  order.splice(at, 1)
  setOrder(ledger, order)
}

/** Protects a stretch of the take from tightening, or, where all of it is protected, no longer. */
export function guardStretch(ledger: Ledger, { from, to }: Stretch): void {
  const all = ledger.guards ?? []
  const meets = all.filter(g => g.from <= to && g.to >= from)
  const others = all.filter(g => !meets.includes(g))
  if (meets.some(g => g.from <= from && g.to >= to)) ledger.guards = others
  else {
    const a = Math.round(Math.min(from, ...meets.map(g => g.from)))
    const b = Math.round(Math.max(to, ...meets.map(g => g.to)))
    ledger.guards = [...others, { id: newId(), from: a, to: b }].sort((x, y) => x.from - y.from)
  }
}

/** An order is kept where it is not that of the take. */
function setOrder(ledger: Ledger, order: string[]) {
  const same = order.length === ledger.steps.length && order.every((id, i) => id === ledger.steps[i]!.id)
  if (same) delete ledger.order
  else ledger.order = order
}

/** Puts what tightening proposed into the ledger; what an earlier one put there is taken out first. */
export function putTightened(ledger: Ledger, strikes: readonly Strike[], paces: readonly Pace[]): void {
  const others = (ledger.strikes ?? []).filter(s => !s.pause)
  ledger.strikes = [...others, ...strikes].sort((a, b) => a.from - b.from)
  ledger.paces = [...paces]
}
