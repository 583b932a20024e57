import { beforeEach, describe, expect, it } from 'vitest'
import { WritingHand } from '../../student/writingHand'

type Kind = 'pen' | 'touch' | 'mouse'
const at = (pointerId: number, pointerType: Kind, clientX: number, clientY = 0) =>
  ({ pointerId, pointerType, clientX, clientY, button: 0 }) as PointerEvent

let done: string[]
let hand: WritingHand
beforeEach(() => {
  done = []
  hand = new WritingHand({
    begin: e => done.push(`begin ${e.pointerId}`),
    grow: e => done.push(`grow ${e.pointerId}`),
    end: () => done.push('end'),
    drop: () => done.push('drop'),
    pinch: (by, place, move) => done.push(`pinch ${by.toFixed(2)} at ${place.x} by ${move.x}`),
  })
})

describe('a hand that writes', () => {
  it('writes one line at a time: a second mouse or pen changes nothing in it', () => {
    hand.down(at(1, 'mouse', 0))
    hand.down(at(2, 'mouse', 50))
    hand.move(at(2, 'mouse', 60))
    hand.move(at(1, 'mouse', 10))
    hand.up(at(2, 'mouse', 60), false)
    hand.up(at(1, 'mouse', 10), false)
    expect(done).toEqual(['begin 1', 'grow 1', 'end'])
  })
  it('lets a pen win over a palm, whichever came first, and keeps palms out from then on', () => {
    hand.down(at(1, 'touch', 0))
    hand.move(at(1, 'touch', 4))
    hand.down(at(2, 'pen', 100))
    hand.move(at(1, 'touch', 8))
    hand.move(at(2, 'pen', 110))
    hand.up(at(2, 'pen', 110), false)
    hand.up(at(1, 'touch', 8), false)
    hand.down(at(3, 'touch', 0))
    hand.move(at(3, 'touch', 9))
    expect(done).toEqual(['begin 1', 'grow 1', 'drop', 'begin 2', 'grow 2', 'end'])
  })
  it('moves and zooms with two fingers, from where they are; the line of the first was none', () => {
    hand.down(at(1, 'touch', 0))
    hand.move(at(1, 'touch', 20))
    hand.down(at(2, 'touch', 120))
    hand.move(at(2, 'touch', 220))
    expect(done).toEqual(['begin 1', 'grow 1', 'drop', 'pinch 2.00 at 120 by 50'])
    hand.up(at(2, 'touch', 220), false)
    hand.move(at(1, 'touch', 30))
    expect(done).toHaveLength(4)
  })
  it('drops what the browser takes away', () => {
    hand.down(at(1, 'touch', 0))
    hand.up(at(1, 'touch', 0), true)
    hand.down(at(2, 'touch', 0))
    hand.up(at(2, 'touch', 0), false)
    expect(done).toEqual(['begin 1', 'drop', 'begin 2', 'end'])
  })
})
