import { describe, expect, it } from 'vitest'
import { archiveBlob } from '../../core/folio'
import { seededRandom, touches, PEN_ROLES } from '../../core/ink'
import { folioFiles, readFolioFile } from '../../core/publish'
import {
  BoardIndex,
  History,
  settleJournal,
  TakeRecorder,
  type JournalEntry,
  type SoundChunk,
} from '../../core/recording'
import { folio } from '../support/make'

/**
 * A teacher with a restless hand: strokes, erasing, undo, redo, steps, pauses, and a store that refuses now and then.
 */
async function restless(seed: number) {
  const random = seededRandom(seed)
  const journal: JournalEntry[] = []
  const chunks: SoundChunk[] = []
  let refuse = false
  const fail = () => {
    if (refuse) throw new DOMException('full', 'QuotaExceededError')
  }
  const recorder = new TakeRecorder({
    journal: async (seq, entries) => {
      fail()
      expect(seq).toBeGreaterThanOrEqual(0)
      journal.push(...structuredClone(entries))
    },
    sound: async pieces => {
      fail()
      chunks.push(...pieces)
    },
    pictures: async () => {},
  })
  let now = 1000 + random() * 1e6
  const start = now
  recorder.start(now)
  let ran = 0
  const pass = (ms: number) => {
    if (!recorder.paused) {
      for (let t = now; t < now + ms; t += 10) recorder.sound(new Int16Array(480), 48_000, t)
      ran += ms
    }
    now += ms
  }
  for (let i = 0; i < 120; i++) {
    const kind = random()
    if (kind < 0.5) {
      const at = () => ({ x: random() * 500, y: random() * 800, pressure: random(), now })
      recorder.penDown(PEN_ROLES[i % 5]!, (['pen', 'touch', 'mouse'] as const)[i % 3]!, at())
      for (let k = 0; k < random() * 12; k++) {
        pass(10)
        recorder.penMove([at(), at()])
      }
      recorder.penUp()
    } else if (kind < 0.6) {
      const a = { x: random() * 500, y: random() * 800 }
      const b = { x: random() * 500, y: random() * 800 }
      recorder.erase(
        recorder.board
          .last()
          .strokes.filter(s => touches(s.stroke, a, b, 5))
          .map(s => s.stroke.id),
        now,
      )
    } else if (kind < 0.72) recorder.undo(now)
    else if (kind < 0.8) recorder.redo(now)
    else if (kind < 0.88) recorder.markStep(now)
    else if (kind < 0.94) recorder.pause(now)
    else recorder.resume(now)
    pass(Math.floor(random() * 30) * 10)
    refuse = random() < 0.2
    if (random() < 0.6) await recorder.flush()
  }
  refuse = false
  const duration = await recorder.stop(now)
  return { recorder, journal, chunks, duration, ran, start }
}

describe.each([1, 2, 3, 4, 5, 6, 7, 8])('a restless hand, no. %i', seed => {
  it('leaves a journal that tells all of it, once and in order', async () => {
    const { recorder, journal, chunks, duration, ran } = await restless(seed)
    const events = settleJournal(journal)
    expect(events).toEqual(recorder.events)
    expect(recorder.unsaved).toEqual({ entries: 0, chunks: 0, pictures: 0 })
    expect(Math.abs(duration - ran)).toBeLessThanOrEqual(1)
    expect(events.every((e, i) => i === 0 || e.t >= events[i - 1]!.t)).toBe(true)
    expect(chunks.map(c => c.seq)).toEqual(chunks.map((_, i) => i))
    const sound = chunks.reduce((sum, c) => sum + c.pcm.length, 0) / 48
    expect(Math.abs(sound - ran)).toBeLessThan(15)
    for (let i = 1; i < chunks.length; i++)
      expect(Math.abs(chunks[i]!.t0 - chunks[i - 1]!.t0 - chunks[i - 1]!.pcm.length / 48)).toBeLessThan(16)
  })
  it('has the same board, history and file whether read live or from disk', async () => {
    const { recorder, journal, duration } = await restless(seed)
    const events = settleJournal(journal)
    const index = new BoardIndex(events)
    const shown = (b: ReturnType<BoardIndex['at']>) => b.strokes.map(s => [s.stroke.id, s.count])
    for (let t = 0; t <= duration; t += Math.max(1, Math.floor(duration / 37)))
      expect(shown(index.at(t))).toEqual(shown(recorder.board.at(t)))
    const history = new History()
    for (const e of events) history.append(e)
    expect([history.undoTarget, history.redoTarget]).toEqual([recorder.undoTarget, recorder.redoTarget])
    const take = {
      id: 't1',
      folioId: 'f1',
      questionId: 'q1',
      startedAt: '2026-10-01T08:00:00.000Z',
      durationMs: duration,
      state: 'whole' as const,
      frame: { pageId: 'p1', box: { x: 0, y: 0, w: 16, h: 9 } },
      microphone: '',
      pen: '',
      gaps: [],
    }
    const file = await archiveBlob(
      folioFiles({
        folio: folio({ documents: [], pages: [] }),
        documents: new Map(),
        takes: [{ take, events, sound: null }],
      }),
    )
    expect((await readFolioFile(file, 'x.folio')).takes[0]!.events).toEqual(events)
  })
})
