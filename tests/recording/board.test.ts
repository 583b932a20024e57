import { describe, expect, it } from 'vitest'
import { editionOf } from '../../core/edition'
import {
  BoardIndex,
  endOf,
  History,
  logDuration,
  settleJournal,
  type JournalEntry,
  type TakeEvent,
} from '../../core/recording'
import { seededRandom } from '../../core/ink'
import { line } from '../support/make'

const ids = (index: BoardIndex, t: number) => index.at(t).strokes.map(s => s.stroke.id)

describe('the board at a moment', () => {
  it('shows the samples that were written by then', () => {
    const index = new BoardIndex([line('a', 100, { ms: 100, n: 11 })])
    expect(index.at(99).strokes).toEqual([])
    expect(index.at(100).strokes[0]!.count).toBe(1)
    expect(index.at(155).strokes[0]!.count).toBe(6)
    expect(index.at(10_000).strokes[0]!.count).toBe(11)
  })
  it('takes erased strokes away from then on, and brings them back when that is undone', () => {
    const index = new BoardIndex([
      line('a', 0),
      line('b', 200),
      { type: 'erase', t: 400, id: 'e', strokes: ['a'] },
      { type: 'undo', t: 500, target: 'e' },
      { type: 'redo', t: 600, target: 'e' },
    ])
    expect([399, 400, 500, 600].map(t => ids(index, t))).toEqual([['a', 'b'], ['b'], ['a', 'b'], ['b']])
  })
  it('undoes and redoes strokes', () => {
    const index = new BoardIndex([
      line('a', 0),
      { type: 'undo', t: 300, target: 'a' },
      { type: 'redo', t: 400, target: 'a' },
    ])
    expect([299, 300, 400].map(t => ids(index, t))).toEqual([['a'], [], ['a']])
  })
  it('keeps a stroke off while any reason for it holds', () => {
    const index = new BoardIndex([
      line('a', 0),
      { type: 'erase', t: 200, id: 'e1', strokes: ['a'] },
      { type: 'erase', t: 210, id: 'e2', strokes: ['a'] },
      { type: 'undo', t: 300, target: 'e2' },
      { type: 'undo', t: 310, target: 'e1' },
    ])
    expect([205, 305, 310].map(t => ids(index, t))).toEqual([[], [], ['a']])
  })
  it('does not mind undoing what is unknown, or twice', () => {
    const index = new BoardIndex([
      line('a', 0),
      { type: 'undo', t: 200, target: 'zz' },
      { type: 'undo', t: 210, target: 'a' },
      { type: 'undo', t: 220, target: 'a' },
      { type: 'redo', t: 230, target: 'a' },
      { type: 'redo', t: 240, target: 'a' },
    ])
    expect(ids(index, 1000)).toEqual(['a'])
  })
  it('leaves out what happened in a struck stretch, ink and erasing alike', () => {
    const events: TakeEvent[] = [
      line('a', 0),
      line('slip', 500),
      { type: 'erase', t: 550, id: 'e', strokes: ['a'] },
      line('b', 900),
      { type: 'undo', t: 1000, target: 'slip' },
    ]
    const steps = [0, 400, 800].map((t, i) => ({ id: `s${t}`, t, title: '', words: '', struck: i === 1 }))
    const at = { pageId: 'p1', box: { x: 0, y: 0, w: 160, h: 90 } }
    const take = { durationMs: 3000, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame: at }
    const edition = editionOf({ take, events, ledger: { takeId: 't', turns: [], steps }, pages: [] })
    expect(edition.boardAt(2600).strokes.map(s => s.stroke.id)).toEqual(['a', 'b'])
    expect(ids(new BoardIndex(events), 950)).toEqual(['slip', 'b'])
  })
  it('grows with what is added, sample by sample', () => {
    const index = new BoardIndex()
    index.append({ type: 'stroke', t: 0, id: 'a', role: 'working', tool: 'pen', points: [0, 0, 0.5, 0] })
    index.extend({ type: 'more', id: 'a', points: [1, 1, 0.5, 10, 2, 2, 0.5, 20] })
    index.extend({ type: 'more', id: 'unknown', points: [1, 1, 1, 1] })
    expect(index.at(12).strokes[0]!.count).toBe(2)
    expect(index.last().strokes[0]!.count).toBe(3)
    expect(index.changes()).toEqual([0, 10, 20])
  })
  it('equals a replay from the beginning, at any time of any log', () => {
    const random = seededRandom(5)
    for (let round = 0; round < 40; round++) {
      const events = randomLog(random, 60)
      const index = new BoardIndex(events)
      for (let k = 0; k < 20; k++) {
        const t = Math.floor(random() * 7000)
        expect(index.at(t).strokes.map(s => [s.stroke.id, s.count])).toEqual(replay(events, t))
      }
    }
  })
})

/** A log as a hand would make it, undo and redo in any order. */
function randomLog(random: () => number, n: number): TakeEvent[] {
  const events: TakeEvent[] = []
  const history = new History()
  let t = 0
  for (let i = 0; i < n; i++) {
    t += Math.floor(random() * 120)
    const kind = random()
    const strokes = events.filter(e => e.type === 'stroke')
    let event: TakeEvent = line(`s${i}`, t, { ms: 80, n: 5 })
    if (kind > 0.55 && strokes.length)
      event = { type: 'erase', t, id: `e${i}`, strokes: [strokes[Math.floor(random() * strokes.length)]!.id] }
    if (kind > 0.7 && history.undoTarget) event = { type: 'undo', t, target: history.undoTarget }
    if (kind > 0.85 && history.redoTarget) event = { type: 'redo', t, target: history.redoTarget }
    history.append(event)
    events.push(event)
    t = Math.max(t, endOf(event))
  }
  return events
}

/** The slow way: everything from the beginning, with plain sets. */
function replay(events: readonly TakeEvent[], t: number): [string, number][] {
  const off = new Set<string>()
  const erasing = new Map<string, string[]>()
  const seen: Extract<TakeEvent, { type: 'stroke' }>[] = []
  for (const e of events) {
    if (e.t > t) break
    if (e.type === 'stroke') seen.push(e)
    if (e.type === 'erase') erasing.set(e.id, e.strokes)
    if (e.type === 'undo') off.add(e.target)
    if (e.type === 'redo') off.delete(e.target)
  }
  const erased = new Set([...erasing].filter(([id]) => !off.has(id)).flatMap(([, list]) => list))
  return seen
    .filter(s => !off.has(s.id) && !erased.has(s.id))
    .map(s => [s.id, s.points.filter((p, i) => i % 4 === 3 && p <= t).length])
}

describe('history', () => {
  it('walks back and forth, and forgets what could be redone when something new is done', () => {
    const h = new History()
    for (const e of [line('a', 0), line('b', 10)]) h.append(e)
    expect(h.undoTarget).toBe('b')
    h.append({ type: 'undo', t: 20, target: 'b' })
    expect([h.undoTarget, h.redoTarget]).toEqual(['a', 'b'])
    h.append({ type: 'redo', t: 30, target: 'b' })
    h.append({ type: 'undo', t: 40, target: 'b' })
    h.append(line('c', 50))
    expect([h.undoTarget, h.redoTarget]).toEqual(['c', undefined])
  })
})

describe('journals', () => {
  it('join the pieces of strokes and leave out pieces without a beginning', () => {
    const entries: JournalEntry[] = [
      { type: 'stroke', t: 5, id: 'a', role: 'carry', tool: 'mouse', points: [0, 0, 0.5, 5] },
      { type: 'more', id: 'a', points: [1, 1, 0.5, 9] },
      { type: 'more', id: 'lost', points: [1, 1, 0.5, 9] },
      { type: 'step', t: 20, id: 's' },
    ]
    const events = settleJournal(entries)
    expect(events).toEqual([
      { type: 'stroke', t: 5, id: 'a', role: 'carry', tool: 'mouse', points: [0, 0, 0.5, 5, 1, 1, 0.5, 9] },
      { type: 'step', t: 20, id: 's' },
    ])
    expect(logDuration(events)).toBe(20)
    expect((entries[0] as { points: number[] }).points).toHaveLength(4)
  })

  it('ink goes on the page of the frame it was written in, and each frame shows its own', () => {
    const first = { pageId: 'p1', box: { x: 0, y: 0, w: 320, h: 180 } },
      second = { pageId: 'p2', box: { x: 0, y: 0, w: 640, h: 360 } }
    const index = new BoardIndex(
      [
        line('a', 0),
        { type: 'frame', t: 300, frame: second },
        line('b', 400),
        { type: 'frame', t: 600, frame: first },
        line('c', 700),
      ],
      first,
    )
    expect([100, 350, 650, 900].map(t => [index.at(t).frame?.pageId, ids(index, t)])).toEqual([
      ['p1', ['a']],
      ['p2', []],
      ['p1', ['a']],
      ['p1', ['a', 'c']],
    ])
    expect(index.last('p2').strokes.map(s => s.stroke.id)).toEqual(['b'])
    expect(
      new BoardIndex([line('a', 0), { type: 'frame', t: 300, frame: second }, line('b', 400)], first)
        .last('p2')
        .strokes.map(s => s.stroke.id),
    ).toEqual(['b'])
    expect(index.changes()).toContain(300)
  })
})
