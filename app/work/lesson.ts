import { editionOf, type Edition } from '#core/edition'
import type { ArchiveFile, Folio, Frame, Page, Question, Take } from '#core/folio'
import { deflated, encodeLesson, lessonOf, type Lesson, type LessonPicture, type LessonView } from '#core/lesson'
import { nearestLook } from '#core/publish'
import { loadDocument } from '../data/folios'
import { readLog } from '../data/takes'
import { pictureOfFrame, printOfFrame } from '../paper/pageStore'
import { placedIn, sourceOf } from './editionSource'
import { lessonSoundOf, type SoundMakers } from './lessonSound'
import { pageOf, refuseEmpty, takeOf } from './render'

/** Widths in which what lies under the ink is given out, pixels: for a phone, and for a large or zoomed picture. */
const WIDTHS = [800, 1600] as const
const QUALITY = 0.7
/** Where students are led closer, a picture is larger, to this width at most. */
const MOST_WIDTH = 2800
/** Letters of a file's name that are of its content: the same content has the same name. */
const NAME = 16

/** A question's replay: its lesson, packed, and the files it reads beside the page. */
export interface MadeLesson {
  question: Question
  edition: Edition
  lesson: Lesson
  /** Deflated. */
  data: Uint8Array<ArrayBuffer>
  files: ArchiveFile[]
}

/** A question's replay of which the sound is being made. */
export interface BegunLesson {
  question: Question
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
  takes: readonly Take[],
  sounds: SoundMakers,
  signal: AbortSignal,
): Promise<BegunLesson> {
  const take = takeOf(question, takes)
  const source = await sourceOf(take, question, question.ledger!, takes, folio.pages, readLog)
  const edition = editionOf(source)
  refuseEmpty(question, edition)
  const sounding = lessonSoundOf(folio, question, edition, sounds, signal)
  sounding.catch(() => {})
  return { question, edition, sounding }
}

/**
 * Makes the replay of a question: its edition as data, what lies under the ink, its sound.
 * @param place where a file is found; at its path when left out
 * @throws Trouble `page-gone`, `no-encoder`, `cancelled`
 */
export async function makeLesson(
  folio: Folio,
  { question, edition, sounding }: BegunLesson,
  signal: AbortSignal,
  place: (path: string, data: Blob) => string = path => path,
): Promise<MadeLesson> {
  const files = new Map<string, ArchiveFile>()
  const keep = async (folder: string, blob: Blob, ending: string) => {
    const path = `${folder}/${await contentName(blob)}.${ending}`
    files.set(path, { path, data: blob, store: true })
    return place(path, blob)
  }
  const views: LessonView[] = []
  for (const frame of edition.frames()) views.push(await viewOf(folio, question, edition, frame, keep))
  const documents: Lesson['documents'] = []
  for (const id of placedIn(edition.events)) {
    const blob = await loadDocument(id)
    if (blob) documents.push({ id, path: await keep('pictures', blob, blob.type.split('/')[1] ?? 'png') })
  }
  signal.throwIfAborted()
  const sound = await sounding
  const lesson = lessonOf(edition, {
    views,
    documents,
    sound: sound && { path: await keep('sound', sound, 'm4a'), mime: 'audio/mp4' },
  })
  return { question, edition, lesson, data: await deflated(encodeLesson(lesson)), files: [...files.values()] }
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
  const print = await printOfFrame(folio, frame)
  for (const width of print ? [] : WIDTHS) {
    const wide = width === WIDTHS[1] ? Math.min(MOST_WIDTH, width * nearestLook(edition.events)) : width
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

async function contentName(blob: Blob): Promise<string> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', await blob.arrayBuffer()))
  return [...hash]
    .map(b => b.toString(16).padStart(2, '0'))
    .join('')
    .slice(0, NAME)
}
