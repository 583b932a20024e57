import type { Spot, Thing } from '../folio/thing'
import { applyTo, type Matrix } from '../ink/alter'
import type { PenRole } from '../ink/roles'
import type { Box } from '../folio/basics'

/**
 * A thing moved and grown evenly, and in another role if asked. A page's own words stay where they are printed, so
 * marks on them and options
 * are not moved.
 */
export function transformThing(thing: Thing, matrix?: Matrix, role?: PenRole): Thing {
  const m = matrix ?? ([1, 0, 0, 1, 0, 0] as const)
  const s = Math.hypot(m[0], m[1])
  const to = (p: Spot) => applyTo(m, p)
  const box = (b: Box): Box => ({ ...to(b), w: b.w * s, h: b.h * s })
  const own = role ? { role } : {}
  switch (thing.kind) {
    case 'line':
      return { ...thing, ...own, at: to(thing.at), size: held(thing.size * s, 4, 200) }
    case 'shape':
      return { ...thing, ...own, handles: thing.handles.map(to) }
    case 'mark':
      return { ...thing, ...own, boxes: thing.boxes.map(box) }
    case 'option':
      return { ...thing, box: box(thing.box), at: to(thing.at) }
    case 'guide':
      return { ...thing, at: to(thing.at), cell: held(thing.cell * s, 6, 120) }
    case 'figure':
      return { ...thing, ...own, at: to(thing.at), unit: held(thing.unit * s, 0.01, 1000) }
    case 'tally':
      return { ...thing, at: to(thing.at), path: thing.path.map(to), size: held(thing.size * s, 4, 100) }
    case 'picture':
      return { ...thing, box: box(thing.box) }
  }
}

const held = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v))
