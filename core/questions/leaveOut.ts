import type { Candidate } from './candidates'
import type { Chain, Link } from './chain'
import { isHeading } from './headings'
import type { Line, PageText } from './model'
import { ANSWER_HEADING_END, ANSWER_HEADINGS, COVER_WORDS } from './vocabulary'

export interface Answers {
  isAnswer: (lineIndex: number) => boolean
  pages: Set<number>
  after: { page: number; area: number; y: number }[]
}

/**
 * Where the answers of a paper stand: from a heading that says so to the end of its page, and on until questions go on.
 */
export function answersFrom(lines: readonly Line[], usual: number, pages: readonly PageText[]): Answers {
  const out = new Set<number>()
  const wholePages = new Set<number>()
  const after: Answers['after'] = []
  let inside = -1
  lines.forEach((line, i) => {
    const firstOfPage = lines.findIndex(l => l.page === line.page)
    const high = i - firstOfPage <= 2
    if (isAnswerHeading(line, usual, high)) {
      inside = line.page
      if (high) wholePages.add(line.page)
      after.push({ page: line.page, area: line.area, y: line.y })
    } else if (inside >= 0 && line.page > inside && i === firstOfPage && startsQuestions(lines, i, usual)) inside = -1
    if (inside >= 0) {
      out.add(i)
      if (line.page > inside) {
        wholePages.add(line.page)
        after.push({ page: line.page, area: line.area, y: -Infinity })
      } else if (line.area !== after.at(-1)!.area) after.push({ page: line.page, area: line.area, y: line.y })
    }
  })
  if (out.size === lines.length && pages.length > 0) return { isAnswer: () => false, pages: new Set(), after: [] }
  return { isAnswer: i => out.has(i), pages: wholePages, after }
}

function isAnswerHeading(line: Line, usual: number, high: boolean): boolean {
  if (line.words.length > 9 || (/[.…_]{3,}|:\s*$/.test(line.text) && !/key|scheme|answers|sheet/i.test(line.text)))
    return false
  const whole = ANSWER_HEADINGS.test(line.text),
    end = ANSWER_HEADING_END.test(line.text)
  if (!whole && !end) return false
  const stands = line.size > 1.12 * usual || line.bold || high
  return whole ? stands : stands && high && (line.size > 1.12 * usual || line.bold)
}

/** A page that begins with a section of its own, whose numbers have text enough behind them to be questions. */
function startsQuestions(lines: readonly Line[], from: number, usual: number): boolean {
  const page = lines.filter(l => l.page === lines[from]!.page)
  const head = page
    .slice(0, 3)
    .some(
      l =>
        isHeading(l, usual) &&
        !isAnswerHeading(l, usual, true) &&
        /section|part|teil|quiz|test|worksheet|sección|partie/i.test(l.text),
    )
  return head && page.filter(l => l.words.length >= 7).length >= 0.4 * page.length
}

/**
 * Candidates without the numbered rules that a first page lays down ("1. Use black ink.").
 * @returns also the pages that hold them
 */
export function withoutRules(
  candidates: readonly Candidate[],
  lines: readonly Line[],
): { candidates: Candidate[]; cover: number[] } {
  const first = lines[0]?.page ?? 0
  const out = new Set<Candidate>()
  const numbered = candidates.filter(
    c =>
      c.page <= first + 1 &&
      c.opens &&
      c.depth === 0 &&
      c.labels[0]!.count === 'number' &&
      c.labels[0]!.dress !== 'word',
  )
  for (let i = 0; i < numbered.length; ) {
    let k = i + 1
    while (
      k < numbered.length &&
      numbered[k]!.page === numbered[i]!.page &&
      numbered[k]!.labels[0]!.value === numbered[k - 1]!.labels[0]!.value + 1
    )
      k++
    const list = numbered.slice(i, k)
    const texts = list.map((c, n) =>
      lines
        .slice(c.lineIndex, Math.max(c.lineIndex + 1, list[n + 1]?.lineIndex ?? c.lineIndex + 2))
        .map(l => l.text)
        .join(' '),
    )
    const rules = texts.filter(
      t => new RegExp(COVER_WORDS.source, 'iu').test(t) && !/\?\s*$|[[(]\d+( marks?)?[\])]\s*$/i.test(t),
    ).length
    if (list[0]!.labels[0]!.value === 1 && list.length >= 2 && rules >= 0.6 * list.length) list.forEach(c => out.add(c))
    i = k
  }
  // What stands on a page of nothing but rules is a cover.
  const cover = [...new Set([...out].map(c => c.page))].filter(
    p => !candidates.some(c => c.page === p && !out.has(c) && c.opens && c.depth === 0),
  )
  return { candidates: candidates.filter(c => !out.has(c)), cover }
}

/**
 * The links of the question level without the stretches that are no questions: numbered rules on a cover, and lists of
 * bare answers.
 * @returns also the pages that are covers
 */
export function dropStretches(level: Chain, lines: readonly Line[]): { links: Link[]; cover: number[] } {
  const stretches = level.begins.map((b, i) => level.links.slice(b, level.begins[i + 1] ?? level.links.length))
  const textOf = (stretch: Link[], k: number) => {
    const from = stretch[k]!.candidate.lineIndex
    const next = stretch[k + 1]?.candidate.lineIndex ?? Math.min(lines.length, from + 6)
    return lines
      .slice(from, Math.max(from + 1, next))
      .filter(l => l.page === stretch[k]!.candidate.page)
      .map(l => l.text)
      .join(' ')
  }
  const wordCount = (stretch: Link[]) => median(stretch.map((_, k) => textOf(stretch, k).split(/\s+/).length - 1))
  const cover: number[] = []
  const kept = stretches.filter((stretch, i) => {
    if (stretches.length === 1) return true
    const text = stretch.map((_, k) => textOf(stretch, k)).join(' ')
    const rules = (text.match(COVER_WORDS) ?? []).length
    if (
      i === 0 &&
      stretch[0]!.candidate.page === 0 &&
      rules >= 0.6 * stretch.length &&
      rules >= 2 &&
      !/\[\d+\]|\(\d+ marks?\)/i.test(text)
    ) {
      cover.push(0)
      return false
    }
    const fuller = stretches
      .slice(0, i)
      .some(o => o.length >= 0.7 * stretch.length && wordCount(o) >= 2.5 * Math.max(1, wordCount(stretch)))
    return !(i > 0 && stretch.length >= 3 && wordCount(stretch) <= 4 && fuller)
  })
  return { links: kept.flat(), cover }
}

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0
