import { describe, expect, it } from 'vitest'
import { checkTyped } from '../../core/publish/check'

describe('a typed answer', () => {
  it.each([
    ['12 m', '12 m', 'right'],
    ['12 m', '12m', 'right'],
    ['12 m', '12', 'unit'],
    ['12 m', '12 cm', 'unit'],
    ['12 m', '13 m', 'wrong'],
    ['19.5 m ± 0.5', '19,8 m', 'right'],
    ['19.5 m ± 0.5', '20.1 m', 'wrong'],
    ['14 628', '14628', 'right'],
    ['14 628', 'I do not know', 'wrong'],
    ['-3', '−3', 'right'],
    ['1/3', '1/3', 'right'],
    ['B', 'b', 'right'],
    ['B', '(B)', 'right'],
    ['B', 'C', 'wrong'],
    ['3x + 2', '3x+2', 'right'],
    ['3x + 2', '2 + 3x', 'compare'],
    ['the air gets thinner', 'it is colder', 'compare'],
    ['', 'anything', 'compare'],
  ] as const)('expected “%s”, given “%s”: %s', (expected, typed, verdict) => {
    expect(checkTyped(expected, typed)).toBe(verdict)
  })
})
