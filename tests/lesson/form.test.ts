import { describe, expect, it } from 'vitest'
import { editionOf } from '../../core/edition'
import { namerOf, parterOf } from '../../core/edition/proofing'
import { layFigure } from '../../core/figures'
import type { FigureSpec, GuideSpec, Thing } from '../../core/folio/thing'
import { layGuide } from '../../core/guides'
import { seededRandom } from '../../core/ink'
import {
  decodeLesson,
  encodeLesson,
  LESSON_FORM,
  lessonOf,
  LessonTrouble,
  type LaidOut,
  type Lesson,
} from '../../core/lesson'
import { laidOutIn } from '../../core/lesson/laid'
import { NumberReader, NumberWriter } from '../../core/lesson/varints'
import { BoardIndex, type TakeEvent } from '../../core/recording'
import { makeDemoFolio } from '../../demo/make'
import * as laid from '../../student/laid'

const { folio, takes } = await makeDemoFolio()
const question = folio.questions.find(q => q.ledger)!
const take = takes.find(t => t.take.id === question.ledger!.takeId)!
const edition = editionOf({
  ...take,
  ledger: question.ledger!,
  pages: folio.pages,
  namer: namerOf(question),
  parter: parterOf(question),
})
const view = { frame: edition.first, page: { id: 'p1', width: 595, height: 842 }, pictures: [] }
const lesson = lessonOf(edition, { views: [view], documents: [], sound: { path: 'q1.m4a', mime: 'audio/mp4' } })
const bytes = encodeLesson(lesson)

describe('a lesson as bytes', () => {
  it('is read again as it was: the board of its edition at every moment, to a twentieth of a point', () => {
    const read = decodeLesson(bytes)
    expect({ ...read, events: [], always: [] }).toEqual({ ...lesson, events: [], always: [] })
    const board = BoardIndex.of({ until: () => read }, read.first)
    for (let t = 0; t <= edition.duration; t += 1733) {
      const [a, b] = [board.at(t), edition.boardAt(t)]
      expect(a.strokes.map(s => [s.of, s.stroke.role, s.count])).toEqual(
        b.strokes.map(s => [s.of, s.stroke.role, s.count]),
      )
      expect(a.things.map(x => [x.id, x.thing])).toEqual(b.things.map(x => [x.id, x.thing]))
      a.strokes.forEach((s, i) =>
        s.stroke.points.forEach((n, k) => {
          const off = Math.abs(n - b.strokes[i]!.stroke.points[k]!)
          expect(off).toBeLessThanOrEqual([0.026, 0.026, 0.0051, 0.51][k % 4]!)
        }),
      )
    }
  })
  it('takes a few bytes for a sample, also before it is packed', () => {
    const samples = lesson.events.reduce((n, e) => n + (e.type === 'stroke' ? e.points.length / 4 : 0), 0)
    const without = encodeLesson({
      ...lesson,
      events: lesson.events.map(e => (e.type === 'stroke' ? { ...e, points: [] } : e)),
    })
    expect((bytes.length - without.length) / samples).toBeLessThan(6)
  })
  it('brings what its guides and figures look like, for a player that knows none of their methods', () => {
    const figure = { figure: 'circle', radius: 3, sectors: [0, 60], label: 'r' } satisfies FigureSpec
    const at = { x: 0, y: 0 }
    const zero: GuideSpec = { guide: 'division', dividend: '1', divisor: '0', places: 0 }
    const place = (thing: object): TakeEvent => ({ type: 'place', t: 0, id: 'a', thing: thing as Thing, over: 0 })
    const guides: GuideSpec[] = [
      { guide: 'columns', operation: 'add', numbers: ['11547', '8.25'] },
      { guide: 'division', dividend: '10290', divisor: '42', places: 0 },
    ]
    const all = [
      ...guides.map(spec => place({ kind: 'guide', at, cell: 12, spec })),
      place({ kind: 'figure', at, unit: 20, role: 'working', spec: figure, sets: {} }),
      place({ kind: 'guide', at, cell: 12, spec: zero }),
    ]
    const brought = laidOutIn(all)!
    laid.learnLayouts({ ...lesson, laid: JSON.parse(JSON.stringify(brought)) as LaidOut })
    for (const spec of guides) expect(laid.layGuide(spec)).toEqual({ ...layGuide(spec), moves: [], order: [] })
    expect(Object.keys(brought.figures)).toHaveLength(1)
    expect(laid.layFigure(figure)).toEqual(JSON.parse(JSON.stringify(layFigure(figure))))
    expect(() => laid.layGuide(zero)).toThrow()
    expect(laidOutIn([])).toBeNull()
  })
  it('knows its steps, with what was typed in them', () => {
    expect(lesson.steps.map(s => s.title)).toEqual(edition.chapters().map(c => c.title))
    const also = folio.questions.flatMap(q => {
      const of = takes.find(t => t.take.id === q.ledger?.takeId)
      const made = of && editionOf({ ...of, ledger: q.ledger!, pages: folio.pages })
      return made ? lessonOf(made, { views: [], documents: [], sound: null }).steps.flatMap(s => s.also ?? []) : []
    })
    expect(also.length).toBeGreaterThan(2)
  })
})

describe('what is no lesson', () => {
  const trouble = (data: Uint8Array) => {
    try {
      decodeLesson(data)
      return 'read'
    } catch (error) {
      return error instanceof LessonTrouble ? error.code : String(error)
    }
  }
  it('of a newer form says so', () => {
    const newer = bytes.slice()
    new DataView(newer.buffer).setUint32(4, LESSON_FORM + 1)
    expect(trouble(newer)).toBe('newer')
  })
  it('with an event of a newer version says so', () => {
    const encoded = new TextDecoder('latin1').decode(bytes)
    const at = encoded.indexOf('"type":"stroke"')
    expect(at).toBeGreaterThan(0)
    const newer = bytes.slice()
    newer.set(new TextEncoder().encode('"type":"hologr"'), at)
    expect(trouble(newer)).toBe('newer')
  })
  it('is told as damaged, wherever it is cut off or changed, and nothing runs away', () => {
    const random = seededRandom(15)
    for (let n = 0; n < 300; n++)
      expect(trouble(bytes.subarray(0, Math.floor(random() * (bytes.length - 1))))).toBe('damaged')
    for (let n = 0; n < 300; n++) {
      const changed = bytes.slice()
      for (let k = 0; k < 3; k++) changed[Math.floor(random() * changed.length)] = Math.floor(random() * 256)
      expect(['read', 'damaged', 'newer']).toContain(trouble(changed))
    }
    for (const text of ['', 'OGLS', 'no lesson at all, but long enough'])
      expect(trouble(new TextEncoder().encode(text))).toBe('damaged')
    const empty: Partial<Lesson> = { duration: 1 }
    expect(trouble(encodeLesson({ ...lesson, ...empty, views: [] }))).toBe('damaged')
  })
  it('numbers of every size go there and back; one that ends early is none', () => {
    const all = [0, 1, -1, 63, 64, -64, 127, 128, 300, -300, 2 ** 31, -(2 ** 40)]
    const writer = new NumberWriter()
    all.forEach(n => writer.push(n))
    const written = writer.finish()
    const reader = new NumberReader(written)
    expect(all.map(() => reader.next())).toEqual(all)
    expect(() => reader.next()).toThrow(RangeError)
  })
})
