import { describe, expect, it } from 'vitest'
import { Cut, ledgerOf } from '../../core/cut'
import { editionOf } from '../../core/edition'
import {
  Breaks,
  TakeClock,
  TakeRecorder,
  pathOf,
  BoardIndex,
  settleJournal,
  type JournalEntry,
  type TakeEvent,
} from '../../core/recording'
import { seededRandom } from '../../core/ink'

const FRAME = { pageId: 'p1', box: { x: 0, y: 0, w: 320, h: 180 } }

function recorder(before?: { events: TakeEvent[]; t: number; sealed?: boolean }) {
  const journal: JournalEntry[] = []
  const made = new TakeRecorder(
    {
      journal: async (_, entries) => {
        journal.push(...entries.map(e => structuredClone(e)))
      },
      sound: async () => {},
      pictures: async () => {},
    },
    FRAME,
    before,
  )
  made.start(0)
  return { rec: made, journal }
}
const write = (rec: TakeRecorder, now: number, x = 10) => {
  const id = rec.penDown('working', 'pen', { x, y: 10, pressure: 0.5, now })!
  rec.penMove([{ x: x + 5, y: 12, pressure: 0.5, now: now + 20 }])
  rec.penUp()
  return id
}
const ids = (rec: TakeRecorder, t = Infinity) => rec.board.at(t).strokes.map(s => s.of)

describe('going back a step', () => {
  it('takes ink, undo and steps back to the last step mark; what came since can still be looked at', () => {
    const { rec } = recorder()
    const a = write(rec, 100)
    rec.markStep(1000)
    const b = write(rec, 1500)
    expect(rec.goBack(2000)).toBe(1000)
    expect(ids(rec)).toEqual([a])
    expect(ids(rec, 1900)).toEqual([a, b])
    expect(rec.undoTarget).toBe(a)
    const c = write(rec, 2500)
    expect(ids(rec)).toEqual([a, c])
    expect(ids(rec, 1900)).toEqual([a, b])
  })
  it('brings back what was rubbed out, undone, or covered since the mark', () => {
    const { rec } = recorder()
    const a = write(rec, 100),
      b = write(rec, 200),
      c = write(rec, 300)
    rec.undo(400)
    rec.markStep(1000)
    rec.erase([a], 1100)
    rec.redo(1200)
    rec.undo(1300)
    rec.goBack(2000)
    expect(ids(rec)).toEqual([a, b])
    expect([rec.undoTarget, rec.redoTarget]).toEqual([b, c])
  })
  it('again at once goes to the step before, and so on to the beginning; later it is the same step again', () => {
    const { rec } = recorder()
    write(rec, 100)
    rec.markStep(1000)
    const b = write(rec, 1200)
    rec.markStep(2000)
    write(rec, 2200)
    expect(rec.goBack(3000)).toBe(2000)
    expect(ids(rec)).toHaveLength(2)
    write(rec, 6000)
    expect(rec.goBack(7000)).toBe(3000)
    expect(ids(rec).at(-1)).toBe(b)
    expect(rec.goBack(7500)).toBe(1000)
    expect(ids(rec)).toHaveLength(1)
    expect(rec.goBack(8000)).toBe(0)
    expect(ids(rec)).toEqual([])
    expect(rec.goBack(8200)).toBe(8000)
    expect(rec.stepStarts).toEqual([8200])
  })
  it('brings back the frame and the look that students had', () => {
    const { rec } = recorder()
    rec.show({ type: 'look', box: { x: 1, y: 1, w: 160, h: 90 }, over: 0 }, 500)
    rec.markStep(1000)
    rec.show({ type: 'look', box: null, over: 0 }, 1200)
    rec.goTo({ ...FRAME, pageId: 'other' }, 1500)
    rec.goBack(2000)
    expect(rec.board.last().frame!.pageId).toBe(FRAME.pageId)
    expect(rec.board.last().look).toEqual({ x: 1, y: 1, w: 160, h: 90 })
  })
  it('survives the journal: what is read back after a crash stands the same', async () => {
    const { rec, journal } = recorder()
    write(rec, 100)
    rec.markStep(1000)
    write(rec, 1500)
    rec.goBack(2000)
    const c = write(rec, 2500)
    await rec.flush()
    const again = new BoardIndex(settleJournal(journal), FRAME)
    expect(again.last().strokes.map(s => s.of)).toEqual(ids(rec))
    expect(again.last().strokes.at(-1)!.of).toBe(c)
  })
})

describe('the ledger of a take that went back', () => {
  it('strikes what was taken back; the cut goes from the mark straight to where it began anew', () => {
    const { rec } = recorder()
    write(rec, 100)
    rec.markStep(1000)
    write(rec, 1500)
    rec.goBack(4000)
    write(rec, 4500)
    rec.markStep(6000)
    const made = ledgerOf('t', rec.events, 8000)
    expect(made.steps.map(s => [s.t, s.struck])).toEqual([
      [0, false],
      [1000, true],
      [4000, false],
      [6000, false],
    ])
    const cut = new Cut(made, 8000)
    expect([cut.duration, cut.toTake(999), cut.toTake(1000)]).toEqual([5000, 999, 4000])
    expect([500, 1000, 2500, 4000, 8000].map(t => rec.kept(t))).toEqual([500, 1000, 1000, 1000, 5000])
  })
  it('loses no struck moment to the rule that near marks are one, and has no step without length', () => {
    const { rec } = recorder()
    rec.markStep(1000)
    rec.goBack(1100)
    rec.goBack(1150)
    const made = ledgerOf('t', rec.events, 5000)
    expect(made.steps.map(s => [s.t, s.struck])).toEqual([
      [0, true],
      [1000, true],
      [1100, true],
      [1150, false],
    ])
    rec.goBack(5000)
    expect(ledgerOf('t', rec.events, 5000).steps.at(-1)).toMatchObject({ t: 1150, struck: true })
  })
  it('shows in the cut the board that she saw, without what she undid for good (200 random takes)', () => {
    for (let seed = 0; seed < 200; seed++) {
      const random = seededRandom(seed + 1)
      const { rec } = recorder()
      let now = 10
      const seen: { t: number; ids: string[] }[] = []
      for (let i = 0; i < 40; i++) {
        now += 300 + Math.floor(random() * 900)
        const r = random()
        if (r < 0.45) write(rec, now, random() * 100)
        else if (r < 0.55) {
          const on = ids(rec)
          if (on.length) rec.erase([on[Math.floor(random() * on.length)]!], now)
        } else if (r < 0.65) rec.undo(now)
        else if (r < 0.7) rec.redo(now)
        else if (r < 0.85) rec.markStep(now)
        else rec.goBack(now)
        seen.push({ t: now + 100, ids: ids(rec) })
      }
      const made = ledgerOf('t', rec.events, now + 1000)
      const take = { durationMs: now + 1000, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame: FRAME }
      const edition = editionOf({ take, events: rec.events, ledger: made, pages: [] })
      const whole = new BoardIndex(rec.events, FRAME)
      const cut = new Cut(made, now + 1000)
      const path = pathOf(rec.events)
      const toggles = path.filter(e => e.type === 'undo' || e.type === 'redo')
      const undone = toggles
        .filter(e => toggles.findLast(x => x.target === e.target)!.type === 'undo')
        .map(e => e.target)
      const told = path.filter(
        e => !('id' in e && undone.includes(e.id)) && !('target' in e && undone.includes(e.target)),
      )
      const lasting = new BoardIndex(told, FRAME)
      for (const s of seen) {
        expect(
          whole.at(s.t).strokes.map(x => x.of),
          `seed ${seed} at ${s.t}`,
        ).toEqual(s.ids)
        if (cut.holds(s.t))
          expect(
            edition.boardAt(cut.fromTake(s.t)).strokes.map(x => x.of),
            `seed ${seed}, cut, at ${s.t}`,
          ).toEqual(lasting.at(s.t).strokes.map(x => x.of))
      }
      expect(pathOf(rec.events).some(e => e.type === 'back')).toBe(false)
      // What the teacher is told while she records is what the video lasts.
      expect(rec.kept(now + 1000), `seed ${seed}`).toBe(cut.duration)
    }
  })
})

describe('a retake', () => {
  const first = recorder().rec
  const a = write(first, 100)
  first.markStep(1000)
  write(first, 1500)
  first.markStep(3000)
  write(first, 3500)
  const before = { events: first.events.filter(e => e.t <= 1000), t: 1000 }

  it('goes on where the step began, on the board as it stood there, in a log of its own', async () => {
    const { rec, journal } = recorder(before)
    expect(ids(rec)).toEqual([a])
    expect([rec.time(0), rec.time(700)]).toEqual([1000, 1700])
    const c = write(rec, 500)
    await rec.flush()
    expect(settleJournal(journal).map(e => e.type)).toEqual(['stroke', 'step', 'stroke'])
    expect(ids(rec)).toEqual([a, c])
    expect(rec.undoTarget).toBe(c)
    expect(first.board.last().strokes).toHaveLength(3)
  })
  it('keeps the steps before it as they were named; going back farther than it began strikes them', () => {
    const { rec } = recorder(before)
    const steps = [
      { id: 's1', t: 0, title: 'read', words: 'aloud', struck: false },
      { id: 's2', t: 1000, title: 'slip', words: '', struck: false },
    ]
    write(rec, 500)
    rec.markStep(2000)
    expect(ledgerOf('n', rec.events, 5000, { steps, t: 1000 }).steps.map(s => [s.t, s.title, s.struck])).toEqual([
      [0, 'read', false],
      [1000, '', false],
      [3000, '', false],
    ])
    rec.goBack(3000)
    rec.goBack(3200)
    rec.goBack(3400)
    expect(ledgerOf('n', rec.events, 5000, { steps, t: 1000 }).steps.map(s => s.struck)).toEqual([
      true,
      true,
      true,
      true,
      true,
      false,
    ])
  })
  it('has its clock go on there, also for sound', () => {
    const clock = new TakeClock(1000)
    expect(clock.at(5)).toBe(1000)
    clock.run(100)
    clock.halt(600)
    clock.run(900)
    expect([clock.at(100), clock.at(350), clock.at(700), clock.at(1000)]).toEqual([1000, 1250, 1500, 1600])
  })
})

describe('your turn', () => {
  const events: TakeEvent[] = [
    { type: 'turn', t: 2000, id: 'u', seconds: 60, hold: 5 },
    { type: 'step', t: 4000, id: 'm' },
  ]
  const made = ledgerOf('t', events, 10_000)
  const cut = new Cut(made, 10_000)
  it('holds the cut still for its seconds', () => {
    expect(cut.duration).toBe(15_000)
    expect([1999, 2000, 6999, 7000, 9000, 15_000].map(t => cut.toTake(t))).toEqual([
      1999, 2000, 2000, 2000, 4000, 10_000,
    ])
    expect([1999, 2000, 2001, 4000].map(t => cut.fromTake(t))).toEqual([1999, 2000, 7001, 9000])
    expect(cut.turnAt(4500)).toEqual({ turn: made.turns[0], share: 0.5 })
    expect([cut.turnAt(1999), cut.turnAt(7000)]).toEqual([null, null])
    expect(cut.chapters().map(c => c.t)).toEqual([0, 9000])
    expect(cut.turns()).toEqual([{ t: 2000, to: 7000, seconds: 60 }])
  })
  it('with no holding changes nothing of the length; in a struck step it is gone', () => {
    expect(new Cut({ ...made, turns: [{ ...made.turns[0]!, hold: 0 }] }, 10_000).duration).toBe(10_000)
    const struck = new Cut({ ...made, steps: made.steps.map((s, i) => ({ ...s, struck: i === 0 })) }, 10_000)
    expect([struck.duration, struck.turns()]).toEqual([6000, []])
  })
})

describe('natural breaks', () => {
  it('are where something goes on after two seconds of nothing, not more often than every eight', () => {
    const breaks = new Breaks(0)
    const active = [500, 1500, 3000, 6000, 9000, 9500, 12_500, 20_000, 20_100, 31_000]
    expect(active.filter(t => breaks.active(t))).toEqual([9000, 20_000, 31_000])
  })
  it('do not come right after a mark by hand', () => {
    const breaks = new Breaks(0)
    breaks.active(1000)
    breaks.mark(10_000)
    expect([breaks.active(13_000), breaks.active(19_000)]).toEqual([false, true])
  })
})

describe('a board that is talked over', () => {
  it('goes its course, and takes nothing new', async () => {
    const { rec: first } = recorder()
    const a = write(first, 100),
      b = write(first, 2000)
    const { rec } = recorder({ events: first.events, t: 0, sealed: true })
    expect([ids(rec, 500), ids(rec, 2500)]).toEqual([[a], [a, b]])
    expect(rec.penDown('working', 'pen', { x: 1, y: 1, pressure: 0.5, now: 700 })).toBeNull()
    rec.undo(800)
    rec.goTo({ ...FRAME, pageId: 'other' }, 900)
    rec.pause(1000)
    rec.resume(5000)
    expect(rec.events).toHaveLength(2)
    expect(await rec.stop(6000)).toBe(2000)
  })
})
