import { describe, expect, it } from 'vitest'
import {
  keyOfRole,
  letterColour,
  ON_DARK,
  PEN_ROLES,
  ROLE_STYLES,
  roleOfKey,
  styleOf,
  writeInkml,
} from '../../core/ink'
import { colouredWords, colourPieces, withoutColours, type RoleColours } from '../../core/maths'
import { stroke } from '../support/make'

/** WCAG 2.2, 1.4.3: relative luminance, and the contrast of two colours. */
function contrast(a: string, b: string): number {
  const light = (colour: string) =>
    [1, 3, 5]
      .map(i => Number.parseInt(colour.slice(i, i + 2), 16) / 255)
      .map(c => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4))
      .reduce((sum, c, i) => sum + c * [0.2126, 0.7152, 0.0722][i]!, 0)
  const [x, y] = [light(a), light(b)].sort((p, q) => q - p)
  return (x! + 0.05) / (y! + 0.05)
}

describe.each(PEN_ROLES)('the role %s', role => {
  it('has a key, the same in typed lines', () => {
    const key = keyOfRole(role)
    expect(roleOfKey(key)).toBe(role)
    const colours = Object.fromEntries(PEN_ROLES.map(r => [r, r])) as unknown as RoleColours
    expect(colourPieces(`a@${key}(b)`, 'latex', colours)).toBe(`a{\\color{${role}}b}`)
    expect(colouredWords(`so @${key}(seven) it is`)).toEqual([
      { text: 'so ' },
      { text: 'seven', role },
      { text: ' it is' },
    ])
    expect(withoutColours(`@${key}(x = 7)`)).toBe('x = 7')
  })
  it('can be read on white and on dark paper, and goes into the ink file', () => {
    expect(contrast(letterColour(role), '#ffffff')).toBeGreaterThanOrEqual(4.5)
    expect(contrast(ON_DARK[letterColour(role)]!, '#23262b')).toBeGreaterThanOrEqual(4.5)
    expect(ON_DARK[styleOf(role).colour]).toBe(styleOf(role).onDark)
    expect(writeInkml([stroke('s', [0, 0, 0.5, 0, 1, 1, 0.5, 9], role)])).toContain(`brushRef="#${role}"`)
  })
  it('is told apart without colour', () => {
    expect(PEN_ROLES.filter(r => ROLE_STYLES[r].line === ROLE_STYLES[role].line)).toEqual([role])
  })
})

describe('what is no role', () => {
  it('has no key and colours nothing', () => {
    expect([roleOfKey('0'), roleOfKey(String(PEN_ROLES.length + 1)), roleOfKey('a'), roleOfKey('')]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ])
    expect(withoutColours(`@${PEN_ROLES.length + 1}(x)`)).toBe(`@${PEN_ROLES.length + 1}(x)`)
    expect(colouredWords('')).toEqual([])
  })
})
