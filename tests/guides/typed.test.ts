import { describe, expect, it } from 'vitest'
import {
  choicesAt,
  GUIDE_KINDS,
  kindOf,
  kindsOf,
  layGuide,
  readGuide,
  readMove,
  type GuideKind,
} from '../../core/guides'
import { seededRandom } from '../../core/ink'
import { faultsOf } from '../support/guides/general'
import { MAKERS } from '../support/guides/makers'

const said = (kind: GuideKind, text: string) => layGuide(readGuide(kind, text)).moves.map(m => m.say)
const dots = (text: string) =>
  layGuide(readGuide('numberLine', text))
    .moves.flatMap(m => m.cells)
    .filter(c => c.text === 'open' || c.text === 'closed')
    .map(c => c.text)

describe('what is typed for a guide is read whole', () => {
  it.each([
    ['-2 < x <= 3', ['−2 is not in, 3 is in, and all between'], ['open', 'closed']],
    ['x > 1 1/2', ['1 1/2 is not in, and all above'], ['open']],
    ['3 < x', ['3 is not in, and all above'], ['open']],
    ['x != 2', ['2 is not in, and all below', '2 is not in, and all above'], ['open', 'open']],
    ['x=>2', ['2 is in, and all above'], ['closed']],
    ['x >= -1 and x < 4', ['−1 is in, 4 is not in, and all between'], ['closed', 'open']],
    ['x < -1 or x > 2', ['−1 is not in, and all below', '2 is not in, and all above'], ['open', 'open']],
    ['[0, 5)', ['0 is in, 5 is not in, and all between'], ['closed', 'open']],
    ['-5 to 5; x = 3', ['3 is here'], ['closed']],
  ])('on the number line: %s', (text, says, ends) => {
    expect(said('numberLine', text)).toEqual(says)
    expect(dots(text)).toEqual(ends)
  })
  it('a line from −1 1/2 to 3 begins at −1 1/2', () => {
    expect(readGuide('numberLine', '-1 1/2 to 3')).toMatchObject({ from: '-1 1/2', to: '3' })
  })
  it('jumps are drawn with their sizes', () => {
    expect(said('numberLine', '7 - 3 + 5')).toEqual(['Begin at 7', '7 − 3 = 4', '4 + 5 = 9'])
  })
  it('labels have one denominator', () => {
    const labels = layGuide(readGuide('numberLine', '1/3, 0.5, 7/6')).given.map(c => c.text)
    expect(labels.filter(t => t.includes('/')).every(t => t.endsWith('/6'))).toBe(true)
    expect(labels.some(t => t.includes('.'))).toBe(false)
  })
  it('24 into 863 is 863 divided by 24', () => {
    expect(readGuide('divide', '24 into 863')).toMatchObject({ dividend: '863', divisor: '24' })
  })
  it('factors of a list, and of a list without spaces; what is no list of whole numbers is refused', () => {
    expect(readGuide('factors', '180,84')).toMatchObject({ numbers: ['180', '84'] })
    expect(() => readGuide('factors', '12 18')).toThrow(/12 18/)
    expect(() => readGuide('factors', '2.5')).toThrow(/2\.5/)
  })
  it('axes keep their steps', () => {
    expect(readGuide('axes', 'x -5 to 5 by 2, y 0 to 10 by 5')).toMatchObject({
      x: ['-5', '5', '2'],
      y: ['0', '10', '5'],
    })
  })
  it('x+2 * x+3 in the area grid is a product of two sums', () => {
    expect(said('area', 'x+2 * x+3').at(-1)).toBe('Altogether x^2 + 5x + 6')
    expect(said('area', '(x + 1)^2').at(-1)).toBe('Altogether x^2 + 2x + 1')
    expect(said('area', '(2x - 3)(x^2 + x - 5)').at(-1)).toBe('Altogether 2x^3 − x^2 − 13x + 15')
  })
  it('a division ends as it was chosen to, and says so', () => {
    expect(said('divide', '863 : 14 with remainder').at(-1)).toBe('9 is left over')
    expect(said('divide', '20 : 3 to 2 places').at(-1)).toBe('The next digit is 6: rounded up to 6.67')
    expect(said('divide', '1 : 3 as a decimal').at(-1)).toContain('the same digits come again')
    expect(said('divide', '6.34 : 1.8 to 1 place')[0]).toBe('Both times 10, so that the divisor is whole: 63.4 : 18')
    expect(() => readGuide('divide', '6.34 : 1.8 with remainder')).toThrow(/no whole remainder/)
  })
  it('columns keep the separators that were typed, and pass bare zeros over', () => {
    const signs = (text: string) => layGuide(readGuide('add', text)).given.filter(c => c.text === ',').length
    expect([signs('12,500 + 3,400'), signs('12500 + 3400'), signs('12 500 + 3 400')]).toEqual([2, 0, 0])
    expect(said('multiply', '304 * 205').filter(s => /^0 ×|^0 \+ 0/.test(s))).toEqual([])
    // The carries of the sum stand in a row of their own, not in that of a partial product.
    const layout = layGuide(readGuide('multiply', '87 * 98'))
    const carries = layout.moves
      .slice(-4)
      .flatMap(m => m.cells)
      .filter(c => c.small)
    const written = layout.moves.flatMap(m => m.cells).filter(c => !c.small)
    expect(carries.length).toBeGreaterThan(0)
    expect(carries.every(c => !written.some(w => w.row === c.row))).toBe(true)
  })
  it('an undefined value is a gap', () => {
    expect(layGuide(readGuide('values', '1/x for -1 to 1')).moves.map(m => m.cells[0]!.text)).toEqual(['−1', '–', '1'])
    expect(layGuide(readGuide('values', '√x for 2, 4')).moves.map(m => m.cells[0]!.text)).toEqual(['≈1.41', '2'])
  })
  it('bars of equal units from a total, a difference or one bar', () => {
    expect(said('units', 'Ana 3, Ben 5; total 40').at(-1)).toBe('Ben: 5 × 5 = 25')
    expect(said('units', '3 : 5; difference 12').at(-1)).toBe('B: 5 × 6 = 30')
    expect(said('units', 'Ana 2, Ben 3; Ana = 15').at(-1)).toBe('Ben: 3 × 7.5 = 22.5')
  })
  it('strips of one whole: 2/4 is as long as 1/2, and a sum may be over 1', () => {
    const { areas } = layGuide(readGuide('strips', '1/2, 2/4'))
    expect(areas![0]!.w).toBe(areas![1]!.w)
    expect(said('strips', '1/2 + 3/4').at(-1)).toBe('5/4 = 1 1/4')
  })
})

describe('what is not understood is refused, and named', () => {
  it.each<[GuideKind, string, string]>([
    ['numberLine', '-5 to 5; 7', '7 is not on the line'],
    ['numberLine', 'x < y < 3', 'x'],
    ['numberLine', 'x <> <2', 'x <> <2'],
    ['numberLine', '1 to 5; banana', 'banana'],
    ['subtract', '10 - 3 - 2', '3 numbers'],
    ['subtract', '-5 - 3', 'without a sign'],
    ['add', '1+2+3+4+5+6+7+8+9+10+11+12+13', '13 numbers'],
    ['multiply', '2 * 3 * 4', '3 numbers'],
    ['multiply', '3.5.2 * 4', '3.5.2'],
    ['equation', '3x - 4 = 2y + 1', 'more than one letter'],
    ['equation', 'x^2 = 4', 'multiplied by itself'],
    ['equation', '1/x = 4', 'divides by a letter'],
    ['axes', 'x -5 to 5, y -5 to 5; (9, 2)', '(9, 2) lies outside'],
    ['axes', 'x -5 to 5, y -5 to 5; what', 'what'],
    ['compare', '12 and 8 and 3', '3'],
    ['whole', '3 + five', 'five'],
    ['strips', '1/2, 0/0', 'zero'],
    ['values', 'x^2 for 1 to 40', '40 values'],
    ['values', 'xy for 1, 2', 'more than one letter'],
    ['units', 'Ana 3, Ben 5', 'what is known'],
    ['ratio', '3 : 5 = 12 : 21', '21'],
    ['placeValue', '2.5 * 30', '30'],
    ['elimination', 'A, B | p, q; A = p; B = p', 'contradicts'],
    ['elimination', 'A, B | p, q; A = z', 'z'],
    ['divide', '5 : 0', 'divided by zero'],
  ])('%s: %s', (kind, text, named) => {
    let message = ''
    try {
      readGuide(kind, text)
    } catch (error) {
      message = (error as Error).message
    }
    expect(message).toContain(named)
  })
})

describe('the kind of a guide', () => {
  it.each(GUIDE_KINDS.filter(k => k.id !== 'whole').map(k => [k.example, k.id]))(
    'is read from “%s”: %s',
    (text, kind) => {
      expect(kindOf(text)).toBe(kind)
      expect(kindsOf(text)).toContain(kind)
    },
  )
  it.each([
    ['(x+2)(x-3)', 'area'],
    ['24 into 863', 'divide'],
    ['35% of 80', 'fraction'],
    ['x=>2', 'numberLine'],
    ['2x + 1 < 7', 'equation'],
    ['10 - 3 - 2', 'subtract'],
    ['3 + 5 + 4', 'add'],
    ['banana', null],
  ])('“%s”: %s', (text, kind) => {
    expect(kindOf(text)).toBe(kind)
  })
})

describe('an equation whose moves the teacher chooses', () => {
  it('goes on from there', () => {
    const spec = readGuide('equation', '3x - 4 = x + 6')
    if (spec.guide !== 'equation') throw new Error('no equation')
    const choices = choicesAt(spec, 0).map(c => c.say)
    expect(choices).toContain('Add 4 on both sides')
    const chosen = { ...spec, chosen: [readMove('+ 4')!] }
    expect(layGuide(chosen).moves.map(m => m.say)).toEqual([
      'Add 4 on both sides',
      'Take away x on both sides',
      'Divide both sides by 2',
    ])
    expect(() => layGuide({ ...spec, chosen: [readMove(': 0')!] })).toThrow(/zero/)
  })
  it('turns the sign where it divides by a negative number', () => {
    expect(said('equation', '-2x < 6')).toEqual(['Divide both sides by −2: it is negative, so the sign turns round'])
    expect(said('equation', '2(x-1)=2x-2').at(-1)).toContain('all numbers')
    expect(said('equation', '2x+1=2x+5').at(-1)).toContain('no solution')
  })
})

// Sums by decimal.js, fractions by fraction.js, whole numbers by BigInt, algebra by nerdamer. 20,000 of each: npm run bench guides.
describe('generated inputs', () => {
  it.each(GUIDE_KINDS.map(k => k.id))(
    '%s: every number is right, none is dropped, none lies outside or over another',
    kind => {
      const random = seededRandom(31)
      const faults = Array.from({ length: 60 }, () => faultsOf(kind, MAKERS[kind](random))).flat()
      expect(faults).toEqual([])
    },
  )
})
