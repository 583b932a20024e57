import type { GuideSpec } from '../folio/thing'
import { notEnough } from '../folio/trouble'
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

/**
 * Reads what was typed for a guide.
 * @throws Trouble `guide-unclear` with an example, or the method's own trouble for its numbers
 */
export function readGuide(kind: GuideKind, text: string): GuideSpec {
  const plain = text.replace(/[−–]/g, '-').trim()
  const spec = parse(kind, plain)
  if (!spec) throw notEnough('guide-unclear', text, GUIDE_KINDS.find(k => k.id === kind)!)
  layGuide(spec)
  return spec
}

function parse(kind: GuideKind, text: string): GuideSpec | null {
  switch (kind) {
    case 'add':
    case 'subtract':
    case 'multiply': {
      const numbers = list(text, { add: /\+/, subtract: /-/, multiply: /[*×x]/ }[kind])
      return numbers.length > 1
        ? { guide: 'columns', operation: kind, numbers: kind === 'add' ? numbers.slice(0, 12) : numbers.slice(0, 2) }
        : null
    }
    case 'divide': {
      const hit = /^(\S+)\s*(?::|÷|\/|by|into)\s*(\S+)(?:\s+to\s+(\d{1,2}))?$/.exec(
        text.replace(/(\d)\s+(?=\d{3}\b)/g, '$1'),
      )
      return hit
        ? { guide: 'division', dividend: hit[1]!, divisor: hit[2]!, places: Math.min(50, Number(hit[3] ?? 0)) }
        : null
    }
    case 'area': {
      const [a, b] = list(text, /[*×x]/)
      return a && b ? { guide: 'area', a, b } : null
    }
    case 'whole':
    case 'equal':
    case 'compare':
    case 'fraction': {
      const numbers = list(text, { whole: /\+/, equal: /\bin\b|:|÷/, compare: /\band\b|,/, fraction: /\bof\b/ }[kind])
      return numbers.length >= (kind === 'whole' ? 1 : 2)
        ? { guide: 'bar', bar: kind, numbers: kind === 'whole' ? numbers.slice(0, 20) : numbers.slice(0, 2) }
        : null
    }
    case 'numberLine':
      return numberLine(text)
    case 'strips':
      return text ? { guide: 'strips', fractions: list(text, /[,;]/).slice(0, 12) } : null
    case 'factors':
      return text ? { guide: 'factors', numbers: list(text, /[,;]/).slice(0, 6) } : null
    case 'values': {
      const [rule, xs] = text.split(/\bfor\b/)
      return rule?.trim() && xs?.trim()
        ? { guide: 'values', rule: rule.replace(/^\s*y\s*=/, '').trim(), xs: list(xs, /[,;]/).slice(0, 20) }
        : null
    }
    case 'axes':
      return axes(text)
    case 'elimination': {
      const [rows, columns] = text.split('|').map(t => list(t, /,/))
      return rows?.length && columns?.length
        ? { guide: 'elimination', rows: rows.slice(0, 10), columns: columns.slice(0, 10) }
        : null
    }
    case 'balance': {
      const [left, right, more] = text.split('=').map(t => t.trim())
      return left && right && more === undefined ? { guide: 'balance', left, right } : null
    }
  }
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
