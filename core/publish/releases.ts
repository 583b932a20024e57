import type { Question } from '../folio/model'

/** What students get of a question at a moment; `next`: when there will be more, ms since 1970. */
export interface Shown {
  cut: 'full' | 'hint' | 'closed'
  next: number | null
}

const at = (iso: string | undefined) => (iso === undefined ? Number.NEGATIVE_INFINITY : Date.parse(iso))

/** What students get of a question at a moment. @param now ms since 1970 */
export function shownAt({ release }: Pick<Question, 'release'>, now: number): Shown {
  const full = at(release?.fullFrom)
  if (full <= now) return { cut: 'full', next: null }
  if (!release?.hint?.length) return { cut: 'closed', next: full }
  const hint = at(release.hintFrom)
  return hint <= now ? { cut: 'hint', next: full } : { cut: 'closed', next: Math.min(hint, full) }
}

/**
 * The moments at which the page changes by itself: now, and each release that is still to come. Ascending, ms since
 * 1970.
 */
export function releasesOf(questions: readonly Pick<Question, 'release'>[], now: number): number[] {
  const later = questions.flatMap(({ release }) => [
    ...(release?.hint?.length ? [at(release.hintFrom)] : []),
    at(release?.fullFrom),
  ])
  return [now, ...new Set(later.filter(t => t > now).sort((a, b) => a - b))]
}
