import type { Candidate } from './candidates'
import { familyOf } from './chain'
import type { Line } from './model'
import { CHOOSE_WORDS, DO_WORDS } from './vocabulary'

/** Lettered items that are either options or parts, with the text of each. `weight` above 0 speaks for options. */
export interface LetterGroup {
  family: string
  items: { candidate: Candidate; label: string; text: string }[]
  weight: number
}

const VALUE = /^[-−+±≈]?\s*[£$€¥]?\s*\d[\d\s.,/:×^·]*\s*[\p{L}°%£$€µ²³/·⁻¹-]{0,12}(\s?\p{L}{1,10})?\.?$/u
const BLANK = /_{3,}|\.{5,}|…{2,}/

/** The text of the words from one candidate to the next. */
export function textBetween(lines: readonly Line[], from: Candidate, to: Candidate | null, base: number): string {
  const parts: string[] = []
  for (let i = from.lineIndex - base; i < lines.length; i++) {
    const line = lines[i]
    if (!line) break
    const start = i === from.lineIndex - base ? from.word + from.words : 0
    const end = to && i === to.lineIndex - base ? to.word : line.words.length
    if (to && i > to.lineIndex - base) break
    parts.push(...line.words.slice(start, end).map(w => w.text))
  }
  return parts.join(' ').trim()
}

/**
 * Groups of lettered items within one question, each weighed as options.
 * @param lines the question's own lines, the candidates' `lineIndex` counting into them
 * @param ownMarks whether marks are printed behind an item of a group
 */
export function letterGroups(
  candidates: readonly Candidate[],
  lines: readonly Line[],
  outer: string,
  ownMarks: (items: readonly Candidate[]) => boolean,
): LetterGroup[] {
  const byFamily = new Map<string, { candidate: Candidate; value: number; text: string }[]>()
  for (const candidate of candidates)
    for (const label of candidate.labels) {
      if (label.count !== 'upper' && label.count !== 'lower') continue
      const family = familyOf(label)
      if (family !== outer)
        byFamily.set(family, [...(byFamily.get(family) ?? []), { candidate, value: label.value, text: label.text }])
    }
  const groups: LetterGroup[] = []
  for (const [family, all] of byFamily) {
    for (const items of runs(all)) {
      const inOrder = items.map(i => i.candidate).sort((a, b) => a.order - b.order)
      const withText = items.map(i => ({
        candidate: i.candidate,
        label: i.text,
        text: textBetween(lines, i.candidate, nextOf(inOrder, i.candidate), 0),
      }))
      groups.push({ family, items: withText, weight: weigh(family, withText, lines, inOrder, ownMarks(inOrder)) })
    }
  }
  return groups
}

const nextOf = (inOrder: readonly Candidate[], c: Candidate) => inOrder[inOrder.indexOf(c) + 1] ?? null

/**
 * Splits items of a family at each new A; keeps those runs whose letters are all there, in whatever order they stand.
 */
function runs(all: readonly { candidate: Candidate; value: number; text: string }[]) {
  const whole: { candidate: Candidate; value: number; text: string }[][] = []
  let run: (typeof whole)[number] = []
  const close = () => {
    const values = new Set(run.map(i => i.value))
    while (values.size && !(values.size === run.length && Math.max(...values) === run.length)) {
      const last = Math.max(...values)
      run = run.filter((i, k) => i.value !== last && run.findIndex(o => o.value === i.value) === k)
      values.clear()
      run.forEach(i => values.add(i.value))
    }
    if (run.length >= 2) whole.push(run.toSorted((a, b) => a.value - b.value))
    run = []
  }
  for (const item of all) {
    if (run.some(i => i.value === item.value)) close()
    run.push(item)
  }
  close()
  return whole
}

function weigh(
  family: string,
  items: LetterGroup['items'],
  lines: readonly Line[],
  inOrder: readonly Candidate[],
  marked: boolean,
): number {
  const first = inOrder[0]!
  const stem = lines
    .slice(0, first.lineIndex + 1)
    .flatMap((l, i) => l.words.slice(0, i === first.lineIndex ? first.word : undefined))
    .map(w => w.text)
    .join(' ')
    .trim()
  const asked = stem.replace(/^\S+\s*/, '')
  const texts = items.map(i => i.text)
  const words = texts.reduce((n, t) => n + t.split(/\s+/).filter(Boolean).length, 0) / items.length
  const share = (test: (t: string) => boolean) => texts.filter(test).length / texts.length
  const upper = family.startsWith('upper')
  let weight = upper ? 2 : -0.7
  weight += items.length === 4 || items.length === 5 ? 0.7 : items.length === 2 ? -1.2 : items.length >= 6 ? -2 : 0
  weight += words <= 5 ? 0.5 : words > 12 ? -0.5 : 0
  if (marked) weight -= 3
  if (!asked || first.depth > 0) weight -= 3
  if (/\?\W*$/.test(asked) || /[?]\s*([([]\s*\d+.{0,9}[)\]])?\s*$/.test(asked)) weight += 1.5
  else if (BLANK.test(asked.slice(-12)) || /(…|\.\.\.)\s*$/.test(asked)) weight += 1
  else if (CHOOSE_WORDS.test(asked) && /\?/.test(asked)) weight += 0.8
  if (CHOOSE_WORDS.test(asked)) weight += 0.8
  if (DO_WORDS.test(asked)) weight -= /:\s*([([].{0,12}[)\]])?$/.test(asked) ? 1.6 : 0.8
  weight -= 3 * share(t => t.includes('?') || DO_WORDS.test(t))
  weight -= 1.2 * share(t => /[=+×÷]/.test(t) && !/^[a-z]\s?[=<>≤≥]\s?[-−\d.]+$/i.test(t)) * (upper ? 0.5 : 1)
  weight += 1.2 * share(t => VALUE.test(t))
  weight -= 1.5 * share(t => BLANK.test(t) || !t)
  const gaps = inOrder
    .slice(1)
    .map((c, i) => (c.y - inOrder[i]!.y) / Math.max(8, c.line.size))
    .filter(g => g > 0.5)
  if (gaps.length && gaps.sort((a, b) => a - b)[Math.floor(gaps.length / 2)]! > 3.6 && words < 12) weight -= 1.8
  return weight
}
