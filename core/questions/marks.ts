import type { Line } from './model'
import { MARK_WORD } from './vocabulary'

/**
 * Marks printed at a place in a line. `total` when they are said to be a sum, `each` when they count for every item
 * that follows.
 */
export interface PrintedMarks {
  value: number
  total: boolean
  each: boolean
  line: number
  word: number
}

const NUMBER = '(\\d{1,3}(?:[.,]\\d)?(?:\\s?[½])?|½)'
const TOTAL = '(?:total|gesamt|summe|insgesamt|suma|somme|totale|totaal|totalt|razem|всего|итого|σύνολο)'
const MARKS = [
  // (Total for Question 3 is 6 marks)
  {
    total: true,
    pattern: new RegExp(
      `[[(]?\\s*${TOTAL}\\b[^\\d\\])]{0,24}(?:question|questão|pregunta|frage|aufgabe|exercice|ejercicio|q)\\s*\\d+[^\\d\\])]{0,12}\\s${NUMBER}\\s*(?:${MARK_WORD})?\\.?\\s*[\\])]?`,
      'giu',
    ),
  },
  // [Total: 6], (Total 6 marks), Total: 6 marks
  {
    total: true,
    pattern: new RegExp(
      `[[(]?\\s*${TOTAL}\\b[^\\d\\])]{0,20}[:=]?\\s*${NUMBER}\\s*(?:${MARK_WORD})?\\.?\\s*[\\])]?`,
      'giu',
    ),
  },
  // [4], [4 marks], [2½]
  { total: false, pattern: new RegExp(`\\[\\s*${NUMBER}\\s*(?:${MARK_WORD}\\.?)?\\s*\\]`, 'giu') },
  // (4 marks), (3 points), (2 pts.), (0-3 p.), (worth 3 points)
  {
    total: false,
    pattern: new RegExp(
      `[({]\\s*(?:worth\\s+)?(?:0\\s?[-–]\\s?)?${NUMBER}\\s*${MARK_WORD}\\.?(\\s+(?:each|in total|total|jeweils|je|cada una?|chacune?|ciascun[oa]|elk))?\\s*[)}]`,
      'giu',
    ),
  },
  // /5, ___/5, / 3 P.
  {
    total: false,
    pattern: new RegExp(`(?:^|[\\s_.…([|])\\/\\s?${NUMBER}\\s*(?:${MARK_WORD}\\.?)?\\s*[)\\]]?(?=$|\\s|[_.|])`, 'giu'),
  },
]
/** What is said of a paper, a section or a page as a whole is no question's. */
const OF_THE_WHOLE =
  /\btotal\b.{0,12}\b(for|of)\s+(this |the )?(paper|exam|examination|test|section|booklet|quiz|page|part)\b|^\s*(gesamt|insgesamt|total)\W*$/iu

/** Without brackets, only at the end of a line: "4 marks", "3 Punkte", "2 pts". */
const OPEN = new RegExp(
  `(?:^|\\s|[-–—:])${NUMBER}\\s*(?:marks?|mks?|pts?\\.?|points?|punkte?|pkt\\.?|puntos?|pontos?|punti|punten|poäng|poeng|p\\.|分|点|балл(?:а|ов)?)\\s*$`,
  'iu',
)
const EACH = new RegExp(
  `(?:${NUMBER}|\\b(one|two|three|four|five))\\s*${MARK_WORD}\\.?\\s*(?:each|apiece|per (?:question|part|item|problem)|for each|(?:pro|je) (?:aufgabe|frage|teilaufgabe)|cada (?:una?|pregunta|ejercicio)|chacune?|par question|ciascun[oa]|per domanda|per vraag)|(?:each|every|chaque|cada|jede[rs]?|ogni|elke|varje|hver|každá|każde)\\s+(?:[a-z]+\\s+)?(?:\\p{L}+)?\\s*(?:is worth|carries|are worth|counts?|has|scores|vaut|rapporte|vale|cuenta|puntúa|zählt|gibt|ist|bringt|is|ger|daje)\\s*(?:${NUMBER}|(one|two|three|four|five))\\s*${MARK_WORD}|(?:je|jeweils|cada una?|chacune?)\\s+${NUMBER}\\s*${MARK_WORD}`,
  'iu',
)
const NAMES: Record<string, number> = { one: 1, two: 2, three: 3, four: 4, five: 5 }

const valueOf = (text: string) => {
  const half = text.includes('½') ? 0.5 : 0
  return (Number.parseFloat(text.replace('½', '').replace(',', '.')) || 0) + half
}

/** Marks that every item carries, from an instruction such as "Each question is worth 2 marks"; null when none. */
export function marksEach(text: string): number | null {
  const m = EACH.exec(text)
  const said = m?.slice(1).find(Boolean)
  return said ? (NAMES[said.toLowerCase()] ?? valueOf(said)) : null
}

/**
 * All marks printed in some lines.
 * @param bareRight whether "(4)" alone at the right edge is how this paper prints marks
 */
export function marksIn(lines: readonly Line[], bareRight: boolean): PrintedMarks[] {
  const found: PrintedMarks[] = []
  lines.forEach((line, i) => {
    const starts: number[] = []
    let text = ''
    for (const word of line.words) {
      if (text) text += ' '
      starts.push(text.length)
      text += word.text
    }
    const wordAt = (index: number) =>
      Math.max(
        0,
        starts.findLastIndex(s => s <= index + 1),
      )
    if (OF_THE_WHOLE.test(text)) return
    const each = marksEach(text)
    if (each !== null) {
      found.push({ value: each, total: false, each: true, line: i, word: 0 })
      return
    }
    const cut = /[[(]\s*(\d{1,2})$/.exec(text),
      next = lines[i + 1]?.text ?? ''
    if (cut && new RegExp(`^${MARK_WORD}\\.?\\s*[\\])]`, 'iu').test(next)) {
      found.push({ value: Number(cut[1]), total: false, each: false, line: i, word: wordAt(cut.index) })
      return
    }
    let rest = text
    for (const { total, pattern } of MARKS) {
      for (const m of rest.matchAll(pattern)) {
        const value = valueOf(m[1]!)
        // Thousands are not marks, and "/5" close behind a number is a fraction.
        if (value <= 0 || value > 200 || (m[0].trim().startsWith('/') && isFraction(line, wordAt(m.index)))) continue
        found.push({
          value,
          total: total || /total/i.test(m[2] ?? ''),
          each: /each|jeweils|^\s*je|cada|chac|ciasc|elk/i.test(m[2] ?? ''),
          line: i,
          word: wordAt(m.index),
        })
        rest = rest.slice(0, m.index) + '\u0001'.repeat(m[0].length) + rest.slice(m.index + m[0].length)
      }
    }
    if (found.some(f => f.line === i)) return
    const open = openMark(line, text, wordAt)
    if (open) found.push({ value: open.value, total: false, each: false, line: i, word: open.word })
    else if (bareRight) {
      const bare = bareMark(line)
      if (bare) found.push({ value: bare, total: false, each: false, line: i, word: line.words.length - 1 })
    }
  })
  return found
}

/** Marks without brackets at the end of a line ("4 marks"), where they stand apart from what is written before them. */
function openMark(line: Line, text: string, wordAt: (index: number) => number): { value: number; word: number } | null {
  const open = OPEN.exec(text)
  if (!open) return null
  const word = wordAt(open.index + 1),
    before = line.words[word - 1]
  const gapped = line.words[word]!.gap > 0.9 * line.words.at(-1)!.size
  const apart = !before || line.words.length <= 2 || gapped || /[.?!:;_]$/.test(before.text)
  return apart ? { value: valueOf(open[1]!), word } : null
}

/** Whether the word, or the one before it, is the number over the "/" of a fraction. */
function isFraction(line: Line, at: number): boolean {
  const word = line.words[at]!,
    own = word.text.startsWith('/')
  const over = own ? (line.words[at - 1]?.text ?? '') : word.text.split('/')[0]!
  if (!own) return /[\p{L}\d)]$/u.test(over)
  return /^[-−]?[\p{L}\d()]{1,4}$/u.test(over) && word.gap < 0.66 * word.size && at < line.words.length - 1
}

/** "(4)" alone at the end of a line or on a line of its own; 0 when it is not there. */
export function bareMark(line: Line): number {
  const last = line.words.at(-1)!
  const m = /^\((\d{1,2})\)$/.exec(last.text)
  return m && last.gap > 0.9 * last.size ? Number(m[1]) : 0
}

/** Whether a paper prints marks as "(4)" at its right edge: more than one stands there, lined up. */
export function printsBareMarks(lines: readonly Line[], right: (line: Line) => number): boolean {
  const ends = lines.filter(l => bareMark(l) > 0 && l.right > right(l) - 40).map(l => l.right)
  return ends.some(e => ends.filter(o => Math.abs(o - e) < 4).length >= 2)
}
