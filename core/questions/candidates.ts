import type { Line } from './model'
import { labelsAt, type Label, type Reading } from './labels'

/** A place in the text where a label may stand. `depth` 0 for the first label there, 1 for "(a)" in "1. (a)". */
export interface Candidate {
  order: number
  line: Line
  lineIndex: number
  word: number
  depth: number
  labels: Label[]
  /** Left and right end of the label, points from the left of its column; y its baseline. */
  x: number
  right: number
  y: number
  page: number
  area: number
  /** Whether it opens its line, whether it is set heavy, and whether a gap follows wide enough for a hanging number. */
  opens: boolean
  bold: boolean
  hanging: boolean
  /** How many words the labels up to this one take, so that the rest is what is asked. */
  words: number
}

/** Gap, in letter sizes, from which a word in a line may begin something of its own. */
const APART = 0.66

/** All candidates of the lines, in reading order. @param left the left edge of each line's column */
export function candidatesOf(lines: readonly Line[], left: (line: Line) => number): Candidate[] {
  const found: Candidate[] = []
  lines.forEach((line, lineIndex) => {
    const edge = left(line)
    const inRow = rowOf(line)
    for (let w = 0; w < line.words.length; w++) {
      const word = line.words[w]!
      const heavy = word.bold && /^\(?[A-Za-z][.)]?$/.test(word.text) && !line.words[w - 1]?.bold
      if (w > 0 && word.gap < APART * word.size && !heavy && !inRow.has(w)) continue
      // "(4)" far out at the end of a line is what the question is worth.
      if (w > 0 && w === line.words.length - 1 && word.gap > 0.9 * word.size && /^\(\d{1,2}\)$/.test(word.text))
        continue
      const readings = labelsAt(line.words, w)
      readings.forEach((reading, depth) => found.push(make(reading, depth, w, edge, line, lineIndex, found.length)))
      if (readings.length) w += Math.max(0, Math.min(readings.at(-1)!.words, line.words.length - w) - 1)
    }
  })
  return found
}

/** Words of a line that count on from one another ("a) 3 + 4 b) 5 + 6"), whatever the gaps before them. */
function rowOf(line: Line): Set<number> {
  const row = new Set<number>()
  const last = new Map<string, { value: number; word: number }>()
  line.words.forEach((word, w) => {
    if (!/^\(?[\dA-Za-z]{1,3}[.)]$/.test(word.text)) return
    for (const label of labelsAt([word], 0)[0]?.labels ?? []) {
      const family = `${label.count}|${label.dress}`,
        before = last.get(family)
      if (before && label.value === before.value + 1) {
        row.add(w)
        // "in a) and b)" is a sentence; an item of its own opens the line or has something behind it.
        if (label.dress !== '.' && w - before.word > 1) row.add(before.word)
      }
      if (!before || label.value === before.value + 1 || label.value === 1)
        last.set(family, { value: label.value, word: w })
    }
  })
  return row
}

function make(
  reading: Reading,
  depth: number,
  w: number,
  edge: number,
  line: Line,
  lineIndex: number,
  order: number,
): Candidate {
  const word = line.words[Math.min(line.words.length - 1, w + (depth > 0 ? Math.max(0, reading.words - 1) : 0))]!
  const next = line.words[w + reading.words]
  return {
    order,
    line,
    lineIndex,
    word: w,
    depth,
    labels: reading.labels,
    x: word.x - edge,
    right: word.x + word.w - edge,
    y: line.y,
    page: line.page,
    area: line.area,
    opens: w === 0,
    bold: word.bold,
    hanging: !next || next.gap > 0.5 * word.size,
    words: reading.words,
  }
}
