import type { Folio, Handed, Published, Question } from '../folio/model'
import type { Page } from '../folio/page'
import { fingerprint } from '../folio/text'
import { madeFrom, pictureKey } from '../video/fresh'

/**
 * What questions are as they would be published now.
 * @param lengths of their solutions, by their ids, where they are known
 */
export const handedNow = (
  questions: readonly Question[],
  { pages }: Pick<Folio, 'pages'>,
  lengths: ReadonlyMap<string, Pick<Handed, 'ms' | 'steps'>> = new Map(),
): Handed[] =>
  questions.map(q => ({
    questionId: q.id,
    made: fingerprint(madeFrom([q])),
    release: fingerprint(JSON.stringify([q.release ?? null, q.replies ?? []])),
    shown: fingerprint(shownOf(q, pages)),
    ...lengths.get(q.id),
    dates: {
      hint: Boolean(q.release?.hint?.length),
      ...(q.release?.hintFrom ? { hintFrom: q.release.hintFrom } : {}),
      ...(q.release?.fullFrom ? { fullFrom: q.release.fullFrom } : {}),
    },
  }))

/** What a page shows of a question beside its solution: what is asked, as it lies there, and what is checked. */
function shownOf(q: Question, pages: readonly Page[]): string {
  const used = new Set([...q.regions, ...q.frames].map(r => r.pageId))
  if (q.scratch) used.add(q.scratch)
  const regions = q.regions.map(({ pageId, box }) => [pageId, box])
  return JSON.stringify([q.answer, q.options, q.parts, regions, pages.filter(p => used.has(p.id)).map(pictureKey)])
}

/** A fingerprint of what the student page says beside the questions. */
export const wordsNow = ({ title, course, author, plan, pages }: Folio): string =>
  fingerprint(JSON.stringify([title, course, author, plan, pages.map(p => [p.id, p.handed ?? null])]))

/** How the folio differs from a version that students have: ids of questions; `words`: title, plan or worksheet. */
export interface Changes {
  added: string[]
  changed: string[]
  removed: string[]
  words: boolean
}

/** What has changed since a version. @param questions those that are recorded */
export function changesSince(
  version: Published['versions'][number],
  folio: Folio,
  questions: readonly Question[],
): Changes {
  const now = handedNow(questions, folio)
  const before = new Map(version.of.map(h => [h.questionId, h]))
  const differs = (h: Handed) => {
    const old = before.get(h.questionId)
    // What a version of before does not tell is not taken for a change.
    const isShownElse = old?.shown !== undefined && old.shown !== h.shown
    return !!old && (old.made !== h.made || old.release !== h.release || isShownElse)
  }
  return {
    added: now.filter(h => !before.has(h.questionId)).map(h => h.questionId),
    changed: now.filter(differs).map(h => h.questionId),
    removed: version.of.filter(h => !now.some(n => n.questionId === h.questionId)).map(h => h.questionId),
    words: version.folio !== wordsNow(folio),
  }
}

/** What has changed, in words, by the numbers of questions; nothing where all is as it was. */
export function changeWords(changes: Changes, questions: readonly Pick<Question, 'id' | 'number'>[]): string[] {
  const names = (ids: readonly string[]) =>
    ids.map(id => questions.find(q => q.id === id)?.number ?? 'one that is gone').join(', ')
  return [
    changes.added.length && `new: ${names(changes.added)}`,
    changes.changed.length && `changed: ${names(changes.changed)}`,
    changes.removed.length && `no longer there: ${names(changes.removed)}`,
    changes.words && 'title, plan or worksheet',
  ].filter(told => typeof told === 'string')
}

/** What students have of each question, by the version that they have. */
export function handedOutBy({ current, versions }: Published): NonNullable<Folio['handedOut']> {
  const version = versions.find(v => v.id === current)
  return (version?.of ?? []).map(({ questionId, made }) => ({ questionId, made, at: version!.at }))
}
