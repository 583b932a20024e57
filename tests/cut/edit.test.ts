import { describe, expect, it } from 'vitest'
import {
  copyStep,
  guardStretch,
  Cut,
  dropCopy,
  endsHint,
  inOrder,
  joinSteps,
  moveMark,
  moveStep,
  putTightened,
  splitStep,
  strikeStretch,
  tighten,
  tightened,
  tightnessOf,
  trimTo,
  type Proposal,
} from '../../core/cut'
import { changed, type Ledger } from '../../core/folio'
import { editionOf } from '../../core/edition'
import type { TakeEvent } from '../../core/recording'
import { line } from '../support/make'

const LEDGER: Ledger = {
  takeId: 't',
  turns: [],
  steps: [0, 4000, 8000].map((t, i) => ({ id: `s${i}`, t, title: `Step ${i}`, words: `w${i}`, struck: false })),
}
const edited = (edit: (l: Ledger) => void) => changed(LEDGER, edit)
const order = (l: Ledger) => inOrder(l).map(s => s.id)

describe('editing a ledger', () => {
  it('strikes that meet become one where their ink goes the same way, and what is too short is none', () => {
    const l = edited(l => {
      strikeStretch(l, { from: 1000, to: 2000 }, false)
      strikeStretch(l, { from: 2500, to: 1900 }, false)
      strikeStretch(l, { from: 2400, to: 3000 }, true)
      expect(strikeStretch(l, { from: 5000, to: 5020 }, false)).toBeNull()
    })
    expect(l.strikes!.map(s => [s.from, s.to, s.inkStays])).toEqual([
      [1000, 2500, false],
      [2400, 3000, true],
    ])
    expect(new Cut(l, 12_000).duration).toBe(10_000)
  })
  it('trims both ends: what was written before the beginning stands there, what comes after the end never does', () => {
    const l = edited(l => {
      trimTo(l, 500, 'start', 12_000)
      trimTo(l, 11_000, 'end', 12_000)
    })
    expect(new Cut(l, 12_000).kept).toEqual([{ from: 500, to: 11_000 }])
    expect(l.strikes!.map(s => s.inkStays)).toEqual([true, false])
  })
  it('ends the question before steps that were recorded once more, too', () => {
    const l = edited(l => {
      l.steps[2]!.anew = { takeId: 'other', from: 0, to: 3000 }
      trimTo(l, 6000, 'end', 12_000)
    })
    expect(new Cut(l, 12_000).duration).toBe(6000)
  })
  it.each(['', 'she wiped the board', 'she undid all', 'she wrote over the end'])(
    'leaves the board as it stood where the question ends, also where afterwards %s',
    after => {
      const events: TakeEvent[] = [line('a', 1000), line('b', 5800, { y: 20, ms: 800 }), line('c', 9000, { y: 30 })]
      if (after === 'she wiped the board')
        events.push({ type: 'erase', t: 10_000, id: 'wipe', strokes: ['a', 'b', 'c'] })
      if (after === 'she undid all')
        for (const target of ['c', 'b', 'a']) events.push({ type: 'undo', t: 10_000, target })
      const ledger = edited(l => void trimTo(l, 6000, 'end', 12_000))
      const frame = { pageId: 'p', box: { x: 0, y: 0, w: 160, h: 90 } }
      const take = { durationMs: 12_000, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame }
      const edition = editionOf({ take, events, ledger, pages: [] })
      const { strokes } = edition.boardAt(edition.duration)
      expect(strokes.map(s => s.of)).toEqual(['a', 'b'])
      const times = strokes[1]!.stroke.points.filter((_, i) => i % 4 === 3)
      expect([Math.max(...times) < 6000, times.length > 2]).toEqual([true, true])
      expect(JSON.stringify(edition.shown.events)).not.toContain('"c"')
    },
  )
  it('a pause comes each time that its step does, and holds each time', () => {
    for (const hold of [0, 5]) {
      const l = edited(l => {
        l.turns = [{ id: 'u', t: 5000, seconds: 60, hold }]
        copyStep(l, 1)
      })
      const turns = new Cut(l, 12_000).turns()
      expect(turns.map(t => [t.t, t.to - t.t, t.seconds])).toEqual([
        [5000, hold * 1000, 60],
        [9000 + hold * 1000, hold * 1000, 60],
      ])
    }
  })
  it('knows where joining two steps would give students more with the hint', () => {
    const l = edited(() => {})
    expect(['s0', 's1', 's2'].map(id => endsHint(l, id, ['s0', 's1']))).toEqual([false, true, false])
  })
  it('splits, joins, and moves marks between their neighbours', () => {
    const split = edited(l => void splitStep(l, 6000, 12_000))
    expect(split.steps.map(s => [s.t, s.title])).toEqual([
      [0, 'Step 0'],
      [4000, 'Step 1'],
      [6000, ''],
      [8000, 'Step 2'],
    ])
    expect(edited(l => expect(splitStep(l, 4100, 12_000)).toBeNull()).steps).toHaveLength(3)
    const joined = edited(l => expect(joinSteps(l, 's0')).toBe(true))
    expect(joined.steps.map(s => [s.title, s.words])).toEqual([
      ['Step 0; Step 1', 'w0 w1'],
      ['Step 2', 'w2'],
    ])
    edited(l => {
      expect(joinSteps(l, 's2')).toBe(false)
      l.steps[1]!.struck = true
      expect(joinSteps(l, 's0')).toBe(false)
      expect([moveMark(l, 's1', 5000.4, 12_000), moveMark(l, 's1', 99_999, 12_000)]).toEqual([5000, 7750])
      expect(moveMark(l, 's0', 3000, 12_000)).toBeNull()
    })
  })
  it('moves and copies steps; the order of the take needs no order of its own', () => {
    const moved = edited(l => expect(moveStep(l, 2, -2)).toBe(0))
    expect(order(moved)).toEqual(['s2', 's0', 's1'])
    expect(order(changed(moved, l => void moveStep(l, 0, 2)))).toEqual(['s0', 's1', 's2'])
    expect(changed(moved, l => void moveStep(l, 0, 2)).order).toBeUndefined()
    const twice = edited(l => copyStep(l, 1))
    expect(order(twice)).toEqual(['s0', 's1', 's1', 's2'])
    expect(changed(twice, l => dropCopy(l, 2)).order).toBeUndefined()
    expect(order(changed(twice, l => dropCopy(l, 0)))).toEqual(order(twice))
    expect(order(changed(twice, l => void splitStep(l, 6000, 12_000)))).toHaveLength(6)
  })
})

describe('tightening', () => {
  // Somebody speaks from 1 to 3 s and from 8 to 9 s, writes in silence from 3.5 to 6.5 s; the take lasts 12 s.
  const voice = [
    { from: 1000, to: 3000 },
    { from: 8000, to: 9000 },
  ]
  const events = [line('a', 3500, { ms: 3000 })]
  const propose = (strength: number, l = LEDGER): Proposal[] => tighten(l, 12_000, voice, events, tightnessOf(strength))
  const short = (p: Proposal[]) => p.map(x => [x.kind, x.stretch.from, x.stretch.to])

  it('shortens pauses to 0.4 s, lets silent writing go faster, and takes dead time off both ends', () => {
    expect(short(propose(1))).toEqual([
      ['start', 0, 400],
      ['writing', 3500, 6500],
      ['pause', 6700, 7800],
      ['end', 9600, 12_000],
    ])
    expect(short(propose(0)).map(p => p[0])).toEqual(['start', 'end'])
  })
  it('saves what it says, and leaves the voice alone', () => {
    const proposals = propose(1)
    const l = edited(l => {
      const { strikes, paces } = tightened(proposals, tightnessOf(1).writing)
      putTightened(l, strikes, paces)
    })
    const cut = new Cut(l, 12_000)
    expect(cut.duration).toBeCloseTo(12_000 - proposals.reduce((n, p) => n + p.saves, 0), 6)
    for (const v of voice) for (let t = v.from; t < v.to; t += 50) expect(cut.holds(t)).toBe(true)
    for (const piece of cut.pieces.filter(p => p.speed > 1)) expect(piece.from).toBeGreaterThanOrEqual(3000)
    // Proposed anew, it begins from what was recorded; put back, nothing is left of it.
    expect(short(propose(1, l))).toEqual(short(proposals))
    expect(
      new Cut(
        changed(l, x => putTightened(x, [], [])),
        12_000,
      ).duration,
    ).toBe(12_000)
  })
  it('keeps pauses for the student, and what is protected', () => {
    expect(
      short(
        propose(
          1,
          edited(l => guardStretch(l, { from: 7000, to: 7100 })),
        ),
      ).map(p => p[0]),
    ).toEqual(['start', 'writing', 'end'])
    const asked = edited(l => {
      l.turns = [{ id: 'u', t: 7000, seconds: 30, hold: 3 }]
    })
    expect(short(propose(1, asked)).map(p => p[0])).not.toContain('pause')
  })
})
