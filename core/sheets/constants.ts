import type { ReferenceSheet } from './model'
import { grouped, power } from './units'

/** A constant: its value as mantissa and power of ten, the uncertainty in the last figures (empty when exact). */
export interface Constant {
  name: string
  symbol: string
  mantissa: string
  exponent: number
  uncertainty: string
  unit: string
}

/** CODATA recommended values of the fundamental physical constants, 2022; exact ones by the SI of 2019. */
export const CONSTANTS: readonly Constant[] = [
  ['speed of light in vacuum', 'c', '2.99792458', 8, '', 'm/s'],
  ['Planck constant', 'h', '6.62607015', -34, '', 'J·s'],
  ['elementary charge', 'e', '1.602176634', -19, '', 'C'],
  ['Boltzmann constant', 'k', '1.380649', -23, '', 'J/K'],
  ['Avogadro constant', 'Nᴀ', '6.02214076', 23, '', '1/mol'],
  ['molar gas constant', 'R', '8.314462618', 0, '', 'J/(mol·K)'],
  ['Faraday constant', 'F', '9.648533212', 4, '', 'C/mol'],
  ['Stefan–Boltzmann constant', 'σ', '5.670374419', -8, '', 'W/(m²·K⁴)'],
  ['standard acceleration of gravity', 'gₙ', '9.80665', 0, '', 'm/s²'],
  ['standard atmosphere', 'atm', '1.01325', 5, '', 'Pa'],
  ['Newtonian constant of gravitation', 'G', '6.67430', -11, '15', 'm³/(kg·s²)'],
  ['electron mass', 'mₑ', '9.1093837139', -31, '28', 'kg'],
  ['proton mass', 'mₚ', '1.67262192595', -27, '52', 'kg'],
  ['neutron mass', 'mₙ', '1.67492750056', -27, '85', 'kg'],
  ['atomic mass constant', 'u', '1.66053906892', -27, '52', 'kg'],
  ['vacuum electric permittivity', 'ε₀', '8.8541878188', -12, '14', 'F/m'],
  ['vacuum magnetic permeability', 'µ₀', '1.25663706127', -6, '20', 'N/A²'],
  ['fine-structure constant', 'α', '7.2973525643', -3, '11', ''],
  ['Bohr radius', 'a₀', '5.29177210544', -11, '82', 'm'],
].map(
  ([name, symbol, mantissa, exponent, uncertainty, unit]) =>
    ({ name, symbol, mantissa, exponent, uncertainty, unit }) as Constant,
)

/** The value as a number. */
export const valueOf = (c: Constant) => Number(`${c.mantissa}e${c.exponent}`)

export const CONSTANTS_SHEET: ReferenceSheet = {
  id: 'constants',
  title: 'Physical constants',
  sections: [
    {
      id: 'constants',
      title: 'Physical constants',
      source: 'CODATA 2022, NIST',
      head: ['constant', 'sign', 'value (uncertainty of the last figures)'],
      rows: CONSTANTS.map(c => [
        c.name,
        c.symbol,
        `${c.mantissa.replace(/(?<=\.(?:\d{3})+)(?=\d)/g, ' ')}${c.uncertainty ? `(${c.uncertainty})` : ''}${c.exponent ? ` × ${power(c.exponent)}` : ''} ${c.unit}`.trim(),
      ]),
    },
    {
      id: 'air',
      title: 'Standard air',
      source: 'US Standard Atmosphere, 1976',
      head: ['height', 'pressure', 'temperature'],
      rows: [
        [0, 1013.25, 288.15],
        [1, 898.76, 281.65],
        [5, 540.48, 255.65],
        [11, 226.32, 216.65],
      ].map(([h, p, t]) => [`${h} km`, `${grouped(p!)} hPa`, `${t} K`]),
    },
  ],
}
