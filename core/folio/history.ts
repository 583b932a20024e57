import type { Folio, Question } from './model'

/** A change of a folio that can be taken back: how it was before, and after. */
export interface FolioChange {
  label: string
  before: Folio
  after: Folio
  /** The question that it changed, where it changed nothing else. */
  questionId: string | null
}

/** What is no change of the teacher's: what was recorded, published and noted meanwhile stays when she takes something back. */
const LASTING = new Set<string>(['updatedAt', 'documents', 'published', 'handedOut'])

const keysOf = (folio: Folio) => Object.keys(folio) as (keyof Folio)[]
const changedKeys = (before: Folio, after: Folio) =>
  [...new Set([...keysOf(before), ...keysOf(after)])].filter(k => !LASTING.has(k) && before[k] !== after[k])

/** The questions that differ, by their ids; null where the list itself does. */
function changedQuestions(before: Folio, after: Folio): string[] | null {
  const [a, b] = [before.questions, after.questions]
  if (a.length !== b.length || a.some((q, i) => q.id !== b[i]!.id)) return null
  return a.flatMap((q, i) => (q === b[i] ? [] : [q.id]))
}

/** A change by what it changed. */
export function changeOf(label: string, before: Folio, after: Folio): FolioChange {
  const questions = changedQuestions(before, after)
  const alone = questions?.length === 1 && changedKeys(before, after).every(k => k === 'questions')
  return { label, before, after, questionId: alone ? questions[0]! : null }
}

const isTouched = ({ before, after }: FolioChange, id: string) =>
  before.questions.find(q => q.id === id) !== after.questions.find(q => q.id === id)

/**
 * Which change is taken back, or brought back, next: the last one of the question in view; `elsewhere` where it is
 * another's, or more than that question's.
 * @param changes the newest last @param inView null where the whole folio is
 */
export function nextChange(
  changes: readonly FolioChange[],
  inView: string | null,
): { index: number; change: FolioChange; elsewhere: boolean } | null {
  const last = changes.length - 1
  if (last < 0) return null
  const own = inView === null ? last : changes.findLastIndex(c => isTouched(c, inView))
  if (inView === null || changes[own]?.questionId === inView)
    return { index: own, change: changes[own]!, elsewhere: false }
  return { index: last, change: changes[last]!, elsewhere: true }
}

/** Where a change was, in words: "question 3", or nothing that is one question's. */
export function placeOf({ questionId, after }: FolioChange): string {
  const question = after.questions.find(q => q.id === questionId)
  return question ? `question ${question.number}` : 'the whole folio'
}

/** A folio in which a change is taken back, or brought back; what else has changed since stays. */
export function withChange(folio: Folio, change: FolioChange, way: 'undo' | 'redo', now = new Date()): Folio {
  const [from, to] = way === 'undo' ? [change.after, change.before] : [change.before, change.after]
  const out: Record<string, unknown> = { ...folio, updatedAt: now.toISOString() }
  for (const key of changedKeys(from, to)) {
    if (key === 'questions') out.questions = questionsAs(folio, from, to)
    else if (to[key] === undefined) delete out[key]
    else out[key] = to[key]
  }
  return out as Folio
}

/** Questions as they were, but for those that the change left alone: they stay as they are now. */
function questionsAs(folio: Folio, from: Folio, to: Folio): Question[] {
  const before = new Map(from.questions.map(q => [q.id, q]))
  const now = new Map(folio.questions.map(q => [q.id, q]))
  return to.questions.map(q => (before.get(q.id) === q ? (now.get(q.id) ?? q) : q))
}
