import { createHash } from 'node:crypto'
import type { Storage } from 'unstorage'
import { z } from 'zod'
import type { SiteLimits } from './limits'
import { Refusal } from './refusal'

/** Contents are kept in pieces of this size, so that a part of one is read without the rest, bytes. */
export const PIECE = 256 * 1024
/** Pieces read lately that are held in memory, bytes. */
const HELD = 48 * 1024 ** 2

const Arrived = z.object({ bytes: z.number(), whole: z.boolean(), at: z.number() })
type Arrived = z.infer<typeof Arrived>

/** Which bytes of a content come with a request: from `from` on, of `total` in all. */
export interface Sent {
  from: number
  total: number | null
}

/**
 * Contents of publications by their SHA-256, in pieces, in whatever storage there is: `pub:<id>:at:<sha>` says how much
 * of one has come, `pub:<id>:in:<sha>:<n>` are its pieces.
 */
export class Contents {
  private readonly writing = new Set<string>()
  /** Bytes and number of all contents of a publication. */
  private readonly used = new Map<string, { bytes: number; files: number }>()
  private readonly held = new Held<Uint8Array>(HELD, piece => piece.length)

  constructor(
    private readonly storage: Storage,
    private readonly limits: SiteLimits,
    private readonly now: () => number,
  ) {}

  private readonly noteOf = (id: string, sha: string) => `pub:${id}:at:${sha}`
  private readonly pieceOf = (id: string, sha: string, n: number) => `pub:${id}:in:${sha}:${n}`

  /** How much of a content has come, or null. */
  async arrived(id: string, sha: string): Promise<Arrived | null> {
    return Arrived.nullable().parse(await this.storage.getItem(this.noteOf(id, sha)))
  }

  /**
   * Takes a content, or the next part of one, as it streams in; what has come of it is kept where it breaks off, to go
   * on from there. Whole, it is compared with its name.
   * @throws Refusal 400 (not what its name says), 409 (a part that does not follow), 413
   */
  async receive(id: string, sha: string, body: AsyncIterable<Uint8Array>, sent: Sent): Promise<Arrived> {
    if (sent.total !== null && sent.total > this.limits.fileBytes) throw new Refusal(413, 'Too large')
    const own = `${id}:${sha}`
    if (this.writing.has(own)) throw new Refusal(409, 'This file is being sent already')
    this.writing.add(own)
    try {
      const had = await this.arrived(id, sha)
      if (had?.whole) return had
      if (sent.from && (had?.bytes ?? 0) !== sent.from)
        throw new Refusal(409, 'This part does not follow', { 'Upload-Offset': String(had?.bytes ?? 0) })
      return await this.append(id, sha, body, sent, had)
    } finally {
      this.writing.delete(own)
    }
  }

  private async append(id: string, sha: string, body: AsyncIterable<Uint8Array>, sent: Sent, had: Arrived | null) {
    const used = await this.usedOf(id)
    let counted = had?.bytes ?? 0
    if (!had && used.files >= this.limits.files) throw new Refusal(413, 'Too many files')
    const most = Math.min(this.limits.fileBytes, this.limits.totalBytes - used.bytes + counted)
    let bytes = sent.from
    if (!had) used.files++
    const note = async (whole: boolean) => {
      used.bytes += bytes - counted
      counted = bytes
      const arrived = { bytes, whole, at: this.now() }
      await this.storage.setItem(this.noteOf(id, sha), arrived)
      return arrived
    }
    const put = async (piece: Uint8Array) => {
      await this.storage.setItemRaw(this.pieceOf(id, sha, Math.floor(bytes / PIECE)), piece)
      bytes += piece.length
    }
    try {
      const rest = await inPieces(body, Math.min(most, sent.total ?? most) - bytes, put)
      // The next part begins with a piece; what does not fill one is sent again.
      if (sent.total !== null && bytes + rest.length < sent.total) return await note(false)
      if (rest.length || !bytes) await put(rest)
    } catch (error) {
      if (error instanceof Refusal) await this.remove(id, sha)
      else await note(false).catch(() => {})
      throw error
    }
    if ((await this.hashOf(id, sha, bytes)) !== sha) {
      await this.remove(id, sha)
      throw new Refusal(400, 'It is not what its name says')
    }
    return note(true)
  }

  private async hashOf(id: string, sha: string, bytes: number): Promise<string> {
    const hash = createHash('sha256')
    for await (const piece of this.read(id, sha, 0, bytes - 1, false)) hash.update(piece)
    return hash.digest('hex')
  }

  /** All of a content at once; only for small ones. */
  async whole(id: string, sha: string, size: number): Promise<Buffer> {
    const pieces: Uint8Array[] = []
    for await (const piece of this.read(id, sha, 0, size - 1, false)) pieces.push(piece)
    return Buffer.concat(pieces)
  }

  /**
   * The bytes from `from` to `to`, both included.
   * @param keep whether its pieces are held in memory for the next who asks
   * @throws Error when a piece is gone
   */
  async *read(id: string, sha: string, from: number, to: number, keep = true): AsyncGenerator<Uint8Array> {
    for (let at = from; at <= to; ) {
      const n = Math.floor(at / PIECE)
      const key = this.pieceOf(id, sha, n)
      const load = async () => {
        const piece = await this.storage.getItemRaw<Uint8Array>(key)
        if (!piece) throw new Error(`${key} is gone`)
        return piece
      }
      const piece = keep ? await this.held.get(key, load) : await load()
      const part = piece.subarray(at - n * PIECE, to + 1 - n * PIECE)
      if (!part.length) throw new Error(`${key} is cut off`)
      yield part
      at += part.length
    }
  }

  /** Which of these are not there whole. */
  async missing(id: string, shas: Iterable<string>): Promise<string[]> {
    const out: string[] = []
    for (const sha of new Set(shas)) if (!(await this.arrived(id, sha))?.whole) out.push(sha)
    return out
  }

  /** Removes what no version needs and came long ago. */
  async sweep(id: string, needed: ReadonlySet<string>): Promise<void> {
    for (const key of await this.storage.getKeys(`pub:${id}:at`)) {
      const sha = key.split(':').pop()!
      const arrived = await this.arrived(id, sha)
      if (arrived && !needed.has(sha) && this.now() - arrived.at > this.limits.unusedMs) await this.remove(id, sha)
    }
  }

  private async remove(id: string, sha: string): Promise<void> {
    for (const key of await this.storage.getKeys(`pub:${id}:in:${sha}`)) await this.storage.removeItem(key)
    await this.storage.removeItem(this.noteOf(id, sha))
    this.used.delete(id)
  }

  private async usedOf(id: string) {
    const known = this.used.get(id)
    if (known) return known
    const used = { bytes: 0, files: 0 }
    for (const key of await this.storage.getKeys(`pub:${id}:at`)) {
      const arrived = await this.arrived(id, key.split(':').pop()!)
      used.bytes += arrived?.bytes ?? 0
      used.files++
    }
    this.used.set(id, used)
    return used
  }
}

/** Cuts what streams in into pieces. @returns what is left at the end @throws Refusal 413 */
async function inPieces(body: AsyncIterable<Uint8Array>, most: number, put: (piece: Uint8Array) => Promise<void>) {
  let piece = Buffer.allocUnsafe(PIECE)
  let filled = 0,
    got = 0
  for await (const chunk of body) {
    got += chunk.length
    if (got > most) throw new Refusal(413, 'Too large')
    for (let at = 0; at < chunk.length; ) {
      const part = chunk.subarray(at, at + PIECE - filled)
      piece.set(part, filled)
      filled += part.length
      at += part.length
      if (filled < PIECE) continue
      await put(piece)
      // What was given away may be held by who was given it.
      piece = Buffer.allocUnsafe(PIECE)
      filled = 0
    }
  }
  return piece.subarray(0, filled)
}

/** What was asked for lately, up to so much; two who ask for the same wait for one. */
export class Held<T> {
  private readonly all = new Map<string, { value: Promise<T>; size: number }>()
  private size = 0

  /** @param most in the units of `sizeOf` */
  constructor(
    private readonly most: number,
    private readonly sizeOf: (value: T) => number,
  ) {}

  get(key: string, load: () => Promise<T>): Promise<T> {
    const known = this.all.get(key)
    if (known) {
      this.all.delete(key)
      this.all.set(key, known)
      return known.value
    }
    const entry = { value: load(), size: 0 }
    this.all.set(key, entry)
    entry.value.then(
      value => {
        if (this.all.get(key) !== entry) return
        this.size += entry.size = this.sizeOf(value)
        for (const [oldest, { size }] of this.all) {
          if (this.size <= this.most) break
          this.all.delete(oldest)
          this.size -= size
        }
      },
      () => this.all.delete(key),
    )
    return entry.value
  }
}
