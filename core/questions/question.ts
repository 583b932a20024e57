import { tickedChoices, withoutTicks } from './answerBoxes'
import { candidatesOf, type Candidate } from './candidates'
import type { Cell } from './cells'
import { familyOf, type Chain, type Link } from './chain'
import { marksIn, type PrintedMarks } from './marks'
import type { Line } from './model'
import { letterGroups, type LetterGroup } from './options'
import { partsOf, withoutLists, type ReadPart } from './parts'

interface Read {
  label: string
  text: string
  marks: number | null
  cells: Cell[]
  /** How its marks were come by, and those that stand on a line of their own at its end. */
  by: 'print' | 'total' | 'each'
  lone: number
  parts: { label: string; marks: number | null; lines: Line[] }[]
  options: { label: string; text: string; lines: Line[] }[]
}

interface Draft {
  link: Link
  cells: Cell[]
  lines: Line[]
  ticks: { text: string; line: Line }[]
  candidates: Candidate[]
  marks: PrintedMarks[]
  groups: LetterGroup[]
}

/**
 * Reads parts, options and marks of every question from its cells; what letters mean is judged over the whole paper.
 */
export function readQuestions(
  links: readonly Link[],
  cells: readonly Cell[],
  level: Chain,
  bareMarks: boolean,
  each: readonly (number | null)[],
): Read[] {
  const joint = links.some((l, i) => l.label.dress === 'joint' && links[i + 1]?.label.value === l.label.value)
  const drafts = links.map((link, i) =>
    draft(
      link,
      cells.filter(c => c.link === i && c.lines.length),
      level.family,
      bareMarks,
    ),
  )
  const usual = habits(drafts)
  const read = drafts.map((d, i) => finish(d, usual, level.family, each[i] ?? null))
  withoutSectionTotals(read)
  return joint ? mergeJoint(read, links) : read
}

function draft(link: Link, cells: Cell[], outer: string, bareMarks: boolean): Draft {
  const raw = cells.flatMap(c => c.lines)
  const lines = withoutTicks(raw)
  const candidates = candidatesOf(lines, () => 0)
  const own = candidates.filter(
    c =>
      !(
        c.lineIndex === 0 &&
        c.depth === 0 &&
        c.labels.some(l => familyOf(l) === outer && l.value === link.label.value && c.word === 0)
      ),
  )
  const marks = marksIn(lines, bareMarks)
  const free = own.filter(c => !marks.some(m => m.line === c.lineIndex && m.word === c.word))
  const marked = (items: readonly Candidate[]) =>
    marks.some(
      m =>
        !m.total &&
        items.some(
          (c, k) =>
            after(m, c) &&
            (!items[k + 1]
              ? m.line <= c.lineIndex + 2 && m.line !== items[k - 1]?.lineIndex
              : before(m, items[k + 1]!)),
        ) &&
        items.filter((c, k) => marks.some(n => after(n, c) && (!items[k + 1] || before(n, items[k + 1]!)))).length >=
          0.6 * items.length,
    )
  return {
    link,
    cells,
    lines,
    ticks: tickedChoices(raw),
    candidates: free,
    marks,
    groups: letterGroups(free, lines, outer, marked),
  }
}

const after = (m: PrintedMarks, c: Candidate) => m.line > c.lineIndex || (m.line === c.lineIndex && m.word > c.word)
const before = (m: PrintedMarks, c: Candidate) => !after(m, c)

/** How a paper uses each kind of letter, averaged over its groups; a steady number of items speaks for options. */
function habits(drafts: readonly Draft[]): Map<string, number> {
  const byFamily = new Map<string, LetterGroup[]>()
  for (const g of drafts.flatMap(d => d.groups)) byFamily.set(g.family, [...(byFamily.get(g.family) ?? []), g])
  return new Map(
    [...byFamily].map(([family, groups]) => {
      const mean = groups.reduce((n, g) => n + g.weight, 0) / groups.length
      const steady =
        groups.length >= 3 &&
        groups.every(g => g.items.length === groups[0]!.items.length) &&
        groups[0]!.items.length >= 3
          ? 1
          : 0
      return [family, mean + steady]
    }),
  )
}

function finish(d: Draft, habit: Map<string, number>, outer: string, each: number | null): Read {
  const optionGroups = d.groups
    .filter(g => g.weight + 0.6 * (habit.get(g.family) ?? 0) > 0)
    .sort((a, b) => b.items.length - a.items.length)
  const bareSingle = (g: LetterGroup) => g.family.endsWith('|') && g.items.length < 3
  const chosen = optionGroups.filter(g => !bareSingle(g))
  const taken = new Set(chosen.flatMap(g => g.items.map(i => i.candidate)))
  const candidates = d.candidates.filter(
    c =>
      !taken.has(c) &&
      !chosen.some(g => g.items.some(i => i.candidate.lineIndex === c.lineIndex && i.candidate.word === c.word)),
  )
  const stem = d.lines
    .slice(0, (candidates[0]?.lineIndex ?? 0) + 1)
    .map(l => l.text)
    .join(' ')
  const parts = partsOf(withoutLists(candidates, stem), outer, d.link.candidate.line.words[d.link.candidate.word]!.x)
  const options = chosen.length
    ? chosen[0]!.items.map(i => ({
        label: i.label,
        text: i.text.replace(/^[-–—:]\s*/, ''),
        lines: [
          pieceOf(
            i.candidate,
            chosen[0]!.items.map(o => o.candidate),
          ),
        ],
      }))
    : d.ticks.length >= 2
      ? d.ticks.map((t, i) => ({ label: String.fromCharCode(65 + i), text: t.text, lines: [t.line] }))
      : []
  const { question, ofPart, by } = shareMarks(d.marks, parts, each)
  return {
    label: d.link.label.text,
    text: titleOf(d),
    marks: question,
    by,
    cells: d.cells,
    options,
    lone: loneMark(d),
    parts: parts.map((p, i) => ({
      label: p.label,
      marks: ofPart[i]!,
      lines: linesOfPart(d.lines, p, parts, parts[i + 1]),
    })),
  }
}

/** Marks on the last line of a question that has nothing else on it. */
function loneMark(d: Draft): number {
  const last = d.marks.at(-1)
  return last &&
    !last.total &&
    last.line === d.lines.length - 1 &&
    d.lines[last.line]!.words.every((w, i) => i >= last.word || /^[_.…:=]+$/.test(w.text)) &&
    d.lines[last.line]!.words.length <= last.word + 4
    ? last.value
    : 0
}

/** Takes the sum of a section, printed alone behind its last question, off that question's marks. */
function withoutSectionTotals(read: Read[]) {
  read.forEach((q, i) => {
    if (!q.lone || q.marks === null) return
    let before = 0
    for (let k = i - 1; k >= 0; k--) {
      before += read[k]!.marks ?? 0
      const rest = q.marks - q.lone
      if (before + rest === q.lone && before > 0 && (rest > 0 || !q.parts.length)) {
        q.marks = rest || null
        const last = q.parts.at(-1)
        if (last?.marks && last.marks > q.lone) last.marks -= q.lone
        return
      }
    }
  })
}

/** The words of a line from a label to the next one in it. */
function pieceOf(at: Candidate, all: readonly Candidate[]): Line {
  const ends = all.filter(c => c.lineIndex === at.lineIndex && c.word > at.word).map(c => c.word)
  const words = at.line.words.slice(at.word, Math.min(at.line.words.length, ...ends))
  const last = words.at(-1)!
  return { ...at.line, words, x: words[0]!.x, right: last.x + last.w, text: words.map(w => w.text).join(' ') }
}

function linesOfPart(
  lines: readonly Line[],
  part: ReadPart,
  parts: readonly ReadPart[],
  next: ReadPart | undefined,
): Line[] {
  const from = part.candidate.lineIndex,
    to = next && next.candidate.lineIndex > from ? next.candidate.lineIndex : next ? from + 1 : lines.length
  const first = pieceOf(
    part.candidate,
    parts.map(p => p.candidate),
  )
  return [
    first,
    ...lines.slice(from + 1, Math.max(from + 1, to)).filter(l => l.page === first.page && l.area === first.area),
  ]
}

/** Gives printed marks to the part they stand behind, and sums to the question. */
function shareMarks(
  marks: readonly PrintedMarks[],
  parts: readonly ReadPart[],
  each: number | null,
): { question: number | null; ofPart: (number | null)[]; by: Read['by'] } {
  const ofPart: (number | null)[] = parts.map(() => null)
  let own: number | null = null,
    total: number | null = null,
    stemEach: number | null = null
  const leaf = (i: number) => isLeaf(parts, i)
  const behind: PrintedMarks[] = []
  for (const m of marks) {
    const i = parts.findLastIndex(p => after(m, p.candidate))
    if (m.each) {
      stemEach = m.value
      continue
    }
    if (m.total) {
      total = Math.max(total ?? 0, m.value)
      continue
    }
    if (i < 0) {
      own = own === null || parts.length ? m.value : own + m.value
      continue
    }
    behind.push(m)
    if (ofPart[i] === null) ofPart[i] = m.value
    else if (i === parts.length - 1 && m.value === sum(ofPart, parts)) total = m.value
    else ofPart[i]! += m.value
  }
  // One behind them all is the question's.
  const lone = behind.length === 1 ? behind[0]! : null
  if (lone && own === null && isOfAll(lone, parts)) {
    own = lone.value
    ofPart.fill(null)
  }
  spread(behind, ofPart, parts)
  if (stemEach !== null) {
    if (parts.length)
      parts.forEach((_, i) => {
        if (leaf(i) && ofPart[i] === null) ofPart[i] = stemEach
      })
    else own ??= stemEach
  }
  addUp(ofPart, parts)
  const fromParts = sum(ofPart, parts)
  return {
    question: total ?? own ?? fromParts ?? each,
    ofPart,
    by: total !== null ? 'total' : own === null && fromParts === null ? 'each' : 'print',
  }
}

/** Whether the only marks behind the parts are for all of them: they stand behind the last, and there are enough. */
function isOfAll(lone: PrintedMarks, parts: readonly ReadPart[]): boolean {
  const last = parts.at(-1)!.candidate
  const leaves = parts.filter((_, i) => isLeaf(parts, i)).length
  return leaves >= (lone.line > last.lineIndex ? 2 : 4) && after(lone, last)
}

/** Whether a part has no parts of its own. */
const isLeaf = (parts: readonly ReadPart[], i: number) => !parts[i + 1] || parts[i + 1]!.depth <= parts[i]!.depth

/**
 * Where there is one mark for every part, yet some have two and some none, marks that had no room on their line were
 * pushed down, the outermost first.
 */
function spread(behind: readonly PrintedMarks[], ofPart: (number | null)[], parts: readonly ReadPart[]) {
  const leaves = parts.flatMap((_, i) => (isLeaf(parts, i) ? [i] : []))
  if (behind.length !== leaves.length || !leaves.some(i => ofPart[i] === null)) return
  const inOrder = behind.toSorted((a, b) => a.line - b.line || b.word - a.word)
  ofPart.fill(null)
  leaves.forEach((i, k) => {
    ofPart[i] = inOrder[k]!.value
  })
}

/** A part whose sub-parts carry the marks is worth their sum. */
function addUp(ofPart: (number | null)[], parts: readonly ReadPart[]) {
  for (let i = parts.length - 1; i >= 0; i--) {
    if (isLeaf(parts, i) || ofPart[i] !== null) continue
    let inner: number | null = null
    for (let k = i + 1; k < parts.length && parts[k]!.depth > parts[i]!.depth; k++)
      if (parts[k]!.depth === parts[i]!.depth + 1 && ofPart[k] !== null) inner = (inner ?? 0) + ofPart[k]!
    ofPart[i] = inner
  }
}

function sum(ofPart: readonly (number | null)[], parts: readonly ReadPart[]): number | null {
  const known = parts.flatMap((p, i) => (p.depth === 0 && ofPart[i] !== null ? [ofPart[i]!] : []))
  const inner = parts.flatMap((p, i) =>
    p.depth > 0 && ofPart[i] !== null && ofPart[parts.findLastIndex((o, k) => k < i && o.depth < p.depth)] === null
      ? [ofPart[i]!]
      : [],
  )
  return known.length + inner.length ? [...known, ...inner].reduce((a, b) => a + b, 0) : null
}

/** The first words of what is asked, for a name. */
function titleOf(d: Draft): string {
  const first = d.link.candidate
  const line = d.lines[0]
  if (!line) return ''
  const start = line.words.findIndex(w => Math.abs(w.x - first.line.words[first.word]!.x) < 1)
  const words = line.words.slice(Math.max(0, start) + Math.max(1, first.words)).map(w => w.text)
  const bare = (all: readonly string[]) =>
    all
      .join(' ')
      .replace(/[[(]\s*\d+\s*\p{L}*\.?\s*[\])]\s*$/iu, '')
      .trim()
  const text = bare(words) || bare(d.lines[1]?.words.map(w => w.text) ?? [])
  return text.length > 80 ? `${text.slice(0, 77).replace(/\s\S*$/, '')}…` : text
}

/** "1a", "1b" are parts of one question. */
function mergeJoint(read: Read[], links: readonly Link[]): Read[] {
  const merged: Read[] = []
  read.forEach((q, i) => {
    const last = merged.at(-1)
    if (
      last &&
      links[i]!.label.dress === 'joint' &&
      last.label === q.label &&
      links[i - 1]?.label.value === links[i]!.label.value
    ) {
      last.parts.push(...q.parts)
      last.cells = [...last.cells, ...q.cells]
      if (q.by === 'total') last.marks = q.marks
      else if (q.by === 'print' && q.marks !== null) last.marks = (last.marks ?? 0) + q.marks
      if (!last.options.length) last.options = q.options
    } else merged.push({ ...q, parts: [...q.parts], cells: [...q.cells] })
  })
  return merged
}
