import Decimal from 'decimal.js'
import { describe, expect, it } from 'vitest'
import { layGuide, placeParts, type CellText, type GuideLayout } from '../../core/guides'
import { seededRandom } from '../../core/ink'

Decimal.set({ precision: 500 })
const random = seededRandom(11)
const whole = (n: number) => String(Math.floor(random() * 10 ** n))
const decimal = () =>
  `${whole(1 + Math.floor(random() * 4))}${random() < 0.5 ? `.${whole(1 + Math.floor(random() * 3))}` : ''}`

/**
 * The number that stands in a row once all moves are made: digits by column, the point on the line before its column.
 */
function inRow(
  layout: GuideLayout,
  row: number,
  cells: readonly CellText[] = [...layout.given, ...layout.moves.flatMap(m => m.cells)],
): string {
  const here = cells.filter(c => c.row === row && !c.small && !c.strike && !c.line && /^[\d.−-]+$/.test(c.text))
  const digits = here.filter(c => c.wide !== 0).sort((a, b) => a.col - b.col)
  const point = here.find(c => c.wide === 0 && c.text === '.')
  const sign = digits.some(c => c.text === '−') ? '-' : ''
  return (
    sign +
    digits
      .filter(c => c.text !== '−')
      .map(c => (point?.col === c.col ? '.' : '') + c.text)
      .join('')
  )
}

describe('addition in columns', () => {
  it('every digit and carry of generated sums reconstructs the sum (decimal.js)', () => {
    for (let i = 0; i < 500; i++) {
      const numbers = Array.from({ length: 2 + (i % 3) }, decimal)
      const layout = layGuide({ guide: 'columns', operation: 'add', numbers })
      const sumRow = 1 + numbers.length
      expect(new Decimal(inRow(layout, sumRow)).eq(Decimal.sum(...numbers)), numbers.join('+')).toBe(true)
      // Column by column: digits above plus the carry that stands there make the digit below and the carry to the left.
      const carries = new Map(
        layout.moves
          .flatMap(m => m.cells)
          .filter(c => c.role === 'carry')
          .map(c => [c.col, Number(c.text)]),
      )
      for (let col = layout.cols - 1; col > 0; col--) {
        const above = layout.given
          .filter(c => c.col === col && c.row > 0 && /^\d$/.test(c.text))
          .reduce((s, c) => s + Number(c.text), carries.get(col) ?? 0)
        const below = layout.moves.flatMap(m => m.cells).find(c => c.col === col && c.row === sumRow && c.wide !== 0)
        if (below) expect(above % 10).toBe(Number(below.text))
        if (carries.has(col - 1)) expect(Math.floor(above / 10)).toBe(carries.get(col - 1))
      }
    }
  })
})

describe('subtraction in columns', () => {
  it('8000 − 2347 = 5653, regrouped across zeros: 7, 9, 9, 10', () => {
    const layout = layGuide({ guide: 'columns', operation: 'subtract', numbers: ['8000', '2347'] })
    expect(inRow(layout, 4)).toBe('5653')
    expect(layout.moves[0]!.cells.filter(c => c.small).map(c => c.text)).toEqual(['7', '9', '9', '10'])
    expect(layout.moves[0]!.cells.filter(c => c.strike)).toHaveLength(4)
  })
  it('a digit that is regrouped twice is struck where it stands, with its new value above: 30 204 − 18 657', () => {
    const layout = layGuide({ guide: 'columns', operation: 'subtract', numbers: ['30204', '18657'] })
    const cells = layout.moves.flatMap(m => m.cells)
    expect(inRow(layout, 4)).toBe('11547')
    expect(cells.filter(c => c.small && !c.strike && c.col === 3).map(c => [c.row, c.text])).toEqual([
      [1, '1'],
      [0, '11'],
    ])
    expect(new Set(cells.filter(c => !c.strike).map(c => `${c.col},${c.row}`)).size).toBe(
      cells.filter(c => !c.strike).length,
    )
  })
  it('every regrouping of generated differences keeps the number above, and the digits make the difference (decimal.js)', () => {
    for (let i = 0; i < 600; i++) {
      const pair = [decimal(), i % 7 ? decimal() : `${whole(2)}00`]
      const layout = layGuide({ guide: 'columns', operation: 'subtract', numbers: pair })
      expect(new Decimal(inRow(layout, 4) || '0').eq(new Decimal(pair[0]!).sub(pair[1]!)), pair.join('-')).toBe(true)
      // At any moment, what stands above (the small digits in place of the struck ones) still has the same value.
      const top = new Map(
        layout.given.filter(c => c.row === 2 && /^\d$/.test(c.text)).map(c => [c.col, Number(c.text)]),
      )
      const value = () =>
        [...top].reduce((s, [col, digit]) => s + BigInt(digit) * 10n ** BigInt(layout.cols - 1 - col), 0n)
      const before = value()
      for (const move of layout.moves) {
        for (const c of move.cells) if (c.small) top.set(c.col, Number(c.text))
        expect(value()).toBe(before)
      }
    }
  })
})

describe('multiplication in columns', () => {
  it('37 × 24 = 888 by 148 and 740', () => {
    const layout = layGuide({ guide: 'columns', operation: 'multiply', numbers: ['37', '24'] })
    expect([4, 5, 6].map(r => inRow(layout, r))).toEqual(['148', '740', '888'])
  })
  it('rows and sum of generated products (decimal.js)', () => {
    for (let i = 0; i < 400; i++) {
      const [a, b] = i % 3 ? [whole(4), whole(1 + (i % 4))] : [decimal(), decimal()]
      const layout = layGuide({ guide: 'columns', operation: 'multiply', numbers: [a!, b!] })
      const written = layout.moves.flatMap(m => m.cells)
      expect(new Decimal(inRow(layout, layout.rows - 1, written)).eq(new Decimal(a!).mul(b!)), `${a}×${b}`).toBe(true)
      const by = new Decimal(b!)
        .toFixed()
        .replace('.', '')
        .replace(/^0+(?=\d)/, '')
      const n = new Decimal(a!).toFixed().replace('.', '')
      if (by.length > 1 && b === new Decimal(b!).toFixed() && a === new Decimal(a!).toFixed()) {
        ;[...by]
          .reverse()
          .forEach((digit, j) =>
            expect(
              new Decimal(inRow(layout, by.length + 2 + j, written)).eq(
                new Decimal(n).mul(digit).mul(new Decimal(10).pow(j)),
              ),
            ).toBe(true),
          )
      }
    }
  })
  it('takes 200 digits', () => {
    const a = '7'.repeat(200)
    const layout = layGuide({ guide: 'columns', operation: 'multiply', numbers: [a, '8'] })
    expect(
      inRow(
        layout,
        layout.rows - 1,
        layout.moves.flatMap(m => m.cells),
      ),
    ).toBe((BigInt(a) * 8n).toString())
  })
})

describe('long division', () => {
  const parts = (layout: GuideLayout) => {
    const moves = layout.moves
    const quotient = moves
      .flatMap(m => m.cells)
      .filter(c => c.row === 0 && /^[\d.]$/.test(c.text))
      .sort((a, b) => a.col - b.col || (a.wide === 0 ? -1 : 1))
      .map(c => c.text)
      .join('')
    const rest =
      moves
        .flatMap(m => m.cells)
        .find(c => c.text.startsWith('r '))
        ?.text.slice(2) ?? '0'
    return { quotient, rest }
  }
  it('863 ÷ 14 = 61 remainder 9, with 84, 23 and 14 on the way', () => {
    const layout = layGuide({ guide: 'division', dividend: '863', divisor: '14', places: 0 })
    expect(parts(layout)).toEqual({ quotient: '61', rest: '9' })
    expect(layout.moves.map(m => m.say)).toEqual(
      expect.arrayContaining(['6 × 14 = 84', '86 − 84 = 2', 'Bring down the 3: 23', '23 − 14 = 9']),
    )
  })
  it('quotient, every product, difference and remainder of generated divisions (BigInt)', () => {
    for (let i = 0; i < 600; i++) {
      const a = BigInt(whole(1 + (i % 8))),
        b = BigInt(whole(1 + (i % 3))) || 1n
      const layout = layGuide({ guide: 'division', dividend: a.toString(), divisor: b.toString(), places: 0 })
      const { quotient, rest } = parts(layout)
      expect([BigInt(quotient || '0'), BigInt(rest)], `${a}:${b}`).toEqual([a / b, a % b])
      for (const { say } of layout.moves) {
        const product = /^(\d+) × (\d+) = (\d+)$/.exec(say),
          difference = /^(\d+) − (\d+) = (\d+)$/.exec(say)
        if (product) expect(BigInt(product[1]!) * BigInt(product[2]!)).toBe(BigInt(product[3]!))
        if (difference) {
          expect(BigInt(difference[1]!) - BigInt(difference[2]!)).toBe(BigInt(difference[3]!))
          expect(BigInt(difference[3]!)).toBeLessThan(b)
        }
      }
    }
  })
  it('goes on behind the point: 7 ÷ 8 = 0.875, and 12.5 ÷ 0.5 = 25', () => {
    expect(parts(layGuide({ guide: 'division', dividend: '7', divisor: '8', places: 5 })).quotient).toBe('0.875')
    expect(parts(layGuide({ guide: 'division', dividend: '12.5', divisor: '0.5', places: 0 })).quotient).toBe('25')
  })
  it('says that nothing is divided by zero', () => {
    expect(() => layGuide({ guide: 'division', dividend: '5', divisor: '0', places: 0 })).toThrow(
      expect.objectContaining({ code: 'divided-by-zero' }),
    )
  })
})

describe('the area grid', () => {
  it('37 × 24 by parts = 888', () => {
    const says = layGuide({ guide: 'area', a: '37', b: '24' }).moves.map(m => m.say)
    expect(says).toEqual([
      '20 × 30 = 600',
      '20 × 7 = 140',
      '4 × 30 = 120',
      '4 × 7 = 28',
      '600 + 140 = 740',
      '120 + 28 = 148',
      'Altogether 740 + 148 = 888',
    ])
  })
  it('partial products of generated factors add up (decimal.js)', () => {
    for (let i = 0; i < 500; i++) {
      const a = decimal(),
        b = decimal()
      const layout = layGuide({ guide: 'area', a, b })
      const total = /= (\S+)$/.exec(layout.moves.at(-1)!.say)![1]!
      expect(new Decimal(total).eq(new Decimal(a).mul(b)), `${a}×${b}`).toBe(true)
      expect(Decimal.sum(...placeParts(a)).eq(a)).toBe(true)
    }
  })
})
