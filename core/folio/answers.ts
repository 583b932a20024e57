import { numeralValue, readNumeral } from '../numbers/read'
import type { Folio, Question } from './model'

/** An expected answer as it is understood. Tolerance in the unit of the value. */
export type Answer =
  | { kind: 'none' }
  | { kind: 'option'; label: string }
  | { kind: 'number'; value: number; tolerance: number; unit: string }
  | { kind: 'expression'; text: string }
  | { kind: 'words'; text: string }

const NUMBER = '[-−+]?\\d[\\d\\s\\u00A0]*(?:[.,]\\d+)?(?:\\s*[×x*·]\\s*10\\s*\\^?\\s*[-−]?\\d+|e[-+]?\\d+)?'
const FULL = new RegExp(
  `^(?:[a-zA-Z]\\w?\\s*=\\s*)?(${NUMBER})\\s*(?:(?:±|\\+/-|\\+-)\\s*(${NUMBER})\\s*(%?))?\\s*([\\p{L}°%€$£µμΩ/²³⁻¹·^\\d\\s-]{0,20})$`,
  'u',
)

/** A number in any of the ways in which it is written; NaN for what is none. @example readNumber('1 250,5') // 1250.5 */
export function readNumber(text: string): number {
  const numeral = readNumeral(text)
  return numeral ? numeralValue(numeral) : Number.NaN
}

/**
 * Understands a typed answer: a letter among the options, "19.5 m ± 0.5" or "40 ± 2 %", or an expression; everything
 * else is words.
 * @param options labels of the question's options
 * @example readAnswer('19.5 m ± 0.5') // { kind: 'number', value: 19.5, tolerance: 0.5, unit: 'm' }
 */
export function readAnswer(text: string, options: readonly string[] = []): Answer {
  const trimmed = text.trim()
  if (!trimmed) return { kind: 'none' }
  const label = options.find(o => o.toLowerCase() === trimmed.replace(/[().]/g, '').toLowerCase())
  if (label) return { kind: 'option', label }
  // The tolerance may stand behind the unit: "19.5 m ± 0.5".
  const moved = trimmed.replace(
    /^(.*?\d)\s*([\p{L}°%µμΩ/²³⁻¹·]+)\s*(±|\+\/-|\+-)\s*([\d.,]+)\s*([\p{L}%°]*)$/u,
    (_, value: string, unit: string, __, by: string, of: string) =>
      of === '%' && unit !== '%' ? `${value} ± ${by}% ${unit}` : `${value} ± ${by} ${unit}`,
  )
  const m = FULL.exec(moved)
  if (m) {
    const value = readNumber(m[1]!),
      by = m[2] ? readNumber(m[2]) : 0
    if (Number.isFinite(value) && Number.isFinite(by))
      return {
        kind: 'number',
        value,
        tolerance: m[3] ? (Math.abs(value) * by) / 100 : Math.abs(by),
        unit: m[4]!.trim(),
      }
  }
  return /[=+*/^()√]|\d\p{L}|\p{L}\d/u.test(trimmed) && !/\p{L}{4,}\s\p{L}{2,}/u.test(trimmed)
    ? { kind: 'expression', text: trimmed }
    : { kind: 'words', text: trimmed }
}

/** One line of a list of answers: which question or part, and the answer. */
export interface KeyLine {
  number: string
  part: string
  answer: string
  marks: number | null
}

/** What a list says, and the lines that could not be read, with the number of the line (from 1) and why. */
export interface KeyList {
  lines: KeyLine[]
  problems: { line: number; text: string; why: string }[]
}

/**
 * "3b(ii)", "Q3 (b)", "3.b", "1.2" taken apart into number and part; null for what is no place.
 * @example readPlace('Q3 (b)') // { number: '3', part: 'b' }
 */
export function readPlace(text: string): { number: string; part: string } | null {
  const m =
    /^\s*(?:[Qq](?:uestion)?\.?\s*|Aufgabe\s*|Ejercicio\s*|Exercice\s*)?(\d{1,3}(?:\.\d{1,2})*|[IVX]{2,5}|[A-Z])\s*[.):]?\s*((?:\(?[a-z]{1,4}\)?\s*[.)]?\s*){0,2})$/.exec(
      text,
    )
  if (!m) return null
  const signs = m[2]!.match(/[a-z]+/gi) ?? []
  // "3ii" is part ii, "3bii" is not taken apart by guess.
  return { number: m[1]!, part: signs.map((s, i) => (i === 0 ? s.toLowerCase() : `(${s.toLowerCase()})`)).join('') }
}

/**
 * A pasted list, one answer a line: "1. B", "2a) 17 cm ± 0.5", "3 = 4x+1". Empty lines are passed over; "1. B  2. C  3.
 * A" on one line is read as three.
 * @example readKeyText('1. B').lines // [{ number: '1', part: '', answer: 'B', marks: null }]
 */
export function readKeyText(text: string): KeyList {
  const list: KeyList = { lines: [], problems: [] }
  text.split(/\r?\n/).forEach((raw, i) => {
    if (!raw.trim()) return
    const row = [...raw.matchAll(/(?:^|\s{2,}|\t)(\d{1,3})[.):]?\s+([A-Za-z])(?=\s{2,}|\t|$)/g)]
    if (row.length > 1) {
      for (const m of row) list.lines.push({ number: m[1]!, part: '', answer: m[2]!, marks: null })
      return
    }
    const m =
      /^\s*((?:q(?:uestion)?\.?\s*)?(?:\d{1,3}(?:\.\d{1,2})*|[A-Z](?=[.):\s]))(?:\s*[.)]?\s*\(?[a-z]{1,4}\)|[a-z]{1,2}(?=[\s().:]))?(?:\s*\([ivx]+\))?)\s*[.):=\t–—-]*\s+(.+)$/i.exec(
        raw,
      ) ?? /^\s*(\d{1,3}[a-z]?)\s*[.):=]\s*(.+)$/i.exec(raw)
    const place = m ? readPlace(m[1]!) : null
    if (m && place) list.lines.push({ ...place, answer: m[2]!.trim(), marks: null })
    else
      list.problems.push({
        line: i + 1,
        text: raw.trim().slice(0, 80),
        why: "it does not begin with a question's number",
      })
  })
  return list
}

/**
 * Rows of a table (CSV) as answers. A heading row is recognised by its words; without one the columns are number,
 * answer, marks.
 * @param rows cells by row @param first number of the first row in the file, for messages
 */
export function readKeyRows(rows: readonly (readonly string[])[], first = 1): KeyList {
  const list: KeyList = { lines: [], problems: [] }
  const is = (cell: string | undefined, words: RegExp) => words.test((cell ?? '').trim())
  const head = rows[0]?.some(c => is(c, /^(answers?|solution|lösung|respuesta|réponse)$/i)) ? rows[0] : null
  const column = (words: RegExp, otherwise: number) => (head ? head.findIndex(c => is(c, words)) : otherwise)
  const number = column(/^(q|no\.?|nr\.?|number|question|aufgabe|pregunta)$/i, 0),
    part = column(/^part|teil$/i, -1),
    answer = column(/^(answers?|solution|lösung|respuesta|réponse)$/i, 1),
    marks = column(/^(marks?|points?|punkte|puntos)$/i, 2)
  rows.slice(head ? 1 : 0).forEach((row, i) => {
    const at = first + i + (head ? 1 : 0),
      text = row.join(', ').slice(0, 80)
    if (row.every(c => !c.trim())) return
    const place = readPlace(`${row[number < 0 ? 0 : number] ?? ''}${part >= 0 ? ` ${row[part]}` : ''}`)
    const worth = marks >= 0 && row[marks]?.trim() ? readNumber(row[marks]!) : null
    if (!place) list.problems.push({ line: at, text, why: "the first column is not a question's number" })
    else if (!row[answer]?.trim()) list.problems.push({ line: at, text, why: 'there is no answer in it' })
    else if (worth !== null && !(worth >= 0 && worth < 1000))
      list.problems.push({ line: at, text, why: `“${row[marks]}” is not a number of marks` })
    else list.lines.push({ ...place, answer: row[answer]!.trim(), marks: worth })
  })
  return list
}

const same = (a: string, b: string) =>
  a.replace(/[^\p{L}\d.]/gu, '').toLowerCase() === b.replace(/[^\p{L}\d.]/gu, '').toLowerCase()

/** Writes answers into a folio's questions. @returns lines for which the folio has no question or part */
export function applyKey(folio: Folio, lines: readonly KeyLine[]): KeyLine[] {
  return lines.filter(line => {
    const question = folio.questions.find(q => same(q.number, line.number))
    const part = question && line.part ? question.parts.find(p => same(p.label, line.part)) : undefined
    if (!question || (line.part && !part)) return true
    if (part) {
      part.answer = line.answer.slice(0, 500)
      if (line.marks !== null) part.marks = line.marks
    } else {
      question.answer = line.answer.slice(0, 500)
      if (line.marks !== null) question.marks = line.marks
    }
    return false
  })
}

/** Marks of a question: its own, or those of its parts together; null when none are known. */
export function marksOf(question: Question): number | null {
  if (question.marks !== null) return question.marks
  const leaves = question.parts.filter((p, i) => !question.parts[i + 1]?.label.startsWith(`${p.label}(`))
  return leaves.some(p => p.marks !== null) ? leaves.reduce((n, p) => n + (p.marks ?? 0), 0) : null
}

/** Target time of a question in minutes: its own, or a minute a mark as the folio sets it; null without marks. */
export function targetMinutes(question: Question, folio: Pick<Folio, 'minutesAMark'>): number | null {
  const marks = marksOf(question)
  return question.minutes ?? (marks === null ? null : marks * folio.minutesAMark)
}

/** Whether a question has all the answers it needs: its own, or one for every part that has no sub-parts. */
export function isAnswered(question: Question): boolean {
  if (question.answer.trim()) return true
  const leaves = question.parts.filter((p, i) => !question.parts[i + 1]?.label.startsWith(`${p.label}(`))
  return leaves.length > 0 && leaves.every(p => p.answer.trim())
}
