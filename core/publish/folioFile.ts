import { z } from 'zod'
import { chapterCues, writeVtt } from '../captions/vtt'
import { editionOf } from '../edition'
import { takesIn } from '../cut/ledger'
import { namerOf } from '../edition/rows'
import { openArchive, type ArchiveFile } from '../folio/archive'
import { migrateFolio, newerFolio } from '../folio/migrate'
import { FOLIO_SCHEMA, MOST_TAKE_MS, Take, type Clips, type Folio, type Ledger, type Step } from '../folio/model'
import { ENDINGS, type Page, type SourceDocument } from '../folio/page'
import type { Thing } from '../folio/thing'
import { Trouble } from '../folio/trouble'
import { layFigure } from '../figures'
import { layGuide } from '../guides'
import { readInkml, writeInkml } from '../ink/inkml'
import { endOf, inkOf, kindOf } from '../recording/events'
import { TakeEvent } from '../recording/events/schemas'
import { underNewName } from '../recording/journal'

/** Formats in which the sound of a take may be kept, by file ending. */
export const SOUND_FORMATS = { flac: 'audio/flac', ogg: 'audio/ogg', wav: 'audio/wav' } as const
type SoundEnding = keyof typeof SOUND_FORMATS

/** A take with everything that was recorded. */
export interface WholeTake {
  take: Take
  events: TakeEvent[]
  sound: Blob | null
  camera?: Blob | null
}
export interface WholeFolio {
  folio: Folio
  documents: Map<string, Blob>
  takes: WholeTake[]
}

/** The log as a file: strokes stand in the ink file and are named here in their place. */
const FiledEvent = z.preprocess(
  underNewName,
  z.union([
    z.object({
      type: z.literal('trace'),
      id: z.string(),
      t: z.number().int().nonnegative(),
      size: z.number().positive().optional(),
    }),
    TakeEvent,
  ]),
)
const Filed = z.object({
  format: z.literal('orthograph-folio'),
  schema: z.number().int(),
  folio: z.unknown(),
  takes: z.array(z.unknown()),
})

/**
 * The files of a folio file, a zip of open formats: `folio.json`, the original PDFs and pictures, and for each take its
 * ink (InkML),
 * its log (JSON), its sound, the camera's track (WebM) and, for the take in use, steps and captions (WebVTT).
 */
export function folioFiles({ folio, documents, takes }: WholeFolio): ArchiveFile[] {
  const files: ArchiveFile[] = [
    {
      path: 'folio.json',
      data: JSON.stringify(
        { format: 'orthograph-folio', schema: FOLIO_SCHEMA, folio, takes: takes.map(t => t.take) },
        null,
        1,
      ),
    },
  ]
  for (const doc of folio.documents) {
    const data = documents.get(doc.id)
    if (data) files.push({ path: pathOf(doc), data, store: true })
  }
  for (const { take, events, sound, camera } of takes) {
    const at = `takes/${take.id}`
    files.push({ path: `${at}/ink.inkml`, data: writeInkml(events.flatMap(inkOf)) })
    files.push({
      path: `${at}/log.json`,
      data: JSON.stringify(
        events.map(e => (e.type === 'stroke' ? { type: 'trace', id: e.id, t: e.t, size: e.size } : e)),
      ),
    })
    if (sound) files.push({ path: `${at}/sound.${endingOf(sound.type)}`, data: sound, store: true })
    if (camera) files.push({ path: `${at}/camera.webm`, data: camera, store: true })
    const of = folio.questions.find(q => q.ledger?.takeId === take.id)
    const ledger = of?.ledger
    if (ledger) {
      const used = new Set(takesIn(ledger))
      const others = Object.fromEntries(
        takes.filter(t => t.take !== take && used.has(t.take.id)).map(t => [t.take.id, t]),
      )
      const edition = editionOf({ take, events, ledger, pages: folio.pages, others, namer: namerOf(of) })
      files.push({ path: `${at}/steps.vtt`, data: writeVtt(chapterCues(edition.chapters(), edition.duration)) })
      files.push({ path: `${at}/captions.vtt`, data: writeVtt(edition.captions()) })
    }
  }
  return files
}

const pathOf = (doc: SourceDocument) => `pages/${doc.id}.${ENDINGS[doc.mime]}`

function endingOf(mime: string): SoundEnding {
  return (Object.keys(SOUND_FORMATS) as SoundEnding[]).find(e => mime.startsWith(SOUND_FORMATS[e])) ?? 'wav'
}

/** Lays out what is laid out from its numbers, so that one that cannot be is found here and not on the board. */
function checkDrawn(thing: Thing, damaged: (why: string) => Trouble): void {
  try {
    if (thing.kind === 'guide') layGuide(thing.spec)
    if (thing.kind === 'figure') layFigure(thing.spec)
  } catch (cause) {
    throw damaged(`cannot be laid out (${cause instanceof Trouble ? cause.message : 'its numbers do not fit'})`)
  }
}

/**
 * Reads a folio file back. Nothing is stored here: the caller does that once all of it has been read.
 * @param onRead called whenever a page file or a take has been read
 * @throws Trouble when the file is damaged, hostile or of a newer version
 */
export async function readFolioFile(file: Blob, name: string, onRead?: () => void): Promise<WholeFolio> {
  const archive = await openArchive(file, name)
  const damaged = (why: string, cause?: unknown) =>
    new Trouble(
      'folio-damaged',
      `${name} is incomplete: ${why}.`,
      'Nothing in this browser was changed.',
      'Copy the file again, or save it anew where it came from.',
      cause,
    )
  const json = async (path: string): Promise<unknown> => {
    if (!archive.has(path)) throw damaged(`${path} is missing`)
    const text = await archive.text(path)
    try {
      return JSON.parse(text)
    } catch (cause) {
      throw damaged(`${path} is not readable`, cause)
    }
  }
  const filed = Filed.safeParse(await json('folio.json'))
  if (!filed.success) throw damaged('folio.json does not describe a folio', filed.error)
  if (filed.data.schema > FOLIO_SCHEMA) throw newerFolio(name, filed.data.schema)
  const folio = migrateFolio(filed.data.folio, name)
  const twice = (what: string, ids: readonly string[]) => {
    if (new Set(ids).size < ids.length) throw damaged(`two ${what} in it have the same id`)
  }
  twice(
    'page files',
    folio.documents.map(d => d.id),
  )
  twice(
    'pages',
    folio.pages.map(p => p.id),
  )
  twice(
    'questions',
    folio.questions.map(q => q.id),
  )
  for (const [i, q] of folio.questions.entries())
    for (const held of q.held)
      checkDrawn(held.thing, why => damaged(`a held line of question ${q.number || i + 1} ${why}`))
  const documents = new Map<string, Blob>()
  for (const doc of folio.documents) {
    if (!archive.has(pathOf(doc))) throw damaged(`the page file ${doc.name} is missing`)
    documents.set(doc.id, await archive.blob(pathOf(doc), doc.mime))
    onRead?.()
  }
  const takes: WholeTake[] = []
  for (const value of filed.data.takes) {
    takes.push(await readTake(value, folio, { archive, name, json, damaged }))
    onRead?.()
  }
  twice(
    'takes',
    takes.map(t => t.take.id),
  )
  return { folio, documents, takes }
}

/** A folio file while it is read: its entries, and how what is wrong in it is told. */
interface Reading {
  archive: Awaited<ReturnType<typeof openArchive>>
  name: string
  json(path: string): Promise<unknown>
  damaged(why: string, cause?: unknown): Trouble
}

/** One take of a folio file. @param value as `folio.json` has it @throws Trouble `folio-damaged` */
async function readTake(value: unknown, folio: Folio, { archive, name, json, damaged }: Reading): Promise<WholeTake> {
  const parsed = Take.safeParse(value)
  if (!parsed.success) throw damaged('a take is described wrongly', parsed.error)
  // Whatever the file says, its takes are this folio's.
  const take = { ...parsed.data, folioId: folio.id }
  if (take.durationMs > MOST_TAKE_MS)
    throw damaged(`a take in it lasts ${Math.round(take.durationMs / 3_600_000)} hours`)
  const at = `takes/${take.id}`
  const log = z.array(FiledEvent).safeParse(await json(`${at}/log.json`))
  if (!log.success) throw damaged(`${at}/log.json is not a log`, log.error)
  if (!archive.has(`${at}/ink.inkml`)) throw damaged(`${at}/ink.inkml is missing`)
  const strokes = new Map(
    readInkml(await archive.text(`${at}/ink.inkml`), `${name}, take ${take.id}`).map(s => [s.id, s]),
  )
  const events = log.data.map((e): TakeEvent => {
    if (e.type !== 'trace') return e
    const stroke = strokes.get(e.id)
    if (!stroke) throw damaged(`a stroke of take ${take.id} is missing`)
    return { type: 'stroke', t: e.t, ...stroke, ...(e.size === undefined ? {} : { size: e.size }) }
  })
  for (const event of events) {
    if (Math.max(event.t, endOf(event)) > MOST_TAKE_MS)
      throw damaged(`something in take ${take.id} happens after the end of any take`)
    for (const { thing } of kindOf(event).objects(event))
      checkDrawn(thing, why => damaged(`a drawing in take ${take.id} ${why}`))
  }
  const ending = (Object.keys(SOUND_FORMATS) as SoundEnding[]).find(e => archive.has(`${at}/sound.${e}`))
  return {
    take,
    events,
    sound: ending ? await archive.blob(`${at}/sound.${ending}`, SOUND_FORMATS[ending]) : null,
    camera: archive.has(`${at}/camera.webm`) ? await archive.blob(`${at}/camera.webm`, 'video/webm') : null,
  }
}

/** The id under which a folio was first made. */
export const lineageOf = (folio: Pick<Folio, 'id' | 'lineage'>): string => folio.lineage ?? folio.id

/**
 * Gives a folio and its takes new identities, so that opening a file twice makes a copy and overwrites nothing.
 * @param ids gets the new id of each take by its old one
 */
export function withNewIds(whole: WholeFolio, newId: () => string, ids = new Map<string, string>()): WholeFolio {
  const folioId = newId()
  const takeIds = new Map(whole.takes.map(t => [t.take.id, newId()]))
  for (const [old, made] of takeIds) ids.set(old, made)
  const ofTake = <T extends { takeId: string }>(it: T): T => ({ ...it, takeId: takeIds.get(it.takeId) ?? it.takeId })
  const clips = ({ opening, end }: Clips): Clips => ({
    ...(opening && { opening: ofTake(opening) }),
    ...(end && { end: ofTake(end) }),
  })
  const made = <M extends Pick<Step, 'anew' | 'voice'>>(m: M): M => ({
    ...m,
    ...(m.anew ? { anew: ofTake(m.anew) } : {}),
    ...(m.voice ? { voice: ofTake(m.voice) } : {}),
  })
  const ledgerOf = (ledger: Ledger): Ledger => ({
    ...ofTake(ledger),
    steps: ledger.steps.map(s => ({ ...made(s), ...(s.versions ? { versions: s.versions.map(made) } : {}) })),
    ...(ledger.mends ? { mends: ledger.mends.map(m => ({ ...m, events: m.events.map(event) })) } : {}),
  })
  const event = (e: TakeEvent): TakeEvent => kindOf(e).mapObjects(e, thing)
  const thing = (t: Thing): Thing =>
    t.kind === 'picture' ? { ...t, documentId: docIds.get(t.documentId) ?? t.documentId } : t
  const docIds = new Map(whole.folio.documents.map(d => [d.id, newId()]))
  return {
    folio: {
      ...whole.folio,
      id: folioId,
      lineage: lineageOf(whole.folio),
      clips: clips(whole.folio.clips),
      documents: whole.folio.documents.map(d => ({ ...d, id: docIds.get(d.id)! })),
      pages: whole.folio.pages.map(p =>
        'documentId' in p
          ? ({
              ...p,
              documentId: docIds.get(p.documentId) ?? p.documentId,
              ...(p.kind === 'image' && p.original ? { original: docIds.get(p.original) ?? p.original } : {}),
            } as Page)
          : p,
      ),
      questions: whole.folio.questions.map(q => ({
        ...q,
        clips: clips(q.clips),
        ledger: q.ledger && ledgerOf(q.ledger),
        shelved: q.shelved.map(ledgerOf),
        held: q.held.map(h => ({ ...h, thing: thing(h.thing) })),
      })),
    },
    documents: new Map([...whole.documents].map(([id, blob]) => [docIds.get(id) ?? id, blob])),
    takes: whole.takes.map(t => ({
      ...t,
      events: t.events.map(event),
      take: {
        ...t.take,
        id: takeIds.get(t.take.id)!,
        folioId,
        ...(t.take.questionId === whole.folio.id ? { questionId: folioId } : {}),
        ...(t.take.after ? { after: ofTake(t.take.after) } : {}),
      },
    })),
  }
}
