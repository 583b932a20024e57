import type { Cell } from './cells'
import type { Link } from './chain'
import type { Line } from './model'
import { INSTRUCTION_OPENING, SECTION_OPENING, SHARED_MENTION, SHARED_WORDS } from './vocabulary'

/** The letter size most of the text is set in. */
export function usualSize(lines: readonly Line[]): number {
  const count = new Map<number, number>()
  for (const l of lines) {
    const size = Math.round(l.size * 2) / 2
    count.set(size, (count.get(size) ?? 0) + l.text.length)
  }
  return [...count].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 10
}

/** A line that stands over what follows: a section's name, or a short line set larger or heavier than the text. */
export function isHeading(line: Line, usual: number): boolean {
  if (SECTION_OPENING.test(line.text) && line.words.length <= 12) return true
  if (!/\p{L}{3}/u.test(line.text) || line.words.length > 14) return false
  return (
    line.size > 1.14 * usual ||
    (line.bold &&
      !/^\W*\d/.test(line.text) &&
      !/^\W*(question|aufgabe)?\s*\d+/i.test(line.text) &&
      line.words.length <= 9)
  )
}

/**
 * Parts the lines of a cell into the question's own and those that open the next section or are shared by the questions
 * that follow.
 * Before the first question, and above it, all that reads as an instruction is shared.
 */
export function splitShared(cell: Cell, links: readonly Link[], usual: number): { own: Line[]; shared: Line[] } {
  const { lines } = cell
  const label = cell.opens && cell.link >= 0 ? links[cell.link]!.candidate : null
  const labelX = label ? label.line.words[label.word]!.x : Math.min(Infinity, ...lines.map(l => l.x))
  if (cell.link < 0) {
    const from = lines.findIndex((l, i) => isShared(l, lines[i - 1], usual, -Infinity, false))
    return { own: [], shared: from < 0 ? [] : lines.slice(from) }
  }
  const follows = links[cell.link + 1] !== undefined
  for (let i = cell.opens ? 1 : 0; i < lines.length; i++) {
    const hanging = lines.slice(1, i).some(l => l.x > labelX + 5)
    if (follows && isShared(lines[i]!, lines[i - 1], usual, labelX, hanging))
      return { own: lines.slice(0, i), shared: lines.slice(i) }
  }
  return { own: [...lines], shared: [] }
}

function isShared(line: Line, before: Line | undefined, usual: number, labelX: number, hanging: boolean): boolean {
  if (
    SHARED_WORDS.test(line.text) ||
    (SHARED_MENTION.test(line.text) && (!before || line.y - before.y > 1.4 * line.size))
  )
    return true
  if (
    SECTION_OPENING.test(line.text) &&
    line.words.length <= 12 &&
    (line.bold || line.size > 1.05 * usual || line.words.length <= 3)
  )
    return true
  const apart = !before || line.y - before.y > 1.5 * line.size
  if (!apart) return false
  const outside = labelX === -Infinity || line.x <= labelX + 3
  if (line.size > 1.14 * usual && line.words.length <= 14 && /\p{L}{3}/u.test(line.text)) return true
  if (
    line.bold &&
    outside &&
    /\p{L}{3}/u.test(line.text) &&
    !/[[(]\s*\d+\s*(marks?)?\s*[\])]/.test(line.text) &&
    !/^(answer|total|antwort|réponse)/i.test(line.text)
  )
    return true
  return outside && (hanging || labelX === -Infinity) && INSTRUCTION_OPENING.test(line.text)
}
