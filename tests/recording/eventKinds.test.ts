import { describe, expect, it } from 'vitest'
import { layLog } from '../../core/edition'
import type { Page, Thing } from '../../core/folio'
import { EVENT_KINDS, History, JournalEntry, kindOf, TakeEvent } from '../../core/recording'
import { line } from '../support/make'

const TYPES = TakeEvent.options.map(o => o.shape.type.value)
const page = {
  id: 'p',
  kind: 'blank',
  paper: 'plain',
  dark: false,
  width: 100,
  height: 300,
  patches: [],
  spaces: [{ id: 'x', side: 'below', y: 50, size: 30, at: '2026-11-27T11:00:00.000Z' }],
} as unknown as Page
const frame = { pageId: 'p', box: { x: 0, y: 60, w: 160, h: 90 } }
const box = { x: 10, y: 100, w: 20, h: 10 }
const thing: Thing = { kind: 'mark', mark: 'box', role: 'given', boxes: [box] }
/** One of each kind, all below the room that is made. */
const SAMPLES: { [T in TakeEvent['type']]: Extract<TakeEvent, { type: T }> } = {
  stroke: line('s', 100, { y: 100 }),
  write: { type: 'write', t: 100, id: 'w', strokes: [line('ws', 100, { y: 100 })] },
  place: { type: 'place', t: 100, id: 'p', thing, over: 300 },
  change: { type: 'change', t: 100, id: 'c', target: 'p', thing },
  alter: { type: 'alter', t: 100, id: 'a', targets: ['s'], matrix: [2, 0, 0, 2, 0, 0] },
  split: { type: 'split', t: 100, id: 'k', strokes: [{ id: 's', keep: [[0, 2]] }] },
  erase: { type: 'erase', t: 100, id: 'e', strokes: ['s'] },
  undo: { type: 'undo', t: 100, target: 's' },
  redo: { type: 'redo', t: 100, target: 's' },
  trail: { ...line('t', 100, { y: 100 }), type: 'trail' } as unknown as Extract<TakeEvent, { type: 'trail' }>,
  look: { type: 'look', t: 100, box, over: 400 },
  spot: { type: 'spot', t: 100, box },
  frame: { type: 'frame', t: 100, frame },
  back: { type: 'back', t: 100, to: 0 },
  step: { type: 'step', t: 100, id: 'm' },
  pause: { type: 'pause', t: 100, away: 9 },
  turn: { type: 'turn', t: 100, id: 'u', seconds: 30, hold: 3 },
}

/** Kinds that lie somewhere on a page. */
const PLACED = ['stroke', 'write', 'place', 'change', 'alter', 'trail', 'look', 'spot', 'frame']

describe.each(TYPES)('the kind %s', type => {
  const event = TakeEvent.parse(SAMPLES[type])
  const kind = kindOf(event)
  it('tells the history whether undo takes it back', () => {
    const history = new History()
    history.append(event)
    expect(history.undoTarget !== undefined).toBe(kind.undoable)
  })
  it('goes along with room that is made above it', () => {
    const before = line('s', 0, { y: 100 })
    const { events } = layLog({ frame, startedAt: '2026-11-27T10:00:00.000Z' }, [before, event], [page])
    expect(JSON.stringify(events.slice(1)) !== JSON.stringify([event])).toBe(PLACED.includes(type))
  })
  it('maps every name that it brings and refers to', () => {
    const mapped = kind.mapIds(event, { brought: id => `${id}+`, referred: id => `${id}-` })
    expect(kind.brings(mapped)).toEqual(kind.brings(event).map(id => `${id}+`))
    expect(kind.refs(mapped)).toEqual(kind.refs(event).map(id => `${id}-`))
    if ('id' in mapped) expect(mapped.id).toBe(`${(event as { id: string }).id}+`)
  })
  it('maps all of its times', () => {
    const later = (points: number[]) => points.map((n, i) => (i % 4 === 3 ? n + 1000 : n))
    const mapped = kind.mapTimes(event, { moment: t => t + 1000, samples: later, rewound: t => t + 1000 })
    expect(mapped.t).toBe(event.t + 1000)
    expect(kind.end(mapped)).toBe(kind.end(event) + 1000)
    expect(kind.ink(mapped).map(s => s.points.at(-1)! - 1000)).toEqual(kind.ink(event).map(s => s.points.at(-1)))
  })
  it('is itself where all items count, and brings nothing where none does', () => {
    expect(kind.restrict(event, () => true)).toEqual(event)
    const rest = kind.restrict(event, () => false)
    expect(rest === null).toBe(kind.lifetime === 'content')
  })
  it('is over when it is no longer busy', () => {
    const busy = kind.busy(event)
    if (busy) expect(busy).toEqual({ from: event.t, to: Math.max(kind.end(event), event.t + 50) })
    expect(kind.end(event)).toBeGreaterThanOrEqual(event.t)
  })
  it('keeps its samples apart and takes them back', () => {
    const apart: number[][] = []
    const bare = kind.mapSamples(event, points => [apart.push(points) - 1])
    expect(kind.mapSamples(bare, ([i]) => apart[i!]!)).toEqual(event)
  })
})

describe('the kinds of events', () => {
  it('are those that a log may hold', () => expect(Object.keys(EVENT_KINDS).sort()).toEqual([...TYPES].sort()))
})

describe('a log of an earlier version', () => {
  it('is read under the names of this one', () => {
    const { type: _, ...split } = SAMPLES.split
    expect(JournalEntry.parse({ type: 'cut', ...split })).toEqual(SAMPLES.split)
    const option = { kind: 'option', label: 'A', box, reason: '', set: null, at: { x: 0, y: 0 } }
    const placed = JournalEntry.parse({ type: 'place', t: 1, id: 'o', over: 0, thing: { ...option, state: 'kept' } })
    expect(placed).toMatchObject({ thing: { state: 'stays' } })
  })
})
