import { describe, expect, it } from 'vitest'
import { evaluate, fraction, readLinear, tokensOf, treeOf, writeFraction, type Tree } from '../../core/maths'

/** Every node of a tree as it was typed. */
const pieces = (text: string): string[] => {
  const walk = (t: Tree): Tree[] => [
    t,
    ...('left' in t ? [...walk(t.left), ...walk(t.right)] : 'of' in t ? walk(t.of) : 'base' in t ? walk(t.base) : []),
  ]
  return walk(treeOf(text)).map(t => text.slice(t.from, t.to))
}
const value = (text: string, x = 2n) => writeFraction(evaluate(text, fraction(x)))

describe('what is typed', () => {
  it('is taken apart where it stands, whatever its signs and spaces', () => {
    const text = ' 3,5x − 4 ×(x+½)'.replace('½', '1/2')
    expect(tokensOf(text).map(t => [t.text, text.slice(t.from, t.to)])).toEqual([
      ['3,5', '3,5'],
      ['x', 'x'],
      ['-', '−'],
      ['4', '4'],
      ['*', '×'],
      ['(', '('],
      ['x', 'x'],
      ['+', '+'],
      ['1', '1'],
      ['/', '/'],
      ['2', '2'],
      [')', ')'],
    ])
  })
  it('is a tree whose nodes know their place', () => {
    expect(pieces('2(x − 4)^2 + 1')).toEqual([
      '2(x − 4)^2 + 1',
      '2(x − 4)^2',
      '2',
      '(x − 4)^2',
      '(x − 4)',
      'x',
      '4',
      '1',
    ])
    expect(pieces('-x/3')).toEqual(['-x/3', '-x', 'x', '3'])
  })
  it.each([
    ['3x - 4', '2'],
    ['−x^2', '-4'],
    ['2,5x', '5'],
    ['1,250x', '2500'],
    ['x/2·3', '3'],
    ['2^(3)', '8'],
    ['--x', '2'],
    ['(x)(x+1)', '6'],
    ['3(x−4)÷2', '-3'],
  ])('%s is %s for x = 2', (text, expected) => expect(value(text)).toBe(expected))
  it.each(['', '3x +', '(x', 'x)', '2^x', '2^', '2^(3', '3 $ 4', '1.2.3x', '*x', 'x 2', '()'])(
    '“%s” is refused with a word',
    text => {
      expect(() => value(text)).toThrow(expect.objectContaining({ code: 'expression-unclear' }))
    },
  )
  it('is refused where it has two letters, or one that is multiplied by itself', () => {
    for (const text of ['x + y', 'x*x'])
      expect(() => readLinear(text)).toThrow(expect.objectContaining({ code: 'expression-unclear' }))
  })
})
