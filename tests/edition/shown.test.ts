import { describe, expect, it } from 'vitest'
import { hintLedger } from '../../core/cut'
import { editionOf, type Edition } from '../../core/edition'
import { namerOf } from '../../core/edition/proofing'
import { changed } from '../../core/folio'
import { seededRandom } from '../../core/ink'
import { base64, decodeLesson, encodeLesson, lessonOf, type Lesson } from '../../core/lesson'
import {
  calendarOf,
  cartridgeFiles,
  feedOf,
  sidecars,
  studentPage,
  type PublishedFolio,
  type PublishedQuestion,
} from '../../core/publish'
import { sceneOf } from '../../core/scene'
import type { Board } from '../../core/recording'
import { folio as make, question } from '../support/make'
import { corrected, ELSEWHERE, inkPlace, RUBBED, takenOut, UNHEARD, word, type TakenOut } from '../support/takenOut'

const namer = namerOf({ parts: [] })
const edition = (of: TakenOut) => editionOf({ ...of.source, namer })
const lesson = (made: Edition): Lesson => lessonOf(made, { views: [], documents: [], sound: null })

/** A question on the page, of what its edition says. */
function published(made: Edition): PublishedQuestion {
  const of = lesson(made)
  return {
    id: 'q',
    number: '1',
    title: 'How high',
    lesson: base64(encodeLesson(of)),
    duration: made.duration,
    chapters: of.steps,
    captions: made.captions(),
    turns: of.turns,
    print: [],
    base: 'q1',
    name: 'q1',
  }
}
const folio = (q: PublishedQuestion): PublishedFolio => ({
  id: 'f',
  title: 'Balloon Day',
  course: '',
  author: '',
  questions: [q],
  worksheets: [],
  plan: { lesson: '', due: '', bring: '', next: [], related: [] },
  skipped: [],
})

/** All that goes out in words, with the bytes of the lesson as they are before they are packed. */
async function texts(made: Edition, { source }: TakenOut): Promise<string> {
  const q = published(made)
  const page = await studentPage(folio(q), { script: '', aids: '', style: '', icons: '' })
  const feed = feedOf(folio(q), '', new Map(), '2026-12-01T10:00:00.000Z')
  const bytes = new TextDecoder('latin1').decode(encodeLesson(lesson(made)))
  const whole = make({ questions: [{ ...question('q', '1'), ledger: source.ledger }] })
  const cartridge = cartridgeFiles(whole, whole.questions, 'https://site.example/0123/').map(f => String(f.data))
  const calendar = calendarOf({ ...whole, plan: { ...whole.plan, due: '2026-12-04' } }, '', '2026-12-01T10:00:00.000Z')!
  return [page, feed, bytes, calendar, ...cartridge, ...sidecars(q).map(s => s.text)].join('\n')
}

/** Where ink lies that goes out: in the lesson, as it is decoded, and in every step's picture; the last is the handout's. */
function places(made: Edition): Set<number> {
  const decoded = decodeLesson(encodeLesson({ ...lesson(made), views: [{}] as unknown as Lesson['views'] }))
  const strokes = decoded.events.flatMap(e => (e.type === 'stroke' ? [e] : e.type === 'write' ? e.strokes : []))
  const xs = strokes.flatMap(s => s.points.filter((_, i) => i % 4 === 0))
  const page = { id: 'p', width: 1600, height: 900 }
  const moments = [...made.chapters().flatMap(c => [Math.max(0, c.t - 1), c.t]), made.duration]
  const drawn = moments
    .flatMap(t => sceneOf(made.boardAt(t), page, made.first.box).drawings)
    .flatMap(d => (d.kind === 'ink' ? d.outlines.flatMap(o => o.rings.flatMap(r => r[0]!)) : []))
  return new Set([...xs, ...drawn.map(x => 10 * Math.round(x / 10))])
}

/** What stands on a board, to be compared: ids tell only the log from which it comes. */
const content = ({ strokes, things, frame }: Board) => ({
  strokes: strokes.map(s => s.stroke.points.slice(0, s.count * 4)).sort(),
  things: things.map(t => ('source' in t.thing ? t.thing.source : '')).sort(),
  frame: frame?.pageId,
})

describe('what she took out is in nothing that goes out', () => {
  it('neither in words nor in ink: undone, gone back over, struck, trimmed, mended, on a page passed by (300 folios)', async () => {
    let [out, shown, elsewhere] = [0, 0, 0]
    for (let seed = 0; seed < 300; seed++) {
      const of = takenOut(seed)
      const made = edition(of)
      if (made.empty) continue
      const [text, xs] = [await texts(made, of), places(made)]
      for (const i of of.out) {
        expect(text.includes(word(i)), `word ${i} of folio ${seed}`).toBe(false)
        expect(text.includes(corrected(i)), `corrected word ${i} of folio ${seed}`).toBe(false)
        expect(xs.has(inkPlace(i)), `ink ${i} of folio ${seed}`).toBe(false)
      }
      for (const i of of.mended) {
        expect(text.includes(word(i)), `corrected ${i} of folio ${seed}`).toBe(false)
        expect(xs.has(RUBBED + i), `rubbed out ${i} of folio ${seed}`).toBe(false)
      }
      for (const i of of.shown) {
        const found = i % 2 ? text.includes(of.mended.has(i) ? corrected(i) : word(i)) : xs.has(inkPlace(i))
        expect(found, `${i} of folio ${seed} is shown`).toBe(true)
      }
      expect(text.includes(UNHEARD), `words of another voice of folio ${seed}`).toBe(false)
      expect(text.includes(ELSEWHERE.pageId), `page of folio ${seed}`).toBe(false)
      expect(
        made.frames().map(f => f.pageId),
        `frames of folio ${seed}`,
      ).not.toContain(ELSEWHERE.pageId)
      out += of.out.size
      shown += of.shown.size
      elsewhere += of.elsewhere ? 1 : 0
    }
    expect([out > 3000, shown > 2000, elsewhere > 100]).toEqual([true, true, true])
  }, 120_000)

  it('and what is left out of the log is missed by nobody: it shows the same board at every moment (300 folios)', () => {
    let compared = 0
    for (let seed = 0; seed < 300; seed++) {
      const made = edition(takenOut(seed))
      const random = seededRandom(seed + 7)
      for (let n = 0; n < 12; n++) {
        const t = n ? random() * made.duration : Infinity
        const name = `folio ${seed} at ${t}`
        expect(content(made.shown.index.at(t)), name).toEqual(content(made.board.at(t)))
        compared++
      }
    }
    expect(compared).toBe(3600)
  }, 120_000)

  it('nor is what a hint leaves out in the hint', async () => {
    let checked = 0
    for (let seed = 0; seed < 60; seed++) {
      const of = takenOut(seed)
      const { steps } = of.source.ledger
      const chosen = steps.slice(0, 2).map(s => s.id)
      const made = editionOf({ ...of.source, namer, ledger: hintLedger(of.source.ledger, chosen) })
      if (!made.duration) continue
      const [text, xs] = [await texts(made, of), places(made)]
      for (let i = 0; i < 28; i++) {
        if (100 + i * 400 < steps[2]!.t) continue
        expect([text.includes(word(i)), xs.has(inkPlace(i))], `${i} of folio ${seed}`).toEqual([false, false])
        checked++
      }
    }
    expect(checked).toBeGreaterThan(500)
  })

  it('a line that was undone names no step; one that was erased names none after it, and is seen until then', () => {
    const of = takenOut(3)
    const bare = {
      ...of.source,
      ledger: changed(of.source.ledger, l => {
        l.strikes = l.mends = undefined
        for (const s of l.steps) s.struck = false
      }),
    }
    const at = (i: number) => of.source.events.find(e => e.type === 'place' && e.id === `i${i}`)!
    const first = { ...at(1), t: 100 }
    const named = (...events: typeof of.source.events) => {
      const made = editionOf({ ...bare, events: [first, ...events], namer })
      return [made.nameOf(made.time.steps[0]!), lesson(made).steps[0]!.also, JSON.stringify(lesson(made).events)]
    }
    expect(named()[0]).toBe(word(1))
    const undone = named({ type: 'undo', t: 900, target: 'i1' })
    expect(undone).toEqual(['Step 1', undefined, '[]'])
    const erased = named({ type: 'erase', t: 900, id: 'e', strokes: ['i1'] })
    expect(erased.slice(0, 2)).toEqual(['Step 1', undefined])
    expect(erased[2]).toContain(word(1))
    const inStruck = named({ type: 'undo', t: 9000, target: 'i1' })
    expect(inStruck[0]).toBe('Step 1')
  })
})
