import { describe, expect, it } from 'vitest'
import fonts from 'hersheytext/hersheytext.min.json'
import { handFont, layText, PEN_ROLES, ROLE_STYLES, seededRandom, writeByHand, type Stroke } from '../../core/ink'
import { sceneOf } from '../../core/scene'
import { edgeDistance, isInside } from '../support/rings'
import { stroke } from '../support/make'

const font = handFont((fonts as unknown as Record<string, { chars: { d: string; o: number }[] }>).futural!.chars)
const PAGE = { id: 'page', width: 595, height: 842 }
/** A stroke that is on the board and no longer grows. */
const onBoard = (of: Stroke) => ({ stroke: of, count: of.points.length / 4, of: of.id, n: 0 })

/** How far the trace of a stroke lies outside of what is drawn of it at most, in half widths of its pen. */
function farthestOutside(of: Stroke): number {
  const scene = sceneOf({ t: 0, strokes: [onBoard(of)], things: [] }, PAGE, { x: 0, y: 0, w: 100, h: 100 })
  const ink = scene.drawings.find(d => d.kind === 'ink')!
  const { rings } = ink.outlines[0]!
  expect(rings.length).toBeGreaterThan(0)
  let most = 0
  for (let i = 0; i < of.points.length; i += 4) {
    const [x, y] = [of.points[i]!, of.points[i + 1]!]
    if (!rings.some(r => isInside(r, x, y))) most = Math.max(most, Math.min(...rings.map(r => edgeDistance(r, x, y))))
  }
  return most / (ROLE_STYLES[of.role].width / 2)
}

describe('small ink', () => {
  const letters = '0123456789+-=abcdefghijkmnpqrstuvwxyzABCDEFGHRS'
  it.each(PEN_ROLES.flatMap(role => (['pen', 'touch', 'mouse'] as const).map(tool => [role, tool] as const)))(
    'of the %s role, written with a %s, is drawn whole: digits and letters of 3 to 12 pt',
    (role, tool) => {
      const seen: [string, number, number][] = []
      for (const size of [3, 4, 5, 6, 8, 10, 12])
        for (const letter of letters) {
          const { paths } = layText(font, letter, { x: 50, y: 50 }, size)
          const { strokes } = writeByHand(paths, { role, t0: 0, random: seededRandom(size) }, () => letter)
          for (const s of strokes) seen.push([letter, size, farthestOutside({ ...s, tool })])
        }
      expect(seen.length).toBeGreaterThan(400)
      expect(seen.filter(([, , far]) => far > 1)).toEqual([])
    },
  )
  it.each(PEN_ROLES)('keeps the hook with which a stroke begins, and the one with which it ends (%s)', role => {
    const hook = [0, 0, 1, 0.6, 0.4, 1.4, 1, 4, 3, 7, 3.6, 8, 3, 8.4]
    const points = hook.flatMap((v, i) => (i % 2 ? [50 + v, 0.5, i * 8] : [50 + v]))
    expect(farthestOutside(stroke('hook', points, role))).toBeLessThanOrEqual(1)
  })
  it.each(PEN_ROLES)('is a dot where the pen only touched the page, as round as the pen is wide (%s)', role => {
    const dot = onBoard(stroke('dot', [50, 50, 0.5, 0], role))
    const scene = sceneOf({ t: 0, strokes: [dot], things: [] }, PAGE, { x: 0, y: 0, w: 100, h: 100 })
    const ring = scene.drawings.find(d => d.kind === 'ink')!.outlines[0]!.rings[0]!
    expect(isInside(ring, 50, 50)).toBe(true)
    const xs = ring.filter((_, i) => i % 2 === 0)
    const ys = ring.filter((_, i) => i % 2 === 1)
    const [w, h] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)]
    expect(w / h).toBeCloseTo(1, 1)
    expect(w).toBeLessThan(ROLE_STYLES[role].width * 1.6)
  })
})
