import { romanValue } from '../folio/counting'
import type { FoundQuestion } from './model'

/** By how much each doubt lowers a confidence: one is enough to be sure no more. */
const DOUBT = 0.15

type Read = Pick<FoundQuestion, 'marks' | 'parts' | 'options' | 'places'>

/**
 * Lowers the confidence in questions that do not hang together, by themselves or beside those of the same paper: parts
 * or options that leave one out, marks that are missing where the others have them or do not add up, places that lie
 * over another question's.
 * @param questions those of one paper, in order
 */
export function withDoubts<Q extends Read & { confidence: number }>(questions: readonly Q[]): Q[] {
  const marked = questions.filter(q => hasMarks(q)).length > questions.length / 2
  const most = commonest(questions.map(q => q.options.length).filter(n => n > 0))
  return questions.map((q, i) => {
    const doubts = [
      !inOrder(q.options.map(o => o.label)) || (q.options.length > 0 && q.options.length !== most),
      !partsInOrder(q.parts.map(p => p.label)),
      marked && !hasMarks(q),
      !marksAgree(q),
      [questions[i - 1], questions[i + 1]].some(other => other !== undefined && overlap(q, other)),
    ].filter(Boolean).length
    return doubts ? { ...q, confidence: Math.max(0.05, Math.round((q.confidence - DOUBT * doubts) * 100) / 100) } : q
  })
}

const leaves = (q: Read) => q.parts.filter(p => !q.parts.some(o => o !== p && o.label.startsWith(`${p.label}(`)))
/** Whether marks are told, for the question or for all of its last parts. */
const hasMarks = (q: Read) => (q.parts.length ? leaves(q).every(p => p.marks !== null) : q.marks !== null)
/** Whether marks are told for all of the last parts or none of them, and add up to those of the question. */
function marksAgree(q: Read): boolean {
  const all = leaves(q)
  const known = all.filter(p => p.marks !== null)
  if (!all.length || !known.length) return true
  return known.length === all.length && (q.marks === null || q.marks === known.reduce((n, p) => n + p.marks!, 0))
}

const inOrder = (labels: readonly string[]) =>
  labels.every((l, i) => i === 0 || l.charCodeAt(0) === labels[i - 1]!.charCodeAt(0) + 1) &&
  (labels.length === 0 || /^[A-Za-z1]$/.test(labels[0]!.slice(0, 1)))

/** Whether parts begin with the first of their kind and leave none out, those of parts as well. */
function partsInOrder(labels: readonly string[]): boolean {
  const last = new Map<string, number>()
  return labels.every(label => {
    const at = label.lastIndexOf('(')
    const parent = at > 0 ? label.slice(0, at) : ''
    const own = (at > 0 ? label.slice(at + 1, -1) : label).toLowerCase()
    const value = (last.get(parent) ?? 0) + 1
    last.set(parent, value)
    return [Number(own), romanValue(own), own.length === 1 ? own.charCodeAt(0) - 96 : 0].includes(value)
  })
}

function commonest(values: readonly number[]): number {
  const counts = new Map<number, number>()
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0
}

function overlap(a: Read, b: Read): boolean {
  return a.places.some(p =>
    b.places.some(
      o =>
        o.page === p.page &&
        Math.min(p.box.x + p.box.w, o.box.x + o.box.w) - Math.max(p.box.x, o.box.x) > 4 &&
        Math.min(p.box.y + p.box.h, o.box.y + o.box.h) - Math.max(p.box.y, o.box.y) > 4,
    ),
  )
}
