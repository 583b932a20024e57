import { SURE } from '../../core/questions'
import type { Paper } from './spec'

/** What the finder says of a file, as the command line prints it. */
export interface Said {
  questions: {
    label: string
    page: number
    marks: number | null
    parts: { label: string; marks: number | null }[]
    options: string[]
    confidence: number
  }[]
}

export interface Score {
  truth: number
  found: number
  said: number
  parts: [number, number]
  falseParts: number
  marks: [number, number]
  options: [number, number]
  /** Of the questions that are said to be sure: those that are right in every part, mark and option, and all. */
  sure: [number, number]
  wrong: string[]
}

const key = (label: string) => label.replace(/[^\p{L}\d.]/gu, '').toLowerCase()

/** Compares by labels in order; a question counts once, and its parts, marks and options only where it was found. */
export function score(paper: Paper, said: Said): Score {
  const truth = paper.sections.flatMap(s => s.questions)
  const s: Score = {
    truth: truth.length,
    found: 0,
    said: said.questions.length,
    parts: [0, 0],
    falseParts: 0,
    marks: [0, 0],
    options: [0, 0],
    sure: [0, 0],
    wrong: [],
  }
  const pairs = align(
    truth.map(q => key(q.label)),
    said.questions.map(q => key(q.label)),
  )
  truth.forEach((q, i) => {
    const got = pairs.get(i) === undefined ? null : said.questions[pairs.get(i)!]!
    if (got) s.found++
    else s.wrong.push(`missed ${q.sign}`)
    const parts = new Map(got?.parts.map(p => [key(p.label), p.marks]) ?? [])
    for (const p of q.parts) {
      s.parts[1]++
      if (parts.has(key(p.label))) s.parts[0]++
      else if (got) s.wrong.push(`${q.sign} part ${p.label} missed`)
      if (p.marks !== null) {
        s.marks[1]++
        if (parts.get(key(p.label)) === p.marks) s.marks[0]++
        else if (got) s.wrong.push(`${q.sign} part ${p.label} marks ${parts.get(key(p.label))} not ${p.marks}`)
      }
    }
    if (got) s.falseParts += Math.max(0, got.parts.length - q.parts.length)
    if (got && got.parts.length > q.parts.length) s.wrong.push(`${q.sign} false parts ${got.parts.map(p => p.label)}`)
    if (q.marks !== null) {
      s.marks[1]++
      if (got?.marks === q.marks) s.marks[0]++
      else if (got) s.wrong.push(`${q.sign} marks ${got.marks} not ${q.marks}`)
    }
    s.options[1] += q.options.length
    s.options[0] += q.options.filter(o => got?.options.some(g => key(g) === key(o.label))).length
    if (got && q.options.length !== got.options.length)
      s.wrong.push(`${q.sign} options ${got.options} not ${q.options.map(o => o.label)}`)
  })
  const matched = new Set(pairs.values())
  const truthOf = new Map([...pairs].map(([t, i]) => [i, truth[t]!]))
  said.questions.forEach((q, i) => {
    if (q.confidence < SURE) return
    const of = truthOf.get(i)
    const right =
      of !== undefined &&
      q.marks === of.marks &&
      q.parts.map(p => key(p.label)).join() === of.parts.map(p => key(p.label)).join() &&
      q.parts.every((p, n) => p.marks === of.parts[n]!.marks) &&
      q.options.map(key).join() === of.options.map(o => key(o.label)).join()
    s.sure[1]++
    if (right) s.sure[0]++
    else s.wrong.push(`${q.label} on page ${q.page} is said to be sure, and is not right`)
  })
  said.questions.forEach((q, i) => {
    if (!matched.has(i)) s.wrong.push(`false ${q.label} on page ${q.page}`)
  })
  return s
}

/** Longest common sequence of labels: truth index → said index. */
function align(a: string[], b: string[]): Map<number, number> {
  const best = Array.from({ length: a.length + 1 }, () => new Uint16Array(b.length + 1))
  for (let i = a.length - 1; i >= 0; i--)
    for (let k = b.length - 1; k >= 0; k--)
      best[i]![k] = a[i] === b[k] ? best[i + 1]![k + 1]! + 1 : Math.max(best[i + 1]![k]!, best[i]![k + 1]!)
  const pairs = new Map<number, number>()
  for (let i = 0, k = 0; i < a.length && k < b.length; ) {
    if (a[i] === b[k]) pairs.set(i++, k++)
    else if (best[i + 1]![k]! >= best[i]![k + 1]!) i++
    else k++
  }
  return pairs
}
