import { describe, expect, it } from 'vitest'
import { Cut, ledgerOf, ledgerOfTake, newSteps, putInUse, withPortrait } from '../../core/cut'
import type { Ledger, Portrait } from '../../core/folio'
import type { TakeEvent } from '../../core/take'
import { question } from '../support/make'

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

describe('steps for another take of the same course', () => {
  it('are those that fit into it, with identities of their own', () => {
    const made = newSteps(parent, { id: 'voice', durationMs: 4200 })
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
