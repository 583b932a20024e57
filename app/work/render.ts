import { z } from 'zod'
import { stepsAlone, takesIn } from '#core/cut'
import { editionOf, type ChapterBy, type Edition } from '#core/edition'
import type { Section } from '#core/edition/proofing'
import { newId, questionName, Trouble, type Folio, type Frame, type Page, type Question, type Take } from '#core/folio'
import { fileName, megabytes, nearestLook, questionFileNames } from '#core/publish'
import { isFresh, pictureKey, madeFrom, partsOf, sequenceOf, type FrameMode, type Part } from '#core/video'
import {
  CONTAINERS,
  RenderProgress,
  RenderResult,
  type ClipPiece,
  type Container,
  type RenderJob,
  type RenderPiece,
} from '../../workers/render/job'
import type { Publication } from '../data/publications'
import { freeRoom, openFile, removeFile, useFile } from '../data/files'
import { loadDocument } from '../data/folios'
import { loadCamera, loadSound, readLog } from '../data/takes'
import { drawnSoundsOf, placedIn, soundsIn, sourceOf } from './editionSource'
import { pictureOfFrame } from '../paper/pageStore'
import { newRenderRunner } from './workers'

export type { Container, FrameMode, RenderProgress }
export const SIZES = [
  { width: 1280, height: 720 },
  { width: 1920, height: 1080 },
] as const
export interface RenderOptions {
  container: Container
  width: number
  mode: FrameMode
  chapters: ChapterBy
  /** Only a part of a question: its label, and the steps that belong to it. */
  only?: Pick<Section, 'part' | 'steps'>
}

/** The containers that this browser can make. */
export async function possibleContainers(): Promise<Container[]> {
  const runner = newRenderRunner()
  try {
    return z.array(z.enum(CONTAINERS)).parse(await runner.run('containers', null))
  } finally {
    runner.close()
  }
}

/**
 * Makes the video of one question, or of several one after another, in a worker of its own.
 * @param questions with a take each, in order
 * @param whole whether it is the video of the whole folio: a chapter for each question instead of each step
 * @param store keeps what is known of the video; until then its file is held, so that nothing sweeps it
 * @param finished videos of single questions made with the same options; where all of them are there, the whole folio
 * takes its pictures from them
 */
export async function renderQuestions(
  folio: Folio,
  takes: readonly Take[],
  questions: readonly Question[],
  whole: boolean,
  options: RenderOptions,
  finished: readonly Publication[],
  store: (p: Publication) => Promise<void>,
  onProgress: (p: RenderProgress) => void,
  signal: AbortSignal,
): Promise<Publication> {
  const { only } = options
  const size = SIZES.find(s => s.width === options.width) ?? SIZES[0]
  const recorded = await recordedOf(folio, takes, questions, only)
  for (const { question, edition } of recorded) refuseEmpty(question, edition)
  const parts = partsOf(
    folio,
    recorded,
    whole,
    takeId => takes.find(t => t.id === takeId)?.durationMs ?? null,
    options.chapters,
  )
  const { chapters, captions, turns } = sequenceOf(parts)
  await refuseFull(recorded.reduce((ms, r) => ms + r.edition.duration, 0))
  const title = whole ? folio.title : `${questionName(questions[0]!)}${only ? `, part ${only.part}` : ''}`
  const videos = whole ? await videosOf(folio, questions, finished) : null
  const { jobParts, shown } = await jobPartsOf(folio, parts, recorded, videos, size.width)
  const runner = newRenderRunner()
  const id = newId(),
    name = `${id}.${options.container}`
  const free = await useFile(name)
  try {
    const result = RenderResult.parse(
      await runner.run(
        'render',
        {
          file: name,
          container: options.container,
          size,
          mode: options.mode,
          title,
          author: folio.author,
          parts: jobParts,
          chapters,
        },
        { signal, onProgress: v => onProgress(RenderProgress.parse(v)) },
      ),
    )
    const base = whole ? fileName(folio.title, 'folio') : questionFileNames(folio.questions).get(questions[0]!.id)!
    const ofPart = only ? `-${fileName(only.part, 'part')}` : ''
    const publication: Publication = {
      id,
      folioId: folio.id,
      questionId: whole ? null : questions[0]!.id,
      createdAt: new Date().toISOString(),
      file: result.file,
      name: `${base}${ofPart}.${options.container}`,
      mime: options.container === 'mp4' ? 'video/mp4' : 'video/webm',
      bytes: result.bytes,
      durationMs: Math.round(result.durationMs),
      size: `${size.width}x${size.height}`,
      codecs: result.codecs,
      ...(only ? { part: only.part } : {}),
      chapters,
      captions,
      turns,
      made: madeFrom(questions, whole ? folio.clips : {}),
      pages: Object.fromEntries(folio.pages.filter(p => shown.has(p.id)).map(p => [p.id, pictureKey(p)])),
    }
    await store(publication)
    return publication
  } catch (error) {
    runner.close()
    await removeFile(name)
    throw error
  } finally {
    runner.close()
    free()
  }
}

/** The questions with their editions. @param only a part of the one question, where it is not all of it */
function recordedOf(
  folio: Folio,
  takes: readonly Take[],
  questions: readonly Question[],
  only: RenderOptions['only'],
): Promise<Recorded[]> {
  return Promise.all(
    questions.map(async question => {
      const take = takeOf(question, takes)
      const ledger = only ? stepsAlone(question.ledger!, new Set(only.steps)) : question.ledger!
      const source = await sourceOf(take, question, ledger, takes, folio.pages, readLog)
      return {
        question: only ? { ...question, clips: {} } : question,
        source: toPlain(source) as RenderPiece['source'],
        edition: editionOf(source),
      }
    }),
  )
}

/** @throws Trouble `nothing-left` for a question of which nothing is left */
export function refuseEmpty(question: Question, edition: Edition): void {
  if (!edition.empty) return
  throw new Trouble(
    'nothing-left',
    `Every step of ${questionName(question)} is struck out.`,
    'The take is untouched.',
    'Bring back at least one step on the Proof screen.',
  )
}

/** The page of a frame. @throws Trouble `page-gone` */
export function pageOf(folio: Folio, question: Question, frame: Frame): Page {
  const page = folio.pages.find(p => p.id === frame.pageId)
  if (page) return page
  throw new Trouble(
    'page-gone',
    `A page of ${questionName(question)} is no longer in the folio.`,
    'The take is untouched.',
    'Bring the page in again.',
  )
}

/** The parts of a video as a worker takes them, and the pages that they show. */
async function jobPartsOf(
  folio: Folio,
  parts: readonly Part[],
  recorded: readonly Recorded[],
  videos: ReadonlyMap<string, Blob> | null,
  width: number,
): Promise<{ jobParts: RenderJob['parts']; shown: Set<string> }> {
  const jobParts: RenderJob['parts'] = []
  const shown = new Set<string>()
  for (const [i, part] of parts.entries()) {
    const piece =
      part.kind === 'clip'
        ? await clipOf(part.takeId, part.duration)
        : await pieceOf(folio, recorded.find(r => r.edition === part.edition)!, width)
    const frames = 'views' in piece ? piece.views.map(v => v.frame) : []
    for (const id of frames.flatMap(f => [f.pageId, f.inset?.pageId])) if (id) shown.add(id)
    if (i && part.of && part.of === parts[i - 1]!.of) jobParts[jobParts.length - 1]!.pieces.push(piece)
    else jobParts.push({ pieces: [piece], video: (part.of && videos?.get(part.of)) || null })
  }
  return { jobParts, shown }
}

/** The files of all questions' own videos; null when one of them is missing or no longer what the folio says. */
async function videosOf(
  folio: Folio,
  questions: readonly Question[],
  finished: readonly Publication[],
): Promise<Map<string, Blob> | null> {
  const files = new Map<string, Blob>()
  for (const question of questions) {
    const own = finished.find(p => p.questionId === question.id && !p.part && isFresh(p, folio, [question]))
    const file = own && (await openFile(own.file))
    if (!file) return null
    files.set(question.id, file)
  }
  return files
}

/** The take that a question's ledger is about. @throws when there is none */
export function takeOf(question: Question, takes: readonly Take[]): Take {
  const take = takes.find(t => t.id === question.ledger?.takeId)
  if (!take)
    throw new Trouble(
      'no-take',
      `${questionName(question)} has no take yet.`,
      'Everything else is there.',
      'Record it on the Solve screen first.',
    )
  return take
}

/** What a minute of video takes at most, bytes: pictures at even quality and sound. */
const A_MINUTE = 4 * 1024 ** 2
/** Looks for room before the work. @throws Trouble `storage-full` */
async function refuseFull(ms: number): Promise<void> {
  const [bytes, room] = [(ms / 60_000) * A_MINUTE, await freeRoom()]
  if (room < bytes)
    throw new Trouble(
      'storage-full',
      `The video may take ${megabytes(bytes)}, and the browser has room for ${megabytes(room)}.`,
      'Nothing was begun; the take is safe.',
      'Remove older videos or folios that you have as files, then make it again.',
    )
}

interface Recorded {
  question: Question
  source: RenderPiece['source']
  edition: Edition
}

async function pieceOf(folio: Folio, { question, source, edition }: Recorded, width: number): Promise<RenderPiece> {
  const { events } = edition.shown
  const views: RenderPiece['views'] = []
  for (const frame of edition.frames()) {
    const page = pageOf(folio, question, frame)
    const canvas = await pictureOfFrame(toPlain(folio), frame, (width * nearestLook(events)) / frame.box.w)
    const picture = await new Promise<Blob>((done, fail) =>
      canvas.toBlob(b => (b ? done(b) : fail(new Error('the page could not be drawn'))), 'image/png'),
    )
    views.push({
      page: { id: page.id, width: page.width, height: page.height, dark: page.kind === 'blank' && page.dark },
      frame: toPlain(frame),
      picture,
    })
  }
  const documents = (
    await Promise.all([...placedIn(events)].map(async id => ({ id, picture: await loadDocument(id) })))
  ).flatMap(({ id, picture }) => (picture ? [{ id, picture }] : []))
  const tracks: Record<string, Blob> = {}
  for (const id of edition.portrait ? takesIn(edition.ledger) : []) {
    const track = await loadCamera(id)
    if (track) tracks[id] = track
  }
  return {
    source,
    views,
    documents,
    sounds: soundsIn(await drawnSoundsOf(edition.ledger)),
    tracks,
  }
}

async function clipOf(takeId: string, duration: number): Promise<ClipPiece> {
  return { clip: await loadCamera(takeId), duration, sound: (await loadSound(takeId))?.blob ?? null }
}

/** A copy without the interface's watchers, which cannot be sent to a worker. */
const toPlain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
