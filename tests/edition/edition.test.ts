import { describe, expect, it } from 'vitest'
import { editionLength, editionOf, type EditionSource } from '../../core/edition'
import type { Ledger, Page } from '../../core/folio'
import type { TakeEvent } from '../../core/recording'
import { makeDemoFolio } from '../../demo/make'
import { line } from '../support/make'

const frame = { pageId: 'p', box: { x: 0, y: 0, w: 160, h: 90 } }
const other = { pageId: 'q', box: { x: 0, y: 0, w: 160, h: 90 } }
const page = (spaces: Page['spaces'] = []) =>
  ({
    id: 'p',
    kind: 'blank',
    paper: 'plain',
    dark: false,
    width: 160,
    height: 200,
    spaces,
    patches: [],
  }) as unknown as Page
const take = {
  durationMs: 9000,
  startedAt: '2026-11-27T10:00:00.000Z',
  gaps: [
    { from: 2500, to: 4500 },
    { from: 3200, to: 3300 },
  ],
  frame,
}
const ledger: Ledger = {
  takeId: 't',
  turns: [{ id: 'u', t: 7000, seconds: 30, hold: 2 }],
  steps: [
    [0, 'Read', false],
    [3000, 'Slip', true],
    [5000, 'Solve', false],
  ].map(([t, title, struck], i) => ({ id: `s${i}`, t, title, words: '', struck }) as Ledger['steps'][number]),
}
const events: TakeEvent[] = [
  line('a', 1000, { y: 20 }),
  line('slip', 3500, { y: 40 }),
  line('b', 6000, { y: 60 }),
  { type: 'frame', t: 8000, frame: other },
  { type: 'frame', t: 8500, frame },
]
const source: EditionSource = { take, events, ledger, pages: [page()] }
const ids = (strokes: readonly { of: string }[]) => strokes.map(s => s.of)

describe('an edition', () => {
  it('leaves out the time and the ink of struck steps; in the take both are still there', () => {
    const edition = editionOf(source)
    expect(edition.duration).toBe(9000 - 2000 + 2000)
    expect(editionLength(ledger, take)).toBe(edition.duration)
    expect(ids(edition.boardAt(3500).strokes)).toEqual(['a'])
    expect(ids(edition.boardAt(edition.duration).strokes)).toEqual(['a', 'b'])
    expect(ids(edition.boardInTake(4000).strokes)).toEqual(['a', 'slip'])
    expect(ids(edition.boardInTake(6500).strokes)).toEqual(['a', 'slip', 'b'])
    expect(edition.chapters()).toEqual([
      { t: 0, title: 'Read' },
      { t: 3000, title: 'Solve' },
    ])
    expect(edition.empty).toBe(false)
    expect(
      editionOf({ ...source, ledger: { ...ledger, steps: ledger.steps.map(s => ({ ...s, struck: true })) } }).empty,
    ).toBe(true)
  })
  it('plans its sound without a hole; where the student is to try there is silence', () => {
    expect(editionOf(source).soundPlan()).toEqual([
      { at: 0, ms: 3000, take: 't', from: 0 },
      { at: 3000, ms: 2000, take: 't', from: 5000 },
      { at: 5000, ms: 2000, take: 't', from: null },
      { at: 7000, ms: 2000, take: 't', from: 7000 },
    ])
  })
  it('has those losses of sound that are heard', () => {
    expect(editionOf(source).soundGaps()).toEqual([{ from: 2500, to: 3000 }])
  })
  it('lies on the pages as they are now; the log stays as it was recorded', () => {
    const before = JSON.stringify(events)
    const moved = editionOf({
      ...source,
      pages: [
        page([{ id: 'x', side: 'below', y: 50, size: 30, at: '2026-11-27T11:00:00.000Z' } as Page['spaces'][number]]),
      ],
    })
    const ys = (t: number) => moved.boardAt(t).strokes.map(s => s.stroke.points[1])
    expect(ys(moved.duration)).toEqual([20, 90])
    expect(JSON.stringify(events)).toBe(before)
  })
  it('a mend moves along with room that is made after it, and with none that was there before', () => {
    const at = (hour: number) => `2026-11-27T${hour}:00:00.000Z`
    const room = (id: string, hour: number) =>
      ({ id, side: 'below', y: 50, size: 30, at: at(hour) }) as Page['spaces'][number]
    // Half as large, about the middle of what it is done to as that lies then.
    const half = (y: number): TakeEvent => ({
      type: 'alter',
      t: 0,
      id: 'h',
      targets: ['b'],
      matrix: [0.5, 0, 0, 0.5, 0, y / 2],
    })
    const ys = (made: number, y: number, spaces: Page['spaces']) => {
      const mends = [{ id: 'm', made: at(made), name: 'half', events: [half(y)] }]
      const edition = editionOf({ ...source, pages: [page(spaces)], ledger: { ...ledger, mends } })
      return edition.boardAt(edition.duration).strokes.map(s => s.stroke.points[1])
    }
    expect(ys(12, 60, [])).toEqual([20, 60])
    expect(ys(12, 60, [room('after', 13)])).toEqual([20, 90])
    expect(ys(12, 90, [room('before', 11)])).toEqual([20, 90])
    expect(ys(12, 90, [room('before', 11), room('after', 13)])).toEqual([20, 120])
  })
  it('knows each of its frames once, the first first', () => {
    expect(editionOf(source).frames()).toEqual([frame, other])
  })
  it('shows the camera where it has a picture and is not hidden', () => {
    const portrait = { shape: 'circle' as const, corner: 'bottom-right' as const, size: 0.25 }
    const filmed = editionOf({
      ...source,
      take: { ...take, camera: { width: 640, height: 360, gaps: [{ from: 1000, to: 2000 }] } },
      ledger: { ...ledger, portrait },
    })
    expect(filmed.pictured).toEqual([
      { from: 0, to: 1000 },
      { from: 2000, to: 3000 },
      { from: 3000, to: 5000 },
      { from: 7000, to: 9000 },
    ])
    expect(filmed.portraitAt(1500, frame.box)).toBeNull()
    expect(filmed.portraitAt(2500, frame.box)).toMatchObject({ w: 22.5, h: 22.5 })
    expect(editionOf({ ...source, ledger: { ...ledger, portrait } }).portraitAt(2500, frame.box)).toBeNull()
  })
  it('shows the camera of the take that is shown, and none where another voice is heard', () => {
    const portrait = { shape: 'circle' as const, corner: 'bottom-right' as const, size: 0.25 }
    const camera = { width: 640, height: 360, gaps: [] }
    const pictured = (made: Partial<Ledger['steps'][number]>, own = true, its = true) =>
      editionOf({
        ...source,
        take: { ...take, ...(own ? { camera } : {}) },
        others: { n: { take: { ...take, durationMs: 4000, ...(its ? { camera } : {}) }, events: [] } },
        ledger: { ...ledger, turns: [], portrait, steps: [{ ...ledger.steps[0]!, ...made }, ledger.steps[2]!] },
      }).pictured.map(s => [s.from, s.to])
    const anew = { takeId: 'n', from: 0, to: 4000 }
    expect(pictured({ anew })).toEqual([
      [0, 4000],
      [4000, 8000],
    ])
    expect(pictured({ anew }, false)).toEqual([[0, 4000]])
    expect(pictured({ anew }, true, false)).toEqual([[4000, 8000]])
    expect(pictured({ anew: { ...anew, over: true } })).toEqual([[5000, 9000]])
    expect(pictured({ voice: anew })).toEqual([[4000, 8000]])
  })
  it('of the sample’s questions is the same from the same source, and its parts agree', async () => {
    const { folio, takes } = await makeDemoFolio()
    const recorded = folio.questions.filter(q => q.ledger)
    expect(recorded.length).toBeGreaterThan(3)
    for (const question of recorded) {
      const whole = takes.find(t => t.take.id === question.ledger!.takeId)!
      const [edition, again] = [0, 1].map(() => editionOf({ ...whole, ledger: question.ledger!, pages: folio.pages }))
      const ends = edition!.soundPlan().map(p => p.at + p.ms)
      expect(ends.at(-1)).toBe(edition!.duration)
      edition!
        .soundPlan()
        .slice(1)
        .forEach((p, i) => expect(p.at).toBe(ends[i]))
      for (const { t } of edition!.chapters()) expect(edition!.time.fromTake(edition!.time.toTake(t))).toBe(t)
      const views = edition!.frames().map(f => JSON.stringify(f))
      for (let t = 0; t <= edition!.duration; t += 977) {
        const board = edition!.boardAt(t)
        expect(views).toContain(JSON.stringify(board.frame))
        expect(board).toEqual(again!.boardAt(t))
      }
    }
  })
})
