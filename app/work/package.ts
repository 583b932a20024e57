import { readAnswer, Trouble, type ArchiveFile, type Folio, type Question, type Take } from '#core/folio'
import { base64 } from '#core/lesson'
import {
  digest,
  fileName,
  lineageOf,
  questionFileNames,
  sidecars,
  studentPage,
  type PublishedFolio,
  type PublishedQuestion,
} from '#core/publish'
import script from '../../student/built/player.js?raw'
import scriptUrl from '../../student/built/player.js?url'
import style from '../../student/built/page.css?raw'
import { openFile } from '../data/files'
import type { Publication } from '../data/publications'
import { beginLesson, makeLesson, type BegunLesson, type MadeLesson } from './lesson'
import { SoundMakers } from './lessonSound'
import { printOf } from './print'
import { pictureOfMoment } from './still'
import { worksheetOf } from './worksheet'

/** Faces of the student page, served by the application. */
const FONTS = [
  'atkinson-hyperlegible-latin-400-normal',
  'atkinson-hyperlegible-latin-700-normal',
  'stix-two-text-latin-400-normal',
  'stix-two-text-latin-600-normal',
].map(name => `fonts/${name}.woff2`)
/** Width of the picture that a question has in the list and without scripts, pixels. */
const POSTER_WIDTH = 640

/** Hash of the player's script, as a Content-Security-Policy names it. */
export const playerHash = async () => `sha256-${await digest(script)}`

export interface PageOptions {
  /** Where a file of the page is found; at its path when left out. */
  place?: (path: string, data: Blob) => string
  /** Videos that are still what the folio says; they are there for download and where scripts are off. */
  videos: readonly Publication[]
  onProgress: (share: number) => void
  signal: AbortSignal
}

/**
 * The files of a student page: the page with its fonts, replays with their pictures and sound, posters, chapters,
 * captions, the worksheet, and the videos that there are. Paths are relative to the page.
 * @param questions that are recorded, in their order
 * @throws Trouble of what cannot be made: a page is whole or not made
 */
export async function studentFiles(
  folio: Folio,
  questions: readonly Question[],
  takes: readonly Take[],
  options: PageOptions,
): Promise<ArchiveFile[]> {
  const { page, files } = await madePage(folio, questions, takes, options)
  const worksheet = await worksheetOf(folio, options.signal)
  if (worksheet) {
    const path = `worksheet/${fileName(folio.title, 'worksheet')}.pdf`
    page.worksheets.push({ path, name: folio.title })
    files.set(path, { path, data: worksheet, store: true })
  }
  for (const path of FONTS) files.set(path, { path, data: await font(path), store: true })
  return [{ path: 'index.html', data: await studentPage(page, { script, style }) }, ...files.values()]
}

/**
 * The same page, to be looked at inside the application: its pictures and sounds are where the browser holds them, its
 * script is the application's own file.
 * @returns the page's HTML, and what lets go of what it shows
 */
export async function studentPreview(
  folio: Folio,
  questions: readonly Question[],
  takes: readonly Take[],
  options: PageOptions,
): Promise<{ html: string; release: () => void }> {
  const held: string[] = []
  const place = (_: string, data: Blob) => {
    const url = URL.createObjectURL(data)
    held.push(url)
    return url
  }
  const release = () => held.forEach(url => URL.revokeObjectURL(url))
  try {
    const { page } = await madePage(folio, questions, takes, { ...options, videos: [], place })
    const bare = await studentPage(page, { script: '', style: style.replaceAll('url(fonts/', 'url(/fonts/') })
    // The application's own policy holds for it.
    const html = bare
      .replace(/<meta http-equiv="Content-Security-Policy"[^>]*>/, '')
      .replace('<script></script>', `<script src="${scriptUrl}"></script>`)
    return { html, release }
  } catch (error) {
    release()
    throw error
  }
}

/** What the page says, and the files that belong to its questions, by their paths. */
async function madePage(
  folio: Folio,
  questions: readonly Question[],
  takes: readonly Take[],
  options: PageOptions,
): Promise<{ page: PublishedFolio; files: Map<string, ArchiveFile> }> {
  const { onProgress, signal, place } = options
  const names = questionFileNames(folio.questions)
  const files = new Map<string, ArchiveFile>()
  const add = (file: ArchiveFile) => files.set(file.path, file)
  const published: PublishedQuestion[] = []
  const sounds = new SoundMakers()
  try {
    // All sounds are being made while the pages' pictures are.
    const begun: BegunLesson[] = []
    for (const question of questions) begun.push(await beginLesson(folio, question, takes, sounds, signal))
    for (const [i, one] of begun.entries()) {
      signal.throwIfAborted()
      const made = await makeLesson(folio, one, signal, place)
      made.files.forEach(add)
      published.push(await publishedOf(folio, made, `questions/${names.get(one.question.id)!}`, options, add))
      onProgress((i + 1) / (questions.length + 1))
    }
  } finally {
    sounds.close()
  }
  const page: PublishedFolio = {
    id: lineageOf(folio),
    title: folio.title,
    course: folio.course,
    author: folio.author,
    questions: published,
    worksheets: [],
    plan: folio.plan,
    skipped: folio.plan.skipped.flatMap(s => {
      const of = folio.questions.find(q => q.id === s.questionId)
      return of ? [{ name: `question ${of.number}`, why: s.why }] : []
    }),
  }
  return { page, files }
}

/** A question on the page, with the files that belong to it. */
async function publishedOf(
  folio: Folio,
  made: MadeLesson,
  base: string,
  { videos, place = path => path }: PageOptions,
  add: (file: ArchiveFile) => void,
): Promise<PublishedQuestion> {
  const poster = { path: `${base}.webp`, data: await posterOf(folio, made), store: true }
  add(poster)
  const video = await videoOf(videos.find(p => p.questionId === made.question.id && !p.part))
  if (video) add({ path: `${base}.${video.ending}`, data: video.file, store: true })
  const one: PublishedQuestion = {
    ...(await wordsOf(folio, made)),
    base,
    poster: place(poster.path, poster.data),
    ...(video ? { video: { path: `${base}.${video.ending}`, mime: video.mime } } : {}),
  }
  for (const { path, text } of sidecars(one)) add({ path, data: text })
  return one
}

/** What the page says of a question in words. */
async function wordsOf(folio: Folio, { question, edition, lesson, data }: MadeLesson) {
  const labels = question.options.map(o => o.label)
  const expected = readAnswer(question.answer, labels)
  const answer = expected.kind === 'option' ? expected.label : ''
  return {
    id: question.id,
    number: question.number,
    title: question.title,
    lesson: base64(data),
    ...(lesson.sound ? { sound: lesson.sound } : {}),
    duration: edition.duration,
    chapters: lesson.steps.map(({ t, title, part, also }) => ({
      t,
      title,
      ...(part ? { part } : {}),
      ...(also ? { also } : {}),
    })),
    captions: edition.captions(),
    turns: edition.turns(),
    print: await printOf(folio, question),
    ...(answer ? { choice: { labels, answer } } : {}),
  }
}

/** The board at the end, as a small picture. */
function posterOf(folio: Folio, { edition }: MadeLesson): Promise<Blob> {
  const board = edition.boardAt(edition.duration)
  return pictureOfMoment(folio, board.frame ?? edition.first, board, POSTER_WIDTH, 'image/webp')
}

async function videoOf(p: Publication | undefined) {
  const file = p && (await openFile(p.file))
  return file ? { file, mime: p.mime, ending: p.name.split('.').pop()! } : null
}

async function font(path: string): Promise<Blob> {
  const response = await fetch(`/${path}`).catch(() => null)
  if (!response?.ok)
    throw new Trouble(
      'font-missing',
      'A font of the student page cannot be read.',
      'Nothing was published.',
      'See that the application is still running, then try once more.',
    )
  return response.blob()
}
