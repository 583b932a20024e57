import { one } from './dom'
import { keep, kept } from './kept'

/** What has come or changed since she was here the last time, in words; nothing on a first visit. */
export function saidSince(
  questions: readonly { number: string; changed: string | undefined; hasSeen: boolean }[],
  visited: string | null,
): string {
  const since = visited === null ? Number.NaN : Date.parse(visited)
  if (Number.isNaN(since)) return ''
  const changed = questions.filter(q => Date.parse(q.changed ?? '') > since)
  const named = (some: typeof changed) => some.map(q => q.number).join(', ')
  const [again, fresh] = [changed.filter(q => q.hasSeen), changed.filter(q => !q.hasSeen)]
  const parts = [
    again.length ? `question ${named(again)} ${again.length > 1 ? 'have' : 'has'} changed` : '',
    fresh.length ? `question ${named(fresh)} ${fresh.length > 1 ? 'are' : 'is'} new` : '',
  ].filter(Boolean)
  return parts.length ? `Since you were here: ${parts.join('; ')}.` : ''
}

/** Says so at the top of the page, and notes this visit. */
export function sinceLastVisit(questions: Parameters<typeof saidSince>[0]): void {
  const line = one(document, '.since')
  line.textContent = saidSince(questions, kept('visited'))
  line.hidden = !line.textContent
  keep('visited', new Date().toISOString())
}
