import { describe, expect, it } from 'vitest'
import { editionOf, type Edition, type EditionSource } from '../../core/edition'
import { MendDesk, retimed } from '../../core/edition/proofing'
import { changed, type GuideThing, type Ledger, type Mend } from '../../core/folio'
import { layGuide, readGuide, writeMove } from '../../core/guides'
import { seededRandom, type Stroke } from '../../core/ink'
import { newId } from '../../core/folio'
import type { TakeEvent } from '../../core/recording'
import { line } from '../support/make'

const frame = { pageId: 'p', box: { x: 0, y: 0, w: 320, h: 180 } }
const take = { durationMs: 10_000, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame }
const LEDGER: Ledger = {
  takeId: 't',
  turns: [],
  steps: [0, 5000].map((t, i) => ({ id: `s${i}`, t, title: '', words: '', struck: false })),
}

/** A desk over a question, at a moment of it, that keeps what is mended in its ledger. */
function mending(events: TakeEvent[], lesson: number, ledger = LEDGER) {
  let now = ledger
  let edition: Edition
  const compile = () => {
    edition = editionOf({ take, events, ledger: now, pages: [] } satisfies EditionSource)
  }
  compile()
  const past: Ledger[] = []
  const desk = new MendDesk(() => ({ edition, lesson, take: edition.time.toTake(lesson) }), {
    keep(mend: Mend) {
      past.push(now)
      now = changed(now, l => {
        l.mends = [...(l.mends ?? []), mend]
      })
      compile()
    },
    undo() {
      now = past.pop()!
      compile()
    },
    redo() {},
    get canUndo() {
      return past.length > 0
    },
    canRedo: false,
  })
  const at = (t: number) => edition.boardAt(t)
  return { desk, at, ledger: () => now, ids: (t: number) => at(t).strokes.map(s => s.of) }
}

describe('mending', () => {
  const log = [line('a', 1000, { y: 10 }), line('b', 2000, { y: 30 }), line('c', 6000, { y: 50 })]

  it('moves, recolours and removes from the moment at which it appeared; each is taken back by itself', () => {
    const m = mending(log, 4000)
    m.desk.alter(['a'], { matrix: [1, 0, 0, 1, 0, 100] })
    m.desk.alter(['b'], { role: 'answer' })
    m.desk.erase(['a', 'nothing'])
    expect(m.ids(1200)).toEqual([])
    m.desk.undo()
    expect([m.at(1200).strokes[0]!.stroke.points[1], m.at(2200).strokes[1]!.stroke.role]).toEqual([110, 'answer'])
    expect(m.ledger().mends).toHaveLength(2)
    m.desk.undo()
    m.desk.undo()
    expect(m.at(1200).strokes[0]!.stroke.points[1]).toBe(10)
  })
  it('what is written comes at the moment shown, with its own pace', () => {
    const m = mending(log, 4000)
    const id = m.desk.penDown('working', 'pen', { x: 5, y: 5, pressure: 0.5, now: 70_000 })
    m.desk.penMove([{ x: 50, y: 5, pressure: 0.5, now: 70_500 }])
    expect(m.desk.now().strokes.at(-1)!.count).toBe(2)
    m.desk.penUp()
    expect([m.ids(3999).includes(id), m.ids(4501).includes(id)]).toEqual([false, true])
    expect(m.at(4100).strokes.find(s => s.of === id)!.count).toBe(1)
  })
  it('ink that is written anew takes the place, the time and the pace of the old', () => {
    const m = mending(log, 4000)
    m.desk.rewriting = ['b']
    const id = m.desk.penDown('answer', 'pen', { x: 0, y: 70, pressure: 0.5, now: 0 })
    m.desk.penMove([{ x: 100, y: 70, pressure: 0.5, now: 9000 }])
    m.desk.penUp()
    expect(m.ids(2200)).toEqual(['a', id])
    expect(
      m
        .at(9000)
        .strokes.find(s => s.of === id)!
        .stroke.points.filter((_, i) => i % 4 === 3),
    ).toEqual([2000, 2100])
    const old: Stroke = { id: 'o', role: 'working', tool: 'pen', points: [0, 0, 0, 100, 10, 0, 0, 200, 20, 0, 0, 1000] }
    const twice = { ...old, points: [0, 0, 0, 0, 20, 0, 0, 1, 40, 0, 0, 2] }
    expect(retimed(twice, old).points.filter((_, i) => i % 4 === 3)).toEqual([100, 200, 1000])
  })
  it('of a line, a figure, an option: it then was always so', () => {
    const mark = (y: number) => ({
      kind: 'mark' as const,
      mark: 'box' as const,
      role: 'given' as const,
      boxes: [{ x: 0, y, w: 10, h: 10 }],
    })
    const placed: TakeEvent[] = [
      { type: 'place', t: 1000, id: 'm', thing: mark(0), over: 0 },
      { type: 'change', t: 3000, id: 'k', target: 'm', thing: mark(20) },
    ]
    const m = mending(placed, 8000)
    m.desk.change('m', mark(40))
    const y = (t: number) => (m.at(t).things[0]!.thing as ReturnType<typeof mark>).boxes[0]!.y
    expect([y(1500), y(3500)]).toEqual([40, 40])
    m.desk.place(mark(60))
    expect([m.at(7999).things.length, m.at(8001).things.length]).toEqual([1, 2])
  })
  it('a guide with another number is right in every move that was filled in, each at its own time', () => {
    const guide = (text: string): GuideThing => ({
      kind: 'guide',
      at: { x: 10, y: 10 },
      cell: 14,
      spec: readGuide('add', text),
      text,
    })
    const before = guide('47 + 25')
    const moves = layGuide(before.spec).moves.slice(0, 3)
    const events: TakeEvent[] = [
      { type: 'place', t: 500, id: 'g', thing: before, over: 0 },
      ...moves.map((move, i): TakeEvent => {
        const { strokes } = writeMove(move, before.at, before.cell, seededRandom(i), newId)
        const t = 1000 + 2000 * i
        const points = (s: Stroke) => s.points.map((n, k) => (k % 4 === 3 ? Math.round(n) + t : n))
        return {
          type: 'write',
          t,
          id: `w${i}`,
          guide: 'g',
          move: i,
          strokes: strokes.map(s => ({ ...s, points: points(s) })),
        }
      }),
    ]
    const m = mending(events, 9000)
    const many = m.at(9000).strokes.length
    m.desk.change('g', guide('46 + 25'))
    const { strokes, things } = m.at(9000)
    expect((things[0]!.thing as GuideThing).text).toBe('46 + 25')
    expect(strokes.length).toBeGreaterThan(0)
    expect(strokes.every(s => !events.some(e => e.type === 'write' && e.strokes.some(x => x.id === s.of)))).toBe(true)
    expect(Math.abs(strokes.length - many)).toBeLessThan(8)
    expect(m.at(999).strokes).toEqual([])
    expect(m.at(2999).strokes.length).toBeGreaterThan(0)
  })
  it('a digit that was written anew can be put wherever the wrong one was carried to', () => {
    const m = mending(log, 9000)
    const write = (y: number) => {
      m.desk.penDown('working', 'pen', { x: 20, y, pressure: 0.5, now: 0 })
      m.desk.penMove([{ x: 60, y, pressure: 0.5, now: 300 }])
      m.desk.penUp()
    }
    expect([m.desk.canRepeat, m.desk.alsoHere(['c'])]).toEqual([false, false])
    m.desk.rewriting = ['a']
    write(12)
    expect(m.desk.canRepeat).toBe(true)
    expect([m.desk.alsoHere(['c']), m.desk.alsoHere(['nothing'])]).toEqual([true, false])
    const [anew, b, also] = m.at(9000).strokes
    expect(b!.of).toBe('b')
    // As far from the middle of what it took the place of as the first one was, and in the time of that.
    expect(also!.stroke.points[1]).toBe(anew!.stroke.points[1]! + 40)
    expect([anew!.stroke.points[3], also!.stroke.points[3]]).toEqual([1000, 6000])
    expect(m.ledger().mends!.map(x => x.name)).toEqual(['write anew', 'write anew'])
  })
})
