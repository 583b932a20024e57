/** A unit as it is worked with: how many of the base units of its kind it is, and of which kind that is. */
export interface Unit {
  factor: number
  /** Base units with their powers, in order: "m1 s-1". Units of one kind have the same. */
  kind: string
}

type Powers = Readonly<Record<string, number>>

/** Units by symbol and names, in base units (SI Brochure, 9th edition: tables 2, 4 and 8). The first take prefixes. */
const PREFIXED: [symbol: string, names: string, factor: number, of: Powers][] = [
  ['m', 'metre meter', 1, { m: 1 }],
  ['g', 'gram gramme', 1e-3, { kg: 1 }],
  ['s', 'second sec', 1, { s: 1 }],
  ['A', 'ampere amp', 1, { A: 1 }],
  ['K', 'kelvin', 1, { K: 1 }],
  ['mol', 'mole', 1, { mol: 1 }],
  ['N', 'newton', 1, { kg: 1, m: 1, s: -2 }],
  ['Pa', 'pascal', 1, { kg: 1, m: -1, s: -2 }],
  ['J', 'joule', 1, { kg: 1, m: 2, s: -2 }],
  ['W', 'watt', 1, { kg: 1, m: 2, s: -3 }],
  ['C', 'coulomb', 1, { A: 1, s: 1 }],
  ['V', 'volt', 1, { kg: 1, m: 2, s: -3, A: -1 }],
  ['Ω', 'ohm', 1, { kg: 1, m: 2, s: -3, A: -2 }],
  ['Hz', 'hertz', 1, { s: -1 }],
  ['L', 'litre liter', 1e-3, { m: 3 }],
  ['l', '', 1e-3, { m: 3 }],
  ['bar', 'bar', 1e5, { kg: 1, m: -1, s: -2 }],
]
const WHOLE: [symbol: string, names: string, factor: number, of: Powers][] = [
  ['min', 'minute', 60, { s: 1 }],
  ['h', 'hour hr', 3600, { s: 1 }],
  ['d', 'day', 86_400, { s: 1 }],
  ['t', 'tonne', 1000, { kg: 1 }],
  ['ha', 'hectare', 1e4, { m: 2 }],
  ['°C', '', 1, { '°C': 1 }],
  ['°', 'degree', 1, { '°': 1 }],
  ['%', 'percent', 1, { '%': 1 }],
]
const PREFIXES: [symbol: string, name: string, factor: number][] = [
  ['G', 'giga', 1e9],
  ['M', 'mega', 1e6],
  ['k', 'kilo', 1e3],
  ['h', 'hecto', 100],
  ['d', 'deci', 0.1],
  ['c', 'centi', 0.01],
  ['m', 'milli', 1e-3],
  ['µ', 'micro', 1e-6],
  ['n', 'nano', 1e-9],
]

const named = (names: string, text: string) => {
  const plain = text.toLowerCase()
  return names.split(' ').some(n => n !== '' && (plain === n || plain === `${n}s`))
}

/** One unit without a power: its symbol as it is written, or its name in any case, with a prefix or without. */
function single(text: string): { factor: number; of: Powers } | null {
  for (const [symbol, names, factor, of] of [...PREFIXED, ...WHOLE])
    if (text === symbol || named(names, text)) return { factor, of }
  for (const [symbol, names, factor, of] of PREFIXED)
    for (const [prefix, name, by] of PREFIXES) {
      const isNamed = text.toLowerCase().startsWith(name) && named(names, text.slice(name.length))
      if (text === prefix + symbol || isNamed) return { factor: factor * by, of }
    }
  return null
}

const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹'

/**
 * A unit as it is typed: symbols or names, with prefixes, powers and one stroke.
 * @returns null for what is no unit that is known: nothing is guessed
 * @example readUnit('km/h') // { factor: 0.2777…, kind: 'm1 s-1' }; also 'metres', 'cm²', 'm s^-1', 'kilometres per hour'
 */
export function readUnit(text: string): Unit | null {
  const plain = text
    .trim()
    // Letters that have two codes: micro and the Greek mu, ohm and the Greek omega.
    .replace(/μ/g, 'µ')
    .replace(/\u2126/g, 'Ω')
    .replace(/\bper\b/gi, '/')
    .replace(/[⁻⁰¹²³⁴⁵⁶⁷⁸⁹]+/g, p => `^${[...p].map(c => (c === '⁻' ? '-' : RAISED.indexOf(c))).join('')}`)
    .replace(/\bsquare\s+(\p{L}+)/giu, '$1^2')
    .replace(/\bcubic\s+(\p{L}+)/giu, '$1^3')
  const [over, under, ...more] = plain.split('/')
  if (!over?.trim() || more.length || under?.trim() === '') return null
  const powers = new Map<string, number>()
  let factor = 1
  for (const [part, sign] of [
    [over, 1],
    [under ?? '', -1],
  ] as const)
    for (const word of part.split(/[\s·*⋅]+/).filter(Boolean)) {
      const m = /^([\p{L}°%]+)(?:\^?([-−]?\d))?$/u.exec(word)
      const unit = m && single(m[1]!)
      if (!unit) return null
      const power = sign * Number((m[2] ?? '1').replace('−', '-'))
      factor *= unit.factor ** power
      for (const [base, p] of Object.entries(unit.of)) powers.set(base, (powers.get(base) ?? 0) + p * power)
    }
  const kind = [...powers].filter(([, p]) => p !== 0).map(([base, p]) => `${base}${p}`)
  return { factor, kind: kind.sort().join(' ') }
}
