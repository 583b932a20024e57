import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { sharedTokens } from '../../scripts/tokens.mjs'

/** Contrast of the interface's own colours, by the formula of WCAG 2.2 (relative luminance, 1.4.3 and 1.4.11). */
const css = (path: string) => readFileSync(join(import.meta.dirname, '../..', path), 'utf8')
function tokens(text: string, selector: string): Record<string, string> {
  const body = new RegExp(`${selector.replace('.', '\\.')}\\s*\\{([^}]*)\\}`).exec(text)![1]!
  return Object.fromEntries([...body.matchAll(/--([\w-]+):\s*(#[0-9a-f]{6})/g)].map(m => [m[1]!, m[2]!]))
}
function luminance(hex: string): number {
  return [1, 3, 5]
    .map(i => Number.parseInt(hex.slice(i, i + 2), 16) / 255)
    .map(v => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4))
    .reduce((sum, v, i) => sum + v * [0.2126, 0.7152, 0.0722][i]!, 0)
}
function contrast(a: string, b: string): number {
  const [hi, lo] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number]
  return (hi + 0.05) / (lo + 0.05)
}

describe('the formula', () => {
  it('gives 21 for black on white and 1 for the same colour', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5)
    expect(contrast('#123456', '#123456')).toBe(1)
  })
})

const main = css('app/assets/css/main.css')
const student = css('student/base.css')
const shared = sharedTokens(main)
/** Dark as the device is, and dark as it was chosen, are the same. */
const dark = [
  /prefers-color-scheme: dark\)[^{]*\{\s*:root[^{]*(\{[^}]*\})/,
  /:root\[data-theme="dark"\]\s*(\{[^}]*\})/,
].map(found => `:root { ${[shared, student].map(of => found.exec(of)![1]!.slice(1, -1)).join(' ')} }`)
describe.each([
  ['light', tokens(main, ':root')],
  ['dark', tokens(main, '.dark')],
] as const)('the interface, %s', (_, t) => {
  it.each([
    ['lead', 'paper'],
    ['lead', 'sheet'],
    ['lead-soft', 'paper'],
    ['lead-soft', 'sheet'],
    ['taking', 'sheet'],
    ['frame', 'sheet'],
  ])('%s on %s can be read (4.5:1)', (ink, ground) => {
    expect(contrast(t[ink]!, t[ground]!)).toBeGreaterThanOrEqual(4.5)
  })
  it.each([
    ['frame', 'paper'],
    ['taking', 'paper'],
    ['rule', 'paper'],
  ])('%s on %s can be seen (3:1)', (line, ground) => {
    expect(contrast(t[line]!, t[ground]!)).toBeGreaterThanOrEqual(3)
  })
})
describe.each([
  ['light', { ...tokens(shared, ':root'), ...tokens(student, ':root') }],
  ['dark', tokens(dark[0]!, ':root')],
  ['dark, chosen', tokens(dark[1]!, ':root')],
] as const)('the student page, %s', (_, t) => {
  it.each([
    ['lead', 'paper'],
    ['lead', 'sheet'],
    ['lead-soft', 'sheet'],
    ['frame', 'sheet'],
    ['mine', 'sheet'],
    ['holds', 'sheet'],
    ['lead', 'pale'],
    ['lead-soft', 'pale'],
  ])('%s on %s can be read (4.5:1)', (ink, ground) => {
    expect(contrast(t[ink]!, t[ground]!)).toBeGreaterThanOrEqual(4.5)
  })
})
