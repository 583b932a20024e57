import type { Folio, Handed, Published, Question } from '../folio/model'
import { fingerprint } from '../folio/text'
import { madeFrom } from '../video/fresh'

/** What questions are as they would be published now. */
export const handedNow = (questions: readonly Question[]): Handed[] =>
  questions.map(q => ({
    questionId: q.id,
    made: fingerprint(madeFrom([q])),
    release: fingerprint(JSON.stringify([q.release ?? null, q.replies ?? []])),
  }))

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
  const now = handedNow(questions)
  const before = new Map(version.of.map(h => [h.questionId, h]))
  const differs = (h: Handed) => {
    const old = before.get(h.questionId)
    return !!old && (old.made !== h.made || old.release !== h.release)
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
