import type { TextPiece, Line, Word } from './model'
import { baselines } from './words'

/** A stretch of a page that is read by itself, in points. */
export interface Area {
  x0: number
  x1: number
  y0: number
  y1: number
}

interface Run {
  x: number
  right: number
  y: number
  size: number
  text: string
}

/** Marks, numbers and answer lines alone make no column. */
const NO_TEXT =
  /^[[(]?\s*((total|gesamt)\b.*|\W*[\d.,/ ]+(\s*\p{L}+\.?)?|[\p{L}]{0,2}\s*[=:]?\s*[._…]{3,}.*)\s*[\])]?$/iu

/** Runs of words with no more than a space between them; a hanging number goes with the words that it stands before. */
function runsOf(line: readonly Word[]): Run[] {
  const runs: Run[] = []
  line.forEach((word, i) => {
    const last = runs.at(-1),
      before = line[i - 1]
    const alone = before && last && last.x === before.x && last.right - last.x < 4 * before.size
    const labels = alone && LABEL.test(before.text) && (i === 1 || !/^[([]\d/.test(before.text))
    const hanging = labels && word.gap < 4 * word.size
    if (!last || (word.gap > 0.62 * word.size && !hanging))
      runs.push({ x: word.x, right: word.x + word.w, y: word.y, size: word.size, text: word.text })
    else {
      last.right = word.x + word.w
      last.text += ` ${word.text}`
    }
  })
  return runs
}

const LABEL = /^[([]?(Q|№)?[\dA-Za-z.]{1,5}[).:\]]{0,2}$/

/** The ways in which a page can be read: always as one area, and in columns where white strips run down it. */
export function readingsOf(words: readonly TextPiece[], width: number, height: number): Area[][] {
  const whole: Area[] = [{ x0: 0, x1: width, y0: 0, y1: height }]
  const lines = baselines(words.map(w => ({ ...w })))
  if (lines.length < 6) return [whole]
  const runs = lines.map(runsOf)
  const left = Math.min(...words.map(w => w.x)),
    right = Math.max(...words.map(w => w.x + w.w))
  const readings = [whole]
  for (const most of [1, 2, 3]) {
    const strips = gutters(runs.flat(), left, right, most)
    if (strips.length !== most) continue
    const areas = inColumns(runs, strips, width, height)
    if (areas) readings.push(areas)
  }
  return readings
}

/**
 * Left edges of the second and later columns, from left to right: places where runs begin and that hardly any run
 * crosses.
 * A run that begins close before an edge and crosses it (a number before its indented text) shows that the column
 * begins further left.
 */
function gutters(runs: readonly Run[], left: number, right: number, count: number): number[] {
  const span = right - left
  const narrow = runs.filter(r => r.right - r.x < 0.72 * span)
  const least = Math.max(3, 0.09 * narrow.filter(r => r.right - r.x > 0.07 * span).length)
  const starts = [...new Set(narrow.map(r => Math.round(r.x)))].sort((a, b) => b - a)
  const edges: number[] = []
  for (let k = count; k >= 1; k--) {
    const edge = starts.find(x => {
      if (Math.abs((x - left) / span - k / (count + 1)) > 0.5 / (count + 1) || x > (edges[0] ?? Infinity) - 0.12 * span)
        return false
      let far = 0,
        near = 0,
        before = 0,
        after = 0
      for (const r of narrow) {
        const text = r.right - r.x > 0.07 * span && !NO_TEXT.test(r.text) ? 1 : 0
        if (r.x >= x - 1.5) after += text
        else if (r.right <= x - 1) before += text
        else if (r.x > x - 0.16 * span) near++
        else far++
      }
      return before >= least && after >= least && far <= 0.08 * narrow.length && near <= 0.015 * narrow.length
    })
    if (edge === undefined) return []
    edges.unshift(edge)
  }
  return edges.map(e => e - 2)
}

/**
 * Bands of the page: columns where nothing crosses the strips, one area where something does. Null when columns are the
 * lesser part.
 */
function inColumns(runs: readonly Run[][], strips: readonly number[], width: number, height: number): Area[] | null {
  const crosses = (line: readonly Run[]) => line.some(r => strips.some(s => r.x < s - 6 && r.right > s + 3))
  const bands: { from: number; to: number; columns: boolean; lines: number }[] = []
  runs.forEach(line => {
    const y = line[0]!.y,
      columns = !crosses(line),
      size = Math.max(...line.map(r => r.size))
    const last = bands.at(-1)
    if (last && last.columns === columns) {
      last.to = y
      last.lines++
    } else bands.push({ from: y - 1.05 * size, to: y, columns, lines: 1 })
  })
  const edges = [...strips, width]
  const areas: Area[] = []
  let inside = 0
  bands.forEach((band, i) => {
    const y0 = i === 0 ? 0 : band.from,
      y1 = bands[i + 1]?.from ?? height
    const held = edges.map(
      (edge, k) =>
        runs.filter(
          line =>
            line[0]!.y >= band.from &&
            line[0]!.y <= band.to &&
            line.some(r => r.x < edge && r.x >= (edges[k - 1] ?? -1)),
        ).length,
    )
    if (band.columns && band.lines >= 3 && held.filter(n => n >= 2).length >= 2) {
      inside += band.lines
      edges.forEach((edge, k) => areas.push({ x0: edges[k - 1] ?? 0, x1: edge, y0, y1 }))
    } else areas.push({ x0: 0, x1: width, y0, y1 })
  })
  return inside >= 0.4 * runs.length ? areas : null
}

/** Words as lines, top to bottom. @param area index of the page's area that they stand in */
export function inLines(words: readonly TextPiece[], page: number, area: number): Line[] {
  return baselines(words.map(w => ({ ...w }))).map(
    (line): Line => ({
      page,
      area,
      words: line,
      x: line[0]!.x,
      right: Math.max(...line.map(w => w.x + w.w)),
      y: line.reduce((a, b) => (b.size > a.size ? b : a)).y,
      size: Math.max(...line.map(w => w.size)),
      bold: line.every(w => w.bold),
      text: line.map(w => w.text).join(' '),
    }),
  )
}

/** The lines of a page in the order in which its areas are read. */
export function linesOf(words: readonly TextPiece[], areas: readonly Area[], page: number): Line[] {
  return areas.flatMap((area, i) => {
    const own = words.filter(w => w.x >= area.x0 && w.x < area.x1 && w.y >= area.y0 && w.y < area.y1)
    return inLines(own, page, i)
  })
}
