import { describe, expect, it } from 'vitest'
import { hintLedger, hintTurn } from '../../core/cut'
import { editionOf } from '../../core/edition'
import { seededRandom } from '../../core/ink'
import { decodeLesson, encodeLesson, lessonOf } from '../../core/lesson'
import type { Ledger } from '../../core/folio'
import type { TakeEvent } from '../../core/recording'
import { line } from '../support/make'

/** A hint cut goes out before the solution does: nothing of what was not chosen may be in it. */
const frame = { pageId: 'p', box: { x: 0, y: 0, w: 160, h: 90 } }
const take = { durationMs: 10_000, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame }
const ledger: Ledger = {
  takeId: 't',
  turns: [{ id: 'u', t: 7000, seconds: 60, hold: 4 }],
  steps: [0, 2000, 4000, 6000].map((t, i) => ({
    id: `s${i}`,
    t,
    title: `name ${i}`,
    words: `word ${i}`,
    struck: i === 2,
  })),
  strikes: [{ id: 'x', from: 200, to: 900, inkStays: true }],
}
const events: TakeEvent[] = Array.from({ length: 10 }, (_, i) => line(`l${i}`, i * 1000 + 300, { y: i * 8 + 5 }))
const lessonFor = (chosen: string[], of = ledger) => {
  const edition = editionOf({ take, events, ledger: hintLedger(of, chosen), pages: [] })
  const view = { frame, page: { id: 'p', width: 595, height: 842 }, pictures: [] }
  const parts = { views: [view], documents: [], sound: null, end: hintTurn(edition.duration) }
  return { edition, lesson: decodeLesson(encodeLesson(lessonOf(edition, parts))) }
}

describe('a hint cut', () => {
  it('has its steps, and ends with the student’s turn', () => {
    const { edition, lesson } = lessonFor(['s0', 's1'])
    expect(lesson.steps.map(s => s.title)).toEqual(['name 0', 'name 1'])
    expect(edition.duration).toBe(3300)
    expect(lesson.turns).toEqual([{ t: 3040, to: 3300, seconds: 120 }])
  })
  it('has nothing of the others in its data: no ink, name, word or sound', () => {
    const { edition, lesson } = lessonFor(['s1'])
    const text = JSON.stringify(lesson)
    for (const other of ['name 0', 'name 2', 'name 3', 'word 3']) expect(text).not.toContain(other)
    const heights = lesson.events.flatMap(e => (e.type === 'stroke' ? [e.points[1]!] : []))
    expect(heights).toEqual([21, 29])
    expect(edition.captions().map(c => c.text)).toEqual(['word 1'])
    expect(edition.soundPlan().every(p => p.from === null || (p.from >= 2000 && p.from + p.ms <= 4000))).toBe(true)
  })
  it('leaves a struck step out though it was chosen, and is empty where nothing is', () => {
    expect(lessonFor(['s2']).edition.duration).toBe(0)
    expect(lessonFor([]).edition.duration).toBe(0)
    expect(lessonFor(['gone']).edition.duration).toBe(0)
  })
  it('never holds ink of a step that was not chosen, whatever was chosen (500 sets)', () => {
    const random = seededRandom(16)
    let found = 0
    for (let n = 0; n < 500; n++) {
      const chosen = ['s0', 's1', 's2', 's3'].filter(() => random() < 0.5)
      const stays = random() < 0.3
      const of = {
        ...ledger,
        steps: ledger.steps.map(s => ({ ...s, ...(stays && s.struck ? { inkStays: true } : {}) })),
      }
      const allowed = chosen.flatMap(id => (id === 's2' && !stays ? [] : [0, 1].map(k => 2 * Number(id[1]) + k)))
      // The last step is longer: four seconds.
      if (chosen.includes('s3')) allowed.push(8, 9)
      const heights = lessonFor(chosen, of).lesson.events.flatMap(e =>
        e.type === 'stroke' ? [(e.points[1]! - 5) / 8] : [],
      )
      expect(heights.every(h => allowed.includes(h))).toBe(true)
      found += heights.length
    }
    expect(found).toBeGreaterThan(500)
  })
})
