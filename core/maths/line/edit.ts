import { lexemesOf } from './lexemes'

/**
 * The term that ends at a place of a typed line: back to the sign of relation or operation before it, or to the word's
 * beginning.
 * @returns from the first character up to, not with, the last
 * @example lastTerm('3x = 12', 7) // [5, 7]
 */
export function lastTerm(source: string, at: number): [number, number] {
  const before = lexemesOf(source.slice(0, at))
  if (!before.length) return [at, at]
  const end = before.at(-1)!.to
  let depth = 0
  let from = end
  for (let i = before.length - 1; i >= 0; i--) {
    const { kind, text } = before[i]!
    if (kind === 'sign' && ')]}'.includes(text)) depth++
    if (kind === 'sign' && '([{'.includes(text) && --depth < 0) break
    const parts = depth === 0 && kind === 'sign' && /^(?:[-+−–=<>≤≥≠≈,;:→]|<=|>=|!=|=>|->)$/.test(text)
    if (parts && from < end) break
    from = before[i]!.from
    // A word by itself is a term.
    if (depth === 0 && kind === 'letters' && text.length > 1 && before[i]!.space) break
    if (parts) return [from, end]
  }
  return [from, end]
}

/**
 * Where a line is best broken so that its first part is no longer than so many characters: before a sign of relation,
 * else before a plus or minus, else between two words; outside of brackets.
 * @returns 0 where it cannot be broken
 */
export function breakBefore(source: string, most: number): number {
  let depth = 0
  const found = { relation: 0, sum: 0, word: 0 }
  for (const { kind, text, from, space } of lexemesOf(source)) {
    if (kind === 'sign' && '([{'.includes(text)) depth++
    if (kind === 'sign' && ')]}'.includes(text)) depth--
    if (depth > 0 || from === 0 || from > most) continue
    if (kind === 'sign' && /^(?:[=<>≤≥≠≈→⇒]|<=|>=|!=|=>|->)$/.test(text)) found.relation = from
    else if (kind === 'sign' && /^[-+−±]$/.test(text) && space) found.sum = from
    else if (space && kind !== 'sign') found.word = from
  }
  return found.relation || found.sum || found.word
}
