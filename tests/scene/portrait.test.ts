import { describe, expect, it } from 'vitest'
import { CORNERS, type Frame, type Portrait } from '../../core/folio'
import { PortraitPath, portraitBox, PORTRAIT_MOVE_MS } from '../../core/scene'
import type { TakeEvent } from '../../core/recording'
import { line } from '../support/make'

const FRAME: Frame = { pageId: 'p1', box: { x: 100, y: 200, w: 320, h: 180 } }
const HOME: Portrait = { shape: 'circle', corner: 'bottom-right', size: 0.3 }
const cornersOf = (path: PortraitPath) => path.moves.map(m => m.corner)
/** A stroke across the place of a corner. */
function inkIn(corner: Portrait['corner'], id: string, t: number, frame = FRAME) {
  const b = portraitBox(HOME, corner, frame.box)
  return line(id, t, { x: b.x + 2, y: b.y + b.h / 2, length: b.w - 4, n: 21 })
}

describe('a portrait', () => {
  it('stands inside the view in each corner, in each shape', () => {
    for (const shape of ['circle', 'square', 'wide'] as const) {
      for (const corner of CORNERS) {
        const b = portraitBox({ shape, corner, size: 0.3 }, corner, FRAME.box)
        expect(b.x > 100 && b.y > 200 && b.x + b.w < 420 && b.y + b.h < 380, `${shape} ${corner}`).toBe(true)
        expect(b.h).toBeCloseTo(54)
        expect(b.w / b.h).toBeCloseTo(shape === 'wide' ? 16 / 9 : 1)
      }
    }
  })
  it('stays while the ink is elsewhere', () => {
    const path = new PortraitPath(HOME, FRAME, [line('a', 0, { x: 130, y: 230, length: 100 })])
    expect(cornersOf(path)).toEqual(['bottom-right'])
    expect(path.at(500, FRAME.box)).toEqual(portraitBox(HOME, 'bottom-right', FRAME.box))
  })
  it('moves away from ink that comes near, along the same edge, and takes a moment for it', () => {
    const path = new PortraitPath(HOME, FRAME, [inkIn('bottom-right', 'a', 1000)])
    expect(cornersOf(path)).toEqual(['bottom-right', 'top-right'])
    const { t } = path.moves[1]!
    const from = portraitBox(HOME, 'bottom-right', FRAME.box),
      to = portraitBox(HOME, 'top-right', FRAME.box)
    const half = path.at(t + PORTRAIT_MOVE_MS / 2, FRAME.box)
    expect(half.y).toBeCloseTo((from.y + to.y) / 2)
    expect(path.at(t + PORTRAIT_MOVE_MS, FRAME.box)).toEqual(to)
  })
  it('goes where nothing is written, and never back over what was', () => {
    const path = new PortraitPath(HOME, FRAME, [
      inkIn('top-right', 'a', 0),
      inkIn('bottom-right', 'b', 2000),
      inkIn('bottom-left', 'c', 5000),
      line('d', 9000, { x: 230, y: 280, length: 20 }),
    ])
    expect(cornersOf(path)).toEqual(['bottom-right', 'bottom-left', 'top-left'])
  })
  it('stays where it is when everywhere else there is as much ink', () => {
    const path = new PortraitPath(
      HOME,
      FRAME,
      CORNERS.map((corner, i) => inkIn(corner, corner, i * 3000)),
    )
    expect(path.moves.length).toBeLessThanOrEqual(3)
  })
  it('stands at home again in another frame, and away again where that has ink', () => {
    const next: Frame = { pageId: 'p2', box: { x: 0, y: 0, w: 320, h: 180 } }
    const events: TakeEvent[] = [
      inkIn('bottom-right', 'a', 1000),
      { type: 'frame', id: 'f', t: 4000, frame: next } as TakeEvent,
      { type: 'frame', id: 'g', t: 6000, frame: FRAME } as TakeEvent,
    ]
    expect(cornersOf(new PortraitPath(HOME, FRAME, events))).toEqual([
      'bottom-right',
      'top-right',
      'bottom-right',
      'top-right',
    ])
  })
  it('looks at what students see when they have gone closer', () => {
    const box = { x: 100, y: 200, w: 160, h: 90 }
    const ink = line('b', 3000, { x: 235, y: 275, length: 20 })
    expect(cornersOf(new PortraitPath(HOME, FRAME, [ink]))).toEqual(['bottom-right'])
    expect(
      cornersOf(new PortraitPath(HOME, FRAME, [{ type: 'look', id: 'l', t: 1000, box, over: 300 } as TakeEvent, ink])),
    ).toEqual(['bottom-right', 'top-right'])
  })
  it('moves away from ink and things that are moved to it, once and again', () => {
    const b = portraitBox(HOME, 'bottom-right', FRAME.box)
    const by = (dx: number, dy: number, t: number, ...targets: string[]) =>
      ({ type: 'alter', id: `m${t}`, t, targets, matrix: [1, 0, 0, 1, dx, dy] }) as TakeEvent
    const ink = line('a', 0, { x: 130, y: 290, length: 20 })
    expect(cornersOf(new PortraitPath(HOME, FRAME, [ink, by(b.x - 130, b.y - 270, 3000, 'a')]))).toEqual([
      'bottom-right',
      'top-right',
    ])
    const thing: TakeEvent = {
      type: 'place',
      id: 'l',
      t: 0,
      over: 0,
      thing: {
        kind: 'shape',
        shape: 'line',
        role: 'working',
        width: 1,
        handles: [
          { x: 130, y: 290 },
          { x: 150, y: 290 },
        ],
      },
    }
    const twice = [thing, by(40, 0, 2000, 'l'), by(b.x + 10 - 170, b.y + 10 - 290, 4000, 'l')]
    const path = new PortraitPath(HOME, FRAME, twice)
    expect(path.moves.map(m => [m.t, m.corner])).toEqual([
      [0, 'bottom-right'],
      [4000, 'top-right'],
    ])
    // Where it came from is of no account: undo puts it back on squares that are known.
    expect(cornersOf(new PortraitPath(HOME, FRAME, [ink, by(1, 1, 3000, 'nothing')]))).toEqual(['bottom-right'])
  })
  it('goes the same way when the log is followed piece by piece', () => {
    const events = CORNERS.map((corner, i) => inkIn(corner, corner, i * 2500))
    const path = new PortraitPath(HOME, FRAME)
    for (let n = 1; n <= events.length; n++) path.follow(events.slice(0, n))
    expect(path.moves).toEqual(new PortraitPath(HOME, FRAME, events).moves)
  })
})
