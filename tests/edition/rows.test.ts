import { describe, expect, it } from 'vitest'
import { editionOf, type EditionSource } from '../../core/edition'
import { namerOf, pictureOfStep } from '../../core/edition/proofing'
import { Part, type Ledger, type LineThing, type OptionThing } from '../../core/folio'
import { readGuide } from '../../core/guides'
import type { TakeEvent } from '../../core/take'
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
