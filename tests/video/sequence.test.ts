import { describe, expect, it } from 'vitest'
import { Cut } from '../../core/cut'
import { editionOf } from '../../core/edition'
import { CAMERA_RATE, CHANGE_RATE, frameTimes, partsOf, sequenceOf } from '../../core/video'
import { folio, question } from '../support/make'

const step = (id: string, t: number, title: string, struck = false) => ({ id, t, title, words: '', struck })
const ledger = (turns: { id: string; t: number; seconds: number; hold: number }[] = []) => ({
  takeId: 't',
  steps: [step('a', 0, 'Find'), step('b', 2000, 'Slip', true), step('c', 3000, 'Check')],
  turns,
})
const one = question('q1', '1', {
  title: 'Rates',
  ledger: ledger([{ id: 'x', t: 3500, seconds: 60, hold: 2 }]),
  clips: { opening: { takeId: 'o', said: 'Good evening.' } },
})
const two = question('q2', '2', { ledger: ledger(), clips: { end: { takeId: 'e', said: '' } } })
const whole = folio({
  questions: [one, two],
  clips: { opening: { takeId: 'O', said: 'Five questions today.' }, end: { takeId: 'gone', said: 'Bye.' } },
})
const lengths: Record<string, number> = { o: 1500, e: 2500, O: 4000 }
const lengthOf = (id: string) => lengths[id] ?? null
const take = {
  durationMs: 5000,
  startedAt: '2026-11-27T10:00:00.000Z',
  gaps: [],
  frame: { pageId: 'p', box: { x: 0, y: 0, w: 160, h: 90 } },
}
const recorded = (q: typeof one) => ({
  question: q,
  edition: editionOf({ take, events: [], ledger: q.ledger!, pages: [] }),
})

describe('the parts of a video', () => {
  it('are a question between its clips, with everything moved along', () => {
    const parts = partsOf(whole, [recorded(one)], false, lengthOf)
    expect(parts.map(p => [p.kind, p.duration])).toEqual([
      ['clip', 1500],
      ['cut', 6000],
    ])
    const { duration, chapters, captions, turns } = sequenceOf(parts)
    expect(duration).toBe(7500)
    expect(chapters).toEqual([
      { t: 0, title: 'Opening' },
      { t: 1500, title: 'Find' },
      { t: 3500, title: 'Check' },
    ])
    expect(captions.map(c => [c.from, c.text.replace('\n', ' ')])).toEqual([
      [0, 'Good evening.'],
      [1500, 'Find'],
      [3500, 'Check'],
    ])
    expect(turns).toEqual([{ t: 4000, to: 6000, seconds: 60 }])
  })
  it('of the whole folio are one chapter a question, its opening included; a clip that is gone is left out', () => {
    const parts = partsOf(whole, [recorded(one), recorded(two)], true, lengthOf)
    expect(parts.map(p => p.duration)).toEqual([4000, 1500, 6000, 4000, 2500])
    expect(parts.map(p => p.of)).toEqual([null, 'q1', 'q1', 'q2', 'q2'])
    const { duration, chapters, turns } = sequenceOf(parts)
    expect(duration).toBe(18_000)
    expect(chapters).toEqual([
      { t: 0, title: 'Opening' },
      { t: 4000, title: '1 — Rates' },
      { t: 11_500, title: 'Question 2' },
    ])
    expect(turns).toEqual([])
  })
})

describe('pictures while the camera is shown', () => {
  it('come at its rate where it is seen, and as rarely as before elsewhere', () => {
    const cut = new Cut(ledger(), 5000)
    const frames = frameTimes(cut, [], 'on-change', [], [], [{ from: 0, to: 1000 }])
    const within = frames.filter(f => f.t < 1000)
    expect(within.length).toBe(CAMERA_RATE)
    expect(within.every(f => f.fresh)).toBe(true)
    expect(frames.filter(f => f.t >= 1000).length).toBeLessThanOrEqual(4)
    expect(CAMERA_RATE % CHANGE_RATE).toBe(0)
    expect(frames.reduce((sum, f) => sum + f.duration, 0)).toBeCloseTo(cut.duration)
  })
  it('skip what is struck, and hold still where the student is to try', () => {
    const cut = new Cut(ledger([{ id: 'x', t: 1000, seconds: 30, hold: 2 }]), 5000)
    const shown = cut.pieces.filter(p => !p.turn).map(p => ({ from: p.at, to: p.at + p.ms }))
    const times = frameTimes(cut, [], 'on-change', [], [], shown).map(f => f.t)
    expect(times.filter(t => t >= 1000 && t < 3000).length).toBeLessThanOrEqual(3)
    expect(times.filter(t => t >= 3000).length).toBe(3 * CAMERA_RATE)
  })
})
