import type { ReferenceSheet } from './model'

/** NIST Special Publication 811 (2008), Appendix B: conversion factors, exact where marked =. */
const SP811 = 'NIST SP 811 (2008), Appendix B'

/** A unit outside SI, its SI unit, and the factor; `exact` when the factor is so by definition. */
export interface Conversion {
  unit: string
  symbol: string
  factor: number
  si: string
  exact: boolean
  kind: string
}

export const CONVERSIONS: readonly Conversion[] = [
  ['inch', 'in', 25.4, 'mm', true, 'Length'],
  ['foot', 'ft', 0.3048, 'm', true, 'Length'],
  ['yard', 'yd', 0.9144, 'm', true, 'Length'],
  ['mile', 'mi', 1.609344, 'km', true, 'Length'],
  ['nautical mile', 'M', 1.852, 'km', true, 'Length'],
  ['square inch', 'in²', 6.4516, 'cm²', true, 'Area'],
  ['square foot', 'ft²', 0.09290304, 'm²', true, 'Area'],
  ['acre (43 560 ft²)', 'acre', 4046.8564224, 'm²', true, 'Area'],
  ['square mile', 'mi²', 2.589988110336, 'km²', true, 'Area'],
  ['hectare', 'ha', 10000, 'm²', true, 'Area'],
  ['teaspoon', 'tsp', 4.92892159375, 'mL', true, 'Volume'],
  ['tablespoon', 'tbsp', 14.78676478125, 'mL', true, 'Volume'],
  ['fluid ounce (US)', 'fl oz', 29.5735295625, 'mL', true, 'Volume'],
  ['cup (US)', 'cup', 236.5882365, 'mL', true, 'Volume'],
  ['pint (US)', 'pt', 473.176473, 'mL', true, 'Volume'],
  ['quart (US)', 'qt', 0.946352946, 'L', true, 'Volume'],
  ['gallon (US)', 'gal', 3.785411784, 'L', true, 'Volume'],
  ['ounce', 'oz', 28.349523125, 'g', true, 'Mass'],
  ['pound', 'lb', 0.45359237, 'kg', true, 'Mass'],
  ['ton (short, 2000 lb)', 'ton', 907.18474, 'kg', true, 'Mass'],
  ['tonne', 't', 1000, 'kg', true, 'Mass'],
  ['mile per hour', 'mi/h', 0.44704, 'm/s', true, 'Speed'],
  ['kilometre per hour', 'km/h', 1 / 3.6, 'm/s', false, 'Speed'],
  ['knot', 'kn', 1852 / 3600, 'm/s', false, 'Speed'],
  ['pound-force', 'lbf', 4.4482216152605, 'N', true, 'Force, pressure, energy'],
  ['pound-force per square inch', 'psi', 6894.757293168, 'Pa', false, 'Force, pressure, energy'],
  ['standard atmosphere', 'atm', 101325, 'Pa', true, 'Force, pressure, energy'],
  ['bar', 'bar', 100000, 'Pa', true, 'Force, pressure, energy'],
  ['millimetre of mercury', 'mmHg', 133.322387415, 'Pa', false, 'Force, pressure, energy'],
  ['calorie (thermochemical)', 'cal', 4.184, 'J', true, 'Force, pressure, energy'],
  ['kilowatt hour', 'kWh', 3600000, 'J', true, 'Force, pressure, energy'],
  ['horsepower (550 ft·lbf/s)', 'hp', 745.6998715822702, 'W', false, 'Force, pressure, energy'],
].map(([unit, symbol, factor, si, exact, kind]) => ({ unit, symbol, factor, si, exact, kind }) as Conversion)

/** A number with groups of three figures, as SI writes them: 3.785 411 784. */
export function grouped(n: number, figures = 15): string {
  const [whole, part = ''] = Number(n.toPrecision(figures)).toString().split('.')
  const left = whole!.length > 4 ? whole!.replace(/\B(?=(\d{3})+$)/g, ' ') : whole!
  return part ? `${left}.${part.length > 4 ? part.replace(/(\d{3})(?=\d)/g, '$1 ') : part}` : left
}

const PREFIXES: [string, string, number][] = [
  ['giga', 'G', 9],
  ['mega', 'M', 6],
  ['kilo', 'k', 3],
  ['hecto', 'h', 2],
  ['deca', 'da', 1],
  ['deci', 'd', -1],
  ['centi', 'c', -2],
  ['milli', 'm', -3],
  ['micro', 'µ', -6],
  ['nano', 'n', -9],
  ['pico', 'p', -12],
]
const SUPER = '⁰¹²³⁴⁵⁶⁷⁸⁹'
/** 10 to a power, in raised figures. */
export const power = (n: number) =>
  `10${n < 0 ? '⁻' : ''}${[...String(Math.abs(n))].map(d => SUPER[Number(d)]).join('')}`

const DERIVED: [string, string, string, string][] = [
  ['force', 'newton', 'N', 'kg·m/s²'],
  ['pressure', 'pascal', 'Pa', 'N/m²'],
  ['energy', 'joule', 'J', 'N·m'],
  ['power', 'watt', 'W', 'J/s'],
  ['charge', 'coulomb', 'C', 'A·s'],
  ['voltage', 'volt', 'V', 'J/C'],
  ['resistance', 'ohm', 'Ω', 'V/A'],
  ['frequency', 'hertz', 'Hz', '1/s'],
  ['Celsius temperature', 'degree Celsius', '°C', 't/°C = T/K − 273.15'],
]

export const UNITS: ReferenceSheet = {
  id: 'units',
  title: 'Units and conversions',
  sections: [
    ...[...new Set(CONVERSIONS.map(c => c.kind))].map(kind => ({
      id: kind.toLowerCase().replace(/[^a-z]+/g, '-'),
      title: kind,
      source: SP811,
      head: ['1 unit', '', 'in SI units'],
      rows: CONVERSIONS.filter(c => c.kind === kind).map(c => [
        `1 ${c.symbol}`,
        c.unit,
        `${c.exact ? '=' : '≈'} ${grouped(c.factor, c.exact ? 15 : 7)} ${c.si}`,
      ]),
    })),
    {
      id: 'temperature',
      title: 'Temperature',
      source: SP811,
      head: ['', '', ''],
      rows: [
        ['°F to °C', '', 't/°C = (t/°F − 32)/1.8'],
        ['°C to °F', '', 't/°F = 1.8·(t/°C) + 32'],
        ['°C to K', '', 'T/K = t/°C + 273.15'],
      ],
    },
    {
      id: 'us',
      title: 'US customary among themselves',
      source: 'NIST Handbook 44, Appendix C',
      head: ['', '', ''],
      rows: [
        ['1 ft', 'foot', '= 12 in'],
        ['1 yd', 'yard', '= 3 ft'],
        ['1 mi', 'mile', '= 5280 ft'],
        ['1 lb', 'pound', '= 16 oz'],
        ['1 ton', 'short ton', '= 2000 lb'],
        ['1 gal', 'gallon', '= 4 qt = 8 pt = 16 cups = 128 fl oz'],
        ['1 cup', 'cup', '= 8 fl oz = 16 tbsp'],
        ['1 tbsp', 'tablespoon', '= 3 tsp'],
      ],
    },
    {
      id: 'prefixes',
      title: 'SI prefixes',
      source: 'NIST SP 811 (2008), Table 5',
      head: ['prefix', 'sign', 'factor'],
      rows: PREFIXES.map(([name, sign, n]) => [name, sign, power(n)]),
    },
    {
      id: 'derived',
      title: 'Derived SI units',
      source: 'NIST SP 811 (2008), Table 3',
      head: ['quantity', 'unit', 'in other units'],
      rows: DERIVED.map(([quantity, unit, sign, of]) => [quantity, `${unit}, ${sign}`, of]),
    },
  ],
}
