import { z } from 'zod'

/** Version of the stored folio document; raised with a migration in `migrate.ts`. */
export const FOLIO_SCHEMA = 1

/** Width over height of every frame and video. */
export const FRAME_RATIO = 16 / 9

/** A teacher's line of text: any characters but control ones, trimmed of nothing, bounded in length. */
const line = (max: number) => z.string().max(max)
const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/)
const finite = z.number().finite()

/** A rectangle on a page in points (1/72 in), origin top left, y down. */
export const Box = z.object({ x: finite, y: finite, w: finite.positive(), h: finite.positive() })
export type Box = z.infer<typeof Box>

/** An original file that pages come from; its bytes are stored apart. */
export const SourceDocument = z.object({
  id, name: line(255), mime: z.literal('application/pdf'), bytes: z.number().int().nonnegative(), pageCount: z.number().int().positive(),
  /** What opens it, for a file that is locked; empty for most. */
  password: line(255).default(''),
})
export type SourceDocument = z.infer<typeof SourceDocument>

/** One sheet of a folio; width and height in points. */
export const Page = z.object({
  id, kind: z.literal('pdf'), documentId: id, index: z.number().int().nonnegative(),
  width: finite.positive(), height: finite.positive(),
})
export type Page = z.infer<typeof Page>

/** A rectangle of a page that belongs to a question. */
export const Region = z.object({ id, pageId: id, box: Box })
export type Region = z.infer<typeof Region>

/** The rectangle of a page that students see, 16:9. */
export const Frame = z.object({ pageId: id, box: Box })
export type Frame = z.infer<typeof Frame>

/** One move of the solution: it begins at `t` (take ms) and ends where the next begins. */
export const Step = z.object({
  id, t: z.number().int().nonnegative(), title: line(300), words: line(5000).default(''), struck: z.boolean().default(false),
})
export type Step = z.infer<typeof Step>

/** The ordered steps of a question, of one take. */
export const Ledger = z.object({ takeId: id, steps: z.array(Step).max(2000) })
export type Ledger = z.infer<typeof Ledger>

export const Question = z.object({
  id, number: line(24), title: line(300), regions: z.array(Region).max(50), ledger: Ledger.nullable().default(null), proofed: z.boolean().default(false),
})
export type Question = z.infer<typeof Question>

/** A worksheet, homework, quiz or past paper on its way to becoming videos. */
export const Folio = z.object({
  schema: z.literal(FOLIO_SCHEMA), id, title: line(300), course: line(300).default(''), author: line(300).default(''),
  createdAt: z.iso.datetime(), updatedAt: z.iso.datetime(),
  documents: z.array(SourceDocument).max(200), pages: z.array(Page).max(2000), questions: z.array(Question).max(1000),
})
export type Folio = z.infer<typeof Folio>

/** Silence that replaces sound which was lost on the way, take ms. */
export const Gap = z.object({ from: z.number().int().nonnegative(), to: z.number().int().nonnegative() })
export type Gap = z.infer<typeof Gap>

/** What is known of a take beside its log and its sound. */
export const Take = z.object({
  id, folioId: id, questionId: id, startedAt: z.iso.datetime(), durationMs: z.number().int().nonnegative(),
  /** `recording` until it is settled; `recovered` when the tab went away in the middle. */
  state: z.enum(['recording', 'whole', 'recovered']),
  frame: Frame, microphone: line(200), pen: line(200), gaps: z.array(Gap).default([]),
})
export type Take = z.infer<typeof Take>

/** A fresh, unguessable, file-name-safe identifier. */
export function newId(): string {
  return crypto.randomUUID().replaceAll('-', '').slice(0, 20)
}

/** An empty folio. */
export function newFolio(title: string, now = new Date()): Folio {
  const at = now.toISOString()
  return { schema: FOLIO_SCHEMA, id: newId(), title, course: '', author: '', createdAt: at, updatedAt: at, documents: [], pages: [], questions: [] }
}

/** Where a question is on its way to students; `takes` are the folio's takes, `published` the ids of rendered questions. */
export type Stage = 'not started' | 'prepared' | 'recorded' | 'proofed' | 'published'
export function stageOf(question: Question, published: ReadonlySet<string>): Stage {
  if (!question.ledger) return question.regions.length ? 'prepared' : 'not started'
  if (published.has(question.id)) return 'published'
  return question.proofed ? 'proofed' : 'recorded'
}

/** The number a new question would be given: one more than the largest whole number in use. */
export function nextNumber(questions: readonly Question[]): string {
  const used = questions.map(q => Number.parseInt(q.number, 10)).filter(Number.isFinite)
  return String(Math.max(0, ...used) + 1)
}

/** "4 — Rate of climb", or only the number when there is no title. */
export function questionName(question: Pick<Question, 'number' | 'title'>): string {
  const title = question.title.trim()
  return title ? `${question.number} — ${title}` : `Question ${question.number}`
}
