import { z } from 'zod'
import { id, PEN_ROLES } from '../../folio/basics'

/** Fields that several events have. */

/** When it happens, source ms. */
export const time = z.number().int().nonnegative()

/** Flat samples: x, y in points, pressure 0…1, t in source ms. */
export const Points = z.custom<number[]>(isSamples, 'whole samples of four numbers')
/** One look at each number: a schema for each of the millions in a long take would take half a minute. */
function isSamples(value: unknown): boolean {
  if (!Array.isArray(value) || value.length % 4 !== 0) return false
  for (const n of value as unknown[]) if (typeof n !== 'number' || !(n >= -1e9 && n <= 1e9)) return false
  return true
}

/** How long something takes to appear or to move, ms; bounded, as it is drawn moment by moment. */
export const over = z.number().int().nonnegative().max(600_000)

/** What a stroke has, wherever it stands. */
export const strokeFields = {
  id,
  role: z.enum(PEN_ROLES),
  tool: z.enum(['pen', 'touch', 'mouse']),
  size: z.number().positive().max(20).optional(),
  points: Points,
}
