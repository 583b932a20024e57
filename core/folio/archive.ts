import { BlobReader, TextReader, ZipReader, ZipWriter, configure, type FileEntry } from '@zip.js/zip.js'
import { Trouble } from './trouble'

configure({ useWebWorkers: false })

/** Bounds on what is unpacked, so that a small file cannot fill the disk. */
export interface ArchiveLimits {
  /** Files in it, and bytes of all of them. */
  entries: number
  total: number
  /**
   * How many times larger than packed a file of more than a megabyte may be, and how many times all of them together.
   */
  ratio: number
  totalRatio: number
  /** Bytes of one text, and of all texts that are read. */
  json: number
  texts: number
}
const MB = 1024 ** 2
export const FOLIO_LIMITS: ArchiveLimits = {
  entries: 20_000,
  total: 8192 * MB,
  ratio: 200,
  totalRatio: 40,
  json: 64 * MB,
  texts: 256 * MB,
}

/** A file of an archive: its path and its contents. `store` leaves it uncompressed (video, sound, PDF). */
export interface ArchiveFile {
  path: string
  data: Blob | string
  store?: boolean
}

/**
 * Packs files into a zip that goes to `target` as it is made; memory stays flat.
 * @param onProgress share done, 0…1
 */
export async function writeArchive(
  files: readonly ArchiveFile[],
  target: WritableStream<Uint8Array>,
  onProgress?: (share: number) => void,
  signal?: AbortSignal,
): Promise<void> {
  const zip = new ZipWriter(target, {
    level: 6,
    extendedTimestamp: false,
    lastModDate: new Date(2000, 0, 1),
    keepOrder: true,
  })
  const size = (f: ArchiveFile) => (typeof f.data === 'string' ? f.data.length : f.data.size)
  const total = Math.max(
    1,
    files.reduce((sum, f) => sum + size(f), 0),
  )
  let done = 0
  for (const file of files) {
    signal?.throwIfAborted()
    const reader = typeof file.data === 'string' ? new TextReader(file.data) : new BlobReader(file.data)
    await zip.add(file.path, reader, {
      level: file.store ? 0 : 6,
      signal,
      onprogress: async (n: number) => onProgress?.(Math.min(1, (done + n) / total)),
    })
    done += size(file)
    onProgress?.(Math.min(1, done / total))
  }
  await zip.close()
}

/** Packs files into a zip held in memory, for small archives and tests. */
export async function archiveBlob(files: readonly ArchiveFile[]): Promise<Blob> {
  const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>()
  const body = new Response(readable).blob()
  await writeArchive(files, writable)
  return body
}

/** An opened archive: the names in it, and their contents one by one, checked against the limits. */
export interface Archive {
  names: string[]
  has(path: string): boolean
  text(path: string): Promise<string>
  blob(path: string, mime: string): Promise<Blob>
}

/**
 * Opens a zip without unpacking it, and refuses what is not one, what leads out of it and what would swell beyond
 * bounds.
 * @param name of the file, for errors
 * @throws Trouble `archive-damaged`, `archive-path`, `archive-bomb`
 */
export async function openArchive(file: Blob, name: string, limits = FOLIO_LIMITS): Promise<Archive> {
  const reader = new ZipReader(new BlobReader(file), { checkSignature: true })
  let entries: FileEntry[]
  try {
    entries = (await reader.getEntries()).filter((e): e is FileEntry => !e.directory)
  } catch (cause) {
    // The library looks at the names, too, and stops at the first that leads out.
    if (cause instanceof Error && 'filename' in cause) throw leadsOut(name, String(cause.filename))
    throw damaged(name, cause)
  }
  let total = 0,
    texts = 0
  if (entries.length > limits.entries) throw bomb(name)
  for (const entry of entries) {
    if (!isSafePath(entry.filename)) throw leadsOut(name, entry.filename)
    total += entry.uncompressedSize
    const ratio = entry.uncompressedSize / Math.max(1, entry.compressedSize)
    if (total > limits.total || (ratio > limits.ratio && entry.uncompressedSize > MB)) throw bomb(name)
  }
  // Files that share their packed bytes, or are many, swell without any of them being suspicious.
  if (total > 64 * MB && total > limits.totalRatio * file.size) throw bomb(name)
  const byName = new Map(entries.map(e => [e.filename, e]))
  const unpack = async (path: string, mime: string, most: number): Promise<Blob> => {
    const entry = byName.get(path)
    if (!entry || entry.uncompressedSize > most) throw damaged(name, new Error(`${path} is missing or too large`))
    try {
      const { readable, writable } = boundedPipe(entry.uncompressedSize)
      const body = new Response(readable, { headers: { 'Content-Type': mime } }).blob()
      body.catch(() => {})
      await entry.getData(writable, { checkSignature: true })
      return await body
    } catch (cause) {
      throw cause instanceof Trouble ? cause : damaged(name, cause)
    }
  }
  return {
    names: [...byName.keys()],
    has: path => byName.has(path),
    async text(path) {
      texts += byName.get(path)?.uncompressedSize ?? 0
      if (texts > limits.texts) throw bomb(name)
      return (await unpack(path, 'text/plain', limits.json)).text()
    },
    blob: (path, mime) => unpack(path, mime, limits.total),
  }

  /** A pipe that breaks when more comes through than the directory promised. */
  function boundedPipe(promised: number) {
    let got = 0
    return new TransformStream<Uint8Array, Uint8Array>({
      transform(chunk, controller) {
        got += chunk.length
        if (got > promised) throw bomb(name)
        controller.enqueue(chunk)
      },
    })
  }
}

function damaged(name: string, cause: unknown) {
  return new Trouble(
    'archive-damaged',
    `${name} cannot be read: it is cut short, damaged or not a folio file.`,
    'Nothing in this browser was changed.',
    'Copy or download the file again; if it stays the same, save it anew where it came from.',
    cause,
  )
}

function leadsOut(name: string, path: string) {
  return new Trouble(
    'archive-path',
    `${name} holds a file whose path leads out of the folio (“${path.slice(0, 80)}”).`,
    'Nothing was opened and nothing was changed.',
    'Do not trust this file; ask whoever sent it for another copy.',
  )
}

function bomb(name: string) {
  return new Trouble(
    'archive-bomb',
    `${name} would unpack to far more than a folio can hold.`,
    'Nothing was unpacked and nothing was changed.',
    'Do not trust this file; ask whoever sent it for another copy.',
  )
}

/** Whether a path of an archive stays inside it: relative, no drive, no `..`, no control characters. */
export function isSafePath(path: string): boolean {
  // eslint-disable-next-line no-control-regex -- control characters are what is looked for
  if (!path || path.length > 400 || /[\\:\u0000-\u001F]/.test(path) || path.startsWith('/')) return false
  return path.split('/').every(part => part !== '' && part !== '.' && part !== '..')
}
