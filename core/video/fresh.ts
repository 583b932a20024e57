import { dequal } from 'dequal/lite'
import type { Clips, Folio, Question, Reached } from '../folio/model'
import { Page } from '../folio/page'
import { fingerprint } from '../folio/text'

/** What a video remembers of what it was made from. `questionId` is null for the video of the whole folio. */
export interface Origin {
  questionId: string | null
  made: string
  /** The part of the question it is of, where it is not of all. */
  part?: string | undefined
  /** Look of each page it shows; older videos do not know. */ pages?: Record<string, string> | undefined
}

/**
 * What a video of questions is made from, and (that of the whole folio) of which clips; changes with every change of
 * their steps.
 */
export function madeFrom(questions: readonly Question[], clips: Clips = {}): string {
  // A video of before there were clips stays what it is.
  return JSON.stringify(
    questions
      .map(q => [q.id, q.number, q.title, q.ledger, ...(Object.keys(q.clips).length ? [q.clips] : [])])
      .concat(Object.keys(clips).length ? [['', clips]] : []),
  )
}

/** A page's picture as far as the folio's document tells it; the same however the document was put together. */
export function pictureKey(page: Page): string {
  // Whom it is given to does not change how it looks.
  const { handed: _, ...look } = Page.parse(page)
  return JSON.stringify(look)
}

/** Whether two texts say the same, in whatever order its parts were put together. */
const isSame = (a: string, b: string) => a === b || dequal(JSON.parse(a), JSON.parse(b))

/**
 * Whether a video is still what the folio says: its steps and clips, and the pages it shows.
 * @param questions those the video is of
 */
export function isFresh(
  origin: Origin,
  folio: Pick<Folio, 'clips' | 'pages'>,
  questions: readonly Question[],
): boolean {
  if (!isSame(origin.made, madeFrom(questions, origin.questionId === null ? folio.clips : {}))) return false
  return Object.entries(origin.pages ?? {}).every(([id, look]) =>
    folio.pages.some(page => page.id === id && isSame(pictureKey(page), look)),
  )
}

/** How far the questions have come: whose video says what the folio says now, and whose was given to students so. */
export function reachedBy(folio: Folio, origins: readonly (Origin & { publishedAt?: string | undefined })[]): Reached {
  const fresh = origins.filter(
    o => !o.part && folio.questions.some(q => q.id === o.questionId && isFresh(o, folio, [q])),
  )
  const handed = (folio.handedOut ?? []).filter(h =>
    folio.questions.some(q => q.id === h.questionId && fingerprint(madeFrom([q])) === h.made),
  )
  return {
    rendered: new Set(fresh.map(o => o.questionId!)),
    published: new Set([...fresh.filter(o => o.publishedAt).map(o => o.questionId!), ...handed.map(h => h.questionId)]),
  }
}
