/** Words of a title at most, and signs. */
const MOST_WORDS = 8
const MOST_SIGNS = 48

/** What a question asks to be done, as papers print it; the first that is met names the kind of task. */
const TASKS =
  /\b(simplify|solve|expand|factori[sz]e|calculate|work out|evaluate|find|draw|sketch|plot|complete|explain|describe|show that|prove|estimate|convert|write|measure|construct|balance|name|state|compare|round|order|match|choose|berechne|löse|vereinfache|bestimme|zeichne|calcula|resuelve|simplifica|calcule|résous|résoudre)\b/iu

/** A formula, or what is left of one: digits or signs in a word, a single letter, letters raised or lowered ("x2"). */
const isFormula = (word: string) =>
  /[\d=<>≤≥+−×÷√^_/\\|*±]/.test(word) || (/^\p{L}$/u.test(word) && !/^[aAIàéyo]$/.test(word)) || !/\p{L}/u.test(word)

/**
 * A few words that tell a question from others, taken from its first printed words: no number, no piece of a formula;
 * where the print gives none, the kind of task.
 * @param text the first words of what is asked
 * @param around what else is printed with it: its instruction, its further lines
 * @param parts how many parts it has
 * @example shortTitle('Solve x2 - 5x + 6 = 0', '', 0) // 'Solve'
 */
export function shortTitle(text: string, around: string, parts: number): string {
  const words = text
    .replace(/^\s*(?:[([]?(?:\d{1,3}|[a-z]{1,3})[)\].:]+\s*)+/i, '')
    .split(/\s+/)
    .filter(Boolean)
  const taken: string[] = []
  for (const word of words) {
    // A formula ends what can be said in words, once something is said.
    if (isFormula(word)) {
      if (taken.length >= 2) break
      continue
    }
    taken.push(word)
    const enough = /[.?!:]$/.test(word) && taken.length >= 2
    if (taken.length >= MOST_WORDS || taken.join(' ').length >= MOST_SIGNS || enough) break
  }
  const title = taken
    .join(' ')
    .replace(/[\s.,:;–-]+$/, '')
    .replace(/(?:\s+(?:the|a|an|of|and|in|to|for|with|that|is|are|by|der|die|das|und|de|la|el))+$/i, '')
  const real = taken.filter(w => w.replace(/[^\p{L}]/gu, '').length > 2)
  if (real.length >= 2) return title
  const task = TASKS.exec(title || text)?.[0] ?? TASKS.exec(around)?.[0] ?? ''
  const name = task ? task[0]!.toUpperCase() + task.slice(1).toLowerCase() : real.length ? title : ''
  const count = parts > 1 ? `${parts} parts` : ''
  return [name, count].filter(Boolean).join(', ')
}
