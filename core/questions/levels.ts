import type { Candidate } from './candidates'
import { chainOf, familyOf, type Chain, type Link } from './chain'

type Tier = 'word' | 'number' | 'upper' | 'lower'

const tierOf = (family: string): Tier => {
  const [count, dress] = family.split('|')
  if (dress === 'word' || dress === 'Q') return 'word'
  if (count === 'number' || count === 'dotted') return 'number'
  if (count === 'deep') return 'lower'
  return count === 'upper' || count === 'romanUpper' ? 'upper' : 'lower'
}

/** Links by family, those of one family in reading order. */
export function families(candidates: readonly Candidate[]): Map<string, Link[]> {
  const found = new Map<string, Link[]>()
  for (const candidate of candidates)
    for (const label of candidate.labels) {
      const family = familyOf(label)
      found.set(family, [...(found.get(family) ?? []), { candidate, label }])
    }
  return found
}

/**
 * How many stretches between two neighbours of `outer` hold something of `inner`, and whether `inner` stays behind the
 * first of `outer`.
 */
function within(inner: Chain, outer: Chain) {
  const orders = outer.links.map(l => l.candidate.order)
  const held = new Set<number>()
  let before = 0
  for (const { candidate } of inner.links) {
    const k = orders.findLastIndex(o => o <= candidate.order)
    if (k < 0) before++
    else held.add(k)
  }
  return { held: held.size, of: orders.length, before: before / inner.links.length }
}

/** Whether `inner` counts within the items of `outer`: it starts anew inside them, or is all inside one of them. */
function isInside(inner: Chain, outer: Chain): boolean {
  const { held, before } = within(inner, outer)
  if (before > 0.1) return false
  if (held <= 1) return inner.links.length <= Math.max(outer.links.length * 2, 12)
  const anew = inner.begins.map(b => inner.links[b]!.candidate.order)
  const orders = outer.links.map(l => l.candidate.order)
  const starts = new Set(anew.map(o => orders.findLastIndex(p => p <= o)))
  return starts.size >= Math.max(2, 0.7 * held)
}

/**
 * The labels of the question level: words with numbers before plain numbers, plain numbers before letters, and of two
 * kinds of numbers the outer.
 * Letters and Roman numerals with numbers counting on through them are sections.
 */
export function questionLevel(
  candidates: readonly Candidate[],
  underHeading: (a: Candidate, b: Candidate) => boolean,
): Chain | null {
  const chains = [...families(candidates)]
    .map(([family, links]) => chainOf(family, links, underHeading))
    .filter(c => c.links.length > 0)
  const of = (tier: Tier) => chains.filter(c => tierOf(c.family) === tier).sort((a, b) => b.score - a.score)
  const numbers = outermost(of('number').filter(c => c.links.length >= 2 && c.score > 1))
  const words = of('word')[0]
  if (words && (words.links.length >= 2 || !numbers || numbers.links.length < 3)) {
    if (!numbers || words.links.length >= 2 || within(numbers, words).before === 0) {
      const countOn =
        numbers &&
        numbers.begins.length === 1 &&
        numbers.links.length >= words.links.length * 2 &&
        within(numbers, words).held >= 2 &&
        numbers.family !== 'number|' &&
        !numbers.family.startsWith('dotted')
      if (!countOn) return extended(words, chains)
    }
  }
  const upper = outermost(of('upper').filter(c => c.links.length >= 2 && c.score > 0))
  if (numbers && upper) {
    const { held, before } = within(numbers, upper)
    const startsFirst = upper.links[0]!.candidate.order < numbers.links[0]!.candidate.order
    if (startsFirst && before < 0.1 && held <= Math.max(1, 0.45 * upper.links.length) && upper.links.length >= 3)
      return extended(upper, chains)
    return extended(numbers, chains)
  }
  if (numbers) return extended(numbers, chains)
  if (upper && upper.score > 1) return extended(upper, chains)
  const lower = of('lower')
    .filter(c => !c.family.startsWith('deep'))
    .filter(c => c.links.length >= 2 && c.score > 1)[0]
  if (lower) return lower
  return (
    of('number').find(
      c =>
        c.links.length === 1 && c.links[0]!.label.value === 1 && c.family !== 'number|' && c.links[0]!.candidate.opens,
    ) ?? null
  )
}

function outermost(chains: Chain[]): Chain | null {
  let top = chains[0] ?? null
  for (const other of chains.slice(1)) {
    if (!top) break
    const bareOther = other.family === 'number|' || other.family.startsWith('dotted')
    if (
      isInside(top, other) &&
      !isInside(other, top) &&
      other.links.length >= 2 &&
      (!bareOther || other.links.some(l => l.candidate.bold) || other.score > 0.4 * top.score)
    )
      top = other
  }
  return top
}

/**
 * The level with the stretches of other numbering that stand wholly before or after it: a section may number in its own
 * way.
 */
function extended(level: Chain, chains: readonly Chain[]): Chain {
  const whole = { ...level, links: [...level.links], begins: [...level.begins] }
  for (const other of chains) {
    if (other === level || !/^number\|./.test(other.family) || !/^number/.test(level.family)) continue
    const last = whole.links.at(-1)!,
      first = whole.links[0]!
    const after = other.links.filter(
      l =>
        l.candidate.order > last.candidate.order &&
        (l.candidate.page > last.candidate.page ||
          l.label.value === last.label.value + 1 ||
          l.candidate.lineIndex > last.candidate.lineIndex),
    )
    const goesOn =
      after[0]?.label.value === last.label.value + 1 &&
      after.length >= 2 &&
      Math.abs(after[0].candidate.x - last.candidate.x) < 12
    if (goesOn) whole.links.push(...after)
    const before = other.links.filter(l => l.candidate.order < first.candidate.order)
    if (
      before.length >= 3 &&
      before.at(-1)!.label.value + 1 === first.label.value &&
      Math.abs(before[0]!.candidate.x - first.candidate.x) < 12
    ) {
      whole.begins = whole.begins.map(b => b + before.length)
      whole.links.unshift(...before)
    }
  }
  return whole
}
