import { describe, expect, it } from 'vitest'
import { Cut, ledgerOf, stepAt, stepName, stretchOf } from '../../core/cut'
import { captionsOf } from '../../core/captions'
import type { Ledger } from '../../core/folio'

const ledger = (steps: [number, string, boolean?][]): Ledger => ({
  takeId: 't',
  turns: [],
  steps: steps.map(([t, title, struck = false], i) => ({ id: `s${i}`, t, title, words: '', struck })),
})
const LEDGER = ledger([
  [0, 'read'],
  [4000, 'slip', true],
  [7000, 'slip again', true],
  [9000, 'solve'],
  [15_000, '', true],
  [16_000, 'answer'],
])

describe('ledgers', () => {
  it('begin with a step from the start and one from each mark', () => {
    const made = ledgerOf(
      't',
      [
        { type: 'step', t: 3000, id: 'a' },
        { type: 'step', t: 5000, id: 'b' },
      ],
      9000,
    )
    expect(made.steps.map(s => s.t)).toEqual([0, 3000, 5000])
    expect(stretchOf(made, 2, 9000)).toEqual({ from: 5000, to: 9000 })
  })
  it('take two marks in a row for one, and leave out marks at the very edges', () => {
    const marks = [10, 3000, 3100, 8950].map((t, i) => ({ type: 'step' as const, t, id: `${i}` }))
    expect(ledgerOf('t', marks, 9000).steps.map(s => s.t)).toEqual([0, 3000])
  })
  it('find the step of a moment', () => {
    expect([0, 3999, 4000, 99_999].map(t => stepAt(LEDGER, t))).toEqual([0, 0, 1, 5])
    expect(stepName(LEDGER.steps[4]!, 4)).toBe('Step 5')
  })
  it('join what stays', () => {
    expect(new Cut(LEDGER, 20_000).kept).toEqual([
      { from: 0, to: 4000 },
      { from: 9000, to: 15_000 },
      { from: 16_000, to: 20_000 },
    ])
  })
})

describe('cuts', () => {
  const cut = new Cut(LEDGER, 20_000)
  it('are as long as what stays', () => expect(cut.duration).toBe(14_000))
  it('map cut time to take time and back', () => {
    expect([0, 3999, 4000, 9999, 10_000, 14_000, 99_999].map(t => cut.toTake(t))).toEqual([
      0, 3999, 9000, 14_999, 16_000, 20_000, 20_000,
    ])
    expect([0, 3999, 4000, 6000, 9000, 15_500, 16_000].map(t => cut.fromTake(t))).toEqual([
      0, 3999, 4000, 4000, 4000, 10_000, 10_000,
    ])
    for (let t = 0; t < cut.duration; t += 333) expect(cut.fromTake(cut.toTake(t))).toBe(t)
  })
  it('know what they hold, and where they leap', () => {
    expect([cut.holds(3999), cut.holds(4000), cut.holds(9000)]).toEqual([true, false, true])
    expect(cut.joints()).toEqual([4000, 10_000])
  })
  it('have a chapter for each step that stays, one after another', () => {
    expect(cut.chapters()).toEqual([
      { t: 0, title: 'read' },
      { t: 4000, title: 'solve' },
      { t: 10_000, title: 'answer' },
    ])
  })
  it('with everything struck out are empty and harmless', () => {
    const none = new Cut(ledger([[0, 'a', true]]), 5000)
    expect([none.duration, none.toTake(0), none.pieces, none.chapters().length]).toEqual([0, 0, [], 0])
  })
  it('give captions from the steps’ words, or their names, within their stretches', () => {
    const withWords = {
      ...LEDGER,
      steps: LEDGER.steps.map(s =>
        s.title === 'solve'
          ? {
              ...s,
              words: 'Take three from both sides. Then halve what is left, and look whether it holds in the equation.',
            }
          : s,
      ),
    }
    const cues = captionsOf(new Cut(withWords, 20_000))
    expect(cues[0]).toEqual({ from: 0, to: 4000, text: 'read' })
    expect(
      cues
        .filter(c => c.from >= 4000 && c.to <= 10_000)
        .map(c => c.text)
        .join(' ')
        .replace(/\n/g, ' '),
    ).toContain('Take three from both sides. Then halve')
    expect(cues.at(-1)).toEqual({ from: 10_000, to: 14_000, text: 'answer' })
  })
})
