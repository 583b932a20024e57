import Fraction from 'fraction.js'
import { describe, expect, it } from 'vitest'
import { GUIDE_KINDS, layGuide, pathsOfCell, readGuide, writeMove } from '../../core/guides'
import { newId } from '../../core/folio'
import { seededRandom } from '../../core/ink'

describe('guides as they are typed', () => {
  it.each(GUIDE_KINDS.map(k => [k.id, k.example] as const))(
    '%s: “%s” is laid out, and its moves can be written inside it',
    (kind, example) => {
      const layout = layGuide(readGuide(kind, example))
      expect(layout.cols).toBeGreaterThan(1)
      for (const move of layout.moves) {
        const { strokes, end } = writeMove(move, { x: 100, y: 200 }, 20, seededRandom(1), newId)
        expect(end).toBeGreaterThanOrEqual(0)
        for (const s of strokes) {
          for (let i = 0; i < s.points.length; i += 4) {
            expect(s.points[i]!).toBeGreaterThan(100 - 20)
            expect(s.points[i]!).toBeLessThan(100 + 20 * (layout.cols + 2))
            expect(s.points[i + 1]!).toBeLessThan(200 + 20 * (layout.rows + 1))
          }
          const times = s.points.filter((_, i) => i % 4 === 3)
          expect(times).toEqual([...times].sort((a, b) => a - b))
        }
      }
    },
  )
  it.each(GUIDE_KINDS.map(k => k.id))('%s: nothing or nonsense is answered with an example', kind => {
    expect(() => readGuide(kind, '')).toThrow(
      expect.objectContaining({ code: expect.stringMatching(/unclear/) as string }),
    )
    expect(() => readGuide(kind, '?!')).toThrow()
  })
})

describe('an equation in balance', () => {
  it.each([
    ['3x - 4 = 17', 'x=7'],
    ['5x + 3 = 2x - 9', 'x=-4'],
    ['2(x - 3) = 10', 'x=8'],
    ['7 = 2x + 1', 'x=3'],
    ['-x = 4', 'x=-4'],
  ])('%s ends in %s', (text, answer) => {
    const [left, right] = text.split('=').map(t => t.trim()) as [string, string]
    const layout = layGuide({ guide: 'balance', left, right })
    const end = layout.moves
      .at(-1)!
      .cells.filter(c => c.role === 'answer')
      .map(c => c.text)
      .join('')
    expect(end).toBe(answer)
  })
  it('keeps both sides equal at the solution in every line (fraction.js)', () => {
    const value = (side: string, x: Fraction) => {
      const m = /^(?:(-?)(?:\(?(-?\d+(?:\/\d+)?)\)?)?x)?([+-]?\d+(?:\/\d+)?)?$/.exec(side)!
      const hasX = side.includes('x')
      const a = hasX ? new Fraction(m[2] ?? 1).mul(m[1] ? -1 : 1) : new Fraction(0)
      return a.mul(x).add(hasX ? new Fraction(m[3] ?? 0) : new Fraction(side))
    }
    for (let a = -4; a <= 5; a++) {
      for (let c = -3; c <= 3; c++) {
        if (a === c || a === 0) continue
        const layout = layGuide({ guide: 'balance', left: `${a}x+3`, right: `${c}x-7` })
        const x = new Fraction(-10, a - c)
        for (const move of layout.moves) {
          const [l, , r] = move.cells.filter(cell => cell.role !== 'carry').map(cell => cell.text)
          expect(value(l!, x).equals(value(r!, x)), `${a} ${c}: ${l} = ${r}`).toBe(true)
        }
      }
    }
  })
  it('says when every number or none solves it', () => {
    expect(layGuide({ guide: 'balance', left: '2x+1', right: '2x+1' }).moves.at(-1)!.say).toContain('every number')
    expect(layGuide({ guide: 'balance', left: '2x+1', right: '2x+5' }).moves.at(-1)!.say).toContain('nothing solves it')
  })
})

describe('bars, lines and strips', () => {
  it('part and whole, equal parts, comparison and fraction give what the numbers give', () => {
    const last = (kind: 'whole' | 'equal' | 'compare' | 'fraction', text: string) =>
      layGuide(readGuide(kind, text)).moves.at(-1)!.say
    expect(last('whole', '3 + 5 + 4')).toContain('= 12')
    expect(last('equal', '24 in 6')).toContain('= 4')
    expect(last('compare', '12 and 8')).toContain('4')
    expect(last('fraction', '3/5 of 40')).toContain('= 24')
  })
  it('strips are brought to their common denominator', () => {
    expect(layGuide({ guide: 'strips', fractions: ['1/2', '3/4', '5/6'] }).moves.map(m => m.say)).toEqual([
      '1/2 = 6/12',
      '3/4 = 9/12',
      '5/6 = 10/12',
    ])
  })
  it('a number line has its marks where they belong, and open and closed ends', () => {
    const layout = layGuide(readGuide('numberLine', '-2 to 2 by 0.5; x < 1, x >= -1'))
    expect(layout.given.map(c => c.text)).toEqual(['−2', '−1.5', '−1', '−0.5', '0', '0.5', '1', '1.5', '2'])
    expect(layout.moves.map(m => m.cells[0]!.text)).toEqual(['open', 'closed'])
    // 1 lies three quarters of the way from −2 to 2.
    expect(layout.moves[0]!.cells[0]!.line![0]).toBeCloseTo(1 + 0.75 * 20)
  })
  it('a scale that cannot be drawn says so', () => {
    for (const text of ['5 to 1', '0 to 10 by 0', '0 to 1000 by 1'])
      expect(() => readGuide('numberLine', text)).toThrow(expect.objectContaining({ code: 'scale-unclear' }))
  })
  it('a table of values is worked out exactly', () => {
    expect(layGuide(readGuide('values', 'x^2 - 3 for -2, 0, 1/2')).moves.map(m => m.cells[0]!.text)).toEqual([
      '1',
      '−3',
      '−2 3/4',
    ])
  })
})

describe('a written digit', () => {
  it('stands in the middle of its square, a small one in its upper part', () => {
    const middle = (paths: number[][]) => {
      const xs = paths.flatMap(p => p.filter((_, i) => i % 2 === 0)),
        ys = paths.flatMap(p => p.filter((_, i) => i % 2 === 1))
      return { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2 }
    }
    for (const text of '0123456789') {
      const m = middle(pathsOfCell({ col: 3, row: 2, text, role: 'working' }, { x: 0, y: 0 }, 20))
      expect(Math.abs(m.x - 70)).toBeLessThan(2.5)
      expect(Math.abs(m.y - 50)).toBeLessThan(3)
      expect(
        middle(pathsOfCell({ col: 3, row: 2, text, role: 'carry', small: true }, { x: 0, y: 0 }, 20)).y,
      ).toBeLessThan(48)
    }
  })
})
