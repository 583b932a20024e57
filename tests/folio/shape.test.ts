import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { Folio, FOLIO_SCHEMA, Take } from '../../core/folio'
import { JournalEntry } from '../../core/recording'

/**
 * The shape of what is stored and filed, by the number under which it is written. A file of a newer version has to be
 * told as such, so that another shape needs another number: raise `FOLIO_SCHEMA` (with a step in
 * `core/folio/migrate.ts` if a default is not enough), and put the new shape here beside the old ones.
 */
const SHAPES: Record<number, string> = {
  6: 'aae10bcb95f9fb77',
  7: '77fecf76322e5ad4',
  8: 'e8c18eee47462924',
  9: 'ee635378ee838d94',
  10: 'b70ec3fa761de352',
  11: 'a8b6e2cf0f686151',
  12: '2d9227278005403e',
  13: '22ae506c26154606',
}

/** A hash of the JSON Schema (draft 2020-12) of all that is stored, whatever the order in which it is declared. */
function shapeOf(...schemas: z.ZodType[]): string {
  const sorted = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(sorted)
      : value && typeof value === 'object'
        ? Object.fromEntries(
            Object.entries(value)
              .sort(([a], [b]) => (a < b ? -1 : 1))
              .map(([k, v]) => [k, sorted(v)]),
          )
        : value
  const shapes = schemas.map(s => sorted(z.toJSONSchema(s, { unrepresentable: 'any', io: 'output' })))
  return createHash('sha256').update(JSON.stringify(shapes)).digest('hex').slice(0, 16)
}

describe('what is stored', () => {
  it('has the shape that its number says', () => {
    const shape = shapeOf(Folio, Take, JournalEntry)
    expect(SHAPES[FOLIO_SCHEMA], `schema ${FOLIO_SCHEMA} has the shape ${shape}`).toBe(shape)
    expect(
      Object.keys(SHAPES)
        .map(Number)
        .every(n => n <= FOLIO_SCHEMA),
    ).toBe(true)
  })
  it('has another shape with a field, a kind or a bound more', () => {
    const before = shapeOf(Take)
    expect(shapeOf(Take.extend({ mood: z.string().optional() }))).not.toBe(before)
    expect(shapeOf(Take.extend({ durationMs: z.number().max(5) }))).not.toBe(before)
    expect(shapeOf(z.union([Take, z.null()]))).not.toBe(before)
  })
})
