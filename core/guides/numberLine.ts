import type { GuideSpec } from '../folio/thing'
import { add, subtract, toNumber, type Fraction } from '../maths/exact'
import { plainSigns } from '../numbers/read'
import { orderOf, type CellText, type GuideLayout, type Move, type ScaffoldLine } from './model'
import { isDecimal, isLess, isSame, labelsOf, scaleAround, scaleOf, scaleUnclear, written } from './scale'
import { notUnderstood, numberIn } from './typed'

export type NumberLine = Extract<GuideSpec, { guide: 'numberLine' }>
type Span = NumberLine['spans'][number]
type End = 'open' | 'closed'

/** Whether a label has room below its mark. */
const fits = (x: number, text: string) => x - 0.24 * text.length > -0.3 && x + 0.24 * text.length < LENGTH + 2.3
/** Squares a line is long. */
const LENGTH = 20
/** The row of the axis, and that of what is shown above it. */
const AXIS = 2
const ABOVE = 1.22
/** Half as wide as an end is; the pen goes round it once, or fills it. */
export const RADIUS = 0.28

/**
 * A number line. What is typed for it is a move each: points, stretches with their ends open or closed, and jumps.
 * @throws Trouble `scale-unclear`, `guide-unclear` for what lies off the line
 */
export function numberLine(spec: NumberLine): GuideLayout {
  const scale = scaleOf(numberIn(spec.from), numberIn(spec.to), numberIn(spec.step))
  const { values, from, to } = scale
  const at = (f: Fraction) => 1 + (toNumber(subtract(f, from)) / toNumber(subtract(to, from))) * LENGTH
  const onLine = (text: string) => {
    const f = numberIn(text)
    if (isLess(f, from) || isLess(to, f))
      throw scaleUnclear(
        `${written(f)} is not on the line from ${written(from)} to ${written(to)}.`,
        'Change the ends, or leave them out.',
      )
    return f
  }
  const typed = [
    ...[spec.from, spec.to, spec.step],
    ...spec.points.map(p => p.at),
    ...spec.spans.flatMap(s => [s.from ?? '', s.to ?? '']),
    ...spec.jumps,
  ]
  // A fraction that was typed is shown as one, and all labels with it.
  const fractions = typed.some(t => /[/½⅓⅔¼¾⅛]/.test(t)) || !isDecimal(scale.step)
  const labels = labelsOf(scale, at(values[1]!) - at(values[0]!), fractions)
  const labelled = (f: Fraction) => values.some((v, i) => labels[i] !== null && isSame(v, f))
  const show = (f: Fraction) => written(f, !fractions)
  let tags = 0
  // Values over their places stand on two levels in turn, so that neighbours keep apart.
  const tag = (f: Fraction): CellText[] =>
    labelled(f) ? [] : [{ col: at(f) - 0.5, row: 0.5 * (tags++ % 2), text: show(f), role: 'answer', small: true }]
  const draw = { at, onLine, show, tag }
  const moves = [
    ...spec.points.map(p =>
      p.ray === 'none'
        ? pointMove(onLine(p.at), p.end, draw)
        : spanMove(
            p.ray === 'left'
              ? { from: null, to: p.at, fromEnd: 'open', toEnd: p.end }
              : { from: p.at, to: null, fromEnd: p.end, toEnd: 'open' },
            draw,
          ),
    ),
    ...spec.spans.map(s => spanMove(s, draw)),
    ...jumpMoves(spec.jumps, draw),
  ]
  return {
    cols: LENGTH + 2,
    rows: 4,
    lines: [
      { from: [0, AXIS], to: [LENGTH + 2, AXIS], strong: true, arrow: true },
      ...values.map(
        (v, i): ScaffoldLine => ({
          from: [at(v), labels[i] === null ? 1.85 : 1.7],
          to: [at(v), labels[i] === null ? 2.15 : 2.3],
          strong: true,
        }),
      ),
    ],
    given: values.flatMap((v, i): CellText[] =>
      labels[i] === null || !fits(at(v), labels[i]!)
        ? []
        : [{ col: at(v) - 0.5, row: 2.4, text: labels[i]!, role: 'aside', small: false }],
    ),
    moves,
    order: orderOf(moves),
  }
}

interface Draw {
  at(f: Fraction): number
  onLine(text: string): Fraction
  show(f: Fraction): string
  /** The value over its place, where no mark is labelled with it. */ tag(f: Fraction): CellText[]
}
const dot = (x: number, y: number, end: End): CellText => ({
  col: x,
  row: 1,
  text: end,
  role: 'working',
  line: [x, y, x, y],
})
const stroke = (line: readonly number[]): CellText => ({ col: line[0]!, row: 1, text: '', role: 'working', line })

function pointMove(f: Fraction, end: End, draw: Draw): Move {
  return {
    say: `${draw.show(f)} is ${end === 'closed' ? 'here' : 'not in'}`,
    cells: [dot(draw.at(f), AXIS, end), ...draw.tag(f)],
  }
}

/** A stretch stands above the line, so that an open end is seen to be open. */
function spanMove(span: Span, draw: Draw): Move {
  const [a, b] = [span.from, span.to].map(t => (t === null ? null : draw.onLine(t))) as [
    Fraction | null,
    Fraction | null,
  ]
  const left = a ? draw.at(a) : 0.2,
    right = b ? draw.at(b) : LENGTH + 1.8
  const [x0, x1] = [left + (a ? RADIUS : 0), right - (b ? RADIUS : 0)]
  const head = (x: number, way: 1 | -1) =>
    stroke([x - way * 0.35, ABOVE - 0.22, x, ABOVE, x - way * 0.35, ABOVE + 0.22])
  const said = [
    ...(a ? [`${draw.show(a)} is ${span.fromEnd === 'closed' ? 'in' : 'not in'}`] : []),
    ...(b ? [`${draw.show(b)} is ${span.toEnd === 'closed' ? 'in' : 'not in'}`] : []),
    a && b ? 'and all between' : a ? 'and all above' : b ? 'and all below' : 'All numbers',
  ]
  return {
    say: said.join(', '),
    cells: [
      ...(a ? [dot(left, ABOVE, span.fromEnd), ...draw.tag(a)] : []),
      ...(b ? [dot(right, ABOVE, span.toEnd), ...draw.tag(b)] : []),
      stroke([x0, ABOVE, x1, ABOVE]),
      ...(b ? [] : [head(x1, 1)]),
      ...(a ? [] : [head(x0, -1)]),
    ],
  }
}

/** From the start over every jump, each with its size over it. */
function jumpMoves(jumps: readonly string[], draw: Draw): Move[] {
  if (!jumps.length) return []
  let here = draw.onLine(jumps[0]!)
  const moves: Move[] = [
    { say: `Begin at ${draw.show(here)}`, cells: [dot(draw.at(here), AXIS, 'closed'), ...draw.tag(here)] },
  ]
  for (const jump of jumps.slice(1)) {
    const by = numberIn(jump)
    const next = draw.onLine(written(add(here, by), false))
    const [x0, x1] = [draw.at(here), draw.at(next)]
    const arc = Array.from({ length: 13 }, (_, i) => {
      const s = i / 12
      return [x0 + (x1 - x0) * s, AXIS - 0.1 - 4 * 0.75 * s * (1 - s)]
    }).flat()
    const way = x1 > x0 ? 1 : -1
    const size = `${by.n < 0n ? '−' : '+'}${draw.show({ n: by.n < 0n ? -by.n : by.n, d: by.d })}`
    moves.push({
      say: `${draw.show(here)} ${by.n < 0n ? '−' : '+'} ${size.slice(1)} = ${draw.show(next)}`,
      cells: [
        { ...stroke(arc), role: 'working' },
        { ...stroke([x1 - way * 0.32, AXIS - 0.42, x1, AXIS - 0.1, x1 - way * 0.02, AXIS - 0.52]), role: 'working' },
        { col: (x0 + x1) / 2 - 0.5, row: 0.2, text: size, role: 'carry', small: true },
        ...draw.tag(next),
      ],
    })
    here = next
  }
  return moves
}

// Reading

const RELATION = /(<=|=<|≤|⩽|>=|=>|≥|⩾|!=|<>|≠|<|>|=)/
const KIND: Record<string, '<' | '<=' | '>' | '>=' | '!=' | '='> = {
  '<=': '<=',
  '=<': '<=',
  '≤': '<=',
  '⩽': '<=',
  '<': '<',
  '>=': '>=',
  '=>': '>=',
  '≥': '>=',
  '⩾': '>=',
  '>': '>',
  '!=': '!=',
  '<>': '!=',
  '≠': '!=',
  '=': '=',
}
const FLIPPED = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '!=': '!=', '=': '=' } as const

interface Found {
  points: NumberLine['points']
  spans: Span[]
  jumps: string[]
}

/**
 * A number line as it is typed: ends if they are to be chosen, then what is on it, parted by semicolons.
 * @throws Trouble `guide-unclear` names what was not understood; `scale-unclear`
 * @example readNumberLine('-5 to 5; -2 < x <= 3')
 */
export function readNumberLine(text: string): NumberLine {
  const found: Found = { points: [], spans: [], jumps: [] }
  let ends: { from: string; to: string; step: string | null } | null = null
  const letters = new Set<string>()
  for (const part of segments(plainSigns(text))) {
    const range = /^(.+?)\s+to\s+(.+?)(?:\s+(?:by|in steps of|in)\s+(.+))?$/i.exec(part)
    if (range && !RELATION.test(part)) {
      if (ends) throw notUnderstood(part, 'gives the ends of the line a second time')
      ends = { from: range[1]!, to: range[2]!, step: range[3] ?? null }
      for (const t of [ends.from, ends.to, ...(ends.step === null ? [] : [ends.step])]) numberIn(t)
    } else condition(part, found, letters)
  }
  if (letters.size > 1) throw notUnderstood([...letters].join(' and '), 'are two letters; a line has one')
  if (found.jumps.length && (found.points.length || found.spans.length))
    throw notUnderstood(text, 'mixes jumps with other things', 'Make two number lines of it.')
  const scale = ends ? scaleBetween(ends) : scaleAround(placesOf(found, text))
  const spec: NumberLine = {
    guide: 'numberLine',
    from: plain(scale.from, ends?.from),
    to: plain(scale.to, ends?.to),
    step: plain(scale.step, ends?.step ?? undefined),
    ...found,
  }
  return spec
}

/** As it was typed; what was worked out, as it can be typed. */
const plain = (f: Fraction, typed?: string) => typed ?? written(f).replace('−', '-')

function scaleBetween({ from, to, step }: { from: string; to: string; step: string | null }) {
  const [a, b] = [numberIn(from), numberIn(to)]
  if (step !== null) return scaleOf(a, b, numberIn(step))
  const around = scaleAround([a, b])
  // The step that fits its ends; the ends themselves stay as they were typed.
  return scaleOf(a, b, around.step)
}

/** All that has to be on the line. */
function placesOf({ points, spans, jumps }: Found, text: string): Fraction[] {
  const all = [
    ...points.map(p => numberIn(p.at)),
    ...spans.flatMap(s => [s.from, s.to].flatMap(t => (t === null ? [] : [numberIn(t)]))),
  ]
  jumps.forEach((jump, i) => all.push(i ? add(all.at(-1)!, numberIn(jump)) : numberIn(jump)))
  if (!all.length)
    throw notUnderstood(text || ' ', 'names no place on the line', 'Type the ends, such as -5 to 5, or an inequality.')
  return all
}

/** Pieces between semicolons, outside of the brackets of intervals. */
function segments(text: string): string[] {
  const parts = text
    .replace(/([[\](])([^[\]()]*);([^[\]()]*)([\])[])/g, '$1$2,$3$4')
    .split(';')
    .map(p => p.trim())
    .filter(Boolean)
  if (!parts.length)
    throw notUnderstood(text || ' ', 'names no place on the line', 'Type the ends, such as -5 to 5, or an inequality.')
  return parts
}

const INTERVAL = /^([[\](])\s*(.+?)\s*,\s*(.+?)\s*([\])[])$/

/** One piece: an inequality, a union of them, an interval, points, or jumps. */
function condition(text: string, found: Found, letters: Set<string>): void {
  const union = text.split(/\s+or\s+|\s*[∪∨]\s*/i)
  if (union.length > 1) return union.forEach(part => condition(part.trim(), found, letters))
  const both = text.split(/\s+and\s+|\s*[∩∧]\s*/i)
  if (both.length > 1 && both.every(p => RELATION.test(p))) {
    found.spans.push(both.map(p => spanOf(p.trim(), letters)).reduce(meet))
    return
  }
  const interval = INTERVAL.exec(text)
  if (interval) return void found.spans.push(intervalOf(interval))
  if (RELATION.test(text)) return inequality(text, found, letters)
  const jumps = jumpsOf(text)
  if (jumps) return void found.jumps.push(...jumps)
  for (const piece of text.split(/\s*,(?!\d)\s*|\s*(?<!\d),\s*|\s+and\s+/)) {
    numberIn(piece)
    found.points.push({ at: piece.trim(), end: 'closed', ray: 'none' })
  }
}

/** "3 + 4 - 2": where one begins, and every jump with its sign; null for anything else. */
function jumpsOf(text: string): string[] | null {
  const parts = text.split(/(?<=[\d\s)])\s*(?=[+-]\s*\d)/).map(p => p.trim())
  if (parts.length < 2) return null
  const signed = parts.map((p, i) => (i ? p.replace(/^\+\s*/, '').replace(/^-\s*/, '-') : p))
  signed.forEach(numberIn)
  return signed
}

function intervalOf([text, open, from, to, close]: RegExpExecArray): Span {
  const end = (t: string, infinite: RegExp) => (infinite.test(t) ? null : (numberIn(t), t))
  const a = end(from!, /^-\s*(∞|inf|infinity)$/i),
    b = end(to!, /^\+?\s*(∞|inf|infinity)$/i)
  if (a !== null && b !== null && !isLess(numberIn(a), numberIn(b)))
    throw notUnderstood(text, 'is an interval with nothing in it')
  return { from: a, to: b, fromEnd: open === '[' ? 'closed' : 'open', toEnd: close === ']' ? 'closed' : 'open' }
}

/** Inequalities in one go, parted by commas: "x < 1, x >= 3". */
function inequality(text: string, found: Found, letters: Set<string>): void {
  const parts = text.split(/,(?!\d)\s*/).map(p => p.trim())
  if (parts.length > 1) return parts.forEach(p => condition(p, found, letters))
  const pieces = text.split(RELATION).map(p => p.trim())
  if (pieces.length === 3) {
    const { kind, at } = single(pieces, text, letters)
    if (kind === '=') return void found.points.push({ at, end: 'closed', ray: 'none' })
    if (kind === '!=')
      return void found.spans.push(
        { from: null, to: at, fromEnd: 'open', toEnd: 'open' },
        { from: at, to: null, fromEnd: 'open', toEnd: 'open' },
      )
  }
  found.spans.push(spanOf(text, letters))
}

/** The relation and the number of "x < 3" or "3 > x", the letter being on the left. */
function single([a = '', sign = '', b = '']: readonly string[], text: string, letters: Set<string>) {
  const isLetter = (t: string) => /^[a-z]$/i.test(t)
  if (isLetter(a) === isLetter(b)) throw notUnderstood(text, 'does not compare one letter with one number')
  letters.add(isLetter(a) ? a : b)
  const at = isLetter(a) ? b : a
  numberIn(at)
  return { kind: isLetter(a) ? KIND[sign]! : FLIPPED[KIND[sign]!], at }
}

function spanOf(text: string, letters: Set<string>): Span {
  const pieces = text.split(RELATION).map(p => p.trim())
  if (pieces.length === 3) {
    const { kind, at } = single(pieces, text, letters)
    if (kind === '=' || kind === '!=') throw notUnderstood(text, 'is no stretch of the line')
    const end = kind.endsWith('=') ? ('closed' as const) : ('open' as const)
    return kind.startsWith('<')
      ? { from: null, to: at, fromEnd: 'open', toEnd: end }
      : { from: at, to: null, fromEnd: end, toEnd: 'open' }
  }
  if (pieces.length !== 5) throw notUnderstood(text, 'is not an inequality of one letter')
  const [a, one, letter, two, b] = pieces as [string, string, string, string, string]
  const kinds = [KIND[one]!, KIND[two]!]
  const same = kinds.every(k => k.startsWith('<')) || kinds.every(k => k.startsWith('>'))
  if (!/^[a-z]$/i.test(letter) || !same) throw notUnderstood(text, 'does not hold one letter between two numbers')
  letters.add(letter)
  const up = kinds[0]!.startsWith('<')
  const [low, high] = up ? [a, b] : [b, a]
  const [lowKind, highKind] = up ? kinds : [kinds[1], kinds[0]]
  if (!isLess(numberIn(low), numberIn(high))) throw notUnderstood(text, 'holds for no number')
  return {
    from: low,
    to: high,
    fromEnd: lowKind!.endsWith('=') ? 'closed' : 'open',
    toEnd: highKind!.endsWith('=') ? 'closed' : 'open',
  }
}

/** What is in both. @throws Trouble `guide-unclear` when nothing is */
function meet(p: Span, q: Span): Span {
  const lower = p.from === null || (q.from !== null && isLess(numberIn(p.from), numberIn(q.from))) ? q : p
  const upper = p.to === null || (q.to !== null && isLess(numberIn(q.to), numberIn(p.to))) ? q : p
  if (lower.from !== null && upper.to !== null && !isLess(numberIn(lower.from), numberIn(upper.to)))
    throw notUnderstood(`${lower.from} … ${upper.to}`, 'has nothing in common')
  const open = (a: string | null, b: string | null, ea: End, eb: End): End =>
    a !== null && b !== null && isSame(numberIn(a), numberIn(b)) && (ea === 'open' || eb === 'open') ? 'open' : 'closed'
  const fromEnd =
    p.from !== null && q.from !== null && isSame(numberIn(p.from), numberIn(q.from))
      ? open(p.from, q.from, p.fromEnd, q.fromEnd)
      : lower.fromEnd
  const toEnd =
    p.to !== null && q.to !== null && isSame(numberIn(p.to), numberIn(q.to))
      ? open(p.to, q.to, p.toEnd, q.toEnd)
      : upper.toEnd
  return { from: lower.from, to: upper.to, fromEnd, toEnd }
}
