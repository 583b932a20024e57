import { describe, expect, it } from 'vitest'
import { Cut, ledgerOf, ledgerOfTake, mendsIn, newSteps, putInUse, withPortrait } from '../../core/cut'
import { Ledger as LedgerSchema, type Ledger, type Portrait } from '../../core/folio'
import type { TakeEvent } from '../../core/recording'
import { line, question } from '../support/make'

const step = (id: string, t: number, title = '') => ({ id, t, title, words: '', struck: false })
const mark = (t: number): TakeEvent => ({ type: 'step', t, id: `m${t}` })
const turn = (t: number): TakeEvent => ({ type: 'turn', t, id: `u${t}`, seconds: 60, hold: 5 })
const portrait: Portrait = { shape: 'wide', corner: 'top-left', size: 0.3 }
const parent: Ledger = {
  takeId: 'old',
  steps: [step('a', 0, 'Find'), step('b', 2000, 'Halve'), step('c', 4000, 'Check')],
  turns: [
    { id: 'x', t: 1000, seconds: 30, hold: 3 },
    { id: 'y', t: 4500, seconds: 90, hold: 0 },
  ],
  portrait,
}

describe('the ledger of a retake', () => {
  const events = [mark(2000), mark(4000), mark(5500), turn(6000)]
  const take = { id: 'new', durationMs: 8000, after: { takeId: 'old', t: 4000 } }
  it('keeps names, pauses and the portrait’s place of what it goes on after', () => {
    const made = ledgerOfTake(take, events, { ledger: parent, shelved: [] })
    expect(made.takeId).toBe('new')
    expect(made.steps.map(s => [s.t, s.title])).toEqual([
      [0, 'Find'],
      [2000, 'Halve'],
      [4000, ''],
      [5500, ''],
    ])
    expect(made.turns.map(t => t.t)).toEqual([1000, 6000])
    expect(made.portrait).toEqual(portrait)
    expect(made.steps.map(s => s.id).slice(0, 2)).toEqual(['a', 'b'])
  })
  it('finds its parent also among the ledgers that are not in use, and does without', () => {
    expect(ledgerOfTake(take, events, { ledger: null, shelved: [parent] }).steps[0]!.title).toBe('Find')
    expect(ledgerOfTake(take, events, undefined).steps.map(s => s.t)).toEqual([0, 2000, 4000, 5500])
  })
  it('strikes steps of its parent that were gone back over', () => {
    const made = ledgerOfTake(take, [...events.slice(0, 2), { type: 'back', t: 5000, to: 2000 } as TakeEvent], {
      ledger: parent,
      shelved: [],
    })
    expect(made.steps.map(s => [s.t, s.struck])).toEqual([
      [0, false],
      [2000, true],
      [4000, true],
      [5000, false],
    ])
    expect(parent.steps.every(s => !s.struck)).toBe(true)
    expect(new Cut(made, 8000).kept).toEqual([
      { from: 0, to: 2000 },
      { from: 5000, to: 8000 },
    ])
  })
})

describe('what was done to the steps before a retake', () => {
  const shift = (t: number, target: string): TakeEvent => ({ type: 'alter', t, id: `m-${target}`, targets: [target] })
  const mend = (id: string, ...made: TakeEvent[]) => ({ id, made: '2026-11-27T12:00:00.000Z', name: id, events: made })
  const parent: Ledger = {
    takeId: 'first',
    turns: [],
    steps: [0, 1000, 2000, 4000].map((t, i) => ({ id: `s${i}`, t, title: '', words: '', struck: false })),
    strikes: [
      { id: 'private', from: 300, to: 700, inkStays: false },
      { id: 'across', from: 1800, to: 2500, inkStays: true },
      { id: 'after', from: 3000, to: 3500, inkStays: false },
    ],
    paces: [{ id: 'fast', from: 100, to: 200, speed: 2 }],
    guards: [{ id: 'wait', from: 1100, to: 1300 }],
    mends: [
      mend('early', shift(0, 'a')),
      mend('late', shift(0, 'b')),
      mend('added', { type: 'erase', t: 1500, id: 'x', strokes: ['a'] }),
    ],
    order: ['s1', 's0', 's3', 's2'],
    joints: 'stand',
  }
  const log = [line('a', 500), line('b', 3000)]
  const take = { id: 'again', durationMs: 5000, after: { takeId: 'first', t: 2000 } }

  it('stays: strikes, paces, guards, mends, order and joints; what lies after it is its own', () => {
    const made = ledgerOfTake(take, [log[0]!, line('c', 2500)], { ledger: parent, shelved: [] })
    const own = made.steps.filter(s => !s.id.startsWith('s')).map(s => s.id)
    expect(own).toHaveLength(1)
    expect(made.strikes!.map(s => [s.id, s.from, s.to])).toEqual([
      ['private', 300, 700],
      ['across', 1800, 2000],
    ])
    expect([made.paces, made.guards, made.joints]).toEqual([parent.paces, parent.guards, 'stand'])
    expect(made.mends!.map(m => m.id)).toEqual(['early', 'added'])
    expect(made.order).toEqual(['s1', 's0', ...own])
    expect(LedgerSchema.safeParse(made).success).toBe(true)
  })
  it('is told where it is lost: a mend of what is recorded anew', () => {
    expect(mendsIn(parent, log, { from: 2000, to: Infinity }).map(m => m.id)).toEqual(['late'])
    expect(mendsIn(parent, log, { from: 0, to: 1000 }).map(m => m.id)).toEqual(['early', 'added'])
  })
  it('stays where all is talked over; what was tightened by the old voice does not', () => {
    const struck = {
      ...parent,
      strikes: [...parent.strikes!, { id: 'p', from: 1, to: 2, inkStays: true, pause: true }],
    }
    const made = newSteps(struck, { id: 'voice', durationMs: 9000 }, true)
    expect(made.strikes!.map(s => s.id)).toEqual(['private', 'across', 'after'])
    expect([made.mends, made.joints, made.paces]).toEqual([parent.mends, 'stand', undefined])
    expect(made.order!.map(id => made.steps.findIndex(s => s.id === id))).toEqual([1, 0, 3, 2])
    expect(newSteps(struck, { id: 'ink', durationMs: 9000 }, false).mends).toBeUndefined()
  })
})

describe('steps for another take of the same course', () => {
  it('are those that fit into it, with identities of their own', () => {
    const made = newSteps(parent, { id: 'voice', durationMs: 4200 }, true)
    expect(made.steps.map(s => [s.t, s.title])).toEqual([
      [0, 'Find'],
      [2000, 'Halve'],
      [4000, 'Check'],
    ])
    expect(made.turns.map(t => t.t)).toEqual([1000])
    expect(made.steps.some(s => parent.steps.some(p => p.id === s.id))).toBe(false)
    expect(made).toMatchObject({ takeId: 'voice', portrait })
  })
})

describe('the place of the camera’s picture in a new ledger', () => {
  const camera = { width: 640, height: 360, gaps: [] }
  const own: Portrait = { shape: 'circle', corner: 'bottom-right', size: 0.28 }
  it('is hers where the ledger says nothing, that of the ledger where it does, and none without a camera', () => {
    const bare = ledgerOf('next', [], 3000)
    expect(withPortrait(bare, { camera }, own).portrait).toEqual(own)
    expect(withPortrait(parent, { camera }, own).portrait).toEqual(portrait)
    expect(withPortrait(bare, {}, own)).toEqual(bare)
    expect(withPortrait(bare, { camera }, undefined)).toEqual(bare)
  })
})

describe('putting a ledger in use', () => {
  it('keeps the one before beside it, once, and the question has to be looked through again', () => {
    const q = question('q', '1', { ledger: parent, proofed: true })
    const next = ledgerOf('next', [], 3000)
    putInUse(q, next)
    expect([q.ledger!.takeId, q.shelved.map(l => l.takeId), q.proofed]).toEqual(['next', ['old'], false])
    putInUse(q, { ...parent, steps: parent.steps.slice(0, 1) })
    expect([q.ledger!.steps.length, q.shelved.map(l => l.takeId)]).toEqual([1, ['next']])
    putInUse(q, next)
    putInUse(q, next)
    expect(q.shelved.map(l => [l.takeId, l.steps.length])).toEqual([['old', 1]])
  })
})
