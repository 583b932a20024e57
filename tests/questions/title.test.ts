import { describe, expect, it } from 'vitest'
import { shortTitle } from '../../core/questions/title'

describe('the title of a question', () => {
  it.each([
    ['Solve x2 - 5x + 6 = 0', '', 0, 'Solve'],
    ['(a) Simplify 3x + 2x', '', 3, 'Simplify, 3 parts'],
    ['x2 + 3x', 'Factorise each of these.', 4, 'Factorise, 4 parts'],
    ['A balloon rises 4 m every second. How high is it after 2 minutes?', '', 0, 'A balloon rises'],
    ['Bottles of helium are sold in boxes of twelve', '', 0, 'Bottles of helium are sold in boxes'],
    ['The table shows the pressure of the air', '', 2, 'The table shows the pressure of the air'],
    ['12 + 7 =', '', 0, ''],
    ['3/4 of 20', '', 6, '6 parts'],
  ])('of “%s” is “%s”', (text, around, parts, title) => {
    expect(shortTitle(text, around, parts)).toBe(title)
    expect(title).not.toMatch(/\d(?! parts)/)
  })
})
