import { describe, expect, it } from 'vitest'
import { readUnit } from '../../core/numbers'

/** Factors: SI Brochure, 9th edition, tables 2, 4, 7 and 8. */
describe('a unit as it is typed', () => {
  it.each([
    ['m', 1, 'm1'],
    ['metres', 1, 'm1'],
    ['Kilometre', 1000, 'm1'],
    ['km/h', 1 / 3.6, 'm1 s-1'],
    ['kilometres per hour', 1 / 3.6, 'm1 s-1'],
    ['m s^-1', 1, 'm1 s-1'],
    ['m·s⁻²', 1, 'm1 s-2'],
    ['cm²', 1e-4, 'm2'],
    ['square centimetres', 1e-4, 'm2'],
    ['ml', 1e-6, 'm3'],
    ['hPa', 100, 'kg1 m-1 s-2'],
    ['N/m²', 1, 'kg1 m-1 s-2'],
    ['kΩ', 1000, 'A-2 kg1 m2 s-3'],
    ['\u2126', 1, 'A-2 kg1 m2 s-3'],
    ['mg', 1e-6, 'kg1'],
    ['min', 60, 's1'],
    ['μs', 1e-6, 's1'],
    ['g/cm³', 1000, 'kg1 m-3'],
  ] as const)('“%s” is %s of %s', (text, factor, kind) => {
    const unit = readUnit(text)
    expect(unit?.kind).toBe(kind)
    expect(unit!.factor / factor).toBeCloseTo(1, 12)
  })
  it.each(['', 'apples', 'm/', 'm/s/s', 'kmh', 'MM', 'kmin', '5 m', 'm^'])('“%s” is none that is known', text => {
    expect(readUnit(text)).toBeNull()
  })
})
