import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import { existsSync, renameSync, type Stats } from 'node:fs'
import { mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import { isSafePath } from '../../core/folio/archive'
import { LIMITS, Rate, type SiteLimits } from './limits'
import { Refusal } from './refusal'

const Meta = z.object({
  title: z.string().max(300),
  keyHash: z.string(),
  open: z.boolean(),
  createdAt: z.string(),
  /** Hashes of the player's script and style that may run on it: those of the application that published it. */
  script: z.string().default(''),
  style: z.string().default(''),
})
export type Meta = z.infer<typeof Meta>

/** File types that a publication may hold, by ending; anything else is refused. */
const TYPES = new Map([
  ['html', 'text/html; charset=utf-8'],
  ['mp4', 'video/mp4'],
  ['webm', 'video/webm'],
  ['vtt', 'text/vtt; charset=utf-8'],
  ['png', 'image/png'],
  ['webp', 'image/webp'],
  ['jpeg', 'image/jpeg'],
  ['m4a', 'audio/mp4'],
  ['jpg', 'image/jpeg'],
  ['pdf', 'application/pdf'],
  ['woff2', 'font/woff2'],
])

const hash = (text: string) => createHash('sha256').update(text).digest('hex')
export const isId = (id: string) => /^[a-f0-9]{16}$/.test(id)

/**
 * Which bytes of a file come with a request: from `from` on, of `total` in all; `whole` when it is all of them at once.
 */
export interface Piece {
  from: number
  total: number | null
  whole: boolean
}

/**
 * The class site that ships with the application: it takes a publication file by file and keeps it in a folder,
 * `<id>/meta.json` and `<id>/files/<hash of the path>`. A file stands under `<id>/parts/` until all of it is there.
 */
export class ClassSite {
  private readonly begun: Rate
  private readonly sent = new Map<string, Rate>()
  /** Open publications; what is in here never changes again. */
  private readonly opened = new Map<string, Meta>()
  private readonly writing = new Set<string>()

  /**
   * @param folder where publications are kept
   * @param player hashes (`sha256-…`) of the script and style of this application's student page
   */
  constructor(
    readonly folder: string,
    readonly player: { script: string; style: string },
    readonly limits: SiteLimits = LIMITS,
    private readonly now: () => number = Date.now,
  ) {
    this.begun = new Rate(limits.begunAMinute, now)
  }

  /** Begins a publication. @returns its id, and the key that allows to add files @throws Refusal 429, 507 */
  async begin(title: string): Promise<{ id: string; key: string }> {
    const wait = this.begun.take()
    if (wait) throw new Refusal(429, 'Too many publications at once', { 'Retry-After': String(wait) })
    await mkdir(this.folder, { recursive: true })
    if ((await readdir(this.folder)).filter(isId).length >= this.limits.publications)
      throw new Refusal(507, 'The class site is full')
    const id = randomBytes(8).toString('hex')
    const key = randomBytes(24).toString('base64url')
    await mkdir(join(this.folder, id, 'parts'), { recursive: true })
    await mkdir(join(this.folder, id, 'files'))
    await this.writeMeta(id, {
      title,
      keyHash: hash(key),
      open: false,
      createdAt: new Date(this.now()).toISOString(),
      ...this.player,
    })
    return { id, key }
  }

  /** What is known of a publication, or null. */
  async meta(id: string): Promise<Meta | null> {
    if (!isId(id)) return null
    const kept = this.opened.get(id)
    if (kept) return kept
    try {
      const meta = Meta.parse(JSON.parse(await readFile(join(this.folder, id, 'meta.json'), 'utf8')))
      if (meta.open) this.remember(id, meta)
      return meta
    } catch {
      return null
    }
  }

  /** The publication that this key may change. @throws Refusal 404, 403 */
  async guarded(id: string, key: string | undefined): Promise<Meta> {
    const meta = await this.meta(id)
    if (!meta) throw new Refusal(404, 'No such publication')
    if (!timingSafeEqual(Buffer.from(hash(key ?? '')), Buffer.from(meta.keyHash))) throw new Refusal(403, 'Wrong key')
    return meta
  }

  /** How much of a file has come. @throws Refusal 400 for a path or type that is not allowed */
  async received(id: string, path: string): Promise<{ bytes: number; whole: boolean }> {
    const place = this.placeOf(id, path)
    const done = await stat(place.file).catch(() => null)
    if (done) return { bytes: done.size, whole: true }
    return { bytes: (await stat(place.part).catch(() => null))?.size ?? 0, whole: false }
  }

  /**
   * Takes a file, or the next piece of one, as it streams in. A file sent at once that breaks off leaves nothing; of a
   * piece, what has come is kept, to go on from there.
   * @throws Refusal 400, 409 (open already, or a piece that does not follow), 413, 429
   */
  async receive(
    id: string,
    path: string,
    body: AsyncIterable<Uint8Array>,
    { from, total, whole }: Piece,
  ): Promise<{ bytes: number; whole: boolean }> {
    const place = this.placeOf(id, path)
    const wait = this.rateOf(id).take()
    if (wait) throw new Refusal(429, 'Too many files at once', { 'Retry-After': String(wait) })
    if (total !== null && total > this.limits.fileBytes) throw new Refusal(413, 'Too large')
    if ((await this.meta(id))?.open) throw new Refusal(409, 'Already published')
    if (this.writing.has(place.part)) throw new Refusal(409, 'This file is being sent already')
    this.writing.add(place.part)
    try {
      const had = from ? ((await stat(place.part).catch(() => null))?.size ?? 0) : 0
      if (had !== from) throw new Refusal(409, 'This piece does not follow', { 'Upload-Offset': String(had) })
      const room = Math.min(this.limits.fileBytes - from, await this.roomLeft(id, place.part))
      const bytes =
        from +
        (await this.append(place.part, from, body, Math.min(room, (total ?? Number.POSITIVE_INFINITY) - from), whole))
      if (total !== null && bytes < total) {
        if (whole) throw new Refusal(400, 'It broke off')
        return { bytes, whole: false }
      }
      // Nothing may happen between looking and renaming, so this waits for nothing.
      if (this.opened.has(id)) throw new Refusal(409, 'Already published')
      renameSync(place.part, place.file)
      return { bytes, whole: true }
    } catch (error) {
      if (whole || this.opened.has(id) || (error instanceof Refusal && error.statusCode === 413))
        await rm(place.part, { force: true })
      // Opening takes the folder of parts away, also from under what is just being written.
      if (!(error instanceof Refusal) && this.opened.has(id)) throw new Refusal(409, 'Already published')
      throw error
    } finally {
      this.writing.delete(place.part)
    }
  }

  /** Writes what comes at the end of a part. @returns how many bytes came */
  private async append(
    part: string,
    from: number,
    body: AsyncIterable<Uint8Array>,
    most: number,
    durable: boolean,
  ): Promise<number> {
    const handle = await open(part, from ? 'r+' : 'w')
    let got = 0
    try {
      for await (const chunk of body) {
        if (got + chunk.length > most) throw new Refusal(413, 'Too large')
        await handle.write(chunk, 0, chunk.length, from + got)
        got += chunk.length
      }
      if (durable) await handle.datasync()
    } finally {
      await handle.close()
    }
    return got
  }

  /** Bytes that still go into a publication. @throws Refusal 413 when no more files do */
  private async roomLeft(id: string, except: string): Promise<number> {
    let files = 0,
      bytes = 0
    for (const folder of ['files', 'parts']) {
      for (const name of await readdir(join(this.folder, id, folder)).catch(() => [])) {
        const path = join(this.folder, id, folder, name)
        if (path === except) continue
        files++
        bytes += (await stat(path).catch(() => null))?.size ?? 0
      }
    }
    if (files >= this.limits.files) throw new Refusal(413, 'Too many files')
    return this.limits.totalBytes - bytes
  }

  /** Shows a publication to students. From here on no file of it changes. @throws Refusal 409 without a page */
  async open(id: string, meta: Meta): Promise<void> {
    if (!existsSync(this.placeOf(id, 'index.html').file)) throw new Refusal(409, 'There is no page in it')
    this.remember(id, { ...meta, open: true })
    try {
      await this.writeMeta(id, { ...meta, open: true })
    } catch (error) {
      this.opened.delete(id)
      throw error
    }
    await rm(join(this.folder, id, 'parts'), { recursive: true, force: true })
  }

  /** Drops a publication that was never opened. @throws Refusal 409 for one that was */
  async drop(id: string, meta: Meta): Promise<void> {
    if (meta.open || this.opened.has(id)) throw new Refusal(409, 'Already published')
    await rm(join(this.folder, id), { recursive: true, force: true })
    this.sent.delete(id)
  }

  /** Removes publications that were begun and left. */
  async sweep(): Promise<void> {
    for (const id of (await readdir(this.folder).catch(() => [])).filter(isId)) {
      if ((await this.meta(id))?.open) continue
      let last = 0
      for (const part of ['', 'files', 'parts'])
        last = Math.max(last, (await stat(join(this.folder, id, part)).catch(() => null))?.mtimeMs ?? 0)
      if (this.now() - last > this.limits.unopenedMs) await rm(join(this.folder, id), { recursive: true, force: true })
    }
  }

  /** A file that students may see: where it lies and what it is; null when there is none. @throws Refusal 400 */
  async find(id: string, path: string): Promise<{ file: string; type: string; stats: Stats; meta: Meta } | null> {
    const meta = await this.meta(id)
    if (!meta?.open) return null
    const { file, type } = this.placeOf(id, path)
    const stats = await stat(file).catch(() => null)
    return stats && { file, type, stats, meta }
  }

  /** Where a file of a publication is kept, and its type. @throws Refusal 400 for a path or type that is not allowed */
  placeOf(id: string, path: string): { file: string; part: string; type: string } {
    const type = TYPES.get(/\.([^./]+)$/.exec(path)?.[1]?.toLowerCase() ?? '')
    if (!isId(id) || !isSafePath(path) || !type) throw new Refusal(400, 'This file is not allowed')
    // File systems differ in the names they take; the name is kept apart from the place.
    const name = hash(path)
    return { file: join(this.folder, id, 'files', name), part: join(this.folder, id, 'parts', name), type }
  }

  private rateOf(id: string): Rate {
    let rate = this.sent.get(id)
    if (!rate) this.sent.set(id, (rate = new Rate(this.limits.sentAMinute, this.now)))
    return rate
  }

  private remember(id: string, meta: Meta) {
    this.opened.set(id, meta)
    // Those asked for least recently are read again when they are asked for.
    if (this.opened.size > 500) this.opened.delete(this.opened.keys().next().value!)
  }

  private async writeMeta(id: string, meta: Meta) {
    const path = join(this.folder, id, 'meta.json')
    await writeFile(`${path}.new`, JSON.stringify(meta))
    await rename(`${path}.new`, path)
  }
}
