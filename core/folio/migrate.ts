import { FOLIO_SCHEMA, type Folio, type Ledger } from './model'
import { Trouble } from './trouble'
import { parseFolio } from './valid'

/**
 * Brings a stored folio of any known version to the present one. So far what is new in a version has a default, and
 * names that changed are read under their new ones wherever they are read; a version that needs more has its step here.
 * With 2 came kinds of pages, parts, options, answers and frames; with 3 held lines; with 4 pauses for the student,
 * ledgers of other takes and notes; with 5 the camera's track and clips; with 6 where a folio comes from; with 7 names;
 * with 8 strikes, paces and mends; with 9 versions of steps and soft joints; with 10 cuts with
 * dates, answers, and the link with its versions; with 12 what a version knows of its questions, and which message an
 * answer is to.
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
  const parsed = read({ ...value, schema: FOLIO_SCHEMA })
  if (parsed instanceof Error) throw damaged(parsed)
  return value.schema < 9 ? withJointsAsTheyWere(parsed) : parsed
}

/** A document, or what is wrong with it. */
function read(value: object): Folio | Error {
  try {
    return parseFolio(value)
  } catch (error) {
    return error as Error
  }
}

/** Until schema 8, ink came and went at once at a joint; what was made then stays as it was. */
function withJointsAsTheyWere(folio: Folio): Folio {
  const standing = (ledger: Ledger): Ledger => ({ ...ledger, joints: 'stand' })
  const questions = folio.questions.map(q => ({
    ...q,
    ledger: q.ledger && standing(q.ledger),
    shelved: q.shelved.map(standing),
  }))
  return { ...folio, questions }
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
