import type { Handed, Question } from '../folio/model'
import { releasesOf, shownAt } from './releases'

/** A state of an earlier version, and from when on today's dates let students have it: ms since 1970; null for at once. */
export interface Redated {
  /** Its place among the version's own states. */
  state: number
  from: number | null
}

const at = (iso: string | undefined) => (iso === undefined ? Number.NEGATIVE_INFINITY : Date.parse(iso))
const releaseOf = ({ dates }: Handed): Pick<Question, 'release'> =>
  dates
    ? { release: { ...dates, hint: dates.hint ? ['x'] : [] } as NonNullable<Question['release']> }
    : { release: undefined }

/** From when on today's dates let students have a cut of a question, ms since 1970. */
function allowedFrom({ release }: Pick<Question, 'release'>, cut: 'full' | 'hint' | 'closed'): number {
  if (cut === 'closed') return Number.NEGATIVE_INFINITY
  return cut === 'hint' && release?.hint?.length ? at(release.hintFrom) : at(release?.fullFrom)
}

/**
 * The states of an earlier version by the dates that questions have today: none shows anything before it is released.
 * @param of the questions of that version, as they were
 * @param made when it was made, ms since 1970
 * @param questions as they are now; one that is gone has no date
 * @returns in their order, at least one; null where the version does not tell its dates
 */
export function redated(
  of: readonly Handed[],
  made: number,
  questions: readonly Pick<Question, 'id' | 'release'>[],
  now: number,
): Redated[] | null {
  if (of.some(h => !h.dates)) return null
  const then = of.map(releaseOf)
  const states = releasesOf(then, made)
  const allowed = states.map(moment =>
    Math.max(
      Number.NEGATIVE_INFINITY,
      ...of.map((h, i) => {
        const today = questions.find(q => q.id === h.questionId)
        return today ? allowedFrom(today, shownAt(then[i]!, moment).cut) : Number.NEGATIVE_INFINITY
      }),
    ),
  )
  // A later state holds all of those before it.
  const out: Redated[] = []
  for (const [state, from] of allowed.entries()) {
    const least = Math.max(from, ...allowed.slice(0, state))
    while (out.length && (out[out.length - 1]!.from ?? now) >= Math.max(least, now)) out.pop()
    out.push({ state, from: least <= now ? null : least })
  }
  return out
}

/** Numbers of questions of which an earlier version gives more than today's dates let students have now. */
export function openedBy(
  of: readonly Handed[],
  questions: readonly Pick<Question, 'id' | 'number' | 'release'>[],
  now: number,
): string[] {
  return of.flatMap(h => {
    const today = questions.find(q => q.id === h.questionId)
    if (!today) return []
    const cut = h.dates ? shownAt(releaseOf(h), now).cut : 'full'
    return allowedFrom(today, cut) > now ? [today.number] : []
  })
}
