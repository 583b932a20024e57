import { hintLedger, hintTurn } from '#core/cut'
import { editionOf, type Edition } from '#core/edition'
import { Trouble, type ArchiveFile, type Folio, type Frame, type Page, type Question, type Take } from '#core/folio'
import { deflated, encodeLesson, lessonOf, type Lesson, type LessonPicture, type LessonView } from '#core/lesson'
import { nearestLook } from '#core/publish'
import { loadDocument } from '../data/folios'
import { readLog } from '../data/takes'
import { pictureOfFrame, printOfFrame } from '../paper/pageStore'
import { hidesNothing } from '../paper/seenWords'
import { placedIn, sourceOf } from './editionSource'
import { shaOf } from './sha'
import { lessonSoundOf, type SoundMakers } from './lessonSound'
import { pageOf, refuseEmpty, takeOf } from './render'

/** Widths in which what lies under the ink is given out, pixels: for a phone, and for a large or zoomed picture. */
const WIDTHS = [800, 1600] as const
const QUALITY = 0.7
/** Where students are led closer, a picture is larger, to this width at most. */
const MOST_WIDTH = 2800
/** Letters of a file's name that are of its content: the same content has the same name. */
const NAME = 16

/** All of a question's solution, or the steps that were chosen as its beginning. */
export type CutKind = 'full' | 'hint'

/** A question's replay: its lesson, packed, and the files it reads beside the page. */
export interface MadeLesson {
  question: Question
  cut: CutKind
  edition: Edition
  lesson: Lesson
  /** Deflated. */
  data: Uint8Array<ArrayBuffer>
  files: ArchiveFile[]
}

/** A question's replay of which the sound is being made. */
export interface BegunLesson {
  question: Question
  cut: CutKind
  edition: Edition
  sounding: Promise<Blob | null>
}

/**
 * Begins the replay of a question: its edition; its sound is made meanwhile.
 * @throws Trouble `nothing-left`, `take-gone`, `no-take`
 */
export async function beginLesson(
  folio: Folio,
  question: Question,
  cut: CutKind,
  takes: readonly Take[],
  sounds: SoundMakers,
  signal: AbortSignal,
): Promise<BegunLesson> {
  const take = takeOf(question, takes)
  const ledger = cut === 'hint' ? hintLedger(question.ledger!, question.release?.hint ?? []) : question.ledger!
  const source = await sourceOf(take, question, ledger, takes, folio.pages, readLog)
  const edition = editionOf(source)
  if (cut === 'hint' && !edition.duration) throw emptyHint(question)
  refuseEmpty(question, edition)
  const sounding = lessonSoundOf(folio, question, edition, sounds, signal)
  sounding.catch(() => {})
  return { question, cut, edition, sounding }
}

/**
 * Makes the replay of a question: its edition as data, what lies under the ink, its sound.
 * @param place where a file is found; at its path when left out
 * @throws Trouble `page-gone`, `no-encoder`, `cancelled`
 */
export async function makeLesson(
  folio: Folio,
  { question, cut, edition, sounding }: BegunLesson,
  signal: AbortSignal,
  place: (path: string, data: Blob) => string = path => path,
): Promise<MadeLesson> {
  const files = new Map<string, ArchiveFile>()
  const keep = async (folder: string, blob: Blob, ending: string) => {
    const path = `${folder}/${(await shaOf(blob)).slice(0, NAME)}.${ending}`
    files.set(path, { path, data: blob, store: true })
    return place(path, blob)
  }
  const views: LessonView[] = []
  for (const frame of edition.frames()) views.push(await viewOf(folio, question, edition, frame, keep))
  const documents: Lesson['documents'] = []
  for (const id of placedIn(edition.shown.events)) {
    const blob = await loadDocument(id)
    if (blob) documents.push({ id, path: await keep('pictures', blob, blob.type.split('/')[1] ?? 'png') })
  }
  signal.throwIfAborted()
  const sound = await sounding
  const lesson = lessonOf(edition, {
    views,
    documents,
    sound: sound && { path: await keep('sound', sound, 'm4a'), mime: 'audio/mp4' },
    ...(cut === 'hint' ? { end: hintTurn(edition.duration) } : {}),
  })
  return { question, cut, edition, lesson, data: await deflated(encodeLesson(lesson)), files: [...files.values()] }
}

type Keep = (folder: string, blob: Blob, ending: string) => Promise<string>

async function viewOf(
  folio: Folio,
  question: Question,
  edition: Edition,
  frame: Frame,
  keep: Keep,
): Promise<LessonView> {
  const page = pageOf(folio, question, frame)
  const pictures: LessonPicture[] = []
  // Letters that are painted over, or in the paper's colour, are in a picture no more.
  const print = (await hidesNothing(page, folio, frame.box)) ? await printOfFrame(folio, frame) : null
  for (const width of print ? [] : WIDTHS) {
    const wide = width === WIDTHS[1] ? Math.min(MOST_WIDTH, width * nearestLook(edition.shown.events)) : width
    const canvas = await pictureOfFrame(folio, frame, wide / frame.box.w)
    const blob = await pictureBlob(canvas)
    pictures.push({
      path: await keep('pictures', blob, blob.type === 'image/webp' ? 'webp' : 'png'),
      width: canvas.width,
    })
  }
  return {
    frame,
    page: scenePageOf(page),
    pictures,
    ...(print ? { print } : {}),
  }
}

const emptyHint = (question: Question) =>
  new Trouble(
    'hint-empty',
    `The hint of question ${question.number} has no step that is left.`,
    'Nothing was published.',
    'Choose its steps under Cuts and dates.',
  )

/** A page as a replay's scene knows it. */
export const scenePageOf = (page: Page): LessonView['page'] => ({
  id: page.id,
  width: page.width,
  height: page.height,
  dark: page.kind === 'blank' && page.dark,
})

/** A picture of a page as a small file: WebP where the browser makes it, else PNG. */
export function pictureBlob(canvas: HTMLCanvasElement): Promise<Blob> {
  return new Promise((done, fail) =>
    canvas.toBlob(b => (b ? done(b) : fail(new Error('the page could not be drawn'))), 'image/webp', QUALITY),
  )
}
