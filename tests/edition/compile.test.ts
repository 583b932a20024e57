import { describe, expect, it } from 'vitest'
import { copyStep, strikeStretch, unstrike, type Piece } from '../../core/cut'
import { editionOf, type Edition, type EditionSource } from '../../core/edition'
import { pacingOf } from '../../core/edition/proofing'
import { changed, Ledger as LedgerSchema, newId, type Ledger, type Mend, type Thing } from '../../core/folio'
import { seededRandom } from '../../core/ink'
import type { TakeEvent } from '../../core/recording'
import { line } from '../support/make'

const frame = { pageId: 'p', box: { x: 0, y: 0, w: 160, h: 90 } }
const take = { durationMs: 10_000, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame }
const ledger: Ledger = {
  takeId: 't',
  turns: [],
  steps: [0, 2000, 4000, 6000].map((t, i) => ({ id: `s${i}`, t, title: '', words: '', struck: false })),
}
/** A line a second, each 200 ms long, named by its second. */
const events: TakeEvent[] = Array.from({ length: 10 }, (_, i) => line(`l${i}`, i * 1000 + 300, { y: i * 8 + 5 }))
const source: EditionSource = { take, events, ledger, pages: [] }
const made = (edit: (l: Ledger) => void, more: Partial<EditionSource> = {}) =>
  editionOf({ ...source, ...more, ledger: changed(ledger, edit) })
const shown = (e: Edition, t: number) => e.boardAt(t).strokes.map(s => s.of)
const all = events.map(e => (e as { id: string }).id)
const mend = (...made_: TakeEvent[]): Mend => ({
  id: newId(),
  made: '2026-11-27T12:00:00.000Z',
  name: '',
  events: made_,
})

describe('time and ink are taken out by themselves', () => {
  it('a stretch goes with its ink, or leaves it there at once', () => {
    const gone = made(l => strikeStretch(l, { from: 3000, to: 5000 }, false))
    expect(gone.duration).toBe(8000)
    expect(shown(gone, 3100)).toEqual(['l0', 'l1', 'l2'])
    expect(shown(gone, 8000)).toEqual(all.filter(id => id !== 'l3' && id !== 'l4'))
    const stays = made(l => strikeStretch(l, { from: 3000, to: 5000 }, true))
    expect(stays.duration).toBe(8000)
    expect(shown(stays, 2999)).toEqual(['l0', 'l1', 'l2'])
    expect(shown(stays, 3001)).toEqual(['l0', 'l1', 'l2', 'l3', 'l4'])
    expect(shown(stays, 8000)).toEqual(all)
  })
  it('ink that goes on into what is out stands there whole when that has passed', () => {
    const edition = made(l => strikeStretch(l, { from: 3400, to: 5000 }, false))
    expect(edition.boardAt(3399).strokes.at(-1)!.count).toBeLessThan(
      edition.boardAt(3400).strokes.find(s => s.of === 'l3')!.stroke.points.length / 4,
    )
    expect(edition.boardAt(3401).strokes.find(s => s.of === 'l3')!.count).toBe(
      edition.board.last().strokes.find(s => s.of === 'l3')!.count,
    )
  })
  it('a step that is struck may leave its ink; bringing a stretch back is as if it had never been out', () => {
    const edition = made(l => {
      l.steps[1]!.struck = true
      l.steps[1]!.inkStays = true
    })
    expect([edition.duration, shown(edition, 2001).length]).toEqual([8000, 4])
    const back = made(l => unstrike(l, strikeStretch(l, { from: 100, to: 900 }, false)!))
    expect([back.duration, back.events]).toEqual([10_000, events])
  })
  it('what goes by faster is silent, shorter, and all there', () => {
    const edition = made(l => {
      l.paces = [{ id: 'f', from: 4000, to: 6000, speed: 4 }]
    })
    expect(edition.duration).toBe(8500)
    expect(edition.soundPlan().map(p => [p.at, p.ms, p.from])).toEqual([
      [0, 4000, 0],
      [4000, 500, null],
      [4500, 4000, 6000],
    ])
    expect(shown(edition, 4200)).toEqual(all.slice(0, 5))
    expect(shown(edition, 4499)).toEqual(all.slice(0, 6))
  })
})

describe('steps in another order', () => {
  it('bring their ink and their sound along; a copy has ink of its own', () => {
    const edition = made(l => {
      l.order = ['s1', 's0', 's2', 's3']
    })
    expect(edition.soundPlan().map(p => p.from)).toEqual([2000, 0, 4000])
    expect(shown(edition, 1999)).toEqual(['l2', 'l3'])
    expect(shown(edition, 4000)).toEqual(['l2', 'l3', 'l0', 'l1'])
    const twice = made(l => copyStep(l, 0))
    expect(twice.duration).toBe(12_000)
    expect(shown(twice, 4000)).toHaveLength(4)
    expect(twice.chapters().map(c => c.t)).toEqual([0, 2000, 4000, 6000, 8000])
  })
  it('what takes the place of something in a copy takes that of the copy', () => {
    const thing: Thing = { kind: 'mark', mark: 'box', role: 'given', boxes: [{ x: 1, y: 1, w: 2, h: 2 }] }
    const replaced: TakeEvent[] = [
      { type: 'place', t: 2100, id: 'a', thing, over: 0 },
      { type: 'place', t: 2200, id: 'b', thing, over: 0, instead: ['a'] },
    ]
    const edition = made(l => copyStep(l, 1), { events: [...events, ...replaced].sort((a, b) => a.t - b.t) })
    expect(edition.boardAt(3999).things.map(o => o.id)).toEqual(['b'])
    expect(edition.boardAt(5999).things.map(o => o.id)).toEqual(['b', 'b~c1'])
  })
  it('a step that was recorded anew comes from its take, and all that follows is moved', () => {
    const other = {
      take: { ...take, durationMs: 5000 },
      events: [...events.slice(0, 2), line('new', 3000, { y: 70 })],
    }
    const edition = made(
      l => {
        l.steps[1]!.anew = { takeId: 'n', from: 2000, to: 5000 }
      },
      { others: { n: other } },
    )
    expect(edition.duration).toBe(11_000)
    expect(shown(edition, 4999)).toEqual(['l0', 'l1', 'new'])
    expect(shown(edition, 11_000)).toEqual(['l0', 'l1', 'new', ...all.slice(4)])
    expect(edition.soundPlan()).toEqual([
      { at: 0, ms: 2000, take: 't', from: 0 },
      { at: 2000, ms: 3000, take: 'n', from: 2000 },
      { at: 5000, ms: 6000, take: 't', from: 4000 },
    ])
  })
  it('a step that was added stands between two others; what was written before and after it stays', () => {
    const other = {
      take: { ...take, durationMs: 5500 },
      events: [...events.filter(e => e.t < 4000), line('new', 4300, { y: 70 })],
    }
    const added = { id: 'e', t: 4000, title: '', words: '', struck: false, added: true }
    const edition = made(l => l.steps.splice(2, 0, { ...added, anew: { takeId: 'n', from: 4000, to: 5500 } }), {
      others: { n: other },
    })
    expect(edition.duration).toBe(11_500)
    expect(shown(edition, 3999)).toEqual(all.slice(0, 4))
    expect(shown(edition, 5499)).toEqual([...all.slice(0, 4), 'new'])
    expect(shown(edition, 11_500)).toEqual([...all.slice(0, 4), 'new', ...all.slice(4)])
    expect(edition.chapters().map(c => c.t)).toEqual([0, 2000, 4000, 5500, 7500])
    // Struck out, it is as if it had never been.
    const without = made(
      l => l.steps.splice(2, 0, { ...added, struck: true, anew: { takeId: 'n', from: 4000, to: 5500 } }),
      { others: { n: other } },
    )
    expect([without.duration, shown(without, 10_000)]).toEqual([10_000, all])
  })
})

describe('what was mended', () => {
  it('was always so: it moves, changes its role, or was never there', () => {
    const edition = made(l => {
      l.mends = [
        mend({ type: 'alter', t: 9000, id: 'm', targets: ['l1'], matrix: [1, 0, 0, 1, 5, 0], role: 'answer' }),
        mend({ type: 'erase', t: 9000, id: 'n', strokes: ['l2'] }),
      ]
    })
    const before = editionOf(source).boardAt(1600).strokes[1]!.stroke
    const after = edition.boardAt(1600).strokes[1]!.stroke
    expect([after.points[0], after.role]).toEqual([before.points[0]! + 5, 'answer'])
    expect(shown(edition, 2900)).toEqual(['l0', 'l1'])
    expect(shown(edition, 10_000)).toEqual(all.filter(id => id !== 'l2'))
  })
  it('what was forgotten writes itself at its moment; a mend of what is struck out waits', () => {
    const add = mend(line('added', 2500, { y: 3 }))
    const of = mend({ type: 'erase', t: 1, id: 'e', strokes: ['l5'] })
    const edition = made(l => {
      l.mends = [add, of]
      strikeStretch(l, { from: 5000, to: 6000 }, false)
    })
    expect([shown(edition, 2400).includes('added'), shown(edition, 2750).includes('added')]).toEqual([false, true])
    const back = made(l => {
      l.mends = [add, of]
    })
    expect(shown(back, 10_000)).not.toContain('l5')
  })
})

/** A ledger some edits on, of every kind, what was undone and done again among them. */
function* sessions(random: () => number, of: number): Generator<Ledger> {
  const past: Ledger[] = []
  const future: Ledger[] = []
  let now = ledger
  const edit = (l: Ledger, r: number) => {
    const a = Math.floor(random() * 10_000)
    const b = Math.min(10_000, a + Math.floor(random() * 2500))
    const step = l.steps[Math.floor(random() * 4)]!
    if (r < 0.5) strikeStretch(l, { from: a, to: b }, random() < 0.5)
    else if (r < 0.58) l.strikes = l.strikes?.slice(0, -1)
    else if (r < 0.68) step.struck = !step.struck
    else if (r < 0.74) l.paces = [{ id: newId(), from: a, to: b, speed: 1 + Math.floor(random() * 3) }]
    else if (r < 0.8) copyStep(l, Math.floor(random() * 4))
    else if (r < 0.86) l.order = random() < 0.5 ? ['s2', 's0', 's3', 's1'] : undefined
    else if (r < 0.9) l.joints = random() < 0.5 ? 'stand' : undefined
    else if (r < 0.95) l.mends = [...(l.mends ?? []), mend(line(`m${a}`, a, { y: 40 }))].slice(-3)
    else {
      const gone = { type: 'alter' as const, t: a, id: newId(), targets: [`l${a % 10}`], role: 'answer' as const }
      l.mends = [...(l.mends ?? []), mend(gone)].slice(-3)
    }
  }
  for (let k = 0; k < of; k++) {
    const r = random()
    if (r < 0.2 && past.length) {
      future.push(now)
      now = past.pop()!
    } else if (r < 0.3 && future.length) {
      past.push(now)
      now = future.pop()!
    } else {
      past.push(now)
      future.length = 0
      now = changed(now, l => edit(l, r))
    }
    yield now
  }
}

describe('at random', () => {
  it('nothing struck shows, nothing kept is missing, and lesson time runs without a hole (10,000 sequences of edits, undo, redo)', () => {
    const random = seededRandom(2026)
    for (let n = 0; n < 10_000; n++) {
      let last = ledger
      for (const now of sessions(random, 1 + Math.floor(random() * 7))) last = now
      const edition = editionOf({ ...source, ledger: last })
      const { time } = edition
      let at = 0
      for (const piece of time.pieces) {
        expect(piece.at).toBeCloseTo(at, 6)
        expect(piece.ms).toBeGreaterThan(0)
        at += piece.ms
      }
      expect(edition.duration).toBeCloseTo(at, 6)
      // Take time and back, wherever the edition is.
      const t = random() * edition.duration
      const piece = time.pieceAt(t) as Piece | undefined
      if (piece && !edition.ledger.order) expect(time.fromTake(time.toTake(t))).toBeCloseTo(t, 3)
      // Which ink has to be there at the end is told by the ledger alone.
      const kept = (begins: number) =>
        time.segments.some(s => begins >= s.from && begins < s.to && s.out !== 'ink goes')
      const added =
        last.mends?.flatMap(m => m.events.flatMap(e => (e.type === 'stroke' && kept(e.t) ? [e.id] : []))) ?? []
      const wanted = new Set([...all.filter((_, i) => kept(i * 1000 + 300)), ...added])
      const there = new Set(shown(edition, edition.duration).map(id => id.split('~')[0]!))
      expect(there, `ledger ${n}`).toEqual(wanted)
      // As a file has it, it is the same edition.
      if (n % 50 === 0) {
        const filed = editionOf({ ...source, ledger: LedgerSchema.parse(JSON.parse(JSON.stringify(last))) })
        expect(filed.events).toEqual(edition.events)
      }
    }
  })
})

describe('a change', () => {
  it('makes the same edition from the one before it as from nothing (1,000 sessions of ten edits, undone and redone)', () => {
    const random = seededRandom(14)
    for (let n = 0; n < 1000; n++) {
      let last = editionOf(source)
      for (const now of sessions(random, 10)) {
        const next = editionOf({ ...source, ledger: now }, last)
        const t = random() * next.duration
        const fresh = editionOf({ ...source, ledger: now })
        expect(next.boardAt(t), `session ${n}`).toEqual(fresh.boardAt(t))
        if (random() < 0.5) expect(next.events).toEqual(fresh.events)
        last = next
      }
    }
  })
  it('that makes much ink come or go at once lets it do so softly, unless she wants it to stand', () => {
    const soft = made(l => strikeStretch(l, { from: 1000, to: 7000 }, true))
    const share = (t: number) => soft.boardAt(t).strokes.map(s => s.strength ?? 1)
    expect(share(999)).toEqual([1])
    expect(share(1100)).toEqual([1, ...Array<number>(6).fill(0.25)])
    expect(
      share(1399)
        .slice(1)
        .every(x => x > 0.9),
    ).toBe(true)
    expect(share(1400).every(x => x === 1)).toBe(true)
    const stands = made(l => {
      strikeStretch(l, { from: 1000, to: 7000 }, true)
      l.joints = 'stand'
    })
    expect(stands.boardAt(1001).strokes.every(s => s.strength === undefined)).toBe(true)
    // A glance follows two strokes.
    const few = made(l => strikeStretch(l, { from: 1000, to: 3000 }, true))
    expect(few.boardAt(1001).strokes.every(s => s.strength === undefined)).toBe(true)
    const wipe: TakeEvent = { type: 'erase', t: 8500, id: 'wipe', strokes: all.slice(0, 6) }
    const wiped = [...events, wipe].sort((a, b) => a.t - b.t)
    const gone = made(l => strikeStretch(l, { from: 8400, to: 8800 }, true), { events: wiped })
    expect(gone.boardAt(8500).strokes.filter(s => s.strength === 0.75)).toHaveLength(6)
    expect(shown(gone, 9000)).toEqual(all.slice(6))
  })
})

describe('how an edition goes along', () => {
  it('tells where the board stands still longest, and how fast is spoken', () => {
    const gap = made(l => strikeStretch(l, { from: 3200, to: 7200 }, false))
    expect(pacingOf(gap).still).toEqual({ from: 300, to: 1300 })
    const quiet = editionOf({ ...source, events: [line('a', 500), line('b', 7500)] })
    expect(pacingOf(quiet)).toEqual({ still: { from: 500, to: 7500 }, wordsAMinute: null })
    const asked = made(l => void (l.turns = [{ id: 'u', t: 5000, seconds: 30, hold: 10 }]), {
      events: [line('a', 500), line('b', 7500)],
    })
    expect(pacingOf(asked).still).toEqual({ from: 500, to: 7500 })
    const spoken = made(l => void (l.steps[1]!.words = 'one two three four five six'))
    expect(pacingOf(spoken).wordsAMinute).toBe(180)
  })
})
