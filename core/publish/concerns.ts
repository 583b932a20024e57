import type { Edition } from '../edition'
import { readAnswer } from '../folio/answers'
import { questionName, type Handed, type Question } from '../folio/model'
import type { Thing } from '../folio/thing'
import { readNumeral, numeralValue } from '../numbers'
import type { Board } from '../recording/board'

/** Something of a question that is worth a look before students get it; it does not keep it from them. */
export interface Concern {
  questionId: string
  /** Which kind, so that one that she has looked at is not asked about again. */
  kind: 'silent' | 'empty' | 'fuller' | 'shorter' | 'answer' | 'steps'
  /** With the question's name. */
  text: string
  /** Where to look, lesson ms. */
  at: number
}

/** Steps are asked for in what is longer than this, ms. */
const LONG = 30_000
/** A board was fuller before when it held so many times as much, and more than this. */
const FULLER = 2
const LITTLE = 4

/**
 * What is worth a look before a question goes out.
 * @param soundless nothing is heard in it
 * @param had what students have of it, where that is known
 */
export function concernsOf(
  question: Question,
  edition: Edition,
  soundless: boolean,
  had?: Pick<Handed, 'ms' | 'steps'>,
): Concern[] {
  const out: Concern[] = []
  const say = (kind: Concern['kind'], says: string, at = 0) =>
    out.push({ questionId: question.id, kind, text: `${questionName(question)} ${says}`, at })
  const { duration } = edition
  const { steps } = edition.time
  const last = edition.boardAt(duration)
  const most = fullest(edition)
  if (soundless) say('silent', 'has no sound.')
  if (!amountOn(last)) say('empty', 'ends with an empty board.', duration)
  else if (most.amount > LITTLE && most.amount > FULLER * amountOn(last))
    say('fuller', 'ends with a board that was fuller before.', most.t)
  if (had?.ms !== undefined && duration * 3 < had.ms)
    say('shorter', 'is shorter than a third of what students have now.', duration)
  const unshown = unshownAnswer(question, last)
  if (unshown && amountOn(last)) say('answer', unshown, duration)
  if (steps.length < 2 && (duration > LONG || (had?.steps ?? 0) > 2)) say('steps', 'has no steps: it is all one.')
  return out
}

const amountOn = (board: Board) => board.strokes.length + board.things.length

/** When there is most on the board that is in front at the end. */
function fullest(edition: Edition): { t: number; amount: number } {
  const page = edition.boardAt(edition.duration).frame?.pageId
  return edition.time.steps
    .map(s => ({ t: s.to, amount: amountOn(edition.board.at(s.to - 1, page)) }))
    .reduce((a, b) => (b.amount > a.amount ? b : a), { t: 0, amount: 0 })
}

/** What of the answer key a board does not show, in words; ink is not read, but what is written as an answer counts. */
function unshownAnswer(question: Question, board: Board): string {
  const things = board.things.map(t => t.thing)
  const isMarked =
    board.strokes.some(s => s.stroke.role === 'answer') || things.some(t => 'role' in t && t.role === 'answer')
  const key = readAnswer(
    question.answer,
    question.options.map(o => o.label),
  )
  if (key.kind === 'option') {
    const marked = things.flatMap(t => (t.kind === 'option' && t.state === 'answer' ? [t.label] : []))
    if (marked.includes(key.label)) return ''
    if (marked.length) return `marks ${marked.join(' and ')} as the answer; the key says ${key.label}.`
    return isMarked ? '' : `does not mark ${key.label}, which the key says, as the answer.`
  }
  const missing = [question.answer, ...question.parts.map(p => p.answer)].filter(
    a => a.trim() && !isMarked && !says(things, a),
  )
  return missing.length ? `does not show the answer that the key has: ${missing.join('; ')}.` : ''
}

/** Whether anything typed on a board says an answer: its number, or its words. */
function says(things: readonly Thing[], answer: string): boolean {
  const said = things.flatMap(t => ('source' in t ? [t.source] : 'text' in t ? [String(t.text)] : [])).join('\n')
  const plain = (text: string) => text.toLowerCase().replace(/[\s*·]/g, '')
  if (plain(said).includes(plain(answer))) return true
  const key = readAnswer(answer)
  if (key.kind !== 'number') return false
  const numbers = said.match(/[-−]?\d[\d\s.,]*\d|\d/g) ?? []
  return numbers.some(text => {
    const numeral = readNumeral(text.trim())
    return numeral !== null && Math.abs(numeralValue(numeral) - key.value) <= key.tolerance + 1e-9
  })
}
