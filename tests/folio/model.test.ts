import { describe, expect, it } from 'vitest'
import {
  Folio,
  FOLIO_SCHEMA,
  frameOf,
  boxBetween,
  migrateFolio,
  newFolio,
  newId,
  nextNumber,
  questionName,
  stageOf,
  unionOf,
  asTrouble,
  Trouble,
} from '../../core/folio'
import { folio, question } from '../support/make'

describe('folio documents', () => {
  it('a new folio is a valid document of the present schema', () => {
    expect(Folio.parse(newFolio('Rates'))).toMatchObject({
      schema: FOLIO_SCHEMA,
      title: 'Rates',
      pages: [],
      questions: [],
    })
  })
  it('ids are safe in file names and unlike each other', () => {
    const ids = new Set(Array.from({ length: 500 }, newId))
    expect(ids.size).toBe(500)
    for (const id of ids) expect(id).toMatch(/^[a-z0-9]{20}$/)
  })
  it('refuses ids that could lead out of a folder, and sizes that are no numbers', () => {
    expect(Folio.safeParse(folio({ id: '../x' })).success).toBe(false)
    const pages = folio().pages.map(p => ({ ...p, width: Number.NaN }))
    expect(Folio.safeParse(folio({ pages })).success).toBe(false)
  })
  it('keeps any title as it is', () => {
    const title = '<img src=x onerror=alert(1)> & "quotes" —'
    expect(migrateFolio(folio({ title }), 'x').title).toBe(title)
  })
  it('numbers a new question after the largest one', () => {
    expect(nextNumber([])).toBe('1')
    expect(nextNumber([question('a', '3'), question('b', '4(b)'), question('c', 'A')])).toBe('5')
  })
  it('names a question with and without a title', () => {
    expect(questionName({ number: '4', title: 'Rate' })).toBe('4 — Rate')
    expect(questionName({ number: '4', title: '  ' })).toBe('Question 4')
  })
  it('tells the stage of a question', () => {
    const none = { rendered: new Set<string>(), published: new Set<string>() }
    expect(stageOf(question('a', '1', { regions: [] }), none)).toBe('not started')
    expect(stageOf(question('a', '1'), none)).toBe('prepared')
    const ledger = { takeId: 't', turns: [], steps: [] }
    expect(stageOf(question('a', '1', { ledger }), none)).toBe('recorded')
    expect(stageOf(question('a', '1', { ledger, proofed: true }), none)).toBe('proofed')
    expect(stageOf(question('a', '1', { ledger }), { rendered: new Set(['a']), published: new Set() })).toBe('rendered')
    expect(stageOf(question('a', '1', { ledger }), { rendered: new Set(['a']), published: new Set(['a']) })).toBe(
      'published',
    )
  })
})

describe('versions', () => {
  it('says so when a folio comes from a newer version, and changes nothing', () => {
    expect(() => migrateFolio({ ...folio(), schema: 99 }, 'later.folio')).toThrowError(
      expect.objectContaining({ code: 'folio-newer', message: expect.stringContaining('later.folio') }),
    )
  })
  it.each([null, 7, 'x', {}, { schema: 'one' }, { schema: 1 }, { ...folio(), questions: 'none' }])(
    'refuses %j as damaged',
    value => {
      expect(() => migrateFolio(value, 'x.folio')).toThrowError(expect.objectContaining({ code: 'folio-damaged' }))
    },
  )
})

describe('frames', () => {
  const { pages } = folio()
  it.each([
    ['wide', { x: 40, y: 100, w: 500, h: 60 }],
    ['tall', { x: 40, y: 100, w: 100, h: 400 }],
    ['tiny', { x: 300, y: 700, w: 20, h: 20 }],
    ['whole page', { x: 0, y: 0, w: 595, h: 841 }],
  ])('a %s region lies in a 16:9 frame', (_, box) => {
    const frame = frameOf(question('a', '1', { regions: [{ id: 'r', pageId: 'p1', box }] }), pages)!
    expect(frame.box.w / frame.box.h).toBeCloseTo(16 / 9, 6)
    expect(frame.box.x).toBeLessThanOrEqual(box.x)
    expect(frame.box.y).toBeLessThanOrEqual(box.y)
    expect(frame.box.x + frame.box.w).toBeGreaterThanOrEqual(box.x + box.w - 1e-9)
    expect(frame.box.y + frame.box.h).toBeGreaterThanOrEqual(box.y + box.h - 1e-9)
  })
  it('keeps to the page where it fits', () => {
    const frame = frameOf(
      question('a', '1', { regions: [{ id: 'r', pageId: 'p1', box: { x: 560, y: 820, w: 30, h: 20 } }] }),
      pages,
    )!
    expect(frame.box.x + frame.box.w).toBeLessThanOrEqual(595.28 + 1e-9)
    expect(frame.box.y + frame.box.h).toBeLessThanOrEqual(841.89 + 1e-9)
  })
  it('takes in all regions on the first region’s page', () => {
    const regions = [
      { id: 'a', pageId: 'p1', box: { x: 40, y: 100, w: 100, h: 50 } },
      { id: 'b', pageId: 'p1', box: { x: 200, y: 300, w: 100, h: 50 } },
      { id: 'c', pageId: 'p2', box: { x: 0, y: 0, w: 9, h: 9 } },
    ]
    const frame = frameOf(question('a', '1', { regions }), pages)!
    expect(frame.box.y + frame.box.h).toBeGreaterThanOrEqual(350)
    expect(frameOf(question('a', '1', { regions: [] }), pages)).toBeNull()
  })
  it('makes boxes from two corners in any order, cut to the page', () => {
    expect(boxBetween({ x: 50, y: 60 }, { x: -20, y: 10 }, pages[0]!)).toEqual({ x: 0, y: 10, w: 50, h: 50 })
    expect(boxBetween({ x: 5, y: 5 }, { x: 9, y: 9 }, pages[0]!)).toBeNull()
    expect(
      unionOf([
        { x: 0, y: 0, w: 1, h: 1 },
        { x: 5, y: 5, w: 1, h: 2 },
      ]),
    ).toEqual({ x: 0, y: 0, w: 6, h: 7 })
  })
})

describe('troubles', () => {
  it('keep their sentences across a worker boundary', () => {
    const trouble = new Trouble('pdf-empty', 'a.pdf is empty.', 'Nothing changed.', 'Export it again.')
    const back = asTrouble(JSON.parse(JSON.stringify(trouble)), 'x')
    expect([back.code, back.message, back.safe, back.next]).toEqual([
      'pdf-empty',
      'a.pdf is empty.',
      'Nothing changed.',
      'Export it again.',
    ])
  })
  it('name a full store as such, however the browser says it', () => {
    expect(asTrouble(new DOMException('no', 'QuotaExceededError'), 'storing').code).toBe('storage-full')
    expect(asTrouble(new Error('Quota exceeded'), 'storing').code).toBe('storage-full')
    expect(asTrouble('odd', 'storing').message).toContain('odd')
  })
})
