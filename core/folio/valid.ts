import type { z } from 'zod'
import { Folio, Question } from './model'
import { Page } from './page'

/** A text that is longer than its schema lets it be: what it is, in words, and how long it may be, characters. */
export interface TooLong {
  what: string
  most: number
  path: PropertyKey[]
}

/** What is wrong with a folio document: texts that are too long, and the rest, by which it could not be opened. */
export interface Faults {
  tooLong: TooLong[]
  others: z.core.$ZodIssue[]
}

const known = new WeakMap<object, readonly z.core.$ZodIssue[]>()
/** Issues of a piece of a document; a piece that did not change is not looked at again. */
function issuesOf(schema: z.ZodType, piece: object): readonly z.core.$ZodIssue[] {
  const found = known.get(piece) ?? schema.safeParse(piece).error?.issues ?? []
  known.set(piece, found)
  return found
}

/** Looks through a folio before it is stored, by the schema by which it is opened. */
export function faultsOf(folio: Folio): Faults {
  const under = (path: PropertyKey[], issues: readonly z.core.$ZodIssue[]) =>
    issues.map(i => ({ ...i, path: [...path, ...i.path] }))
  return sorted(
    [
      ...(Folio.safeParse({ ...folio, questions: [], pages: [] }).error?.issues ?? []),
      ...folio.questions.flatMap((q, i) => under(['questions', i], issuesOf(Question, q))),
      ...folio.pages.flatMap((p, i) => under(['pages', i], issuesOf(Page, p))),
    ],
    folio,
  )
}

function sorted(issues: readonly z.core.$ZodIssue[], folio: unknown): Faults {
  const out: Faults = { tooLong: [], others: [] }
  for (const issue of issues) {
    if (issue.code === 'too_big' && issue.origin === 'string')
      out.tooLong.push({ what: nameOf(issue.path, folio), most: Number(issue.maximum), path: issue.path })
    else out.others.push(issue)
  }
  return out
}

/**
 * Reads a folio document. A text that is longer than it may be stays as long as it is, whoever stored it so.
 * @throws z.ZodError where anything else is wrong
 */
export function parseFolio(value: object): Folio {
  const read = Folio.safeParse(value)
  if (read.success) return read.data
  const { tooLong, others } = sorted(read.error.issues, value)
  if (others.length) throw read.error
  const texts = tooLong.map(({ path }) => String(at(value, path)))
  const fitting = structuredClone(value)
  tooLong.forEach(({ path, most }, i) => put(fitting, path, texts[i]!.slice(0, most)))
  const folio = Folio.parse(fitting)
  tooLong.forEach(({ path }, i) => put(folio, path, texts[i]!))
  return folio
}

const at = (value: unknown, path: readonly PropertyKey[]): unknown =>
  path.reduce<unknown>((of, key) => (of as Record<PropertyKey, unknown> | undefined)?.[key], value)
function put(value: unknown, path: readonly PropertyKey[], text: string) {
  const of = at(value, path.slice(0, -1)) as Record<PropertyKey, unknown>
  of[path[path.length - 1]!] = text
}

/** What a text is called, by its name in the document. */
const NAMES: Record<string, string> = {
  words: 'words',
  says: 'an answer to a student',
  said: 'the words of a clip',
  before: 'what stands under a patch',
  address: 'an address',
  why: 'why it is left out',
  source: 'a typed line',
}

/** "the title of question 4", "the text of a patch on page 2". */
function nameOf(path: readonly PropertyKey[], folio: unknown): string {
  const key = String(path.findLast(k => typeof k === 'string') ?? 'a text')
  const name = NAMES[key] ?? `the ${key}`
  const [list, index] = path
  if (list === 'questions') {
    const { number } = (at(folio, path.slice(0, 2)) ?? {}) as { number?: string }
    const kind = path.includes('steps') ? ' of a step' : path.includes('parts') ? ' of a part' : ''
    return `${name}${kind} of question ${number ?? Number(index) + 1}`
  }
  if (list === 'pages') return `${name} of ${path.includes('patches') ? 'a patch on ' : ''}page ${Number(index) + 1}`
  if (path.includes('next')) return `${name} of a practice question`
  return `${name} of the folio`
}
