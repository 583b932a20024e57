import { z } from 'zod'
import { Box, finite, Frame, id, line } from './basics'
import { TakeEvent } from '../recording/events/schemas'
import { CORNERS, newId, PORTRAIT_SHAPES } from './known'
import { Page, SourceDocument } from './page'
import { HeldLine } from './thing'

export { Box, Frame, Inset } from './basics'
export * from './known'

/** Version of the stored folio document; raised with a migration in `migrate.ts`. */
export const FOLIO_SCHEMA = 13

/** A rectangle of a page that belongs to a question. `gaps`: heights between its printed lines, where a frame may end. */
export const Region = z.object({ id, pageId: id, box: Box, gaps: z.array(finite).max(400).optional() })
export type Region = z.infer<typeof Region>

const ms = z.number().int().nonnegative()

/** A stretch of a take, ms. */
const TakeStretch = z.object({ takeId: id, from: ms, to: ms })

/**
 * What takes the place of a step as it was first recorded. `anew`: this stretch of another take; `over`: it was written
 * over the step's own sound, which stays. `voice`: this sound is heard, and the ink, its own or that of `anew`, goes by
 * in the time that it takes.
 */
const Made = { anew: TakeStretch.extend({ over: z.boolean().optional() }).optional(), voice: TakeStretch.optional() }
export const Version = z.object({ id, ...Made })
export type Version = z.infer<typeof Version>

/** One move of the solution: it begins at `t` (take ms) and ends where the next begins. */
export const Step = z.object({
  id,
  t: z.number().int().nonnegative(),
  title: line(300),
  words: line(5000).default(''),
  struck: z.boolean().default(false),
  /** Struck, but what was written in it stands there at once. */
  inkStays: z.boolean().optional(),
  ...Made,
  /** It was recorded later, to come after the step before it: it has nothing of the ledger's take, and no length there. */
  added: z.boolean().optional(),
  /** All that was recorded for it later, whichever is in use. */
  versions: z.array(Version).max(100).optional(),
  /** Words of the voices that are not heard in it now: its own (null), or that of another take from a moment on. */
  unheard: z
    .array(z.object({ voice: TakeStretch.pick({ takeId: true, from: true }).nullable(), words: line(5000) }))
    .max(101)
    .optional(),
})
export type Step = z.infer<typeof Step>

/** A pause for the student at `t` (take ms): a suggested time, and how long the video holds still, both in seconds. */
export const Turn = z.object({
  id,
  t: z.number().int().nonnegative(),
  seconds: z.number().int().positive().max(3600),
  hold: z.number().int().nonnegative().max(600),
})
export type Turn = z.infer<typeof Turn>

/**
 * A stretch of the take that is out of the edition, take ms: with what was written in it, or so that it stands there at
 * once. `pause`: it was proposed by tightening.
 */
export const Strike = z.object({ id, from: ms, to: ms, inkStays: z.boolean(), pause: z.boolean().optional() })
export type Strike = z.infer<typeof Strike>

/** A stretch of the take that goes by faster, take ms: ink and picture; nothing of its sound is heard. */
export const Pace = z.object({ id, from: ms, to: ms, speed: finite.min(1).max(8) })
export type Pace = z.infer<typeof Pace>

/** A stretch of the take that tightening leaves as it is, take ms: "wait for it". */
export const Guard = z.object({ id, from: ms, to: ms })
export type Guard = z.infer<typeof Guard>

/**
 * A change of what was recorded, without recording again. What it adds comes at its own moment of the take; what it
 * changes or takes away was so from the moment at which that appeared. `made`: when, so that it moves along with room
 * that is put into a page later.
 */
export const Mend = z.object({ id, made: z.string().datetime(), name: line(120), events: z.array(TakeEvent).max(500) })
export type Mend = z.infer<typeof Mend>

/**
 * The camera's picture in the frame: its shape, the corner it stands in while nothing else is there, and its height as
 * a share of the frame's.
 */
export const Portrait = z.object({
  shape: z.enum(PORTRAIT_SHAPES),
  corner: z.enum(CORNERS),
  size: finite.min(0.15).max(0.5),
})
export type Portrait = z.infer<typeof Portrait>

/**
 * The ordered steps of a question, of one take, where students are asked to try, how the camera's picture is shown
 * (without that, it is not), and what was struck, tightened, moved and mended.
 */
export const Ledger = z.object({
  takeId: id,
  steps: z.array(Step).max(2000),
  turns: z.array(Turn).max(500).default([]),
  portrait: Portrait.optional(),
  strikes: z.array(Strike).max(5000).optional(),
  paces: z.array(Pace).max(5000).optional(),
  guards: z.array(Guard).max(500).optional(),
  /** Where much ink comes or goes at once at a joint, it stands there at once; without this it comes and goes softly. */
  joints: z.literal('stand').optional(),
  mends: z.array(Mend).max(1000).optional(),
  /** The steps in the order of the edition, by their ids, where it is not that of the take; a copy stands twice. */
  order: z.array(id).max(2000).optional(),
})
export type Ledger = z.infer<typeof Ledger>

const marks = finite.min(0).max(999).nullable().default(null)

/** A part or sub-part, "a" or "b(i)"; `place` is where it begins, null when it was only typed. */
export const Part = z.object({
  id,
  label: line(24),
  marks,
  answer: line(500).default(''),
  place: z.object({ pageId: id, box: Box }).nullable().default(null),
})
export type Part = z.infer<typeof Part>

/** One lettered choice of a question. */
export const Option = z.object({
  id,
  label: line(12),
  text: line(500).default(''),
  place: z.object({ pageId: id, box: Box }).nullable().default(null),
})
export type Option = z.infer<typeof Option>

/**
 * A clip of the teacher, recorded as a take of its own: before (opening) or after (end) what it belongs to. `said` are
 * its words, for captions.
 */
export const Clip = z.object({ takeId: id, said: line(2000).default('') })
export type Clip = z.infer<typeof Clip>
export const CLIP_PLACES = ['opening', 'end'] as const
export type ClipPlace = (typeof CLIP_PLACES)[number]
export const Clips = z.object({ opening: Clip.optional(), end: Clip.optional() })
export type Clips = z.infer<typeof Clips>

/** Where the problem stays in sight while the work is elsewhere. */
export const SIGHTS = ['off', 'above', 'beside'] as const

/**
 * What of a question students get when: the steps of its hint cut, by their ids, and from when each cut; at once where
 * nothing is said.
 */
export const Release = z.object({
  hint: z.array(id).max(2000).optional(),
  hintFrom: z.iso.datetime().optional(),
  fullFrom: z.iso.datetime().optional(),
})
export type Release = z.infer<typeof Release>

/** An answer on the student page to what was asked, at a step where that is known. */
export const Reply = z.object({
  id,
  stepId: id.optional(),
  asked: line(4000),
  says: line(4000),
  /** The message that it answers: that of the class site by its id, or a file by its name. */
  message: line(300).optional(),
})
export type Reply = z.infer<typeof Reply>

export const Question = z.object({
  id,
  number: line(24),
  title: line(300),
  regions: z.array(Region).max(50),
  ledger: Ledger.nullable().default(null),
  /** The ledgers of its other takes, as they were when another was put in use. */
  shelved: z.array(Ledger).max(200).default([]),
  proofed: z.boolean().default(false),
  /** What the finder thinks it is worth, 0…1, until the teacher accepts or corrects it; null from then on. */
  proposal: finite.min(0).max(1).nullable().default(null),
  marks,
  parts: z.array(Part).max(100).default([]),
  options: z.array(Option).max(26).default([]),
  /** The expected answer as typed: an option's letter, a number with unit and tolerance, or an expression. */
  answer: line(500).default(''),
  /** Target time in minutes; null for that of its marks. */
  minutes: finite.positive().max(600).nullable().default(null),
  /** Frames in the order in which they are stepped through; empty for the proposed one. */
  frames: z.array(Frame).max(20).default([]),
  /** A page of its own to work on, and where the problem is shown beside that work. */
  scratch: id.nullable().default(null),
  sight: z.enum(SIGHTS).default('above'),
  /** The shared instruction it stands under. */
  instruction: id.nullable().default(null),
  /** Smallest letters in it, points; 0 when not known. Frames are chosen so that they can be read. */
  letters: finite.min(0).max(500).default(0),
  /** What she wants to remember while she talks; hers only. */
  notes: line(5000).default(''),
  /** Prepared working, in the order in which it is revealed. */
  held: z.array(HeldLine).max(200).default([]),
  clips: Clips.default({}),
  release: Release.optional(),
  replies: z.array(Reply).max(200).optional(),
})
export type Question = z.infer<typeof Question>

/** Words that several questions share: a section's heading, "Use this table for questions 4 to 6". */
export const Instruction = z.object({ id, text: line(2000), pageId: id, box: Box })
export type Instruction = z.infer<typeof Instruction>

/** The plan of a folio, as on the title block of a lesson. `due` is a date, yyyy-mm-dd, or empty. */
export const Plan = z.object({
  lesson: line(300).default(''),
  due: line(10).default(''),
  bring: line(500).default(''),
  skipped: z
    .array(z.object({ questionId: id, why: line(300) }))
    .max(1000)
    .default([]),
  next: z
    // `questionId`: the question beside which it is tried; without one, at the end.
    .array(
      z.object({ id, text: line(1000), answer: line(500), hint: line(1000).default(''), questionId: id.optional() }),
    )
    .max(100)
    .default([]),
  related: z
    .array(z.object({ id, title: line(300), address: line(2000) }))
    .max(100)
    .default([]),
})
export type Plan = z.infer<typeof Plan>
export const emptyPlan = (): Plan => Plan.parse({})

/** What a question was when a version was made: fingerprints of what it is made from, and of its cuts and dates, and of its answers. */
const Handed = z.object({
  questionId: id,
  made: line(40),
  release: line(40),
  /** Fingerprint of what its page shows of it: answer, options, parts, regions, patches and room. Older versions lack it. */
  shown: line(40).optional(),
  /** Length of its solution, ms, and how many steps it has. */
  ms: finite.nonnegative().optional(),
  steps: z.number().int().nonnegative().optional(),
  /** From when on students had what of it. */
  dates: z
    .object({ hint: z.boolean(), hintFrom: z.iso.datetime().optional(), fullFrom: z.iso.datetime().optional() })
    .optional(),
})
export type Handed = z.infer<typeof Handed>

/**
 * Where students find the folio: one link, under which versions stand. `owner` lets whoever has the folio publish under
 * it; `current` is the version that students have, null for none.
 */
export const Published = z.object({
  id: line(40),
  owner: line(100),
  link: line(2000),
  current: line(40).nullable(),
  /** The oldest first. */
  versions: z
    .array(
      z.object({
        id: line(40),
        at: z.iso.datetime(),
        bytes: z.number().nonnegative(),
        of: z.array(Handed).max(1000),
        /** Fingerprint of the folio's own words: title, plan, which pages are handed out. */
        folio: line(40),
      }),
    )
    .max(200),
  /** Whether plays are counted, without names. */
  counts: z.boolean().optional(),
})
export type Published = z.infer<typeof Published>

/** A worksheet, homework, quiz or past paper on its way to becoming videos. */
export const Folio = z.object({
  schema: z.literal(FOLIO_SCHEMA),
  id,
  /**
   * The id under which it was first made: copies and folios opened from a file keep it, so that an older state is
   * known.
   */
  lineage: id.optional(),
  title: line(300),
  course: line(300).default(''),
  author: line(300).default(''),
  createdAt: z.iso.datetime(),
  updatedAt: z.iso.datetime(),
  documents: z.array(SourceDocument).max(400),
  pages: z.array(Page).max(2000),
  questions: z.array(Question).max(1000),
  instructions: z.array(Instruction).max(500).default([]),
  plan: Plan.default(emptyPlan),
  /** What students have on the class site: each question as it was then (a fingerprint of what it was made from). */
  handedOut: z
    .array(z.object({ questionId: id, at: z.iso.datetime(), made: line(40) }))
    .max(1000)
    .optional(),
  published: Published.optional(),
  /** Target time for one mark, in minutes. */
  minutesAMark: finite.positive().max(60).default(1),
  clips: Clips.default({}),
})
export type Folio = z.infer<typeof Folio>

/** Silence that replaces sound which was lost on the way, take ms. */
export const Gap = z.object({ from: z.number().int().nonnegative(), to: z.number().int().nonnegative() })
export type Gap = z.infer<typeof Gap>

/** Longest take, ms: four hours. Recording stops there, and a file with a longer one is no folio's. */
export const MOST_TAKE_MS = 4 * 3_600_000

/** What of a step can be recorded once more; `after`: not the step, but one that comes after it. */
export const STEP_TAKES = ['anew', 'voice', 'ink', 'after'] as const
export type StepTake = (typeof STEP_TAKES)[number]

/** What is known of a take beside its log and its sound. */
export const Take = z.object({
  id,
  folioId: id,
  questionId: id,
  startedAt: z.iso.datetime(),
  durationMs: z.number().int().nonnegative(),
  /** `recording` until it is settled; `recovered` when the tab went away in the middle. */
  state: z.enum(['recording', 'whole', 'recovered']),
  frame: Frame,
  microphone: line(200),
  pen: line(200),
  gaps: z.array(Gap).default([]),
  /** A retake: it goes on after the first `t` ms of another take. */
  after: z.object({ takeId: id, t: z.number().int().nonnegative() }).optional(),
  /** The camera's track, where there is one: its size in pixels, and where it has no picture, take ms. */
  camera: z
    .object({ width: z.number().int().positive(), height: z.number().int().positive(), gaps: z.array(Gap).default([]) })
    .optional(),
  /** It was recorded for one step of its question's ledger only: all of it, its voice or its ink, or what comes after it. */
  step: z.object({ id, as: z.enum(STEP_TAKES) }).optional(),
  /**
   * A clip of the teacher instead of a solution; `questionId` is the folio's id where it belongs to the whole folio.
   */
  clip: z.enum(CLIP_PLACES).optional(),
})
export type Take = z.infer<typeof Take>

/** A question with nothing known of it but where it is. */
export function newQuestion(number: string, pageId: string, box: Box): Question {
  return Question.parse({ id: newId(), number, title: '', regions: [{ id: newId(), pageId, box }] })
}

/** An empty folio. */
export function newFolio(title: string, now = new Date()): Folio {
  const at = now.toISOString()
  return {
    schema: FOLIO_SCHEMA,
    id: newId(),
    title,
    course: '',
    author: '',
    createdAt: at,
    updatedAt: at,
    documents: [],
    pages: [],
    questions: [],
    instructions: [],
    plan: emptyPlan(),
    minutesAMark: 1,
    clips: {},
  }
}

/** Where a question is on its way to students. */
export type Stage = 'not started' | 'prepared' | 'recorded' | 'proofed' | 'rendered' | 'published'
/** Ids of questions whose video says what the folio says, and of those whose video students have. */
export interface Reached {
  rendered: ReadonlySet<string>
  published: ReadonlySet<string>
}
/** The stage of a question: a video that no longer says what the folio says does not count. */
export function stageOf(question: Question, { rendered, published }: Reached): Stage {
  if (!question.ledger) return question.regions.length && question.proposal === null ? 'prepared' : 'not started'
  if (published.has(question.id)) return 'published'
  if (rendered.has(question.id)) return 'rendered'
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
