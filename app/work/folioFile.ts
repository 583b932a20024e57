import { z } from 'zod'
import {
  archiveBlob,
  asTrouble,
  cutTo,
  newId,
  openArchive,
  questionName,
  Trouble,
  withTakeAlone,
  writeArchive,
  type ArchiveFile,
  type Folio,
  type Portrait,
} from '#core/folio'
import { ledgerOfTake, withPortrait } from '#core/cut'
import { fileName, folioFiles, lineageOf, megabytes, withNewIds, type WholeFolio, type WholeTake } from '#core/publish'
import { hasTakenIds, listFolios, loadWholeFolio, removeFolio, storeWholeFolio } from '../data/folios'
import { freeRoom, openFile, removeFile, useFile } from '../data/files'
import { cancelled, type JobRunner } from '../../workers/job'
import { filesRunner, newFilesRunner, newSoundRunner } from './workers'

/** Ending of a folio file; it is a zip. */
export const FOLIO_ENDING = '.folio'

/** Where a browser lets her choose a file that is written to as it is made. */
interface FilePicker {
  showSaveFilePicker?(options: { suggestedName: string }): Promise<{ createWritable(): Promise<WritableStream> }>
}

/**
 * Packs a folio into one file. Where there is no room for it here, and it is too large for memory, it is written to a
 * file of her choice.
 * @returns the file and its name; null where it was written already
 * @throws Trouble `storage-full`
 */
export async function saveFolioFile(
  folio: Folio,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<(Packed & { name: string }) | null> {
  const files = folioFiles(await loadWholeFolio(folio))
  const name = `${fileName(folio.title, 'folio')}${FOLIO_ENDING}`
  const { showSaveFilePicker } = window as FilePicker
  const bytes = files.reduce((n, f) => n + sizeOf(f), 0)
  if (bytes > IN_MEMORY && (await freeRoom()) < bytes + SPARE && showSaveFilePicker) {
    const handle = await showSaveFilePicker.call(window, { suggestedName: name })
    await writeArchive(files, await handle.createWritable(), onProgress, signal)
    return null
  }
  return { ...(await pack(files, onProgress, signal)), name }
}

/** A file made for a download, and what lets go of it. */
export interface Packed {
  file: File
  release: () => void
}

/** So much is packed in memory where there is no room on disk, bytes. */
const IN_MEMORY = 400 * 1024 ** 2
/** What else the browser writes meanwhile, bytes. */
const SPARE = 8 * 1024 ** 2
const sizeOf = ({ data }: ArchiveFile) => (typeof data === 'string' ? data.length : data.size)

/**
 * Packs files into a zip: on disk, where it stays as long as it may be downloaded; in memory where there is no room.
 * Room is looked at before the work.
 * @throws Trouble `storage-full` where it is too much for both
 */
export async function pack(
  files: readonly ArchiveFile[],
  onProgress?: (share: number) => void,
  signal?: AbortSignal,
): Promise<Packed> {
  const bytes = files.reduce((n, f) => n + sizeOf(f), 0)
  const room = await freeRoom()
  if (room < bytes + SPARE) {
    if (bytes > IN_MEMORY) throw tooLarge(bytes, room)
    return packedInMemory(files)
  }
  try {
    return await packedOnDisk(files, onProgress, signal)
  } catch (error) {
    // The browser may have said more than it has.
    if (asTrouble(error, '').code !== 'storage-full' || bytes > IN_MEMORY) throw error
    return packedInMemory(files)
  }
}

async function packedInMemory(files: readonly ArchiveFile[]): Promise<Packed> {
  return { file: new File([await archiveBlob(files)], 'package.zip'), release: () => {} }
}

const tooLarge = (bytes: number, room: number) =>
  new Trouble(
    'storage-full',
    `The file would take ${megabytes(bytes)}, and the browser has room for ${megabytes(room)}.`,
    'Nothing was changed, and nothing was begun.',
    'Remove rendered videos or folios that you have as files, or free space on this disk; then save it again.',
  )

async function packedOnDisk(
  files: readonly ArchiveFile[],
  onProgress?: (share: number) => void,
  signal?: AbortSignal,
): Promise<Packed> {
  const temporary = `package-${newId()}.zip`
  const free = await useFile(temporary)
  const release = () => {
    void removeFile(temporary).finally(free)
  }
  try {
    await filesRunner().run(
      'pack',
      { name: temporary, files: [...files] },
      { signal, onProgress: v => onProgress?.(Number(v)) },
    )
    return { file: (await openFile(temporary))!, release }
  } catch (error) {
    release()
    throw error
  }
}

/** The files of a packed one, as they are read back from it, by their paths. @throws Trouble where it cannot be read */
export async function unpacked(file: File): Promise<Map<string, Blob>> {
  const archive = await openArchive(file, file.name)
  const out = new Map<string, Blob>()
  for (const name of archive.names) out.set(name, await archive.blob(name, ''))
  return out
}

/** A file that shows no progress for so long is given up, ms. */
const PATIENCE = 20_000

/** What is done with a newer state: put in place of the one here, or beside it; null leaves the file alone. */
export type Decide = (file: Folio, known: Folio) => Promise<'instead' | 'beside' | null>
export interface OpenOptions {
  signal: AbortSignal
  onProgress?: (share: number | null) => void
  decide: Decide
}

/**
 * Opens a folio file and stores what is in it. Nothing that is here is overwritten: where anything has an id that is
 * taken, all
 * get new ones. A file that is a newer state of a folio on the shelf is asked about.
 * @returns the folio, and what could not be read of it; null when the file was left alone
 * @throws Trouble that names the file; `cancelled`
 */
export async function openFolioFile(
  file: Blob,
  name: string,
  { signal, onProgress, decide }: OpenOptions,
): Promise<{ folio: Folio; troubles: Trouble[] } | null> {
  const reader = newFilesRunner()
  let whole: WholeFolio
  try {
    whole = z
      .custom<WholeFolio>(v => typeof v === 'object' && v !== null && 'folio' in v)
      .parse(await patiently(reader, name, signal, 'read', { file, name }))
  } finally {
    reader.close()
  }
  const { peaks, troubles } = await soundsOf(whole, name, signal, onProgress)
  const { folios } = await listFolios()
  const known = folios.find(f => lineageOf(f) === lineageOf(whole.folio) && f.updatedAt < whole.folio.updatedAt)
  const decision = known ? await decide(whole.folio, known) : 'beside'
  if (decision === null) return null
  const here = folios.some(f => lineageOf(f) === lineageOf(whole.folio))
  if (await hasTakenIds(whole)) {
    const ids = new Map<string, string>()
    whole = withNewIds(whole, newId, ids)
    for (const [old, made] of ids) if (peaks.has(old)) peaks.set(made, peaks.get(old)!)
  }
  if (here && decision === 'beside') whole.folio.title = `${cutTo(whole.folio.title, 290)} (copy)`
  await storeWholeFolio(whole, peaks)
  if (known && decision === 'instead') await removeFolio(known.id)
  else if (here && whole.folio.published) troubles.push(sharedLink(whole.folio.title))
  return { folio: whole.folio, troubles }
}

const sharedLink = (title: string) =>
  new Trouble(
    'link-shared',
    `${title} has the same link as the folio that it is a copy of.`,
    'Students have what they had.',
    'What is published from either changes it; to have another link, give this one up under Publish, Versions.',
  )

/** The drawn sound of each take. One that cannot be read is named, and the rest goes on. */
async function soundsOf(
  { folio, takes }: WholeFolio,
  name: string,
  signal: AbortSignal,
  onProgress: OpenOptions['onProgress'],
) {
  const peaks = new Map<string, Uint8Array<ArrayBuffer>>()
  const troubles: Trouble[] = []
  const all = Math.max(
    1,
    takes.reduce((sum, t) => sum + t.take.durationMs, 0),
  )
  const runner = newSoundRunner()
  let done = 0
  try {
    for (const { take, sound } of takes) {
      if (!sound) continue
      try {
        peaks.set(
          take.id,
          (await patiently(runner, name, signal, 'peaks', { sound, durationMs: take.durationMs }, ms =>
            onProgress?.((done + Number(ms)) / all),
          )) as Uint8Array<ArrayBuffer>,
        )
      } catch (error) {
        if (signal.aborted) throw error
        // Whatever it is still doing with this one is not wanted any more; the next begins in a new worker.
        runner.close()
        const question = folio.questions.find(q => q.id === take.questionId)
        troubles.push(
          new Trouble(
            'sound-unreadable',
            `The sound of ${question ? questionName(question) : 'a clip'} in ${name} cannot be read.`,
            'Everything else of it was opened, and the sound is kept as it is in the file.',
            'Open another copy of the file if there is one, or record that question again.',
            error,
          ),
        )
      }
      done += take.durationMs
    }
  } finally {
    runner.close()
  }
  return { peaks, troubles }
}

/**
 * Runs a job, which is given up when she stops it or when nothing has come of it for a while. The worker is the
 * caller's to close.
 */
async function patiently(
  runner: JobRunner,
  name: string,
  signal: AbortSignal,
  job: string,
  value: unknown,
  onProgress?: (value: unknown) => void,
): Promise<unknown> {
  let timer: ReturnType<typeof setTimeout> | undefined
  let progressed = (_: unknown) => {}
  const ended = new Promise<never>((_, reject) => {
    const wait = () => {
      clearTimeout(timer)
      timer = setTimeout(
        () =>
          reject(
            new Trouble(
              'file-endless',
              `${name} takes too long to read.`,
              'Nothing in this browser was changed.',
              'Open another copy of it; this one may be damaged.',
            ),
          ),
        PATIENCE,
      )
    }
    wait()
    signal.addEventListener('abort', () => reject(cancelled()), { once: true })
    progressed = v => {
      wait()
      onProgress?.(v)
    }
  })
  try {
    return await Promise.race([runner.run(job, value, { signal, onProgress: v => progressed(v) }), ended])
  } finally {
    clearTimeout(timer)
  }
}

/** Hands over a folio file with one take in it, made in memory: the way out when nothing can be stored. */
export async function handOverTake(folio: Folio, take: WholeTake, portrait: Portrait): Promise<void> {
  const { documents } = await loadWholeFolio(folio)
  const ledger = withPortrait(
    ledgerOfTake(
      take.take,
      take.events,
      folio.questions.find(q => q.id === take.take.questionId),
    ),
    take.take,
    portrait,
  )
  const file = await archiveBlob(
    folioFiles({ folio: withTakeAlone(folio, take.take, ledger), documents, takes: [take] }),
  )
  handOver(file, `${fileName(`${folio.title}-take`, 'take')}${FOLIO_ENDING}`)
}

/** A download of a large file reads it for a long time; it is kept so long, ms. */
const DOWNLOAD_MS = 3_600_000

/**
 * Hands a file to the browser's downloads.
 * @param release lets go of the temporary it was made in, when the download must be over
 */
export function handOver(file: Blob, name: string, release?: () => void): void {
  const url = URL.createObjectURL(file)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), release ? DOWNLOAD_MS : 60_000)
  if (release) setTimeout(release, DOWNLOAD_MS)
}
