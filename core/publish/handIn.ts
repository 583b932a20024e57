import { z } from 'zod'
import { TakeEvent } from '../recording/events/schemas'
import { lineageOf } from './folioFile'
import { Trouble, type Folio, type Question } from '../folio'
import {
  decodeLesson,
  fromBase64,
  HAND_IN_VERSION,
  inflated,
  MOST_EXPLAINED,
  type Explanation,
  type Lesson,
  type Stuck,
} from '../lesson'

/** The largest file that is read, bytes: ten minutes of voice and ink are a tenth of that. */
export const MOST_HAND_IN = 40 * 1024 ** 2
const text = (most: number) => z.string().max(most)
const named = {
  version: z.literal(HAND_IN_VERSION),
  lesson: text(200),
  question: text(200),
  number: text(200),
  says: text(4000),
}
const Line = z
  .array(z.number().finite().min(-1e6).max(1e13))
  .max(400_000)
  .refine(line => line.length % 4 === 0)
/** A question about a moment, as a student page writes it. */
export const StuckForm = z.object({
  form: z.literal('orthograph-stuck'),
  ...named,
  t: z.number().min(0).max(1e9),
  step: text(10_000),
  stepIndex: z.number().int().min(0).max(1e6),
  attempt: z.array(Line).max(20_000).optional(),
}) satisfies z.ZodType<Stuck>
/** An explanation of her own: ink and, where there was a microphone, her voice. */
export const ExplanationForm = z.object({
  form: z.literal('orthograph-explanation'),
  ...named,
  by: text(80),
  data: text(MOST_HAND_IN),
  sound: z
    .object({ mime: z.string().regex(/^audio\/[\w.+-]+(;\s*codecs=[\w.,"-]+)?$/), data: text(MOST_HAND_IN) })
    .nullable(),
}) satisfies z.ZodType<Explanation>
const HandIn = z.discriminatedUnion('form', [StuckForm, ExplanationForm])

/** What a student handed in, read: a question about a moment, or an explanation that can be played. */
export type ReadHandIn = { name: string; question: Question } & (
  | { kind: 'stuck'; stuck: Stuck }
  | { kind: 'explanation'; by: string; lesson: Lesson; sound: { mime: string; data: Uint8Array<ArrayBuffer> } | null }
)

const SAFE = 'Nothing of the folio was changed.'
const elsewhere = (what: string) =>
  new Trouble('hand-in-elsewhere', what, SAFE, 'Open it in the folio that its page was made from.')
const damaged = (name: string, cause?: unknown) =>
  new Trouble(
    'hand-in-damaged',
    `${name} cannot be read: it is damaged, or no file that a student page saved.`,
    SAFE,
    'Ask the student to save it and hand it in once more.',
    cause,
  )

/**
 * Reads what a student handed in.
 * @param json the file's text; @param name the file's name
 * @throws Trouble `hand-in-damaged`, `hand-in-newer`, `hand-in-elsewhere` where it is of another folio or of a question
 * that is no longer there
 */
export async function readHandIn(json: string, name: string, folio: Folio): Promise<ReadHandIn> {
  let raw: unknown
  try {
    raw = JSON.parse(json)
  } catch (cause) {
    throw damaged(name, cause)
  }
  const version = (raw as { version?: unknown } | null)?.version
  if (typeof version === 'number' && version > HAND_IN_VERSION)
    throw new Trouble(
      'hand-in-newer',
      `${name} was made by a newer version than this one reads.`,
      SAFE,
      'Load the application again to have its newest version.',
    )
  const read = HandIn.safeParse(raw)
  if (!read.success) throw damaged(name, read.error)
  const handIn = read.data
  const question = folio.questions.find(q => q.id === handIn.question)
  if (handIn.lesson !== lineageOf(folio) || !question)
    throw elsewhere(
      handIn.lesson === lineageOf(folio)
        ? `${name} is about question ${handIn.number}, which is no longer in this folio.`
        : `${name} belongs to another folio.`,
    )
  if (handIn.form === 'orthograph-stuck') return { name, question, kind: 'stuck', stuck: handIn }
  try {
    const lesson = decodeLesson(await inflated(fromBase64(handIn.data)))
    if (!plays(lesson)) throw new Error('no explanation')
    if (!folio.pages.some(p => p.id === lesson.first.pageId))
      throw elsewhere(`${name} is written on a page that is no longer in this folio.`)
    const sound = handIn.sound && { mime: handIn.sound.mime, data: fromBase64(handIn.sound.data) }
    return { name, question, kind: 'explanation', by: handIn.by, lesson, sound }
  } catch (cause) {
    throw cause instanceof Trouble ? cause : damaged(name, cause)
  }
}

/** Whether it is ink alone: nothing in it may lead anywhere, or take longer than it may. */
const plays = ({ duration, events, always, documents }: Lesson) =>
  duration <= MOST_EXPLAINED + 60_000 &&
  documents.length === 0 &&
  always.length === 0 &&
  events.every(e => (e.type === 'stroke' || e.type === 'erase') && TakeEvent.safeParse(e).success)
