import type { GuideSpec } from '../folio/thing'
import {
  applyMove,
  nextMove,
  readEquation,
  verdictOf,
  type Equation,
  type EquationMove,
  type Worked,
} from '../maths/equation'
import { orderOf, squaresOf, writtenAt, type CellText, type GuideLayout, type Move } from './model'

export type EquationSpec = Extract<GuideSpec, { guide: 'equation' }>
/** Lines of working at most. */
const MOST = 30

/**
 * All lines of an equation: the moves that the teacher chose, then those that lead on from there.
 * @throws Trouble `expression-unclear` for a chosen move that cannot be made
 */
export function linesOf({ text, chosen }: Pick<EquationSpec, 'text' | 'chosen'>): { start: Equation; lines: Worked[] } {
  const start = readEquation(text)
  const lines: Worked[] = []
  let here = start
  const make = (move: EquationMove) => {
    const worked = applyMove(here, move)
    lines.push(worked)
    here = worked.after
  }
  chosen.forEach(make)
  for (let move = nextMove(here); move && lines.length < MOST; move = nextMove(here)) make(move)
  return { start, lines }
}

/**
 * An equation or inequality, one line a move, the relation signs below each other, what is done noted beside the line
 * that it is done to.
 * @throws Trouble `expression-unclear`
 */
export function equationLines(spec: Omit<EquationSpec, 'guide'>): GuideLayout {
  const { start, lines } = linesOf(spec)
  const all = [start, ...lines.map(l => l.after)]
  const shown = (side: string) => side.replace(/-/g, '−').replace(/\*/g, '×')
  const left = Math.max(spec.wide?.[0] ?? 0, ...all.map(e => squaresOf(shown(e.left)))) + 1
  const right = Math.max(spec.wide?.[1] ?? 0, ...all.map(e => squaresOf(shown(e.right)))) + 1
  const note = left + 1 + right
  const line = (e: Equation, row: number, role: CellText['role']): CellText[] => {
    const text = shown(e.left)
    return [
      // Right-aligned, so that the signs of relation stand close to their sides.
      writtenAt(left - squaresOf(text), row, text, role),
      { col: left, row, text: e.relation, role },
      writtenAt(left + 1, row, shown(e.right), role),
    ]
  }
  const verdict = verdictOf(all.at(-1)!)
  const moves: Move[] = lines.map((l, i) => ({
    say: l.say,
    cells: [
      ...(l.note ? [writtenAt(note, i, l.note, 'carry')] : []),
      ...line(l.after, i + 1, i === lines.length - 1 && verdict?.solved ? 'answer' : 'working'),
    ],
  }))
  if (verdict && !verdict.solved)
    moves.push({ say: verdict.say, cells: [writtenAt(0, lines.length + 1, verdict.say.split(': ')[1]!, 'answer')] })
  const end = lines.length + 1 + (verdict && !verdict.solved ? 1 : 0)
  return {
    cols: note + Math.max(4, ...lines.map(l => squaresOf(l.note) + 1)),
    rows: end,
    lines: [{ from: [note - 0.3, 0], to: [note - 0.3, Math.max(1, lines.length)] }],
    given: line(start, 0, 'working'),
    moves,
    order: orderOf(moves),
  }
}

/** What a teacher may do next, after so many of its moves: the one that leads on first, then others that can be made. */
export function choicesAt(spec: EquationSpec, done: number): { move: EquationMove; say: string }[] {
  const { start, lines } = linesOf(spec)
  const here = done ? lines[done - 1]?.after : start
  if (!here) return []
  const out: { move: EquationMove; say: string }[] = []
  const offer = (move: EquationMove) => {
    try {
      const { say } = applyMove(here, move)
      if (!out.some(o => o.say === say)) out.push({ move, say: say.split(':')[0]! })
    } catch {
      // A move that cannot be made is not offered.
    }
  }
  const best = nextMove(here)
  if (best) offer(best)
  offer({ move: 'expand' })
  offer({ move: 'collect' })
  for (const side of [here.left, here.right])
    for (const [, sign, term] of side
      .replace(/−/g, '-')
      .matchAll(/(?:^|(?=[-+]))\s*([-+]?)\s*([\d.]*(?:\/\d+)?[a-z]?)(?=\s*(?:[-+]|$))/gi))
      if (term) offer({ move: sign === '-' ? 'add' : 'subtract', by: term })
  for (const [, number] of `${here.left} ${here.right}`.matchAll(/(\d+)(?=[a-z])/gi))
    offer({ move: 'divide', by: number! })
  for (const [, under] of `${here.left} ${here.right}`.matchAll(/\/\s*(\d+)/g)) offer({ move: 'multiply', by: under! })
  offer({ move: 'swap' })
  return out.slice(0, 8)
}

/**
 * A move as it is typed: "-3x", "+ 4", "* 6", ": 2", "expand", "collect", "swap".
 * @throws Trouble `expression-unclear`
 */
export function readMove(text: string): EquationMove | null {
  const plain = text.trim().replace(/[−–]/g, '-')
  const named = /^(expand|collect|swap)$/i.exec(plain)
  if (named) return { move: named[1]!.toLowerCase() as 'expand' | 'collect' | 'swap' }
  const hit = /^([-+*×·:÷/])\s*(.+)$/.exec(plain)
  if (!hit) return null
  const move = hit[1] === '+' ? 'add' : hit[1] === '-' ? 'subtract' : /[*×·]/.test(hit[1]!) ? 'multiply' : 'divide'
  return { move, by: hit[2]!.trim() }
}

/** An equation as it is typed. @throws Trouble `expression-unclear` */
export function readEquationGuide(text: string): EquationSpec {
  const { start, lines } = linesOf({ text: text.trim(), chosen: [] })
  const all = [start, ...lines.map(l => l.after)]
  // What another way may need: a term more than this one.
  const wide = (['left', 'right'] as const).map(side => Math.max(...all.map(e => squaresOf(e[side]))) + 3) as [
    number,
    number,
  ]
  return { guide: 'equation', text: text.trim(), chosen: [], wide }
}
