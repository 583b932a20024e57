import { newId } from '../folio/known'
import type { Ledger, Question, Step, StepTake, Take, Version } from '../folio/model'
import type { TakeEvent } from '../recording/events'
import { inOrder, ledgerOfTake } from './ledger'

/** What of a step is another than when it was first recorded. */
export type Remade = Pick<Version, 'anew' | 'voice'>

type TakeStretch = NonNullable<Step['voice']>

/** Whether a step is not as it was first recorded. */
export const isRemade = (step: Remade): boolean => Boolean(step.anew ?? step.voice)

const same = (a: Remade, b: Remade) =>
  JSON.stringify([a.anew ?? null, a.voice ?? null]) === JSON.stringify([b.anew ?? null, b.voice ?? null])

/** Whether something of a step can be recorded once more; one that was added has no sound of its take to write over. */
export const canRemake = (step: Pick<Step, 'added'>, as: StepTake): boolean => as !== 'ink' || !step.added

/** All that was recorded for a step later, the first first. */
export function versionsOf(step: Step): readonly Version[] {
  const kept = step.versions ?? []
  return isRemade(step) && !kept.some(v => same(v, step)) ? [...kept, versionOf('in-use', step)] : kept
}

/** The version of a step that is in use; null for the step as it was first recorded. */
export const versionInUse = (step: Step): Version | null => versionsOf(step).find(v => same(v, step)) ?? null

const versionOf = (id: string, { anew, voice }: Remade): Version => ({
  id,
  ...(anew ? { anew } : {}),
  ...(voice ? { voice } : {}),
})

/**
 * A ledger in which a step was recorded once more, and is shown so; what it was is kept beside it. Where another voice
 * is heard, what was said is no longer what it says.
 */
export function withVersion(ledger: Ledger, id: string, made: Remade): Ledger {
  const put = (step: Step): Step => {
    const { anew: _anew, voice: _voice, ...rest } = step
    const version = versionOf(newId(), made)
    const shown: Step = {
      ...rest,
      ...made,
      versions: [...versionsOf(step), version].map(v => (v.id === 'in-use' ? { ...v, id: newId() } : v)),
      struck: false,
    }
    changeWords(shown, step)
    return shown
  }
  return { ...ledger, steps: ledger.steps.map(s => (s.id === id ? put(s) : s)) }
}

/** The voice that is heard in a step, by where it begins; null for its own. */
function voiceOf(step: Remade): Pick<TakeStretch, 'takeId' | 'from'> | null {
  const heard = otherVoice(step)
  return heard && { takeId: heard.takeId, from: heard.from }
}

/** Another voice has other words: those of the one before are kept until it is heard again. */
function changeWords(step: Step, before: Remade): void {
  const [was, now] = [voiceOf(before), voiceOf(step)]
  const isOf = (voice: typeof was) => (u: NonNullable<Step['unheard']>[number]) =>
    JSON.stringify(u.voice) === JSON.stringify(voice)
  if (JSON.stringify(was) === JSON.stringify(now)) return
  const kept = (step.unheard ?? []).filter(u => !isOf(was)(u) && !isOf(now)(u))
  const unheard = step.words.trim() ? [...kept, { voice: was, words: step.words }] : kept
  step.words = step.unheard?.find(isOf(now))?.words ?? ''
  if (unheard.length) step.unheard = unheard
  else delete step.unheard
}

/** What was recorded once more of a step, in words; empty for a step as it was first recorded. */
export function remadeInWords({ anew, voice }: Remade): string {
  return [anew ? (anew.over ? 'written again' : 'recorded anew') : '', voice ? 'said again' : '']
    .filter(Boolean)
    .join(', ')
}

/**
 * The stretch of a take that is heard in a step: another voice, that of another take, or its own.
 * @param own its stretch of the ledger's take
 */
export function heardIn({ anew, voice }: Remade, own: TakeStretch): TakeStretch {
  const { takeId, from, to } = otherVoice({ anew, voice }) ?? own
  return { takeId, from, to }
}

/** The stretch that is heard in place of a step's own voice; null for that. */
const otherVoice = ({ anew, voice }: Remade): TakeStretch | null => voice ?? (anew && !anew.over ? anew : null)

/** What a step becomes with a take that was recorded for it alone. */
export function remadeBy(step: Step, take: Pick<Take, 'id' | 'after' | 'durationMs' | 'step'>): Remade {
  const { anew } = step
  const own = { takeId: take.id, from: take.after?.t ?? 0, to: take.durationMs }
  const as = take.step?.as ?? 'anew'
  switch (as) {
    case 'anew':
    case 'after':
      return { anew: own }
    case 'voice':
      return { ...(anew ? { anew } : {}), voice: { takeId: take.id, from: 0, to: take.durationMs } }
    case 'ink': {
      // What is heard stays; its own sound needs no name.
      const spoken = otherVoice(step)
      return { anew: { ...own, over: true }, ...(spoken ? { voice: heardIn(step, own) } : {}) }
    }
    default:
      return as satisfies never
  }
}

/** What a question's ledger becomes with a finished take: that of the take, or the old one with a step recorded once more. */
export function ledgerFor(
  take: Pick<Take, 'id' | 'durationMs' | 'after' | 'step'>,
  events: readonly TakeEvent[],
  question: Pick<Question, 'ledger' | 'shelved'> | undefined,
): Ledger {
  const ledger = question?.ledger
  const step = ledger?.steps.find(s => s.id === take.step?.id)
  if (!ledger || !step) return ledgerOfTake(take, events, question)
  const made = remadeBy(step, take)
  return take.step?.as === 'after' ? withAdded(ledger, step.id, made) : withVersion(ledger, step.id, made)
}

/** A ledger with a step more, behind another and what was added there before; all that was there stays as it is. */
function withAdded(ledger: Ledger, id: string, made: Remade): Ledger {
  const behind = (all: readonly Step[], at: number) => {
    let next = at + 1
    while (all[next]?.added) next++
    return next
  }
  const { steps } = ledger
  const at = behind(
    steps,
    steps.findIndex(s => s.id === id),
  )
  // It lies where the next begins; after the last, where its own take goes on from.
  const t = steps[at]?.t ?? Math.max(made.anew?.from ?? 0, steps[at - 1]!.t)
  const step: Step = { id: newId(), t, title: '', words: '', struck: false, added: true, ...made }
  const order = ledger.order && inOrder(ledger)
  const place =
    order &&
    behind(
      order,
      order.findIndex(s => s.id === id),
    )
  return {
    ...ledger,
    steps: steps.toSpliced(at, 0, step),
    ...(order ? { order: order.map(s => s.id).toSpliced(place!, 0, step.id) } : {}),
  }
}

/**
 * Shows a step as another of its versions, with the words of the voice that is heard then.
 * @param version null for the step as it was first recorded
 */
export function useVersion(step: Step, version: Version | null): void {
  const before: Remade = { anew: step.anew, voice: step.voice }
  step.versions = versionsOf(step).map(v => ({ ...v }))
  delete step.anew
  delete step.voice
  if (version?.anew) step.anew = version.anew
  if (version?.voice) step.voice = version.voice
  changeWords(step, before)
}

/**
 * A ledger in which each step that is shown from a take that cannot be read is shown as its last version that can be; one
 * that has none is struck out. Nothing of the versions is thrown away.
 * @param unreadable takes, by their ids; not the ledger's own
 */
export function withReadableVersions(ledger: Ledger, unreadable: ReadonlySet<string>): Ledger {
  const isRead = ({ anew, voice }: Remade) => [anew, voice].every(x => !x || !unreadable.has(x.takeId))
  const shown = (step: Step): Step => {
    if (isRead(step)) return step
    const made = { ...step }
    const version = versionsOf(step).findLast(isRead)
    useVersion(made, version ?? null)
    return step.added && !version ? { ...made, struck: true } : made
  }
  return { ...ledger, steps: ledger.steps.map(shown) }
}
