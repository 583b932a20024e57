import { Folio, FOLIO_SCHEMA } from './model'
import { Trouble } from './trouble'

/**
 * Brings a stored folio of any known schema version to the present one. Versions are a ladder: each entry turns
 * version n into n + 1.
 */
const LADDER: Record<number, (old: Record<string, unknown>) => Record<string, unknown>> = {
  // Pages got kinds beside PDF, room and patches; questions got parts, options, answers and frames: what is new has a
  // default.
  1: old => ({ ...old, schema: 2 }),
  // Questions got held lines, logs got things and looks: what is new has a default, what was recorded stays as it is.
  2: old => ({ ...old, schema: 3 }),
  // Ledgers got pauses for the student, questions the ledgers of their other takes and notes, logs going back: what is
  // new has a default.
  3: old => ({ ...old, schema: 4 }),
  // Takes got a camera's track, ledgers its picture's place, questions and folios clips: what is new has a default.
  4: old => ({ ...old, schema: 5 }),
  // Folios know where they come from, pages whether students get them: both may be missing.
  5: old => ({ ...old, schema: 6 }),
  // Names in logs and options are read under their new ones wherever they are read.
  6: old => ({ ...old, schema: 7 }),
}

/**
 * @param value a folio document of unknown version
 * @param where it comes from, for the error ("Balloon Day.folio")
 * @throws Trouble `folio-newer`, `folio-damaged`
 */
export function migrateFolio(value: unknown, where: string): Folio {
  const damaged = (cause?: unknown) =>
    new Trouble(
      'folio-damaged',
      `${where} is not a folio this application can read, or it is damaged.`,
      'Nothing in this browser was changed.',
      'Open another copy of it, or save it again in the browser it came from.',
      cause,
    )
  if (
    typeof value !== 'object' ||
    value === null ||
    !('schema' in value) ||
    typeof value.schema !== 'number' ||
    !Number.isInteger(value.schema) ||
    value.schema < 1
  )
    throw damaged()
  if (value.schema > FOLIO_SCHEMA) throw newerFolio(where, value.schema)
  let doc = value as Record<string, unknown>
  for (let v = value.schema; v < FOLIO_SCHEMA; v++) doc = LADDER[v]!(doc)
  const parsed = Folio.safeParse(doc)
  if (!parsed.success) throw damaged(parsed.error)
  return parsed.data
}

/** The trouble of a file or row under a schema number above this version's. @param where it comes from */
export function newerFolio(where: string, schema: number): Trouble {
  return new Trouble(
    'folio-newer',
    `${where} was made by a newer version of Orthograph (schema ${schema}; this one knows ${FOLIO_SCHEMA}).`,
    'Nothing was changed, neither the file nor this browser.',
    'Update the application, then open the file again.',
  )
}
