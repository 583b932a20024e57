import type { GuideSpec } from '../folio/thing'
import { notEnough } from '../folio/trouble'
import { plainSigns } from '../numbers/read'
import { layGuide } from './index'

/** The kinds of guides as a teacher chooses them, each with what is typed for it. */
export const GUIDE_KINDS = [
  { id: 'add', label: 'Columns: add', example: '1275 + 948 + 36' },
  { id: 'subtract', label: 'Columns: subtract', example: '8000 - 2347' },
  { id: 'multiply', label: 'Columns: multiply', example: '318 * 46' },
  { id: 'divide', label: 'Long division', example: '863 : 14' },
  { id: 'area', label: 'Area grid', example: '37 * 24' },
  { id: 'whole', label: 'Bar: parts and whole', example: '3 + 5 + 4' },
  { id: 'equal', label: 'Bar: equal parts', example: '24 in 6' },
  { id: 'compare', label: 'Bar: comparison', example: '12 and 8' },
  { id: 'fraction', label: 'Bar: fraction of a number', example: '3/5 of 40' },
  { id: 'numberLine', label: 'Number line', example: '-5 to 5 by 1; x >= 2' },
  { id: 'strips', label: 'Fraction strips', example: '1/2, 3/4, 5/6' },
  { id: 'factors', label: 'Prime factors', example: '180, 84' },
  { id: 'values', label: 'Table of values', example: 'x^2 - 3 for -2, -1, 0, 1, 2' },
  { id: 'axes', label: 'Coordinate axes', example: 'x -5 to 5, y -5 to 5; (1, 2) (3, 4)' },
  { id: 'elimination', label: 'Elimination grid', example: 'Ana, Ben, Cora | 1 km, 2 km, 3 km' },
  { id: 'balance', label: 'Equation in balance', example: '3x - 4 = 17' },
] as const
export type GuideKind = (typeof GUIDE_KINDS)[number]['id']

const list = (text: string, by: RegExp) =>
  text
    .split(by)
    .map(t => t.trim())
    .filter(Boolean)

/** A column method of two numbers or more. */
const columns = (operation: 'add' | 'subtract' | 'multiply', sign: RegExp, most: number) => (text: string) => {
  const numbers = list(text, sign)
  return numbers.length > 1 ? { guide: 'columns' as const, operation, numbers: numbers.slice(0, most) } : null
}
/** A bar of so many numbers. */
const bar =
  (kind: 'whole' | 'equal' | 'compare' | 'fraction', sign: RegExp, least: number, most: number) => (text: string) => {
    const numbers = list(text, sign)
    return numbers.length >= least ? { guide: 'bar' as const, bar: kind, numbers: numbers.slice(0, most) } : null
  }

/** How each guide is typed; null where something is missing. The compiler asks for a row. */
const READERS: Record<GuideKind, (text: string) => GuideSpec | null> = {
  add: columns('add', /\+/, 12),
  subtract: columns('subtract', /-/, 2),
  multiply: columns('multiply', /[*×x]/, 2),
  divide(text) {
    const hit = /^(\S+)\s*(?::|÷|\/|by|into)\s*(\S+)(?:\s+to\s+(\d{1,2}))?$/.exec(
      text.replace(/(\d)\s+(?=\d{3}\b)/g, '$1'),
    )
    return hit
      ? { guide: 'division', dividend: hit[1]!, divisor: hit[2]!, places: Math.min(50, Number(hit[3] ?? 0)) }
      : null
  },
  area(text) {
    const [a, b] = list(text, /[*×x]/)
    return a && b ? { guide: 'area', a, b } : null
  },
  whole: bar('whole', /\+/, 1, 20),
  equal: bar('equal', /\bin\b|:|÷/, 2, 2),
  compare: bar('compare', /\band\b|,/, 2, 2),
  fraction: bar('fraction', /\bof\b/, 2, 2),
  numberLine,
  strips: text => (text ? { guide: 'strips', fractions: list(text, /[,;]/).slice(0, 12) } : null),
  factors: text => (text ? { guide: 'factors', numbers: list(text, /[,;]/).slice(0, 6) } : null),
  values(text) {
    const [rule, xs] = text.split(/\bfor\b/)
    return rule?.trim() && xs?.trim()
      ? { guide: 'values', rule: rule.replace(/^\s*y\s*=/, '').trim(), xs: list(xs, /[,;]/).slice(0, 20) }
      : null
  },
  axes,
  elimination(text) {
    const [rows, columns] = text.split('|').map(t => list(t, /,/))
    return rows?.length && columns?.length
      ? { guide: 'elimination', rows: rows.slice(0, 10), columns: columns.slice(0, 10) }
      : null
  },
  balance(text) {
    const [left, right, more] = text.split('=').map(t => t.trim())
    return left && right && more === undefined ? { guide: 'balance', left, right } : null
  },
}

/**
 * Reads what was typed for a guide.
 * @throws Trouble `guide-unclear` with an example, or the method's own trouble for its numbers
 */
export function readGuide(kind: GuideKind, text: string): GuideSpec {
  const plain = plainSigns(text).trim()
  const spec = READERS[kind](plain)
  if (!spec) throw notEnough('guide-unclear', text, GUIDE_KINDS.find(k => k.id === kind)!)
  layGuide(spec)
  return spec
}

const RANGE = /(-?[\d./]+)\s*to\s*(-?[\d./]+)(?:\s*by\s*([\d./]+))?/

function numberLine(text: string): GuideSpec | null {
  const [range, ...conditions] = text.split(';')
  const hit = RANGE.exec(range ?? '')
  if (!hit) return null
  const points = conditions
    .flatMap(c => list(c, /,/))
    .flatMap(c => {
      const at = /(<=|>=|≤|≥|<|>|=)?\s*(-?[\d./]+)\s*$/.exec(c)
      if (!at) return []
      const sign = at[1] ?? '='
      return [
        {
          at: at[2]!,
          end: /[=≤≥]/.test(sign) ? ('closed' as const) : ('open' as const),
          ray: /[<≤]/.test(sign) ? ('left' as const) : /[>≥]/.test(sign) ? ('right' as const) : ('none' as const),
        },
      ]
    })
  return { guide: 'numberLine', from: hit[1]!, to: hit[2]!, step: hit[3] ?? '1', points: points.slice(0, 20) }
}

function axes(text: string): GuideSpec | null {
  const x = RANGE.exec(/x\s*([^,;y]*)/.exec(text)?.[1] ?? ''),
    y = RANGE.exec(/y\s*([^;(]*)/.exec(text)?.[1] ?? '')
  if (!x || !y) return null
  const points = [...text.matchAll(/\(\s*(-?[\d./]+)\s*[,;]\s*(-?[\d./]+)\s*\)/g)].map(
    m => [m[1]!, m[2]!] as [string, string],
  )
  return { guide: 'axes', x: [x[1]!, x[2]!, x[3] ?? '1'], y: [y[1]!, y[2]!, y[3] ?? '1'], points: points.slice(0, 60) }
}
