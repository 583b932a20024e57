import Fraction from 'fraction.js'
import { describe, expect, it } from 'vitest'
import { seededRandom } from '../../core/ink'
import { numeralValue, readNumeral } from '../../core/numbers'

const value = (text: string) => {
  const found = readNumeral(text)
  return found && numeralValue(found)
}

describe('a number as it is written', () => {
  it.each([
    ['7', 7],
    ['−2.75', -2.75],
    ['–2,75', -2.75],
    ['+3', 3],
    ['- 3', -3],
    ['.5', 0.5],
    ['5.', 5],
    ['12 500', 12_500],
    ['12\u202f500,25', 12_500.25],
    ["12'500", 12_500],
    ['1,250', 1250],
    ['1,250,000.5', 1_250_000.5],
    ['1.250,5', 1250.5],
    ['1.250.000', 1_250_000],
    ['1.250', 1.25],
    ['0,125', 0.125],
    ['2,5', 2.5],
    ['1234,567', 1234.567],
    ['3/4', 0.75],
    ['-3/4', -0.75],
    ['3/-4', null],
    ['1 3/4', 1.75],
    ['−1 3/4', -1.75],
    ['½', 0.5],
    ['2½', 2.5],
    ['3.2 × 10^4', 32_000],
    ['3,2 · 10⁻³', 0.0032],
    ['6.4e20', 6.4e20],
    ['6E-3', 0.006],
    ['10^-3', 0.001],
  ])('%s is %s', (text, expected) => expect(value(text)).toBe(expected))
  it.each([
    '',
    '-',
    '.',
    ',',
    'eight',
    '1 2',
    '12 50',
    '1,2,3',
    '1.2.3',
    '1,25,000',
    '1,250.5.5',
    '5 m',
    '3/',
    '1e999',
    '1 250 3/4x',
    '--3',
    'x',
    '1..2',
    '１',
  ])('“%s” is none: nothing is guessed', text => expect(value(text)).toBeNull())
  it('keeps what was written: places, and a fraction that could be shortened', () => {
    expect(readNumeral('2.50')).toEqual({ n: 250n, d: 100n, places: 2 })
    expect(readNumeral('3/6')).toEqual({ n: 3n, d: 6n, places: null })
    expect(readNumeral('2.50e1')).toEqual({ n: 250n, d: 10n, places: 1 })
    expect(readNumeral('9'.repeat(240))?.places).toBe(0)
    expect(readNumeral('9'.repeat(241))).toBeNull()
  })
  it('agrees with an exact library (fraction.js) on thousands of generated ones, however they are written', () => {
    const random = seededRandom(11)
    const group = (digits: string, by: string) => digits.replace(/\B(?=(\d{3})+$)/g, by)
    for (let i = 0; i < 4000; i++) {
      const whole = String(Math.floor(random() * 10 ** (1 + Math.floor(random() * 9))))
      const rest = random() < 0.5 ? '' : String(Math.floor(random() * 10 ** 4)).padStart(4, '0')
      const [by, sign] = (
        [
          [' ', '.'],
          [' ', ','],
          [',', '.'],
          ['', '.'],
          ['', ','],
        ] as const
      )[Math.floor(random() * 5)]!
      const minus = ['', '-', '−', '–'][Math.floor(random() * 4)]!
      const text = `${minus}${group(whole, by)}${rest ? sign + rest : ''}`
      const found = readNumeral(text)!
      expect(
        new Fraction(found.n, found.d).equals(new Fraction(`${minus ? '-' : ''}${whole}.${rest || '0'}`)),
        text,
      ).toBe(true)
    }
  })
})
