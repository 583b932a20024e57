import type { Candidate } from './candidates'
import type { Label } from './labels'

/** One label of a run, with the candidate that carries it. */
export interface Link {
  candidate: Candidate
  label: Label
}

/** The best run of one kind of label through a paper; `begins` are the indexes at which the count starts anew. */
export interface Chain {
  family: string
  links: Link[]
  begins: number[]
  score: number
}

/** The kind of count a label belongs to: labels of one family can follow each other. */
export const familyOf = (label: Label) => `${label.count}|${label.dress === 'joint' ? '' : label.dress}`

const NEXT = 2,
  SKIP = -3,
  RESTART = -2.2,
  RESTART_UNDER_HEADING = -0.4,
  LATE_START = -1

/**
 * The most plausible run of labels of one family in reading order, by dynamic programming: each next number is
 * rewarded, and gaps,
 * new starts and labels that stand out of line with their kind are paid for.
 * @param underHeading whether a heading stands between two candidates, so that numbers may start anew
 */
export function chainOf(
  family: string,
  all: readonly Link[],
  underHeading: (from: Candidate, to: Candidate) => boolean,
): Chain {
  const links = all.toSorted((a, b) => a.candidate.order - b.candidate.order)
  const own = standing(links)
  const best: { score: number; from: number; restart: boolean }[] = []
  const last = new Map<number, number[]>()
  let top = -1
  links.forEach((link, i) => {
    const key = keyOf(link.label)
    let score = first(link.label)
      ? 0
      : link.label.count === 'number' && link.label.value <= 60
        ? LATE_START - Math.min(2, link.label.value * 0.1)
        : -3
    let from = -1,
      restart = true
    const consider = (j: number, gain: number, again: boolean) => {
      const total = best[j]!.score + gain
      if (total > score) {
        score = total
        from = j
        restart = again
      }
    }
    for (const back of predecessors(link.label)) {
      for (const j of (last.get(back.key) ?? []).slice(-6)) {
        if (back.gain !== 0 || jointAfter(links[j]!, link)) consider(j, back.gain || NEXT, false)
      }
    }
    if (top >= 0 && first(link.label)) {
      for (const j of new Set([top, i - 1]))
        consider(j, underHeading(links[j]!.candidate, link.candidate) ? RESTART_UNDER_HEADING : RESTART, true)
    }
    best.push({ score: score + own[i]!, from, restart })
    last.set(key, [...(last.get(key) ?? []), i])
    if (top < 0 || best[i]!.score > best[top]!.score) top = i
  })
  const chain: Chain = { family, links: [], begins: [], score: top < 0 ? 0 : best[top]!.score }
  for (let i = top; i >= 0; i = best[i]!.from) {
    chain.links.unshift(links[i]!)
    chain.begins = chain.begins.map(b => b + 1)
    if (best[i]!.restart) chain.begins.unshift(0)
  }
  return chain
}

const keyOf = (label: Label) => label.major * 1000 + label.value
const first = (label: Label) => label.value === 1 && label.major <= 1

/** "1a" is followed by "1b": the same number once more, when the candidates carry a letter each. */
function jointAfter(before: Link, after: Link): boolean {
  return before.label.dress === 'joint' && after.label.dress === 'joint' && before.label.value === after.label.value
}

/** Keys of the labels that may stand before this one, and what each is worth; 0 where only joint labels may. */
function predecessors(label: Label): { key: number; gain: number }[] {
  if (label.count === 'dotted' || label.count === 'deep') {
    const before = [
      { key: label.major * 1000 + label.value - 1, gain: NEXT },
      { key: label.major * 1000 + label.value - 2, gain: SKIP },
    ]
    if (label.value === 1) for (let n = 1; n <= 40; n++) before.push({ key: (label.major - 1) * 1000 + n, gain: NEXT })
    return before
  }
  return [
    { key: label.value - 1, gain: NEXT },
    { key: label.value - 2, gain: SKIP },
    { key: label.value - 3, gain: SKIP - 1 },
    { key: label.value, gain: 0 },
  ]
}

/** How well each candidate stands by itself: in line with the others of its kind, opening its line, heavy. */
function standing(links: readonly Link[]): number[] {
  const words = links.filter(l => l.label.dress === 'word' || l.label.dress === 'Q').length
  const spread = (pick: (c: Candidate) => number) => {
    const sorted = links.map(l => pick(l.candidate)).sort((a, b) => a - b)
    let mode = sorted[0] ?? 0,
      most = 0
    for (let i = 0; i < sorted.length; i++) {
      let n = 0
      for (let k = i; k < sorted.length && sorted[k]! - sorted[i]! <= 6; k++) n++
      // With equal support the outer place wins: inner lists are indented.
      if (n > most * 1.25) {
        most = n
        mode = sorted[i]!
      }
    }
    return (c: Candidate) => Math.abs(pick(c) - mode - 3) <= 6
  }
  const leftIn = spread(c => c.x),
    rightIn = spread(c => c.right)
  return links.map(({ candidate, label }) => {
    if (words === links.length) return candidate.opens ? 0.4 : -1
    const inLine = leftIn(candidate) || rightIn(candidate)
    const letter = label.count !== 'number' && label.count !== 'dotted' && label.count !== 'deep'
    // Options and parts stand across a line as often as down a column.
    if (letter && !candidate.opens)
      return (candidate.bold ? 0.4 : 0) + (label.dress === '' && !candidate.hanging ? -1 : 0.1)
    const alone = label.dress === '' || label.count === 'dotted'
    return (
      (inLine ? 0 : candidate.opens ? -1.5 : -0.2) +
      (candidate.bold ? 0.4 : 0) +
      (candidate.opens ? 0.2 : -0.3) +
      (alone && !candidate.bold && !candidate.hanging ? -1 : 0) -
      (candidate.depth > 0 ? 3 : 0)
    )
  })
}
