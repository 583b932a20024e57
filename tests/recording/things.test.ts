import { describe, expect, it } from 'vitest'
import type { Box, LineThing, ShapeThing, Thing } from '../../core/folio'
import { BoardIndex, moveLog, settleJournal, TakeEvent, TakeRecorder, type JournalEntry } from '../../core/recording'
import { folioFiles } from '../../core/publish'
import { readInkml } from '../../core/ink'
import {
  boxOfThing,
  drawThing,
  equationAt,
  numberAt,
  runningTotals,
  tracesOf,
  transformThing,
  wordsBetween,
  wordAt,
} from '../../core/things'
import { typeset } from '../../core/maths/typeset'
import { folio, line, question } from '../support/make'

const set = await typeset('3x-4=17', 'maths')
const typed: LineThing = {
  kind: 'line',
  at: { x: 50, y: 100 },
  size: 12,
  role: 'working',
  notation: 'maths',
  source: '3x-4=17',
  set,
}
const shape: ShapeThing = {
  kind: 'shape',
  shape: 'line',
  role: 'answer',
  width: 2,
  handles: [
    { x: 10, y: 10 },
    { x: 60, y: 10 },
  ],
}
const frame = (x: number, pageId = 'p1') => ({ pageId, box: { x, y: 0, w: 320, h: 180 } })
const place = (id: string, t: number, thing: Thing, over = 0, more = {}): TakeEvent => ({
  type: 'place',
  t,
  id,
  thing,
  over,
  ...more,
})
const ids = (index: BoardIndex, t: number) => [
  ...index.at(t).strokes.map(s => s.of),
  ...index.at(t).things.map(x => x.id),
]

describe('things on the board', () => {
  it('have no samples, and ink is no thing: a damaged log that says so changes neither', () => {
    const index = new BoardIndex([
      place('a', 100, typed),
      line('s', 200),
      { type: 'split', t: 300, id: 'k', strokes: [{ id: 'a', keep: [[0, 1]] }] },
      { type: 'change', t: 400, id: 'c', target: 's', thing: typed },
    ])
    expect(ids(index, 1000)).toEqual(['s', 'a'])
    expect(index.at(1000).things[0]!.thing).toEqual(typed)
  })
  it('come, change, move, take another role and go, and all of it can be taken back', () => {
    const log: TakeEvent[] = [
      place('a', 100, typed),
      { type: 'change', t: 200, id: 'c', target: 'a', thing: { ...typed, source: 'x=7' } },
      { type: 'alter', t: 300, id: 'm', targets: ['a'], matrix: [1, 0, 0, 1, 10, 20] },
      { type: 'alter', t: 400, id: 'r', targets: ['a'], role: 'answer' },
      { type: 'erase', t: 500, id: 'e', strokes: ['a'] },
      { type: 'undo', t: 600, target: 'e' },
      { type: 'undo', t: 700, target: 'r' },
      { type: 'undo', t: 800, target: 'c' },
      { type: 'redo', t: 900, target: 'c' },
    ]
    const index = new BoardIndex(log)
    const at = (t: number) => index.at(t).things[0]?.thing as LineThing | undefined
    expect(at(50)).toBeUndefined()
    expect(at(150)).toEqual(typed)
    expect(at(250)!.source).toBe('x=7')
    expect(at(350)!.at).toEqual({ x: 60, y: 120 })
    expect(at(450)!.role).toBe('answer')
    expect(at(550)).toBeUndefined()
    expect(at(650)!.role).toBe('answer')
    expect(at(750)!.role).toBe('working')
    expect([at(850)!.source, at(850)!.at.x]).toEqual(['3x-4=17', 60])
    expect(at(950)!.source).toBe('x=7')
    expect(index.at(350).things[0]!.version).not.toBe(index.at(450).things[0]!.version)
  })
  it('a straightened shape takes the place of its stroke, and one undo brings the stroke back', () => {
    const index = new BoardIndex([
      line('s', 0),
      place('a', 200, shape, 0, { instead: ['s'] }),
      { type: 'undo', t: 300, target: 'a' },
    ])
    expect(ids(index, 150)).toEqual(['s'])
    expect(ids(index, 250)).toEqual(['a'])
    expect(ids(index, 350)).toEqual(['s'])
  })
  it('strokes are moved, recoloured and rubbed out in pieces, twice over', () => {
    const log: TakeEvent[] = [
      line('s', 0),
      { type: 'alter', t: 200, id: 'm', targets: ['s'], matrix: [1, 0, 0, 1, 5, 0], role: 'aside' },
      {
        type: 'split',
        t: 300,
        id: 'c1',
        strokes: [
          {
            id: 's',
            keep: [
              [0, 4],
              [6, 11],
            ],
          },
        ],
      },
      {
        type: 'split',
        t: 400,
        id: 'c2',
        strokes: [
          {
            id: 's',
            keep: [
              [0, 4],
              [6, 9],
            ],
          },
        ],
      },
      { type: 'undo', t: 500, target: 'c2' },
    ]
    const index = new BoardIndex(log)
    const lengths = (t: number) => index.at(t).strokes.map(s => s.stroke.points.length / 4)
    expect(index.at(250).strokes[0]!.stroke).toMatchObject({ role: 'aside' })
    expect(index.at(250).strokes[0]!.stroke.points[0]).toBe(5)
    expect(lengths(350)).toEqual([4, 5])
    expect(lengths(450)).toEqual([4, 3])
    expect(lengths(550)).toEqual([4, 5])
    expect(new Set(index.at(350).strokes.map(s => s.stroke.id)).size).toBe(2)
  })
  it('what writes itself grows with time, and moves of a guide are counted but for those taken back', () => {
    const stroke = {
      id: 'w1',
      role: 'working' as const,
      tool: 'pen' as const,
      points: [0, 0, 0.5, 100, 10, 0, 0.5, 200, 20, 0, 0.5, 300],
    }
    const index = new BoardIndex([
      { type: 'write', t: 100, id: 'w', strokes: [stroke], guide: 'g', move: 0 },
      { type: 'write', t: 400, id: 'v', strokes: [{ ...stroke, id: 'v1' }], guide: 'g', move: 1 },
      { type: 'undo', t: 500, target: 'v' },
    ])
    expect([50, 150, 250, 350].map(t => index.at(t).strokes[0]?.count ?? 0)).toEqual([0, 1, 2, 3])
    expect(index.movesOf('g')).toBe(1)
  })
  it('a revealed line is known by its name until it is taken back', () => {
    const log: TakeEvent[] = [place('a', 0, typed, 400, { held: 'h1' })]
    expect(new BoardIndex(log).isRevealed('h1')).toBe(true)
    expect(new BoardIndex(log).at(200).things[0]!.share).toBe(0.5)
    expect(new BoardIndex([...log, { type: 'undo', t: 500, target: 'a' }]).isRevealed('h1')).toBe(false)
  })
  it('lie on the page they were placed on, and move with room that is made above them', () => {
    const index = new BoardIndex(
      [place('a', 0, typed), { type: 'frame', t: 100, frame: frame(0, 'p2') }, place('b', 200, shape)],
      frame(0),
    )
    expect(ids(index, 150)).toEqual([])
    expect(ids(index, 250)).toEqual(['b'])
    expect(index.at(250, 'p1').things.map(t => t.id)).toEqual(['a'])
    const pages = folio().pages.map(p => ({
      ...p,
      spaces: [{ id: 'x', side: 'below' as const, y: 80, size: 30, at: '2026-11-02T00:00:00.000Z' }],
    }))
    const moved = moveLog([place('a', 0, typed), place('b', 1, shape)], frame(0), '2026-11-01T00:00:00.000Z', pages)
    expect(
      moved.events.map(
        e => boxOfThing((e as { thing: Thing }).thing).y - boxOfThing(e === moved.events[0] ? typed : shape).y,
      ),
    ).toEqual([30, 0])
  })
})

describe('where students look', () => {
  const box: Box = { x: 100, y: 50, w: 80, h: 45 }
  it('goes closer smoothly, stays, and comes back', () => {
    const index = new BoardIndex(
      [
        { type: 'look', t: 1000, box, over: 700 },
        { type: 'look', t: 3000, box: null, over: 700 },
      ],
      frame(0),
    )
    expect(index.at(900).look).toBeUndefined()
    const widths = Array.from({ length: 20 }, (_, i) => index.at(1000 + i * 37).look?.w ?? 320)
    expect(widths.every((w, i) => i === 0 || w <= widths[i - 1]!)).toBe(true)
    expect(Math.max(...widths.slice(1).map((w, i) => widths[i]! - w))).toBeLessThan(40)
    expect(index.at(2000).look).toEqual(box)
    expect(index.at(3350).look!.w).toBeGreaterThan(80)
    expect(index.at(3800).look).toBeUndefined()
    expect(index.changes().filter(t => t >= 1000 && t <= 1700).length).toBeGreaterThan(18)
  })
  it('the light comes and goes, and a trail fades', () => {
    const index = new BoardIndex([
      { type: 'spot', t: 100, box },
      { type: 'spot', t: 2000, box: null },
      { type: 'trail', t: 500, id: 't', points: [0, 0, 0.5, 500, 10, 0, 0.5, 550] },
    ])
    expect(index.at(50).spot).toBeUndefined()
    expect(index.at(1000).spot).toEqual({ box, dark: 0.55 })
    expect(index.at(2500).spot).toBeUndefined()
    expect(index.at(560).trails![0]!.points.length).toBe(6)
    expect(index.at(1800).trails).toBeUndefined()
  })
  it('another frame ends a closer look', () => {
    const index = new BoardIndex(
      [
        { type: 'look', t: 0, box, over: 0 },
        { type: 'frame', t: 100, frame: frame(400) },
      ],
      frame(0),
    )
    expect(index.at(150).look).toBeUndefined()
  })
})

describe('recording', () => {
  const started = (sink: JournalEntry[] = []) => {
    const recorder = new TakeRecorder(
      {
        journal: async (_, e) => {
          sink.push(...e)
        },
        sound: async () => {},
        pictures: async () => {},
      },
      frame(0),
    )
    recorder.start(1000)
    return recorder
  }
  it('everything goes into the journal, is read back as it was, and one undo takes back one operation', async () => {
    const journal: JournalEntry[] = []
    const r = started(journal)
    const id = r.place(typed, 1100, 500)!
    r.write([{ id: 'x', role: 'carry', tool: 'pen', points: [0, 0, 0.5, 0, 5, 5, 0.5, 400] }], 1200, {
      guide: 'g',
      move: 0,
    })
    r.alter([id], 1300, { matrix: [1, 0, 0, 1, 3, 0] })
    r.show({ type: 'look', box: { x: 0, y: 0, w: 160, h: 90 }, over: 700 }, 1400)
    r.trailDown({ x: 5, y: 5, pressure: 0.5, now: 1500 })
    r.penMove([{ x: 9, y: 5, pressure: 0.5, now: 1520 }])
    r.penUp()
    expect(r.busyUntil).toBe(600)
    r.undo(1600)
    r.undo(1610)
    expect(r.board.at(700).strokes).toEqual([])
    await r.stop(1700)
    const log = settleJournal(journal.map(e => JSON.parse(JSON.stringify(e)) as JournalEntry))
    expect(log).toEqual(r.events)
    expect(log.every(e => TakeEvent.safeParse(e).success)).toBe(true)
    expect(new BoardIndex(log, frame(0)).at(700)).toEqual(r.board.at(700))
  })
  it('a pen that gives no pressure or no place harms nothing', () => {
    const r = started()
    expect(r.penDown('working', 'pen', { x: 1, y: 1, pressure: Number.NaN, now: 1010 })).not.toBeNull()
    r.penMove([
      { x: Number.NaN, y: 2, pressure: 0.5, now: 1020 },
      { x: 3, y: 3, pressure: Number.NaN, now: 1030 },
      { x: 4, y: 4, pressure: 0.4, now: 1040 },
    ])
    r.penUp()
    expect(r.events[0]!.type === 'stroke' && r.events[0]!.points.every(Number.isFinite)).toBe(true)
    expect(r.penDown('working', 'pen', { x: Number.NaN, y: 1, pressure: 0.5, now: 1050 })).toBeNull()
  })
  it('nothing is placed while the take is paused', () => {
    const r = started()
    r.pause(1100)
    expect(r.place(typed, 1200)).toBeNull()
    r.alter(['x'], 1200, { role: 'answer' })
    expect(r.events).toEqual([])
  })
})

describe('drawing things', () => {
  it('a typed line is as wide as it is set, and appears sign by sign', () => {
    expect(boxOfThing(typed)).toMatchObject({ x: 50, w: (set.width / 1000) * 12 })
    expect(drawThing(typed, 'a', 0.5).marks).toHaveLength(4)
    expect(drawThing(typed, 'a').marks).toHaveLength(7)
  })
  it('moves and grows every kind of thing evenly', () => {
    const things: Thing[] = [
      typed,
      shape,
      {
        kind: 'tally',
        colour: '#1d6f5c',
        path: [
          { x: 0, y: 0 },
          { x: 20, y: 10 },
        ],
        numbers: ['3', '4'],
        at: { x: 40, y: 0 },
        size: 9,
      },
      { kind: 'guide', at: { x: 5, y: 5 }, cell: 12, text: '37 * 24', spec: { guide: 'area', a: '37', b: '24' } },
      { kind: 'picture', documentId: 'd', box: { x: 1, y: 2, w: 30, h: 20 }, name: '' },
    ]
    for (const thing of things) {
      const before = boxOfThing(thing),
        after = boxOfThing(transformThing(thing, [2, 0, 0, 2, 7, 9]))
      expect(after.x).toBeCloseTo(before.x * 2 + 7, thing.kind === 'tally' ? -1 : 3)
      expect(after.w / before.w).toBeCloseTo(2, thing.kind === 'tally' ? 0 : 3)
    }
  })
  it('running totals are exact', () => {
    expect(runningTotals(['0.1', '0.2', '-1', '999999999999999999'])).toEqual([
      '0.1',
      '0.3',
      '−0.7',
      '999999999999999998.3',
    ])
  })
})

describe('words of the page', () => {
  const words = [...'The balloon rises quickly'.split(' ')]
    .map((text, i) => ({ text, x: 40 + i * 60, y: 100, w: 50, size: 12 }))
    .concat({ text: 'below', x: 40, y: 120, w: 50, size: 12 })
  it('a level drag takes the words of one line, a slanted one all lines', () => {
    expect(wordsBetween(words, { x: 95, y: 97 }, { x: 200, y: 98 })).toEqual([
      expect.objectContaining({ x: 100, w: 110 }),
    ])
    expect(wordsBetween(words, { x: 30, y: 92 }, { x: 60, y: 121 })).toHaveLength(2)
    expect(wordsBetween(words, { x: 300, y: 300 }, { x: 400, y: 300 })).toEqual([])
  })
  it('an underline drawn just below the letters means these letters', () => {
    expect(wordsBetween(words, { x: 42, y: 104 }, { x: 86, y: 105 })).toEqual([
      expect.objectContaining({ x: 40, w: 50, y: expect.closeTo(90.64) as number }),
    ])
    expect(wordAt(words, { x: 110, y: 96 })?.text).toBe('balloon')
  })
})

describe('printed numbers', () => {
  const at = (text: string, x: number, w: number) => ({ text, x, y: 100, w, size: 12 })
  const words = [
    at('burst', 40, 30),
    at('at', 74, 10),
    at('30', 88, 12),
    at('204', 103, 18),
    at('m.', 125, 10),
    at('18', 160, 12),
    at('657', 175, 18),
    at('and', 197, 20),
    at('318', 221, 18),
    at('£2,500.50', 245, 50),
    at('(−7)', 300, 20),
  ]
  it.each([
    [92, '30204'],
    [110, '30204'],
    [180, '18657'],
    [230, '318'],
    [260, '2500.50'],
    [308, '-7'],
    [50, null],
    [400, null],
  ])('at %i: %s', (x, number) => {
    expect(numberAt(words, { x, y: 96 })).toBe(number)
  })
  it('a tap that misses by a little means the nearest one', () => {
    expect(numberAt(words, { x: 130, y: 98 })).toBe('30204')
    expect(numberAt(words, { x: 228, y: 80 })).toBe('318')
    expect(numberAt(words, { x: 228, y: 70 })).toBeNull()
  })
  it('an equation is taken without its sentence', () => {
    const sentence = 'Solve 4x - 18 = 2x + 30. Then check'.split(' ').map((text, i) => at(text, 40 + i * 40, 30))
    expect(equationAt(sentence, { x: 210, y: 96 })).toBe('4x - 18 = 2x + 30')
    expect(equationAt(sentence, { x: 50, y: 96 })).toBeNull()
    expect(equationAt(words, { x: 230, y: 96 })).toBeNull()
  })
})

describe('InkML', () => {
  it('holds typed lines, shapes and written moves as traces with role and timing, and still opens', async () => {
    const events: TakeEvent[] = [
      line('s', 0),
      {
        type: 'write',
        t: 200,
        id: 'w',
        strokes: [{ id: 'w1', role: 'carry', tool: 'pen', points: [1, 1, 0.5, 200, 2, 2, 0.5, 260] }],
      },
      place('a', 300, shape, 100),
      place('b', 500, typed, 700),
    ]
    const take = {
      id: 't1',
      folioId: 'f1',
      questionId: 'q1',
      startedAt: '2026-11-01T00:00:00.000Z',
      durationMs: 2000,
      state: 'whole' as const,
      frame: frame(0),
      microphone: '',
      pen: '',
      gaps: [],
    }
    const files = folioFiles({
      folio: folio({ questions: [question('q1', '1')] }),
      documents: new Map(),
      takes: [{ take, events, sound: null }],
    })
    const strokes = readInkml(String(files.find(f => f.path.endsWith('ink.inkml'))!.data), 'test')
    expect(strokes.filter(s => s.id === 's' || s.id === 'w1').map(s => s.role)).toEqual(['working', 'carry'])
    const edges = strokes.filter(s => s.id.startsWith('a-'))
    expect(edges[0]!.role).toBe('answer')
    expect(edges[0]!.points.filter((_, i) => i % 4 === 3).every(t => t >= 300 && t <= 400)).toBe(true)
    const letters = strokes.filter(s => s.id.startsWith('b-'))
    expect(letters.length).toBeGreaterThanOrEqual(7)
    expect(letters.at(-1)!.points.at(-1)).toBe(1200)
    expect(tracesOf(typed, 'b', 500, 700)).toHaveLength(letters.length)
  })
})
