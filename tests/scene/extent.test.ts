import { describe, expect, it } from 'vitest'
import { OutlineCache, parted, sceneOf } from '../../core/scene/scene'
import { extentOf } from '../../core/scene/extent'
import { BoardIndex } from '../../core/recording'
import { line } from '../support/make'

const frame = { pageId: 'p', box: { x: 0, y: 0, w: 160, h: 90 } }
const page = { id: 'p', width: 160, height: 90, paper: 'plain' as const }
const index = new BoardIndex([line('a', 0, { y: 20 }), line('b', 1000, { y: 60 })], frame)
const sceneAt = (t: number) => sceneOf(index.at(t), page, frame.box, new OutlineCache())

describe('what changes from one picture to the next', () => {
  it('is parted into what is finished and what still grows', () => {
    const { finished, growing } = parted(sceneAt(1050))
    expect(finished.drawings.map(d => d.kind)).toEqual(['squares', 'page', 'ink'])
    expect(growing.map(d => d.kind)).toEqual(['ink'])
    expect(parted(sceneAt(5000)).growing).toEqual([])
  })
  it('ink touches no more than the box around it; what is not measured may touch all that is shown', () => {
    const [ink] = parted(sceneAt(1050)).growing
    const box = extentOf(ink!, frame.box)
    expect([box.y < 60, box.y + box.h > 60, box.h < 12]).toEqual([true, true, true])
    if (ink?.kind === 'ink')
      for (const ring of ink.outlines.flatMap(o => o.rings))
        ring.forEach((v, i) => {
          const [from, size] = i % 2 ? [box.y, box.h] : [box.x, box.w]
          expect(v > from && v < from + size).toBe(true)
        })
    expect(extentOf({ kind: 'ink', key: '', outlines: [], done: true }, frame.box)).toMatchObject({ w: 0, h: 0 })
    expect(extentOf({ kind: 'trail', points: [1, 1, 1] }, frame.box)).toEqual(frame.box)
    const box2 = { x: 5, y: 6, w: 7, h: 8 }
    expect(extentOf({ kind: 'picture', key: '', documentId: 'd', box: box2, done: true }, frame.box)).toEqual(box2)
  })
})
