import { describe, expect, it } from 'vitest'
import { Breaks, BoardIndex, restOf, type TakeEvent } from '../../core/recording'
import { ledgerOf } from '../../core/cut'
import { line } from '../support/make'

const stroke = (id: string, t: number) => line(id, t) as TakeEvent

describe('what goes on after a moment', () => {
  it('is all that comes later and refers to nothing before; the board can be made of it', () => {
    const events: TakeEvent[] = [
      stroke('a', 100),
      { type: 'step', t: 900, id: 's' },
      stroke('b', 1000),
      { type: 'erase', t: 1100, id: 'e', strokes: ['a'] },
      { type: 'undo', t: 1200, target: 'b' },
      { type: 'redo', t: 1300, target: 'b' },
    ]
    const rest = restOf(events, 500)
    expect(rest.map(e => e.type)).toEqual(['stroke', 'undo', 'redo'])
    expect(new BoardIndex([stroke('new', 10), ...rest]).at(2000).strokes).toHaveLength(2)
  })
})

describe('natural breaks', () => {
  it('are found while a steady voice goes on: the pen rested, and begins at another place', () => {
    const breaks = new Breaks(0)
    breaks.writes(500, { x: 10, y: 10 })
    breaks.wrote(1000, { x: 40, y: 10 })
    for (let t = 1100; t < 12_000; t += 100) expect(breaks.active(t)).toBe(false)
    expect(breaks.writes(12_000, { x: 10, y: 90 })).toBe(true)
    breaks.wrote(12_400, { x: 40, y: 90 })
    // Near by, or soon again, is no break.
    expect(breaks.writes(15_500, { x: 50, y: 92 })).toBe(false)
    expect(breaks.writes(16_000, { x: 10, y: 200 })).toBe(false)
  })
})

describe('a step mark just before the end', () => {
  it('begins no empty step, unless something is written after it', () => {
    const mark: TakeEvent = { type: 'step', t: 9000, id: 's' }
    expect(ledgerOf('t', [stroke('a', 100), mark], 10_000).steps).toHaveLength(1)
    expect(ledgerOf('t', [stroke('a', 100), mark, stroke('b', 9400)], 10_000).steps).toHaveLength(2)
    expect(ledgerOf('t', [stroke('a', 100), mark], 14_000).steps).toHaveLength(2)
  })
})
