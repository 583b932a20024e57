import type { Box, Spot } from '#core/folio'
import { boxHolds, boxOfSamples, unionOf } from '#core/geometry'
import { caught, splitStroke, inside, POINT_SIZE, touches, type Stroke } from '#core/ink'
import type { Board } from '#core/recording'
import { boxOfThing } from '#core/things'

/** How near a tap has to come, points. */
const NEAR = 5

/** The rectangle of some strokes' samples, points; never without width or height. */
export function boxOfStrokes(strokes: readonly Stroke[]): Box {
  const boxes = strokes.map(({ points }) => boxOfSamples(points, POINT_SIZE))
  return unionOf(boxes.map(b => ({ ...b, w: Math.max(0.5, b.w), h: Math.max(0.5, b.h) })))
}

/** Everything that a ring was drawn round; ids as written. */
export function ringed(board: Board, ring: readonly Spot[]): string[] {
  return [
    ...new Set([
      ...board.strokes.filter(s => caught(s.stroke, ring)).map(s => s.of),
      ...board.things
        .filter(t => {
          const b = boxOfThing(t.thing)
          return inside({ x: b.x + b.w / 2, y: b.y + b.h / 2 }, ring)
        })
        .map(t => t.id),
    ]),
  ]
}

/** The topmost thing or stroke at a place: ink first, then small things, guides last. */
export function itemAt(board: Board, p: Spot): string | undefined {
  const stroke = board.strokes.findLast(s => touches(s.stroke, p, p, NEAR))
  if (stroke) return stroke.of
  const things = board.things.filter(t => boxHolds(boxOfThing(t.thing), p, 2))
  const size = (t: (typeof things)[number]) => {
    const b = boxOfThing(t.thing)
    return b.w * b.h
  }
  return things.sort((a, b) => size(a) - size(b))[0]?.id
}

/**
 * What an eraser that takes whole things meets on its way; layout guides and figures are only taken by choosing them.
 */
export function swept(board: Board, a: Spot, b: Spot, reach: number): string[] {
  return [
    ...board.strokes.filter(s => touches(s.stroke, a, b, reach)).map(s => s.of),
    ...board.things
      .filter(t => t.thing.kind !== 'guide' && t.thing.kind !== 'figure' && boxHolds(boxOfThing(t.thing), b, 1))
      .map(t => t.id),
  ]
}

/**
 * What an eraser that takes pieces leaves of each stroke it meets: ranges of samples over all that was left of the
 * stroke before.
 */
export function sweptPieces(board: Board, a: Spot, b: Spot, reach: number): { id: string; keep: [number, number][] }[] {
  const out = new Map<string, { keep: [number, number][]; offset: number; met: boolean }>()
  for (const { stroke, of } of board.strokes) {
    const entry = out.get(of) ?? { keep: [], offset: 0, met: false }
    const left = splitStroke(stroke, a, b, reach)
    const n = stroke.points.length / 4
    for (const [from, to] of left ?? [[0, n]]) entry.keep.push([from + entry.offset, to + entry.offset])
    out.set(of, { keep: entry.keep, offset: entry.offset + n, met: entry.met || left !== null })
  }
  return [...out].filter(([, e]) => e.met).map(([id, e]) => ({ id, keep: e.keep }))
}

/** The strokes that were written last on one line: back in time as long as they share its height. */
export function lastWrittenLine(strokes: readonly Stroke[]): Stroke[] {
  const last = strokes.at(-1)
  if (!last) return []
  let box = boxOfStrokes([last])
  const line: Stroke[] = []
  for (const stroke of [...strokes].reverse()) {
    const b = boxOfStrokes([stroke])
    const reach = Math.max(8, box.h * 0.4)
    if (b.y > box.y + box.h + reach || b.y + b.h < box.y - reach) break
    line.unshift(stroke)
    box = unionOf([box, b])
  }
  return line
}
