import { describe, expect, it } from 'vitest'
import { Page, type Folio } from '../../core/folio'
import { growAbout, moveBy } from '../../core/ink'
import { BoardIndex, History, moveLog, sleptFor, type TakeEvent } from '../../core/recording'
import { folio, line } from '../support/make'

/** Ink that was moved or grown, on a page that got room afterwards. */
const first = { pageId: 'p1', box: { x: 0, y: 0, w: 595, h: 334 } }
const roomAt = (y: number, size = 100): Folio['pages'] => [
  Page.parse({
    ...folio().pages[0]!,
    height: 942,
    spaces: [{ id: 's', side: 'below', y, size, at: '2026-10-02T00:00:00.000Z' }],
  }),
]
const laid = (events: TakeEvent[], y: number) => moveLog(events, first, '2026-10-01T00:00:00.000Z', roomAt(y)).events
const ys = (events: TakeEvent[]) =>
  new BoardIndex(events, first).last().strokes.map(s => Math.round(s.stroke.points[1]!))
const alter = (id: string, t: number, matrix: readonly number[], ...targets: string[]): TakeEvent => ({
  type: 'alter',
  t,
  id,
  targets,
  matrix: [...matrix],
})

describe('a log on a page with room put in above its ink', () => {
  const low = line('low', 0, { y: 300 }),
    high = line('high', 0, { y: 50 })
  it('ink that was grown moves once, about the place that it was grown about', () => {
    const events = [low, alter('g', 500, growAbout(2, { x: 0, y: 280 }), 'low')]
    expect(ys(events)).toEqual([320])
    expect(ys(laid(events, 200))).toEqual([420])
    expect(ys(laid(events, 600))).toEqual([320])
  })
  it('ink that was moved over the line of the room ends where its place went', () => {
    expect(ys(laid([low, alter('m', 500, moveBy(0, -250), 'low')], 200))).toEqual([50])
    expect(ys(laid([high, alter('m', 500, moveBy(0, 250), 'high')], 200))).toEqual([400])
  })
  it('what was moved together goes each from its own side, and is one operation still', () => {
    const events: TakeEvent[] = [low, high, alter('m', 500, moveBy(0, 30), 'low', 'high')]
    const moved = laid(events, 200)
    expect(ys(moved).sort((a, b) => a - b)).toEqual([80, 430])
    expect(ys([...moved, { type: 'undo', t: 600, target: 'm' }]).sort((a, b) => a - b)).toEqual([50, 400])
    const history = new History()
    for (const event of moved) history.append(event)
    history.append({ type: 'undo', t: 600, target: 'm' })
    expect(history.undoTarget).toBe('high')
  })
  it('what was taken back, or gone back from, does not count for where it is', () => {
    const up = alter('up', 300, moveBy(0, -280), 'low'),
      then = alter('then', 700, moveBy(0, 10), 'low')
    expect(ys(laid([low, up, { type: 'undo', t: 400, target: 'up' }, then], 200))).toEqual([410])
    expect(
      ys(laid([low, up, { type: 'undo', t: 400, target: 'up' }, { type: 'redo', t: 500, target: 'up' }, then], 200)),
    ).toEqual([30])
    expect(
      ys(laid([low, { type: 'step', t: 200, id: 's' }, up, { type: 'back', t: 600, to: 200 }, then], 200)),
    ).toEqual([410])
  })
})

describe('a machine that slept', () => {
  it.each([
    ['nothing passed', { now: 260, wall: 260, silent: 20, idle: 0 }, 0],
    [
      'both clocks went on, the microphone did not',
      { now: 60_000, wall: 60_000, silent: 60_000, idle: 60_000 },
      60_000,
    ],
    ['the page was busy, the microphone was not', { now: 8000, wall: 8000, silent: 12, idle: 9000 }, 0],
    [
      'the monotonic clock stood still, and the microphone was gone a moment',
      { now: 250, wall: 600_000, silent: 700, idle: 4000 },
      600_000,
    ],
    ['the wall clock was set forward', { now: 250, wall: 3_600_000, silent: 11, idle: 4000 }, 0],
    ['the wall clock was set back', { now: 250, wall: -3_600_000, silent: null, idle: 90_000 }, 0],
    ['without a microphone nobody wrote', { now: 250, wall: 60_000, silent: null, idle: 5000 }, 60_000],
    ['without a microphone, in the middle of a stroke', { now: 250, wall: 60_000, silent: null, idle: 40 }, 0],
  ])('%s', (_, passed, wanted) => expect(sleptFor(passed)).toBe(wanted))
})
