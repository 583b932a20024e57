import type { Thing } from '../folio/thing'
import { pathSteps } from '../ink/mark'
import type { Stroke } from '../ink/stroke'
import { drawThing, roleOf } from './draw'

/**
 * A thing as ink, for what knows strokes only (InkML): its written lines, or the edges of what is drawn, each a stroke
 * in the thing's role.
 * @param at when it came, and @param over how long its drawing took, ms
 */
export function tracesOf(thing: Thing, id: string, at: number, over: number): Stroke[] {
  const { marks, strokes } = drawThing(thing, id)
  if (strokes.length)
    return strokes.map(({ stroke }, i) => ({
      ...stroke,
      id: `${id}-${i}`,
      points: stroke.points.map((v, k) => (k % 4 === 3 ? Math.round(v + at) : v)),
    }))
  const pieces = marks.flatMap(mark => {
    const s = mark.scale ?? 1,
      x = mark.x ?? 0,
      y = mark.y ?? 0
    const lines: number[][] = []
    for (const [command, ...c] of pathSteps(mark.d)) {
      if (command === 'M') lines.push([])
      if (c.length) lines[lines.length - 1]?.push(x + c[c.length - 2]! * s, y + c[c.length - 1]! * s)
    }
    return lines.filter(l => l.length >= 4)
  })
  return pieces.map((line, i) => {
    const t = Math.round(at + (over * (i + 1)) / pieces.length)
    return {
      id: `${id}-${i}`,
      role: roleOf(thing),
      tool: 'pen' as const,
      points: Array.from({ length: line.length / 2 }, (_, k) => [line[2 * k]!, line[2 * k + 1]!, 0.5, t]).flat(),
    }
  })
}
