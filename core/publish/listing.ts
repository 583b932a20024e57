import { z } from 'zod'
import { isClosed, type PublishedFolio } from './page'

const name = z.string().max(300)
const moment = z.iso.datetime()
const ms = z.number().nonnegative().max(1e9)
const Step = z.strictObject({ t: ms, title: z.string().max(2000), also: z.string().max(20_000).optional() })
const ListedIn = z.strictObject({
  id: z.string().max(200),
  number: z.string().max(100),
  title: z.string().max(1000),
  changed: moment.optional(),
  /** When its solution opens; there are no steps until then. */
  opens: moment.optional(),
  duration: ms,
  print: z.array(z.string().max(5000)).max(2000),
  steps: z.array(Step).max(5000),
})

/**
 * What a lesson tells of itself where it is listed with others: its questions, what is printed of them, and the names
 * and typed words of their steps, with what students have of it at one moment and nothing else. Times in cut ms.
 */
export const Listing = z.strictObject({
  form: z.literal(1),
  /** Under which name a student's browser keeps what she did in it. */
  lesson: z.string().max(200),
  title: name,
  part: name,
  due: z.string().max(100),
  questions: z.array(ListedIn).max(1000),
})
export type Listing = z.infer<typeof Listing>

/** The listing of a page at one moment: what is not released on the page is not in it either. */
export function listingOf(folio: PublishedFolio): Listing {
  return {
    form: 1,
    lesson: folio.id,
    title: folio.title,
    part: folio.plan.lesson,
    due: folio.plan.due,
    questions: folio.questions.map(q => ({
      id: q.id,
      number: q.number,
      title: q.title,
      ...(q.changed ? { changed: q.changed } : {}),
      ...(isClosed(q) ? { opens: q.opens } : {}),
      duration: isClosed(q) ? 0 : q.duration,
      print: [...(q.print ?? [])],
      steps: isClosed(q) ? [] : q.chapters.map(({ t, title, also }) => ({ t, title, ...(also ? { also } : {}) })),
    })),
  }
}

/** The words of all lessons on a class page, as its script searches them. */
export type ClassWords = {
  /** The lesson's address, relative to the class page, and its name in the student's browser. */
  address: string
  lesson: string
  title: string
  questions: {
    id: string
    number: string
    title: string
    /** Cut ms, as are the moments of steps. */
    duration: number
    print: string
    steps: [t: number, words: string][]
  }[]
}[]

/** What of lessons can be searched: print, names of steps, and what was typed in them. */
export function wordsOfLessons(lessons: readonly { address: string; listing: Listing | null }[]): ClassWords {
  return lessons.flatMap(({ address, listing }) => {
    if (!listing) return []
    const questions = listing.questions.map(({ id, number, title, duration, print, steps }) => ({
      id,
      number,
      title,
      duration,
      print: print.join('\n'),
      steps: steps.map(({ t, title: words, also }): [number, string] => [t, also ? `${words}\n${also}` : words]),
    }))
    return [{ address, lesson: listing.lesson, title: listing.title, questions }]
  })
}
