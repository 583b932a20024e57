import { describe, expect, it } from 'vitest'
import {
  acceptProposals,
  addPatch,
  FOLIO_SCHEMA,
  framesOf,
  insertSpace,
  makePart,
  makeQuestion,
  mergeIntoPrevious,
  migrateFolio,
  movePage,
  onPage,
  Page,
  patchList,
  pictureSize,
  putClip,
  removePage,
  renumberFrom,
  splitQuestion,
  stripsOf,
  rotationHindrance,
  rotatePage,
  widestFrame,
  withTakeAlone,
} from '../../core/folio'
import { changed } from '../../core/folio/change'
import { moveLog } from '../../core/recording'
import { folio, line, question } from '../support/make'

const region = (id: string, y: number, h: number, pageId = 'p1') => [
  { id: `r-${id}`, pageId, box: { x: 40, y, w: 400, h } },
]
const place = (y: number) => ({ pageId: 'p1', box: { x: 60, y, w: 200, h: 14 } })
const three = () =>
  folio({
    questions: [
      question('a', '1', { regions: region('a', 100, 100) }),
      question('b', '2', { regions: region('b', 210, 100), marks: 3 }),
      question('c', '3', { regions: region('c', 320, 100) }),
    ],
  })

describe('numbering anew', () => {
  it.each([
    ['', '3', ['3', '4', '5']],
    ['', 'i', ['i', 'ii', 'iii']],
    ['iii', 'iv', ['iv', 'v', 'vi']],
    ['h', 'i', ['i', 'j', 'k']],
    ['', 'z', ['z', 'aa', 'ab']],
    ['', 'A', ['A', 'B', 'C']],
    ['', '2(b)', ['2(b)', '2', '3']],
    ['', 'IX', ['IX', 'X', 'XI']],
    ['4', '5c', ['5c', '5d', '5e']],
  ])('after “%s” goes on from %s', (before, first, expected) => {
    const of = folio({ questions: ['0', '1', '2', '3'].map((n, i) => question(`q${n}`, i ? n : before)) })
    of.questions[1]!.number = first
    renumberFrom(of, 'q1', first)
    expect(of.questions.slice(1).map(q => q.number)).toEqual(expected)
  })
})

describe('correcting what was found', () => {
  it('all are taken, or one', () => {
    const f = three()
    f.questions.forEach(q => {
      q.proposal = 0.9
    })
    acceptProposals(f, new Set(['b']))
    expect(f.questions.map(q => q.proposal)).toEqual([0.9, null, 0.9])
    acceptProposals(f)
    expect(f.questions.every(q => q.proposal === null)).toBe(true)
  })
  it('a question is cut in two, and its parts go to the side they stand on', () => {
    const f = three()
    f.questions[0]!.parts = [
      { id: 'x', label: 'a', marks: 1, answer: '', place: place(120) },
      { id: 'y', label: 'b', marks: 2, answer: '', place: place(170) },
    ]
    splitQuestion(f, 'a', 'r-a', 160)
    expect(
      f.questions.map(q => [q.number, q.regions[0]!.box.y, q.regions[0]!.box.h, q.parts.map(p => p.label).join('')]),
    ).toEqual([
      ['1', 100, 60, 'a'],
      ['2', 160, 40, 'b'],
      ['2', 210, 100, ''],
      ['3', 320, 100, ''],
    ])
    expect(splitQuestion(f, 'a', 'r-a', 101)).toBeNull()
  })
  it('questions are joined, and regions that touch become one', () => {
    const f = three()
    expect(mergeIntoPrevious(f, 'b')).toBe(true)
    expect(f.questions.map(q => [q.number, q.marks, q.regions.length, q.regions[0]!.box.h])).toEqual([
      ['1', 3, 1, 210],
      ['3', null, 1, 100],
    ])
    expect(mergeIntoPrevious(f, 'a')).toBe(false)
  })
  it('a question becomes a part and a part a question, there and back', () => {
    const f = three()
    makePart(f, 'b')
    expect(f.questions[0]!.parts.map(p => [p.label, p.marks])).toEqual([['a', 3]])
    const id = makeQuestion(f, 'a', f.questions[0]!.parts[0]!.id)
    expect(f.questions.map(q => [q.number, q.marks])).toEqual([
      ['1', null],
      ['1a', 3],
      ['3', null],
    ])
    expect(f.questions[1]!.id).toBe(id)
    expect(f.questions[0]!.parts).toEqual([])
  })
  it('what was recorded is never merged away', () => {
    const f = three()
    f.questions[1]!.ledger = { takeId: 't', turns: [], steps: [] }
    expect([mergeIntoPrevious(f, 'b'), makePart(f, 'b')]).toEqual([false, false])
  })
  it.each([
    ['5', ['1', '5', '6']],
    ['Q7', ['1', 'Q7', 'Q8']],
    ['C', ['1', 'C', 'D']],
    ['', ['1', '2', '3']],
  ])('counts on from %s', (first, numbers) => {
    const f = three()
    renumberFrom(f, 'b', first)
    expect(f.questions.map(q => q.number)).toEqual(numbers)
  })
})

describe('pages', () => {
  it('room below a line moves what is below, grows what it goes through, and the picture comes in strips', () => {
    const f = three()
    insertSpace(f, 'p1', { side: 'below', y: 250, size: 80 })
    expect(f.questions.map(q => [q.regions[0]!.box.y, q.regions[0]!.box.h])).toEqual([
      [100, 100],
      [210, 180],
      [400, 100],
    ])
    const page = f.pages[0]!
    expect([page.height, pictureSize(page).height]).toEqual([921.89, 841.89])
    expect(stripsOf(page).map(s => [s.from, s.y])).toEqual([
      [0, 0],
      [250, 330],
    ])
    insertSpace(f, 'p1', { side: 'below', y: 100, size: 20 })
    insertSpace(f, 'p1', { side: 'beside', y: 0, size: 198 })
    expect([onPage(page, 90), onPage(page, 120), onPage(page, 300)]).toEqual([90, 140, 400])
    expect(page.width).toBeCloseTo(793.28)
  })
  it('ink of an older take moves along with it, of a newer one stays', () => {
    const f = three()
    insertSpace(f, 'p1', { side: 'below', y: 250, size: 80 }, new Date('2026-10-02T08:00:00Z'))
    const events = [line('up', 0, { y: 120 }), line('down', 200, { y: 340 })],
      first = { pageId: 'p1', box: { x: 0, y: 300, w: 320, h: 180 } }
    const moved = moveLog(events, first, '2026-10-01T08:00:00.000Z', f.pages)
    expect(moved.events.map(e => e.type === 'stroke' && e.points[1])).toEqual([120, 420])
    expect(moved.first.box.y).toBe(380)
    expect(moveLog(events, first, '2026-10-03T08:00:00.000Z', f.pages)).toEqual({ events, first })
  })
  it('turning takes regions along, four turns bring everything back, and what holds it is said', () => {
    const f = three(),
      before = JSON.stringify(f.questions)
    rotatePage(f, 'p1')
    expect([f.pages[0]!.width, f.pages[0]!.turns]).toEqual([841.89, 1])
    for (let i = 0; i < 3; i++) rotatePage(f, 'p1')
    expect(f.questions[0]!.regions[0]!.box).toEqual(JSON.parse(before)[0].regions[0].box)
    expect([rotationHindrance(f.pages[0]!, false), rotationHindrance(f.pages[0]!, true)]).toEqual([
      null,
      expect.stringContaining('recorded'),
    ])
  })
  it('pages are moved, and taken out with what lies on them', () => {
    const f = three()
    f.pages.push(Page.parse({ id: 'p2', kind: 'blank', paper: 'squared', width: 842, height: 595 }))
    f.questions.push(question('d', '4', { regions: region('d', 10, 50, 'p2') }))
    movePage(f, 1, 0)
    expect([f.pages[0]!.id, f.questions[0]!.id]).toEqual(['p2', 'd'])
    removePage(f, 'p1')
    expect(f.questions.map(q => q.id)).toEqual(['d'])
  })
  it('patches are listed for the author of the sheet', () => {
    const f = three()
    addPatch(f, 'p1', {
      box: { x: 40, y: 100, w: 60, h: 14 },
      text: '30 204 m',
      before: '30 240 m',
      size: 11.5,
      serif: true,
    })
    expect(patchList(f)).toMatchObject([{ page: 1, before: '30 240 m', text: '30 204 m' }])
  })
  it('a folio of the first version gets what is new', () => {
    const old = {
      ...folio(),
      schema: 1,
      questions: [{ id: 'q', number: '1', title: '', regions: [], ledger: null, proofed: false }],
    } as Record<string, unknown>
    delete old.plan
    expect(migrateFolio(old, 'old.folio')).toMatchObject({
      schema: FOLIO_SCHEMA,
      minutesAMark: 1,
      plan: { due: '' },
      questions: [{ parts: [], answer: '', frames: [] }],
    })
  })
})

describe('frames', () => {
  const pages = folio().pages
  it('letters are at least 22 pixels high in a picture of 720 lines, else there are several frames', () => {
    const q = question('q', '1', { letters: 8, regions: region('q', 100, 420) })
    const frames = framesOf(q, pages)
    expect(frames.length).toBeGreaterThan(1)
    for (const f of frames) expect((8 * 1280) / f.box.w).toBeGreaterThanOrEqual(22 / 1.12 - 0.01)
    expect(Math.max(...frames.map(f => f.box.y + f.box.h))).toBeGreaterThanOrEqual(520)
    expect(framesOf({ ...q, letters: 12 }, pages)[0]!.box.w).toBeLessThanOrEqual(1.12 * widestFrame(12))
  })
  it('those that were set come first; a scratch page keeps the problem in sight', () => {
    const set = { pageId: 'p1', box: { x: 0, y: 0, w: 320, h: 180 } }
    expect(framesOf(question('q', '1', { frames: [set] }), pages)).toEqual([set])
    const scratch = Page.parse({ id: 's', kind: 'blank', paper: 'squared', width: 842, height: 474 })
    const [, frame] = framesOf(question('q', '1', { scratch: 's', sight: 'beside' }), [...pages, scratch])
    expect(frame).toMatchObject({ pageId: 's', inset: { pageId: 'p1' } })
    expect(frame!.inset!.box.w).toBeLessThanOrEqual(frame!.box.w * 0.36 + 0.01)
    expect(framesOf(question('q', '1', { scratch: 's', sight: 'off' }), [...pages, scratch])[1]!.inset).toBeUndefined()
  })
})

describe('clips', () => {
  it('take their place, of a question or of the folio; what was there goes with its words', () => {
    const doc = folio({ questions: [question('q1', '1', { clips: { opening: { takeId: 'old', said: 'Hello' } } })] })
    putClip(doc, { id: 'new', questionId: 'q1', clip: 'opening' })
    putClip(doc, { id: 'all', questionId: doc.id, clip: 'end' })
    putClip(doc, { id: 'lost', questionId: 'gone', clip: 'end' })
    putClip(doc, { id: 'take', questionId: 'q1', clip: undefined })
    expect(doc.questions[0]!.clips).toEqual({ opening: { takeId: 'new', said: '' } })
    expect(doc.clips).toEqual({ end: { takeId: 'all', said: '' } })
  })
  it('and takes that are rescued alone stand where they belong: a clip is never a solution', () => {
    const ledger = (takeId: string) => ({ takeId, steps: [], turns: [] })
    const doc = folio({
      clips: { end: { takeId: 'z', said: 'Bye' } },
      questions: [
        question('q1', '1', {
          ledger: ledger('a'),
          shelved: [ledger('b')],
          clips: { opening: { takeId: 'c', said: '' } },
        }),
        question('q2', '2', { ledger: ledger('d') }),
      ],
    })
    const kept = (take: Parameters<typeof withTakeAlone>[1]) => {
      const { clips, questions } = withTakeAlone(doc, take, ledger(take.id))
      return [clips, ...questions.map(q => [q.ledger?.takeId ?? null, q.shelved.length, q.clips])]
    }
    expect(kept({ id: 'new', questionId: 'q1', clip: undefined })).toEqual([{}, ['new', 0, {}], [null, 0, {}]])
    expect(kept({ id: 'new', questionId: 'q1', clip: 'end' })).toEqual([
      {},
      [null, 0, { end: { takeId: 'new', said: '' } }],
      [null, 0, {}],
    ])
    expect(kept({ id: 'new', questionId: doc.id, clip: 'opening' })).toEqual([
      { opening: { takeId: 'new', said: '' } },
      [null, 0, {}],
      [null, 0, {}],
    ])
    expect(doc.questions[0]!.shelved).toHaveLength(1)
  })
})

describe('states for undo', () => {
  it('share what does not change: 200 changes of a folio with 100 held lines take at most 10 MB', () => {
    const set = {
      width: 900,
      height: 700,
      depth: 200,
      equals: 300,
      mathml: '<math/>',
      marks: Array.from({ length: 12 }, () => ({ d: 'M0 0C1 2 3 4 5 6'.repeat(40) })),
    }
    const held = Array.from({ length: 100 }, (_, i) => ({
      id: `h${i}`,
      name: 'x',
      pageId: 'p1',
      how: 'writing' as const,
      thing: {
        kind: 'line' as const,
        at: { x: 1, y: i },
        size: 12,
        role: 'working' as const,
        notation: 'maths' as const,
        source: 'x',
        set,
      },
    }))
    const states = [
      structuredClone(folio({ questions: [question('a', '1', { held: structuredClone(held) }), question('b', '2')] })),
    ]
    for (let i = 0; i < 200; i++)
      states.push(
        changed(states.at(-1)!, f => {
          f.questions[1]!.title = `Title ${i}`
          f.questions[0]!.held[i % 100]!.name = `line ${i}`
        }),
      )
    const seen = new Set<unknown>()
    let bytes = 0
    const weigh = (value: unknown) => {
      if (typeof value === 'string') bytes += 2 * value.length
      else if (typeof value !== 'object' || value === null) bytes += 8
      else if (!seen.has(value)) {
        seen.add(value)
        bytes += 24
        for (const [key, inner] of Object.entries(value)) {
          bytes += 8 * Math.min(1, key.length)
          weigh(inner)
        }
      }
    }
    weigh(states)
    expect(bytes).toBeLessThan(10e6)
    expect(states[0]!.questions[1]!.title).toBe('')
    expect(states[200]!.questions[0]!.held[99]!.name).toBe('line 199')
  })
})

describe('proposed frames', () => {
  const pages = folio().pages
  const at = (id: string, y: number, h: number, w = 500) =>
    question(id, id, { letters: 10, regions: [{ id: `r${id}`, pageId: 'p1', box: { x: 40, y, w, h } }] })
  it('a region a hair wider than what is readable has one frame', () => {
    const widest = widestFrame(10)
    expect(framesOf(at('1', 100, 60, widest * 1.08 - 16), pages)).toHaveLength(1)
  })
  it('a large region has a few frames, and none runs off the page', () => {
    const frames = framesOf(at('1', 40, 700), pages)
    expect(frames.length).toBeLessThanOrEqual(4)
    for (const { box } of frames) {
      expect(box.x).toBeGreaterThanOrEqual(-0.01)
      expect(box.y).toBeGreaterThanOrEqual(-0.01)
      expect(box.x + box.w).toBeLessThanOrEqual(pages[0]!.width + 0.01)
      expect(box.y + box.h).toBeLessThanOrEqual(pages[0]!.height + 0.01)
    }
  })
  it('a long text is cut between its lines, above and below', () => {
    // Lines of 14 points from 60 on, of which 4 are between two of them.
    const gaps = Array.from({ length: 47 }, (_, i) => 58 + 14 * i)
    const q = at('1', 52, 640)
    q.regions[0]!.gaps = gaps
    const frames = framesOf(q, pages)
    expect(frames.length).toBeGreaterThan(1)
    const cut = (y: number) => !gaps.some(g => Math.abs(g - y) <= 2)
    frames.forEach(({ box }, i) => {
      if (i > 0) expect(cut(box.y), `frame ${i} begins at ${box.y}`).toBe(false)
      if (i < frames.length - 1) expect(cut(box.y + box.h), `frame ${i} ends at ${box.y + box.h}`).toBe(false)
    })
  })
  it('the heights between lines go along when room is made', () => {
    const doc = folio({ questions: [at('1', 100, 200)] })
    doc.questions[0]!.regions[0]!.gaps = [120, 240]
    insertSpace(doc, 'p1', { side: 'below', y: 200, size: 50 })
    expect(doc.questions[0]!.regions[0]!.gaps).toEqual([120, 290])
  })
  it('the frame ends before the next question where there is room above', () => {
    const [q, next] = [at('1', 300, 100), at('2', 410, 100)]
    const box = framesOf(q, pages, [q, next])[0]!.box
    expect(box.y + box.h).toBeLessThanOrEqual(410)
    expect(box.y).toBeLessThanOrEqual(300)
    // Over the room of the question above, but not over its words.
    const above = at('0', 150, 140)
    expect(framesOf(q, pages, [above, q, next])[0]!.box.y).toBeGreaterThanOrEqual(150 + 54 - 0.01)
    const printed = {
      ...above,
      parts: [
        {
          id: 'p',
          label: 'a',
          marks: null,
          answer: '',
          place: { pageId: 'p1', box: { x: 40, y: 150, w: 400, h: 135 } },
        },
      ],
    }
    expect(framesOf(q, pages, [printed, q, next])[0]!.box.y).toBeGreaterThanOrEqual(285 - 0.01)
  })
})
