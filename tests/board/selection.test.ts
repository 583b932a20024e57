import { describe, expect, it } from 'vitest'
import { boxOfStrokes, itemAt, lastWrittenLine, ringed, swept, sweptPieces } from '../../app/board/selection'
import { between, isPen, TOOLS } from '../../app/board/tools'
import { BoardIndex, type TakeEvent } from '../../core/recording'
import { line, stroke } from '../support/make'

const guide = {
  kind: 'guide' as const,
  at: { x: 0, y: 0 },
  cell: 20,
  text: '',
  spec: { guide: 'columns' as const, operation: 'add' as const, numbers: ['12', '34'] },
}
const shape = {
  kind: 'shape' as const,
  shape: 'line' as const,
  role: 'working' as const,
  width: 2,
  handles: [
    { x: 200, y: 20 },
    { x: 240, y: 20 },
  ],
}
const log: TakeEvent[] = [
  { type: 'place', t: 0, id: 'guide', thing: guide, over: 0 },
  { type: 'place', t: 10, id: 'shape', thing: shape, over: 0 },
  line('a', 20, { x: 10, y: 30, length: 30 }),
  line('b', 200, { x: 10, y: 60, length: 30 }),
]
const board = new BoardIndex(log).last()

describe('choosing', () => {
  it('a tap takes ink before things, and the smallest thing under it', () => {
    expect(itemAt(board, { x: 25, y: 31 })).toBe('a')
    expect(itemAt(board, { x: 50, y: 45 })).toBe('guide')
    expect(itemAt(board, { x: 220, y: 21 })).toBe('shape')
    expect(itemAt(board, { x: 400, y: 400 })).toBeUndefined()
  })
  it('a ring takes what is mostly inside it, each once', () => {
    const ring = [
      { x: 0, y: 20 },
      { x: 60, y: 20 },
      { x: 60, y: 70 },
      { x: 0, y: 70 },
    ]
    expect(ringed(board, ring)).toEqual(['a', 'b', 'guide'])
    expect(
      ringed(
        board,
        ring.map(p => ({ x: p.x + 190, y: p.y - 20 })),
      ),
    ).toEqual(['shape'])
  })
  it('knows what was chosen by its first name after it was moved or cut', () => {
    const moved = new BoardIndex([
      ...log,
      { type: 'alter', t: 400, id: 'm', targets: ['a'], matrix: [1, 0, 0, 1, 0, 100] },
      {
        type: 'split',
        t: 500,
        id: 'c',
        strokes: [
          {
            id: 'a',
            keep: [
              [0, 3],
              [6, 11],
            ],
          },
        ],
      },
    ]).last()
    expect(itemAt(moved, { x: 12, y: 130 })).toBe('a')
    expect(moved.strokes.filter(s => s.of === 'a')).toHaveLength(2)
  })
})

describe('rubbing out', () => {
  it('takes whole strokes and small things, never a guide that was only touched', () => {
    expect(swept(board, { x: 25, y: 25 }, { x: 25, y: 65 }, 4)).toEqual(['a', 'b'])
    expect(swept(board, { x: 220, y: 10 }, { x: 220, y: 20 }, 4)).toEqual(['shape'])
  })
  it('takes pieces, and counts samples over all that was left of a stroke before', () => {
    const [first] = sweptPieces(board, { x: 25, y: 20 }, { x: 25, y: 40 }, 1)
    expect(first!.id).toBe('a')
    const again = new BoardIndex([...log, { type: 'split', t: 400, id: 'c', strokes: [first!] }]).last()
    const pieces = again.strokes.filter(s => s.of === 'a')
    expect(pieces.length).toBe(2)
    const [second] = sweptPieces(again, { x: 38, y: 20 }, { x: 38, y: 40 }, 1)
    const samples = pieces.reduce((n, p) => n + p.stroke.points.length / 4, 0)
    expect(Math.max(...second!.keep.flat())).toBeLessThanOrEqual(samples)
    expect(second!.keep[0]).toEqual([0, pieces[0]!.stroke.points.length / 4])
  })
})

describe('the last written line', () => {
  const at = (id: string, x: number, y: number) => stroke(id, [x, y, 0.5, 0, x + 8, y + 12, 0.5, 10])
  it('is what stands at the height of the last stroke, back to the line before', () => {
    expect(
      lastWrittenLine([at('1', 0, 0), at('2', 12, 1), at('3', 0, 40), at('4', 12, 42), at('5', 24, 39)]).map(s => s.id),
    ).toEqual(['3', '4', '5'])
    expect(lastWrittenLine([])).toEqual([])
  })
  it('has the rectangle of its samples', () => {
    expect(boxOfStrokes([at('1', 0, 0), at('2', 12, 1)])).toEqual({ x: 0, y: 0, w: 20, h: 13 })
    expect(between({ x: 5, y: 9 }, { x: 1, y: 2 })).toEqual({ x: 1, y: 2, w: 4, h: 7 })
  })
})

describe('tools', () => {
  it('have one key each, none of them one of the take or the pens', () => {
    const keys = TOOLS.map(t => t.key as string)
    expect(new Set(keys).size).toBe(keys.length)
    for (const taken of ['r', 'p', 's', 'e', 'x', 'h', 'n', 'd', 'q', 'l', 'w', 'k', '1', '2', '3', '4', '5'])
      expect(keys).not.toContain(taken)
    expect([isPen('answer'), isPen('choose'), isPen('eraser')]).toEqual([true, false, false])
  })
})
