import { describe, expect, it } from 'vitest'
import { editionOf, type EditionSource } from '../../core/edition'
import { moveStep, stepsAlone } from '../../core/cut'
import { namerOf, needIn, parterOf, pictureOfStep, sectionsOf } from '../../core/edition/proofing'
import { changed, Part, type Ledger, type LineThing, type OptionThing } from '../../core/folio'
import { readGuide } from '../../core/guides'
import type { TakeEvent } from '../../core/recording'
import { line } from '../support/make'

const frame = { pageId: 'p1', box: { x: 0, y: 0, w: 400, h: 225 } }
const take = { durationMs: 8000, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame }
const ledger = (titles: string[] = []): Ledger => ({
  takeId: 't',
  turns: [],
  steps: Array.from({ length: 8 }, (_, i) => ({
    id: `s${i}`,
    t: i * 1000,
    title: titles[i] ?? '',
    words: '',
    struck: false,
  })),
})
const typed = (source: string, y: number): LineThing => ({
  kind: 'line',
  source,
  notation: 'mixed',
  at: { x: 20, y },
  size: 12,
  role: 'working',
  set: { marks: [], width: 4000, height: 700, depth: 200, equals: null, mathml: '' },
})
const option: OptionThing = {
  kind: 'option',
  label: 'B',
  box: { x: 20, y: 60, w: 30, h: 12 },
  state: 'out',
  reason: 'wrong unit',
  set: null,
  at: { x: 20, y: 60 },
}
const place = (t: number, thing: unknown, id = `p${t}`) => ({ type: 'place', t, id, thing, over: 0 }) as TakeEvent
const events: TakeEvent[] = [
  line('a', 200, { y: 40 }),
  place(1200, typed('@2(3x) = 12', 50)),
  place(2200, option),
  place(
    3200,
    { kind: 'guide', at: { x: 10, y: 130 }, cell: 14, spec: readGuide('add', '47 + 25'), text: '47 + 25' },
    'g',
  ),
  { type: 'write', t: 4200, id: 'w', guide: 'g', move: 0, strokes: [{ ...line('m', 4200, { y: 150 }) }] },
  { type: 'turn', t: 5200, id: 'u', seconds: 30, hold: 0 },
]
const parts = [
  Part.parse({ id: 'pa', label: 'a', place: { pageId: 'p1', box: { x: 0, y: 20, w: 200, h: 12 } } }),
  Part.parse({ id: 'pb', label: 'b(ii)', place: { pageId: 'p1', box: { x: 0, y: 120, w: 200, h: 12 } } }),
]
type More = Partial<EditionSource> & { parts?: Part[] }
const source = ({ parts: of = [], ...more }: More = {}): EditionSource => ({
  take,
  events,
  ledger: ledger(),
  pages: [],
  namer: namerOf({ parts: of }),
  parter: parterOf({ parts: of }),
  ...more,
})
const names = (more: More = {}) =>
  editionOf(source(more))
    .chapters()
    .map(c => c.title)

describe('what a step is called', () => {
  it('is what was placed or revealed in it, else its place', () => {
    const called = names()
    expect(called.slice(0, 4)).toEqual(['Step 1', '3x = 12', 'B is out: wrong unit', '47 + 25'])
    expect(called[4]).toMatch(/\w/)
    expect(called[4]).not.toBe('Step 5')
    expect(called.slice(5)).toEqual(['Your turn', 'Step 7', 'Step 8'])
  })
  it('begins with the part below which it was written', () => {
    const called = names({ parts })
    expect(called.slice(0, 4)).toEqual(['a, step 1', 'a: 3x = 12', 'a: B is out: wrong unit', 'b(ii): 47 + 25'])
    expect(called[4]).toMatch(/^b\(ii\): /)
  })
  it('is what she typed, always; captions say it where no words are known', () => {
    const edition = editionOf(source({ ledger: ledger(['What is asked', '  ']), parts }))
    expect(edition.chapters()[0]!.title).toBe('What is asked')
    expect(edition.chapters()[1]!.title).toBe('a: 3x = 12')
    expect(edition.captions()[0]!.text.replace('\n', ' ')).toBe('What is asked')
  })
})

describe('what a step shows', () => {
  it('is its own ink among what was there before, with room round it', () => {
    const edition = editionOf(source())
    const at = (t: number) => edition.boardAt(t)
    const second = pictureOfStep(at, 1000, 2000)
    expect([second.board.strokes.length, second.own.strokes.length, second.own.things.length]).toEqual([1, 0, 1])
    const first = pictureOfStep(at, 0, 1000)
    expect(first.own.strokes.map(s => s.of)).toEqual(['a'])
    expect(first.box!.w).toBeGreaterThanOrEqual(150)
    expect(first.box!.y).toBeLessThan(40)
    expect(pictureOfStep(at, 6000, 7000).box).toBeNull()
  })
})

describe('the parts of a question', () => {
  it('group the steps: each belongs to where most of it was written, or to the part of the step before', () => {
    const edition = editionOf(source({ parts }))
    expect(sectionsOf(edition).map(s => [s.part, s.from, s.to, s.steps.length])).toEqual([
      ['a', 0, 3000, 3],
      ['b(ii)', 3000, 8000, 5],
    ])
    expect(edition.chapters().map(c => c.part)).toEqual([...Array(3).fill('a'), ...Array(5).fill('b(ii)')])
    expect(edition.chapters('part')).toEqual([
      { t: 0, title: 'Part a', part: 'a' },
      { t: 3000, title: 'Part b(ii)', part: 'b(ii)' },
    ])
    const plain = editionOf(source())
    expect([sectionsOf(plain), plain.chapters('part').length]).toEqual([[], 8])
  })
  it('can be editions of their own, on the board as it stands before them', () => {
    const [, b] = sectionsOf(editionOf(source({ parts })))
    const alone = editionOf(source({ parts, ledger: stepsAlone(ledger(), new Set(b!.steps)) }))
    expect(alone.duration).toBe(5000)
    expect(alone.boardAt(0).things.map(t => t.id)).toEqual(['p1200', 'p2200'])
    expect(alone.boardAt(0).strokes.map(s => s.of)).toEqual(['a'])
    expect(alone.boardAt(5000).strokes.map(s => s.of)).toEqual(['a', 'm'])
  })
})

describe('steps in another order', () => {
  it('are told where one changes what another brings only later', () => {
    const moved: TakeEvent[] = [
      ...events,
      { type: 'alter', t: 6500, id: 'x', targets: ['a'], matrix: [1, 0, 0, 1, 9, 0] },
    ]
    const made = (steps: number) =>
      editionOf(source({ events: moved, ledger: changed(ledger(), l => void moveStep(l, 6, steps)) }))
    expect(needIn(made(0))).toBeNull()
    expect(needIn(made(-5))).toBeNull()
    const need = needIn(made(-6))!
    expect([need.step.step.id, need.needs.step.id]).toEqual(['s6', 's0'])
  })
})
