import { describe, expect, it } from 'vitest'
import {
  CONSTANTS,
  CONVERSIONS,
  ELEMENTS,
  grouped,
  primesUpTo,
  searchSheets,
  sectionOf,
  SHEETS,
  valueOf,
} from '../../core/sheets'

const factor = (symbol: string) => CONVERSIONS.find(c => c.symbol === symbol)!
const constant = (symbol: string) => valueOf(CONSTANTS.find(c => c.symbol === symbol)!)

describe('reference sheets', () => {
  // NIST SP 811 (2008), Appendix B; NIST Handbook 44, Appendix C.
  it.each([
    ['lb', 0.45359237],
    ['in', 25.4],
    ['gal', 3.785411784],
    ['ft', 0.3048],
    ['mi', 1.609344],
    ['oz', 28.349523125],
    ['atm', 101325],
    ['lbf', 4.4482216152605],
  ])('1 %s is exactly %d', (symbol, value) => {
    expect(factor(symbol).factor).toBe(value)
    expect(factor(symbol).exact).toBe(true)
  })
  it('units agree with one another', () => {
    expect((factor('gal').factor * 1000) / factor('cup').factor).toBeCloseTo(16, 12)
    expect((factor('lb').factor * 1000) / factor('oz').factor).toBeCloseTo(16, 12)
    expect(factor('cup').factor / factor('tbsp').factor).toBeCloseTo(16, 12)
    expect(factor('gal').factor * 1e6).toBeCloseTo(231 * 25.4 ** 3, 3)
    expect(factor('psi').factor).toBeCloseTo(factor('lbf').factor / 0.0254 ** 2, 8)
    expect(factor('acre').factor).toBeCloseTo(43560 * 0.3048 ** 2, 8)
  })
  // CODATA 2022; c, h, e, k, N_A exact by the SI of 2019.
  it.each([
    ['c', 299792458],
    ['h', 6.62607015e-34],
    ['e', 1.602176634e-19],
    ['k', 1.380649e-23],
    ['Nᴀ', 6.02214076e23],
    ['G', 6.6743e-11],
    ['gₙ', 9.80665],
  ])('%s is %d', (symbol, value) => expect(constant(symbol)).toBe(value))
  it('constants that follow from others do', () => {
    expect(constant('R') / (constant('k') * constant('Nᴀ'))).toBeCloseTo(1, 9)
    expect(constant('F') / (constant('e') * constant('Nᴀ'))).toBeCloseTo(1, 9)
    expect(constant('ε₀') * constant('µ₀') * constant('c') ** 2).toBeCloseTo(1, 9)
    expect(
      constant('σ') / ((2 * Math.PI ** 5 * constant('k') ** 4) / (15 * constant('h') ** 3 * constant('c') ** 2)),
    ).toBeCloseTo(1, 8)
    expect(constant('α') / (constant('e') ** 2 / (2 * constant('ε₀') * constant('h') * constant('c')))).toBeCloseTo(
      1,
      8,
    )
  })
  // IUPAC standard atomic weights, abridged, 2021.
  it.each([
    ['H', 1, '1.008'],
    ['C', 6, '12.011'],
    ['O', 8, '15.999'],
    ['Ar', 18, '39.95'],
    ['Fe', 26, '55.845'],
    ['Pb', 82, '207.2'],
    ['U', 92, '238.03'],
    ['Og', 118, '[294]'],
  ])('%s is element %i with %s', (symbol, z, weight) => expect(ELEMENTS[z - 1]).toMatchObject({ symbol, z, weight }))
  it.each([
    ['He', 18, 1],
    ['B', 13, 2],
    ['Cl', 17, 3],
    ['Fe', 8, 4],
    ['Ag', 11, 5],
    ['La', 0, 6],
    ['Lu', 0, 6],
    ['Hf', 4, 6],
    ['Au', 11, 6],
    ['Rn', 18, 6],
    ['Rf', 4, 7],
    ['Og', 18, 7],
  ])('%s stands in group %i, period %i', (symbol, group, period) =>
    expect(ELEMENTS.find(e => e.symbol === symbol)).toMatchObject({ group, period }),
  )
  it('there are 118 elements, each symbol once', () => expect(new Set(ELEMENTS.map(e => e.symbol)).size).toBe(118))
  it('primes are those that nothing divides', () => {
    const primes = primesUpTo(400)
    expect(primes).toEqual(
      Array.from({ length: 399 }, (_, i) => i + 2).filter(
        n => !Array.from({ length: n - 2 }, (_, k) => k + 2).some(d => n % d === 0),
      ),
    )
    expect(primes).toHaveLength(78)
  })
  it('every table names its source', () =>
    expect(SHEETS.flatMap(s => s.sections).every(s => s.source && s.rows.length)).toBe(true))
  it('finds rows by name, sign and value, without caring for case or accents', () => {
    expect(searchSheets('PLANCK')[0]!.section.rows).toEqual([['Planck constant', 'h', '6.626 070 15 × 10⁻³⁴ J·s']])
    expect(searchSheets('gallon us').length).toBeGreaterThan(0)
    expect(searchSheets('no such thing')).toEqual([])
    expect(sectionOf('formulas', 'mechanics')!.title).toBe('Mechanics')
    expect([grouped(3.785411784), grouped(101325), grouped(1234)]).toEqual(['3.785 411 784', '101 325', '1234'])
  })
})
