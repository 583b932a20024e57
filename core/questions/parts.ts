import type { Candidate } from './candidates'
import { familyOf } from './chain'
import type { Label } from './labels'

/** A part that was read in a question's lines: its place among the candidates and its full label. */
export interface ReadPart {
  candidate: Candidate
  label: string
  depth: number
  family: string
}

interface Level {
  family: string
  value: number
  text: string
  x: number
  major: number
}

/**
 * Parts and sub-parts in the order in which they stand, by keeping the count of each level: "(i)" goes on after "(h)"
 * or opens a level of its own.
 * @param candidates those of one question, options already taken out
 * @param outer the family of the question's own label, which is a part's only further in than `edge`
 */
export function partsOf(candidates: readonly Candidate[], outer: string, edge = Infinity): ReadPart[] {
  const found: ReadPart[] = []
  const stack: Level[] = []
  for (const candidate of candidates) {
    const step =
      goesOn(stack, candidate, 1) ??
      opens(stack, candidate, candidate.x > edge + 8 && candidate.opens ? '' : outer) ??
      (candidate.opens ? goesOn(stack, candidate, 2) : null)
    if (!step) continue
    stack.length = step.depth
    const { label } = step
    stack.push({ family: familyOf(label), value: label.value, text: label.text, x: candidate.x, major: label.major })
    found.push({ candidate, label: nameOf(stack), depth: step.depth, family: familyOf(label) })
  }
  const across = columnwise(candidates, outer)
  const best = across.length > found.filter(f => f.depth === 0).length && !found.some(f => f.depth > 0) ? across : found
  return withoutLone(best)
}

const DOTTED = /^(dotted|deep)/

/** "b(i)": the outermost sign plain, the inner ones in brackets. */
const nameOf = (stack: readonly Level[]) =>
  stack
    .map((l, i) => (i === 0 || DOTTED.test(l.family) ? l.text : `(${l.text})`))
    .slice(DOTTED.test(stack.at(-1)!.family) ? -1 : 0)
    .join('')

function goesOn(stack: readonly Level[], candidate: Candidate, by: number): { depth: number; label: Label } | null {
  for (let depth = stack.length - 1; depth >= 0; depth--) {
    const level = stack[depth]!
    const label = candidate.labels.find(
      l => familyOf(l) === level.family && l.major === level.major && l.value === level.value + by,
    )
    if (label && (by === 1 || Math.abs(candidate.x - level.x) < 5)) return { depth, label }
  }
  return null
}

function opens(stack: readonly Level[], candidate: Candidate, outer: string): { depth: number; label: Label } | null {
  if (stack.length >= 3) return null
  // "1b" after "1a" was a question of its own until now: behind the number itself a part may be any letter.
  const joint = stack.length === 0 && candidate.depth > 0
  const isNew = (family: string) => family !== outer && !stack.some(s => s.family === family)
  const canName = (l: Label) => l.dress !== 'word' && l.dress !== 'Q' && (l.count !== 'number' || l.dress !== '')
  const label = candidate.labels.find(l => (l.value === 1 || joint) && isNew(familyOf(l)) && canName(l))
  return label ? { depth: stack.length, label } : null
}

/** Parts set in columns and read across: a, d, b, e, c, f. Taken when the signs are all there, once each. */
function columnwise(candidates: readonly Candidate[], outer: string): ReadPart[] {
  const groups = new Map<string, { candidate: Candidate; label: Label }[]>()
  for (const candidate of candidates)
    for (const label of candidate.labels) {
      const family = familyOf(label)
      if (family !== outer && label.count !== 'dotted' && label.dress && label.dress !== 'word')
        groups.set(family, [...(groups.get(family) ?? []), { candidate, label }])
    }
  for (const [family, items] of groups) {
    const values = new Set(items.map(i => i.label.value))
    if (items.length >= 3 && values.size === items.length && Math.max(...values) === items.length) {
      return items
        .toSorted((a, b) => a.label.value - b.label.value)
        .map(i => ({ candidate: i.candidate, label: i.label.text, depth: 0, family }))
    }
  }
  return []
}

/** A level with a single sign is a sign in a sentence, unless it stands straight behind the question's own label. */
function withoutLone(parts: readonly ReadPart[]): ReadPart[] {
  const prefix = (p: ReadPart) => (p.depth === 0 ? '' : p.label.slice(0, p.label.lastIndexOf('(')))
  const siblings = (p: ReadPart) =>
    parts.filter(o => o.depth === p.depth && o.family === p.family && prefix(o) === prefix(p)).length
  return parts.filter(p => siblings(p) > 1 || (p.candidate.depth > 0 && !p.family.endsWith('|')))
}

/** Words that announce a numbered list which asks for nothing by itself. */
const LISTS =
  /\b(clues?|steps?|statements?|rules?|hints?|facts?|in (?:the )?(?:right |correct )?order|Hinweise?|Schritte?|Aussagen|pistas?|pasos|indices|étapes)\b/iu

/**
 * Candidates without what counts but asks for nothing: letters that stand alone, as at the corners of a figure, and
 * numbered lists, as of clues or of the steps of a method.
 * @param stem what is asked before the first of them
 */
export function withoutLists(candidates: readonly Candidate[], stem: string): Candidate[] {
  const isCorner = (c: Candidate) =>
    c.line.words.length === 1 && c.labels.every(l => l.dress === '' && (l.count === 'upper' || l.count === 'lower'))
  const asking = candidates.filter(c => !isCorner(c))
  const isNumber = (c: Candidate) => c.labels.every(l => l.count === 'number' && l.dress !== 'word' && l.dress !== 'Q')
  const letters = asking.findIndex(
    c => c.opens && c.labels.some(l => l.count === 'lower' && l.value === 1 && l.dress !== ''),
  )
  const numbers = asking.findIndex(isNumber)
  if (numbers < 0) return asking
  // Before the lettered parts, or announced as a list, numbers are one.
  const listed = (letters >= 0 && numbers < letters) || (letters < 0 && LISTS.test(stem))
  return listed ? asking.filter((c, i) => !isNumber(c) || (letters >= 0 && i > letters)) : asking
}
