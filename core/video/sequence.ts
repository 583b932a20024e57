import { spreadWords, type Cue } from '../captions/vtt'
import type { Chapter, CutTurn } from '../cut/cut'
import type { ChapterBy, Edition } from '../edition'
import { questionName, type ClipPlace, type Clips, type Folio, type Question } from '../folio/model'

/** What goes with a video or a part of it, ms since it began. */
export interface Sequence {
  duration: number
  chapters: Chapter[]
  captions: Cue[]
  turns: CutTurn[]
}
/**
 * A part of a video: a clip of the teacher, or the cut of a question. `of` is the question it belongs to, null for the
 * folio.
 */
export type Part = Sequence & { of: string | null } & (
    | { kind: 'clip'; takeId: string }
    | { kind: 'cut'; question: Question; edition: Edition }
  )

const CLIP_CHAPTERS = { opening: 'Opening', end: 'To end with' } as const

/**
 * The parts of a video, one after another: each question's cut between its own clips, and, in the video of the whole
 * folio, those of the folio
 * around all. There a question is one chapter, its opening included.
 * @param lengthOf how long a clip is, ms; null for one that is not there (any more), which is left out
 * @param by what of a question is a chapter
 */
export function partsOf(
  folio: Pick<Folio, 'clips'>,
  questions: readonly { question: Question; edition: Edition }[],
  whole: boolean,
  lengthOf: (takeId: string) => number | null,
  by: ChapterBy = 'step',
): Part[] {
  const clip = (clips: Clips, place: ClipPlace, of: string | null): Part[] => {
    const found = clips[place],
      duration = found ? lengthOf(found.takeId) : null
    return found && duration
      ? [
          {
            kind: 'clip',
            of,
            takeId: found.takeId,
            duration,
            chapters: [{ t: 0, title: CLIP_CHAPTERS[place] }],
            captions: spreadWords(found.said, 0, duration),
            turns: [],
          },
        ]
      : []
  }
  const parts = questions.flatMap(({ question, edition }) => {
    const own: Part[] = [
      ...clip(question.clips, 'opening', question.id),
      {
        kind: 'cut',
        of: question.id,
        question,
        edition,
        duration: edition.duration,
        chapters: edition.chapters(by),
        captions: edition.captions(),
        turns: edition.turns(),
      },
      ...clip(question.clips, 'end', question.id),
    ]
    return whole
      ? own.map(
          (part, i): Part => ({ ...part, chapters: i ? [] : [{ t: 0, title: questionName(question) }], turns: [] }),
        )
      : own
  })
  return whole ? [...clip(folio.clips, 'opening', null), ...parts, ...clip(folio.clips, 'end', null)] : parts
}

/** Chapters, captions and pauses of parts that follow one another. */
export function sequenceOf(parts: readonly Part[]): Sequence {
  const out: Sequence = { duration: 0, chapters: [], captions: [], turns: [] }
  for (const { duration, chapters, captions, turns } of parts) {
    const at = out.duration
    out.chapters.push(...chapters.map(c => ({ ...c, t: c.t + at })))
    out.captions.push(...captions.map(c => ({ ...c, from: c.from + at, to: c.to + at })))
    out.turns.push(...turns.map(t => ({ ...t, t: t.t + at, to: t.to + at })))
    out.duration += duration
  }
  return out
}
