import { withDoubts } from './doubts'
import { bodyWords } from './running'
import { withTicks } from './answerBoxes'
import { candidatesOf, type Candidate } from './candidates'
import { cellsOf, boxOf, type Cell } from './cells'
import { chainOf, type Chain, type Link } from './chain'
import { linesOf, readingsOf, type Area } from './columns'
import { families, questionLevel } from './levels'
import { splitShared, isHeading, usualSize } from './headings'
import { answersFrom, dropStretches, withoutRules } from './leaveOut'
import { marksEach, printsBareMarks } from './marks'
import type { FoundPaper, FoundQuestion, Line, PageText, SharedInstruction, TextPiece } from './model'
import { readQuestions } from './question'
import { SHARED_MENTION } from './vocabulary'

/**
 * Finds the questions of a paper from the positioned text of its pages: numbers, parts, options, marks and shared
 * instructions.
 * A proposal: every question carries a confidence (0…1). Never throws; a paper without questions gives none.
 */
export function findQuestions(source: readonly PageText[]): FoundPaper {
  const pages = source.map(withTicks)
  const words = bodyWords(pages)
  const areas = words.map((w, p) => chooseReading(w, p, pages[p]!))
  const lines = areas.flatMap((a, p) => linesOf(words[p]!, a, p))
  const usual = usualSize(lines)
  const all = candidatesOf(lines, columnEdge(lines))
  const heading = lines.map(l => isHeading(l, usual))
  const under = (a: Candidate, b: Candidate) =>
    heading
      .slice(a.lineIndex + 1, b.lineIndex + 1)
      .some((h, i) => h && !(a.lineIndex + 1 + i === b.lineIndex && b.opens)) || heading[b.lineIndex - 1] === true
  const end = answersFrom(lines, usual, pages)
  const { candidates, cover: rules } = withoutRules(
    all.filter(c => !end.isAnswer(c.lineIndex)),
    lines,
  )
  const level = questionLevel(candidates, under)
  const leftOut: FoundPaper['leftOut'] = []
  pages.forEach((_, page) => {
    if (words[page]!.length === 0) leftOut.push({ page, why: 'empty' })
    else if (end.pages.has(page)) leftOut.push({ page, why: 'answers' })
  })
  if (!level) return { questions: [], instructions: [], leftOut }
  const { links, cover } = dropStretches(level, lines)
  new Set([...rules, ...cover]).forEach(page => leftOut.push({ page, why: 'cover' }))
  const cells = cellsOf(areas, words, links).map(cell => withoutAnswers(cell, end.after))
  const { instructions, sharedOf, eachOf } = shareOut(cells, links, usual, pages)
  const bare = printsBareMarks(lines, columnEnd(lines))
  const read = readQuestions(links, cells, level, bare, eachOf)
  const questions: FoundQuestion[] = read
    .map((q, i) => ({ q, link: q.cells[0]?.link ?? i }))
    .map(({ q, link }) => ({
      // 1a and 1b are one question by now: what belongs to a number is found by the number it began with.
      ...q,
      places: q.cells.map(c => ({ page: c.page, box: boxOf(c.lines, pages[c.page]!) })),
      shared: sharedOf[link] ?? null,
      confidence: confidenceOf(links, link, level, q),
      parts: q.parts.map(p => ({
        label: p.label,
        marks: p.marks,
        place: { page: p.lines[0]!.page, box: boxOf(p.lines, pages[p.lines[0]!.page]!) },
      })),
      options: q.options.map(o => ({
        label: o.label,
        text: o.text,
        place: { page: o.lines[0]!.page, box: boxOf(o.lines, pages[o.lines[0]!.page]!) },
      })),
    }))
    .map(({ cells: _, by: __, ...q }) => q)
  return { questions: withDoubts(questions), instructions, leftOut }
}

/** An edge of the column that a line stands in: the outermost of `of` over all of its lines. */
function columnBound(
  lines: readonly Line[],
  of: (l: Line) => number,
  outermost: (...values: number[]) => number,
): (line: Line) => number {
  const bounds = new Map<string, number>()
  for (const l of lines) {
    const key = `${l.page}/${l.area}`
    bounds.set(key, bounds.has(key) ? outermost(bounds.get(key)!, of(l)) : of(l))
  }
  return l => bounds.get(`${l.page}/${l.area}`)!
}
const columnEdge = (lines: readonly Line[]) => columnBound(lines, l => l.x, Math.min)
const columnEnd = (lines: readonly Line[]) => columnBound(lines, l => l.right, Math.max)

/** Of the ways to read a page, the one in which its numbers count best. */
function chooseReading(words: readonly TextPiece[], page: number, at: PageText): Area[] {
  const readings = readingsOf(words, at.width, at.height)
  if (readings.length === 1) return readings[0]!
  const scored = readings.map((areas, i) => {
    const lines = linesOf(words, areas, page)
    const chains = [...families(candidatesOf(lines, columnEdge(lines)))].map(([f, links]) =>
      chainOf(f, links, () => false),
    )
    const letters = chains
      .filter(c => /^(lower|upper|roman)/.test(c.family) && c.links.length > 1)
      .reduce((n, c) => n + Math.max(0, c.score), 0)
    const numbers = Math.max(0, ...chains.filter(c => /^(number|dotted)/.test(c.family)).map(c => c.score))
    // Columns of running text are read down even where no number tells.
    return { areas, score: numbers + 0.5 * letters + (i > 0 ? 0.3 : 0) }
  })
  return scored.reduce((a, b) => (b.score > a.score + 0.01 ? b : a)).areas
}

function withoutAnswers(cell: Cell, after: { page: number; area: number; y: number }[]): Cell {
  const cut = after.filter(a => a.page === cell.page && a.area === cell.area)
  return cut.length ? { ...cell, lines: cell.lines.filter(l => !cut.some(c => l.y >= c.y - 1)) } : cell
}

/**
 * Takes shared instructions out of the cells; tells which question they belong to and what each question under them is
 * worth.
 */
function shareOut(cells: Cell[], links: readonly Link[], usual: number, pages: readonly PageText[]) {
  const instructions: SharedInstruction[] = []
  const sharedOf: (number | null)[] = links.map(() => null)
  const eachOf: (number | null)[] = links.map(() => null)
  let current: number | null = null,
    each: number | null = null
  let until: number | null = null
  for (const cell of cells) {
    if (cell.opens && cell.link >= 0) {
      const value = links[cell.link]!.label.value
      if (until !== null && value > until) {
        current = null
        until = null
      }
      sharedOf[cell.link] = current
      eachOf[cell.link] = each
    }
    const { own, shared } = splitShared(cell, links, usual)
    cell.lines = own
    if (!shared.length) continue
    const text = shared.map(l => l.text).join(' ')
    instructions.push({ text, place: { page: cell.page, box: boxOf(shared, pages[cell.page]!) } })
    current = instructions.length - 1
    each = marksEach(text) ?? (isHeading(shared[0]!, usual) && !SHARED_MENTION.test(shared[0]!.text) ? null : each)
    const range = /(\d+)\s*(?:-|–|—|to|and|through|bis|und|a|al|y|à|et|e|ao|tot|en|till|&)\s*(\d+)/iu.exec(text)
    until = range ? Number(range[2]) : null
  }
  return { instructions, sharedOf, eachOf }
}

function confidenceOf(
  links: readonly Link[],
  i: number,
  level: Chain,
  question: { marks: number | null; text: string },
): number {
  const link = links[i]!,
    before = links[i - 1]
  let c = 0.9
  if (
    before &&
    link.label.value !== 1 &&
    link.label.count === before.label.count &&
    link.label.value - before.label.value > 1
  )
    c -= 0.25
  if (!before && link.label.value !== 1) c -= 0.15
  if (level.family === 'number|' && !link.candidate.bold) c -= 0.25
  if (/^(lower|upper)/.test(level.family)) c -= 0.15
  if (links.length < 3) c -= 0.15
  if (!question.text) c -= 0.2
  if (question.marks !== null) c += 0.07
  return Math.round(Math.min(0.99, Math.max(0.05, c)) * 100) / 100
}
