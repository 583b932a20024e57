import { readAnswer, Trouble, type ArchiveFile, type Folio, type Question, type Take } from '#core/folio'
import { base64 } from '#core/lesson'
import {
  calendarOf,
  dateAndTime,
  digest,
  encodePath,
  FEED,
  feedOf,
  fileName,
  lineageOf,
  listingOf,
  questionFileNames,
  releasesOf,
  shownAt,
  sidecars,
  studentPage,
  writtenIn,
  handedNow,
  type ListedQuestion,
  type PublishedFolio,
  type PublishedQuestion,
  type Shown,
} from '#core/publish'
import aids from '../../student/built/aids.js?raw'
import aidsUrl from '../../student/built/aids.js?url'
import script from '../../student/built/player.js?raw'
import scriptUrl from '../../student/built/player.js?url'
import icons from '../../student/built/icons.svg?raw'
import style from '../../student/built/page.css?raw'
import { forgetMadeSounds } from '../data/madeSounds'
import { openFile } from '../data/files'
import type { Publication } from '../data/publications'
import { beginLesson, makeLesson, type BegunLesson, type CutKind, type MadeLesson } from './lesson'
import { SoundMakers } from './lessonSound'
import { ClosedQuestions } from './closedQuestions'
import { printOf } from './print'
import { shaOf } from './sha'
import { pictureOfMoment } from './still'
import { worksheetOf } from './worksheet'

/** Faces of the student page, served by the application. */
const FONTS = [
  'atkinson-hyperlegible-latin-400-normal',
  'atkinson-hyperlegible-latin-700-normal',
  'stix-two-text-latin-400-normal',
  'stix-two-text-latin-600-normal',
].map(name => `fonts/${name}.woff2`)
/** Letters of a file's name that are of its content, where a host keeps versions. */
export const TAG = 10
/** Width of the picture that a question has in the list and without scripts, pixels. */
export const POSTER_WIDTH = 640

/** Hashes of the page's scripts and style, as a Content-Security-Policy names them. */
export const pagePlayer = async () => ({
  script: `sha256-${await digest(script)} sha256-${await digest(aids)}`,
  style: `sha256-${await digest(style)}`,
})

export interface PageOptions {
  /** Videos that are still what the folio says; they are there for download and where scripts are off. */
  videos: readonly Publication[]
  onProgress: (share: number) => void
  signal: AbortSignal
  /** On a host that keeps versions: its files are named by their content, and it says when it was changed. */
  host?: {
    takes: boolean
    counts: boolean
    changed: string | null
    classPage?: PublishedFolio['classPage']
  }
  /** Where students will find it, as far as is known. */
  link?: string
}

/** A file of the page, and from when on students get it, ISO; null for at once. */
export type ReleasedFile = ArchiveFile & { from: string | null }

/** The student page: as it and its feed are from each release on, the files beside it, and the steps of its questions. */
export interface StudentSite {
  /** @property cuts that are on it */
  pages: { from: string | null; html: string; feed: string; listing: string; cuts: SiteCut[] }[]
  files: ReleasedFile[]
  questions: { id: string; steps: number }[]
  /** What each cut in it was made from, to be checked against. */
  cuts: SiteCut[]
}
export interface SiteCut {
  lesson: MadeLesson
  published: PublishedQuestion
  video: Publication | null
}

/**
 * The student page with its fonts, replays with their pictures and sound, posters, chapters, captions, the worksheet,
 * and the videos that there are. Paths are relative to the page.
 * @param questions that are recorded, in their order
 * @throws Trouble of what cannot be made: a page is whole or not made
 */
export async function studentSite(
  folio: Folio,
  questions: readonly Question[],
  takes: readonly Take[],
  options: PageOptions,
): Promise<StudentSite> {
  const now = Date.now()
  const moments = releasesOf(questions, now)
  const files = new Map<string, ReleasedFile>()
  const add = (all: readonly ArchiveFile[], from: string | null) => {
    for (const file of all) if (!files.has(file.path)) files.set(file.path, { ...file, from })
  }
  const made = await madeCuts(folio, questions, takes, moments, options)
  const common: ArchiveFile[] = []
  for (const path of FONTS) common.push({ path, data: await font(path), store: true })
  const worksheet = await worksheetOf(folio, options.signal)
  const worksheets: PublishedFolio['worksheets'] = []
  if (worksheet) {
    const tag = options.host ? `.${(await shaOf(worksheet)).slice(0, TAG)}` : ''
    const path = `worksheet/${fileName(folio.title, 'worksheet')}${tag}.pdf`
    worksheets.push({ path, name: folio.title })
    common.push({ path, data: worksheet, store: true })
  }
  const dates = calendarOf(folio, options.link ?? '', folio.createdAt)
  const calendar = dates && `dates${options.host ? `.${(await shaOf(dates)).slice(0, TAG)}` : ''}.ics`
  if (dates) common.push({ path: calendar!, data: dates })
  add(common, null)
  const closed = new ClosedQuestions(folio, options.host)
  const since = new Map(questions.map(q => [q.id, firstHanded(folio, q)]))
  const pages: StudentSite['pages'] = []
  for (const [i, moment] of moments.entries()) {
    const from = i === 0 ? null : new Date(moment).toISOString()
    const cuts: SiteCut[] = []
    const listed: ListedQuestion[] = []
    const needed = [...common]
    for (const q of questions) {
      const one = made.get(cutName(q, shownAt(q, moment)))
      if (one) {
        needed.push(...one.files)
        add(one.files, from)
        cuts.push(one)
      }
      const changed = changedAt(folio, q, options.host?.changed ?? undefined, moment)
      const not = one ? null : await closed.get(q, moment)
      if (not) {
        needed.push(...not.files)
        add(not.files, from)
      }
      listed.push({
        ...(one?.published ?? not!.listed),
        ...(changed ? { changed } : {}),
      })
    }
    const page = pageOf(folio, listed, worksheets, options.host, options.link)
    if (calendar) page.calendar = calendar
    page.feed = FEED
    if (options.host) page.toKeep = toKeep(needed)
    pages.push({
      from,
      cuts,
      html: await studentPage(page, { script, aids, style, icons }),
      feed: feedOf(page, options.link ?? '', since, new Date(now).toISOString()),
      listing: JSON.stringify(listingOf(page)),
    })
  }
  const steps = [...made.values()].map(m => ({ id: m.published.id, steps: m.published.chapters.length }))
  return {
    pages,
    files: [...files.values()],
    cuts: [...made.values()],
    questions: questions.map(q => ({
      id: q.id,
      steps: Math.max(0, ...steps.flatMap(s => (s.id === q.id ? s.steps : []))),
    })),
  }
}

/** When students first have a question whole, ISO: when it is released, else when it went out first, else now. */
function firstHanded({ published }: Folio, { id, release }: Question, now = new Date().toISOString()): string {
  const version = published?.versions.find(v => v.of.some(h => h.questionId === id))
  return (
    [release?.fullFrom, version?.at]
      .filter(at => at !== undefined)
      .sort()
      .at(-1) ?? now
  )
}

/** The files of one state of the page, for a folder or any web host: as it is at first, or when all is released. */
export function siteFiles({ pages, files }: StudentSite, which: 'now' | 'whole'): ArchiveFile[] {
  const page = which === 'now' ? pages[0]! : pages.at(-1)!
  return [
    { path: 'index.html', data: page.html },
    { path: FEED, data: page.feed },
    ...files.filter(f => which === 'whole' || f.from === null).map(({ from: _, ...file }) => file),
  ]
}

/**
 * The same page, to be looked at inside the application: its pictures and sounds are where the browser holds them, its
 * script is the application's own file.
 * @returns the page's HTML as students get it now, and what lets go of what it shows
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
    const now = Date.now()
    const made = await madeCuts(folio, questions, takes, [now], { ...options, videos: [] }, place)
    const listed: ListedQuestion[] = []
    const closed = new ClosedQuestions(folio, undefined, place)
    for (const q of questions)
      listed.push(made.get(cutName(q, shownAt(q, now)))?.published ?? (await closed.get(q, now)).listed)
    const page = pageOf(folio, listed, [], undefined)
    const bare = await studentPage(page, {
      script: '',
      aids: '',
      style: style.replaceAll('url(fonts/', 'url(/fonts/'),
      icons,
    })
    // The application's own policy holds for it.
    const html = bare
      .replace(/<meta http-equiv="Content-Security-Policy"[^>]*>/, '')
      .replace('<script></script>', `<script src="${scriptUrl}"></script>`)
      .replace('<script></script>', `<script src="${aidsUrl}"></script>`)
    return { html, release }
  } catch (error) {
    release()
    throw error
  }
}

interface MadeCut extends SiteCut {
  files: ArchiveFile[]
}
/** Where a file of the page is to be found: at its path, or where the browser holds it. */
export type Place = (path: string, data: Blob) => string
const cutName = ({ id }: Question, { cut }: Shown) => `${cut} ${id}`
/**
 * Since when students have a question as it is, ISO: since the first of the versions that have it so, else since now; at
 * `moment`, not before it was released.
 */
function changedAt(folio: Folio, question: Question, now: string | undefined, moment: number): string | undefined {
  const [as] = handedNow([question], folio)
  const versions = folio.published?.versions ?? []
  const other = versions.findLastIndex(({ of }) => of.find(h => h.questionId === question.id)?.made !== as?.made)
  const since = versions[other + 1]?.at ?? now
  const { fullFrom } = question.release ?? {}
  return since && fullFrom && since < fullFrom && Date.parse(fullFrom) <= moment ? fullFrom : since
}

/** What the page needs where there is no line: all but videos and what stands beside them. */
function toKeep(files: readonly ArchiveFile[]): NonNullable<PublishedFolio['toKeep']> {
  const needed = files.filter(f => !/\.(mp4|webm|vtt)$/.test(f.path))
  const sizes = needed.map(({ data }) => (typeof data === 'string' ? new Blob([data]) : data).size)
  return { files: needed.map(f => encodePath(f.path)), bytes: sizes.reduce((a, b) => a + b, 0) }
}

/**
 * Cuts as they were made last, while their questions are the same: what is published once more is made anew only where it
 * was changed. Documents are never written over, only made anew.
 */
const kept = new WeakMap<Question, Map<string, MadeCut>>()
/** Forgets cuts and sounds that were made of a folio: what of it is wrong is made anew. */
export async function forgetMade({ id, questions }: Folio): Promise<void> {
  for (const question of questions) kept.delete(question)
  await forgetMadeSounds(id)
}
const pagesAs = new WeakMap<Folio['pages'], number>()
let pagesKnown = 0
function keptAs(folio: Folio, name: string, question: Question, { videos, host }: PageOptions): string {
  if (!pagesAs.has(folio.pages)) pagesAs.set(folio.pages, ++pagesKnown)
  const video = videos.find(p => p.questionId === question.id && !p.part)?.id ?? ''
  return [name, pagesAs.get(folio.pages), !!host, video].join(' ')
}

/** The cuts of all questions that are shown at any of these moments, by their names. */
async function madeCuts(
  folio: Folio,
  questions: readonly Question[],
  takes: readonly Take[],
  moments: readonly number[],
  options: PageOptions,
  place?: Place,
): Promise<Map<string, MadeCut>> {
  const { onProgress, signal } = options
  const names = questionFileNames(folio.questions)
  const out = new Map<string, MadeCut>()
  const sounds = new SoundMakers()
  try {
    // All sounds are being made while the pages' pictures are.
    const begun = new Map<string, BegunLesson>()
    for (const question of questions) {
      for (const moment of moments) {
        const shown = shownAt(question, moment)
        const name = cutName(question, shown)
        if (shown.cut === 'closed' || begun.has(name) || out.has(name)) continue
        const known = place ? undefined : kept.get(question)?.get(keptAs(folio, name, question, options))
        if (known) out.set(name, known)
        else begun.set(name, await beginLesson(folio, question, shown.cut, takes, sounds, signal))
      }
    }
    let done = 0
    for (const [name, one] of begun) {
      signal.throwIfAborted()
      const { question } = one
      const made = await makeLesson(folio, one, signal, place)
      const cut = await publishedOf(folio, made, names.get(question.id)!, options, place)
      out.set(name, cut)
      if (!place) kept.set(question, new Map(kept.get(question)).set(keptAs(folio, name, question, options), cut))
      onProgress(++done / (begun.size + 1))
    }
  } finally {
    sounds.close()
  }
  return out
}

/** What the page says of the folio. */
function pageOf(
  folio: Folio,
  questions: ListedQuestion[],
  worksheets: PublishedFolio['worksheets'],
  host: PageOptions['host'],
  link = '',
): PublishedFolio {
  return {
    id: lineageOf(folio),
    title: folio.title,
    course: folio.course,
    author: folio.author,
    questions,
    worksheets,
    plan: { ...folio.plan, related: folio.plan.related.map(r => ({ ...r, address: besideIt(r.address, link) })) },
    skipped: folio.plan.skipped.flatMap(s => {
      const of = folio.questions.find(q => q.id === s.questionId)
      return of ? [{ name: `question ${of.number}`, why: s.why }] : []
    }),
    ...(host ? { host: { takes: host.takes, counts: host.counts } } : {}),
    ...(host?.changed ? { changed: host.changed } : {}),
    ...(host?.classPage ? { classPage: host.classPage } : {}),
  }
}

/** An address as it is named from the page: that of another lesson of the same site stays within it. @param link of the page */
function besideIt(address: string, link: string): string {
  const site = link.replace(/[^/]+\/$/, '')
  const rest = site && address.startsWith(site) ? address.slice(site.length) : ''
  return /^[a-f0-9]{16}\//.test(rest) ? `../${rest}` : address
}

/**
 * Places, from 1, under which students knew a question before addresses were of questions. Where versions differ, a place
 * means what stood there first.
 */
function placesOf({ published }: Folio, id: string): number[] {
  const first = new Map<number, string>()
  for (const { of } of published?.versions ?? [])
    of.forEach(({ questionId }, i) => {
      if (!first.has(i + 1)) first.set(i + 1, questionId)
    })
  return [...first].flatMap(([place, of]) => (of === id ? [place] : []))
}

/** A question on the page, with the files that belong to it. */
async function publishedOf(
  folio: Folio,
  made: MadeLesson,
  name: string,
  { videos, host }: PageOptions,
  place: Place = path => path,
): Promise<MadeCut> {
  const picture = await posterOf(folio, made)
  const words = await wordsOf(folio, made)
  // Of a hint there is no video: the one that there is shows the whole solution.
  const whole = made.cut === 'full' ? videos.find(p => p.questionId === made.question.id && !p.part) : undefined
  const video = await videoOf(whole)
  const state = async () => shaOf(JSON.stringify([words, await shaOf(picture), whole?.id ?? '']))
  const base = `questions/${name}${made.cut === 'hint' ? '.hint' : ''}${host ? `.${(await state()).slice(0, TAG)}` : ''}`
  const poster = { path: `${base}.webp`, data: picture, store: true }
  const files: ArchiveFile[] = [...made.files, poster]
  if (video) files.push({ path: `${base}.${video.ending}`, data: video.file, store: true })
  const published: PublishedQuestion = {
    ...words,
    places: placesOf(folio, made.question.id),
    base,
    name: `${name}.${video?.ending ?? 'mp4'}`,
    poster: place(poster.path, poster.data),
    ...(video ? { video: { path: `${base}.${video.ending}`, mime: video.mime, bytes: video.file.size } } : {}),
    ...(made.cut === 'hint' ? { hint: { fullFrom: made.question.release!.fullFrom! } } : {}),
  }
  for (const { path, text } of sidecars(published)) files.push({ path, data: text })
  return { lesson: made, published, video: (video && whole) ?? null, files }
}

/** What the page says of a question in words. */
async function wordsOf(folio: Folio, { question, cut, edition, lesson, data }: MadeLesson) {
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
    chapters: lesson.steps.map(({ t, title, part, also }, i) => ({
      t,
      title,
      written: writtenIn(edition.contentIn(edition.time.steps[i]!)),
      ...(part ? { part } : {}),
      ...(also ? { also } : {}),
    })),
    captions: edition.captions(),
    turns: lesson.turns,
    print: await printOf(folio, question),
    replies: repliesIn(question, edition, cut),
    // A hint does not tell which option it is.
    ...(answer && cut === 'full' ? { choice: { labels, answer } } : {}),
  }
}

/** Answers at their steps; one whose step is not in a hint comes with the whole solution. */
function repliesIn({ replies = [], release }: Question, edition: MadeLesson['edition'], cut: CutKind) {
  return replies.flatMap(({ stepId, asked, says }) => {
    const t = edition.time.steps.find(s => s.step.id === stepId)?.from
    if (!stepId || t !== undefined) return [{ t: t ?? null, asked, says }]
    // Who asked is told when the answer comes.
    const from = cut === 'hint' && release?.fullFrom
    return from ? [{ t: null, asked, says: `The whole solution answers this, from ${dateAndTime(from)} on.` }] : []
  })
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
