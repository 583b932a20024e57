import type { GuideSpec } from '../folio/thing'
import { notEnough, Trouble } from '../folio/trouble'
import { plainSigns } from '../numbers/read'
import { readArea } from './area'
import { readAxes } from './axes'
import { readColumns } from './columns'
import { readDivision } from './division'
import { readEquationGuide } from './equation'
import { readFactors } from './factors'
import { layGuide } from './index'
import { readLogic } from './logic'
import { readNumberLine } from './numberLine'
import { readPlaceValue } from './placeValue'
import { readRatio } from './ratio'
import { readStrips } from './strips'
import { notUnderstood, numberIn, numbersOf } from './typed'
import { readUnits } from './units'
import { readValues } from './values'

/** What else can be typed for a guide, where that is more than its example says. */
export const GUIDE_HINTS: Partial<Record<string, string>> = {
  divide: '863 : 14, or 14 into 863; then “with remainder”, “as a decimal”, or “to 2 places”.',
  area: 'Two numbers, 37 * 24, or two sums with letters, (x + 2)(x - 3).',
  equation: '3(x - 4) = 2x + 1, x/2 + x/3 = 5, or 5 - 2x < 9. Any next move can be chosen while it is solved.',
  numberLine:
    'Ends if you want them, then what is on it: -5 to 5 by 1; -2 < x <= 3. Also x < -1 or x > 2, [0, 5), x != 2, points 1/2, 3/4, and jumps 7 - 3 + 5.',
  fraction: '3/5 of 40, or 35% of 80.',
  units:
    'Names and their units, a semicolon, and what is known: Ana 3, Ben 5; total 40, or difference 12, or Ana = 15.',
  ratio: '3 : 5 = 12 : ?, or rows: flour 3, 6, ?; sugar 2, ?, 10.',
  strips: '1/2, 3/4 to compare; 1/2 + 3/4 to add.',
  factors: '180, 84; HCF of 180 and 84; LCM of 12 and 18; tree 60.',
  values: 'x^2 - 3 for -2 to 2; 1/x for -1, 0, 1; √x for 0 to 9 by 3.',
  axes: 'x -5 to 5 by 1, y 0 to 100 by 20; (1, 20) (2, 40). Ends can be left out.',
  elimination: 'Categories parted by bars, then clues: Ana, Ben, Cora | dog, cat, fish; Ana = dog; Ben not cat.',
}

/** The kinds of guides as a teacher chooses them, each with what is typed for it. */
export const GUIDE_KINDS = [
  { id: 'add', label: 'Columns: add', example: '1275 + 948 + 36' },
  { id: 'subtract', label: 'Columns: subtract', example: '8000 - 2347' },
  { id: 'multiply', label: 'Columns: multiply', example: '318 * 46' },
  { id: 'divide', label: 'Long division', example: '863 : 14 with remainder' },
  { id: 'placeValue', label: 'Place value', example: '2.35 * 100' },
  { id: 'area', label: 'Area grid', example: '(x + 2)(x - 3)' },
  { id: 'equation', label: 'Equation', example: '3(x - 4) = 2x + 1' },
  { id: 'numberLine', label: 'Number line', example: '-2 < x <= 3' },
  { id: 'whole', label: 'Bar: parts and whole', example: '3 + 5 + 4' },
  { id: 'equal', label: 'Bar: equal parts', example: '24 in 6' },
  { id: 'compare', label: 'Bar: comparison', example: '12 and 8' },
  { id: 'fraction', label: 'Bar: part of a number', example: '3/5 of 40' },
  { id: 'units', label: 'Bars of equal units', example: 'Ana 3, Ben 5; total 40' },
  { id: 'ratio', label: 'Ratio table', example: '3 : 5 = 12 : ?' },
  { id: 'strips', label: 'Fraction strips', example: '1/2 + 3/4' },
  { id: 'factors', label: 'Prime factors', example: 'HCF of 180 and 84' },
  { id: 'values', label: 'Table of values', example: 'x^2 - 3 for -2 to 2' },
  { id: 'axes', label: 'Coordinate axes', example: 'x -5 to 5, y -5 to 5; (1, 2) (3, 4)' },
  { id: 'elimination', label: 'Elimination grid', example: 'Ana, Ben, Cora | dog, cat, fish; Ana = dog' },
] as const
export type GuideKind = (typeof GUIDE_KINDS)[number]['id']

/** How each guide is typed. The compiler asks for a row. @throws Trouble `guide-unclear` names what was not understood */
const READERS: Record<GuideKind, (text: string) => GuideSpec> = {
  add: text => readColumns('add', text),
  subtract: text => readColumns('subtract', text),
  multiply: text => readColumns('multiply', text),
  divide: readDivision,
  placeValue: readPlaceValue,
  area: readArea,
  equation: readEquationGuide,
  numberLine: readNumberLine,
  whole: bar('whole', text => text.split('+')),
  equal: bar('equal', text => text.split(/\bin(?:to)?\b|:|÷/)),
  compare: bar('compare', text => numbersOf(text)),
  fraction: bar('fraction', text => text.split(/\bof\b/)),
  units: readUnits,
  ratio: readRatio,
  strips: readStrips,
  factors: readFactors,
  values: readValues,
  axes: readAxes,
  elimination: readLogic,
}

/** A bar of so many numbers; those of a part may be per cent. */
function bar(kind: 'whole' | 'equal' | 'compare' | 'fraction', parted: (text: string) => string[]) {
  const [least, most] = kind === 'whole' ? [1, 20] : [2, 2]
  return (text: string): GuideSpec => {
    const numbers = parted(plainSigns(text)).map(t => t.trim())
    if (numbers.length < least!) throw notUnderstood(text || ' ', 'has a number missing')
    if (numbers.length > most!) throw notUnderstood(numbers.slice(most).join(', '), 'is more than this bar holds')
    numbers.forEach((n, i) => numberIn(kind === 'fraction' && i === 0 ? n.replace(/\s*%$/, '') : n))
    return { guide: 'bar', bar: kind, numbers }
  }
}

/**
 * Reads what was typed for a guide. All of it is read, or what was not understood is named.
 * @throws Trouble `guide-unclear`, or the method's own trouble for its numbers
 */
export function readGuide(kind: GuideKind, text: string): GuideSpec {
  const plain = text.trim()
  if (!plain) throw notEnough('guide-unclear', text, GUIDE_KINDS.find(k => k.id === kind)!)
  const spec = READERS[kind](plain)
  layGuide(spec)
  return spec
}

/** By what is typed, which kinds come first where several could read it. */
const SIGNS_OF: readonly (readonly [RegExp, GuideKind])[] = [
  [/\|/, 'elimination'],
  [/^(?:hcf|gcd|gcf|lcm|(?:factor )?trees?|highest|least|lowest)\b/i, 'factors'],
  [/\b(?:for|from)\b.*\d/i, 'values'],
  [/^[a-z]\s*[:=]?\s*-?[\d.,/]+\s+to\b/i, 'axes'],
  [/^\s*\([^()]*,[^()]*\)/, 'axes'],
  [/\bto\b.*(?:;|$)/i, 'numberLine'],
  [/^[^;]*;\s*(?:total|altogether|difference|all|\p{L})/iu, 'units'],
  [/[?]/, 'ratio'],
  [/\bof\b/i, 'fraction'],
  [/^-?[\d./\s]+[a-z]?\s*(?:[<>≤≥≠⩽⩾]|<=|>=|=>|=<|!=)\s*-?\d*[a-z]?\b\s*-?[\d./\s]*(?:[<>≤≥].*)?$/i, 'numberLine'],
  [/^[a-z]\s*(?:[<>≤≥≠⩽⩾]|<=|>=|=>|=<|!=)\s*-?[\d./\s]+(?:$|,|\bor\b|\band\b|;)/i, 'numberLine'],
  [/[=<>≤≥]/, 'equation'],
  [/\(.*[a-z].*\)|[a-z].*\*.*[a-z]/i, 'area'],
  [/\bin\b/i, 'equal'],
  [/(?:[*×x·:÷/]\s*10+|[*×]\s*10\^\d)\s*$/i, 'placeValue'],
  [/:|÷|\binto\b|\bdivided\b|\bremainder\b|\bby\b/i, 'divide'],
  [/\d\s*[*×x·]\s*[\d.]/i, 'multiply'],
  [/\d\s*\/\s*\d.*[+,]/, 'strips'],
  [/\+/, 'add'],
  [/\d\s*-\s*\d/, 'subtract'],
  [/\band\b/i, 'compare'],
  [/^\d+(?:\s*,\s*\d+)*$/, 'factors'],
]

/**
 * The kind of guide that is meant by what was typed: the likeliest that reads it; where none of the likely ones does,
 * the first of them, so that its trouble is told.
 * @returns null where nothing tells
 */
export function kindOf(text: string): GuideKind | null {
  const plain = plainSigns(text).trim()
  const likely = likelyOf(plain)
  return likely.find(k => reads(k, plain)) ?? likely[0] ?? GUIDE_KINDS.find(k => reads(k.id, plain))?.id ?? null
}

const likelyOf = (plain: string) => SIGNS_OF.filter(([pattern]) => pattern.test(plain)).map(([, kind]) => kind)

function reads(kind: GuideKind, plain: string): boolean {
  try {
    readGuide(kind, plain)
    return true
  } catch (error) {
    if (error instanceof Trouble) return false
    throw error
  }
}

/**
 * The kinds of guide that can read what was typed, the likeliest first; empty where none can.
 * @example kindsOf('8000 - 2347')[0] // 'subtract'
 */
export function kindsOf(text: string): GuideKind[] {
  const plain = plainSigns(text).trim()
  return [...new Set([...likelyOf(plain), ...GUIDE_KINDS.map(k => k.id)])].filter(kind => reads(kind, plain))
}
