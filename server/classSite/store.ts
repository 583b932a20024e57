import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import type { Storage } from 'unstorage'
import { z } from 'zod'
import {
  contentsOf,
  released,
  SiteVersion,
  stateAt,
  versionBytes,
  withDates,
  type StateDate,
  type VersionFile,
} from '../../core/publish/version'
import { FEED } from '../../core/publish/feed'
import type { ServedClassPages } from './coursePages'
import { Contents, Held } from './contents'
import { Courses, isId } from './courses'
import { LIMITS, Rate, Rates, type SiteLimits } from './limits'
import { Messages } from './messages'
import { Plays } from './plays'
import { Refusal } from './refusal'

/**
 * What may change of a publication: which version students get, and with which key it is changed. `owner` lets whoever
 * has the folio make a new key. Neither key is kept itself.
 */
const Head = z.object({
  title: z.string().max(300),
  keyHash: z.string(),
  ownerHash: z.string(),
  createdAt: z.string(),
  current: z.string().nullable(),
  /** The oldest first; `left`: when students last had it, ms since 1970. */
  versions: z.array(z.object({ id: z.string(), at: z.string(), bytes: z.number(), left: z.number().optional() })),
  /** The class page that it stands on; null where it is to stand on none, absent where nothing was said of it yet. */
  course: z.string().nullable().optional(),
})
export type Head = z.infer<typeof Head>

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
  ['ics', 'text/calendar; charset=utf-8'],
  ['xml', 'application/xml'],
])
export const typeOf = (path: string) => TYPES.get(/\.([^./]+)$/.exec(path)?.[1]?.toLowerCase() ?? '')

const hash = (text: string) => createHash('sha256').update(text).digest('hex')
const isKeyOf = (given: string | undefined, kept: string) =>
  timingSafeEqual(Buffer.from(hash(given ?? '')), Buffer.from(kept))

/** What students get under a path. */
export interface Found {
  sha: string
  size: number
  type: string
  /** Since when it has stood there, ISO. */
  since: string
  version: SiteVersion
  /** It may change with the next version or release; what is named by its content never does. */
  changing: boolean
}

/**
 * The class site that ships with the application. It keeps nothing in memory that is not in its storage, so that
 * several of them can serve the same publications: contents and versions never change, and one small item, the head,
 * says which version students get.
 */
export class ClassSite {
  readonly contents: Contents
  readonly messages: Messages
  readonly plays: Plays
  readonly courses: Courses
  private readonly begun: Rate
  private readonly sent: Rates
  private readonly versions = new Held<SiteVersion | null>(500, () => 1)
  /** Changes of one head follow each other. */
  private readonly changing = new Map<string, Promise<unknown>>()

  /**
   * @param storage where publications are kept
   * @param player hashes (`sha256-…`, with spaces between them) of the scripts and style of this application's student
   * page; `keep`: the text of the worker that keeps a lesson for use without a line; `classPage`: what class pages are
   * made with
   */
  constructor(
    readonly storage: Storage,
    readonly player: { script: string; style: string; keep?: string; classPage?: ServedClassPages },
    readonly limits: SiteLimits = LIMITS,
    readonly now: () => number = Date.now,
  ) {
    this.contents = new Contents(storage, limits, now)
    this.messages = new Messages(storage, limits, now)
    this.plays = new Plays(storage)
    this.courses = new Courses(storage, limits, now)
    this.begun = new Rate(limits.begunAMinute, now)
    this.sent = new Rates(limits.sentAMinute, now)
  }

  /** Begins a publication. @returns its id, the key that changes it, and what makes a new key @throws Refusal 429, 507 */
  async begin(title: string): Promise<{ id: string; key: string; owner: string }> {
    const wait = this.begun.take()
    if (wait) throw new Refusal(429, 'Too many publications at once', { 'Retry-After': String(wait) })
    if ((await this.ids()).length >= this.limits.publications) throw new Refusal(507, 'The class site is full')
    const id = randomBytes(8).toString('hex')
    const [key, owner] = [randomBytes(24).toString('base64url'), randomBytes(24).toString('base64url')]
    await this.writeHead(id, {
      title,
      keyHash: hash(key),
      ownerHash: hash(owner),
      createdAt: this.at(),
      current: null,
      versions: [],
    })
    return { id, key, owner }
  }

  /** What is known of a publication, or null. */
  async head(id: string): Promise<Head | null> {
    if (!isId(id)) return null
    return Head.nullable().parse(await this.storage.getItem(`pub:${id}:head`))
  }

  /** The publication that this key may change. @throws Refusal 404, 403 */
  async guarded(id: string, key: string | undefined): Promise<Head> {
    const head = await this.head(id)
    if (!head) throw new Refusal(404, 'No such publication')
    if (!isKeyOf(key, head.keyHash)) throw new Refusal(403, 'Wrong key')
    return head
  }

  /** A new key for who has the folio; the one before opens nothing any more. @throws Refusal 403, 404 */
  async newKey(id: string, owner: string | undefined): Promise<string> {
    const key = randomBytes(24).toString('base64url')
    await this.change(id, head => {
      if (!isKeyOf(owner, head.ownerHash)) throw new Refusal(403, 'Only from the folio that it was published from')
      head.keyHash = hash(key)
    })
    return key
  }

  /** Takes a content, or a part of one. @throws Refusal 400, 409, 413, 429 */
  async receive(
    id: string,
    sha: string,
    body: AsyncIterable<Uint8Array>,
    part: { from: number; total: number | null },
  ) {
    if (!isId(id) || !/^[a-f0-9]{64}$/.test(sha)) throw new Refusal(400, 'A file is sent under its SHA-256')
    const wait = this.sent.take(id)
    if (wait) throw new Refusal(429, 'Too many files at once', { 'Retry-After': String(wait) })
    return this.contents.receive(id, sha, body, part)
  }

  /**
   * Makes a version of contents that are all there, and shows it to students, at once and whole.
   * @param after the version that it is made to follow: another one that came in between is not covered up
   * @throws Refusal 400, 409 (something is missing; another version came in between; another application's page)
   */
  async publish(id: string, value: unknown, after: string | null): Promise<{ version: string }> {
    const read = SiteVersion.safeParse(value)
    if (!read.success) throw new Refusal(400, 'This version is not written rightly')
    const version = read.data
    if (version.player.script !== this.player.script || version.player.style !== this.player.style)
      throw new Refusal(409, 'The application was renewed')
    for (const path of Object.keys(version.files))
      if (!typeOf(path)) throw new Refusal(400, `Files like ${path} are not allowed`)
    const missing = await this.contents.missing(id, contentsOf(version))
    if (missing.length) throw new Refusal(409, `${missing.length} files are missing`)
    const text = JSON.stringify(version)
    const name = hash(text).slice(0, 16)
    await this.change(id, async head => {
      if (head.current !== after) throw new Refusal(412, 'Another version came in between')
      await this.storage.setItem(`pub:${id}:v:${name}`, text)
      this.leave(head)
      head.title = version.title
      head.versions = head.versions.filter(v => v.id !== name)
      head.versions.push({ id: name, at: this.at(), bytes: versionBytes(version) })
      head.current = name
      await this.dropOldest(id, head)
    })
    return { version: name }
  }

  /**
   * Shows another version, or, with null, none.
   * @param dates of its states, where it is not to keep its own
   * @returns the version that is shown: with other dates it is another one
   * @throws Refusal 400, 404, 412
   */
  async show(
    id: string,
    version: string | null,
    after: string | null,
    dates?: readonly StateDate[],
  ): Promise<string | null> {
    const old = version === null ? null : await this.version(id, version)
    if (version !== null && !old) throw new Refusal(404, 'No such version')
    const made = old && dates ? withDates(old, dates) : null
    const text = made && JSON.stringify(made)
    const name = text ? hash(text).slice(0, 16) : version
    await this.change(id, async head => {
      const known = head.versions.find(v => v.id === version)
      if (version !== null && !known) throw new Refusal(404, 'No such version')
      if (head.current !== after) throw new Refusal(412, 'Another version came in between')
      this.leave(head)
      if (text && !head.versions.some(v => v.id === name)) {
        await this.storage.setItem(`pub:${id}:v:${name}`, text)
        head.versions.push({ id: name!, at: this.at(), bytes: known!.bytes })
        await this.dropOldest(id, head)
      }
      head.current = name
    })
    return name
  }

  private async dropOldest(id: string, head: Head) {
    for (const old of head.versions.splice(0, head.versions.length - this.limits.versions))
      await this.storage.removeItem(`pub:${id}:v:${old.id}`)
  }

  /** Notes until when students had what they have now. */
  private leave(head: Head) {
    const now = head.versions.find(v => v.id === head.current)
    if (now) now.left = this.now()
  }

  /** The version that students have, and since when, ISO; null where they have none. */
  async given(id: string): Promise<{ head: Head; version: SiteVersion; at: string } | null> {
    const head = await this.head(id)
    const version = head?.current ? await this.version(id, head.current) : null
    return version && { head: head!, version, at: head!.versions.find(v => v.id === head!.current)!.at }
  }

  /** What students get under a path at this moment; null when there is nothing, or nothing yet. */
  async find(id: string, path: string): Promise<Found | null> {
    const given = await this.given(id)
    if (!given) return null
    const { head, version: current, at } = given
    const now = this.now()
    const states = path === 'index.html' ? current.pages : path === FEED ? current.feeds : []
    if (states.length) {
      const state = stateAt(states, now)
      if (!state) return null
      const since = state.from && Date.parse(state.from) > Date.parse(at) ? new Date(state.from).toISOString() : at
      const type = path === FEED ? 'application/rss+xml; charset=utf-8' : typeOf(path)!
      return { ...state, type, since, version: current, changing: true }
    }
    const type = typeOf(path)
    const give = (file: VersionFile | undefined, version: SiteVersion, since: string): Found | null =>
      file && type && released(file) <= now ? { ...file, type, since, version, changing: false } : null
    const file = Object.hasOwn(current.files, path) ? current.files[path] : undefined
    if (file) return give(file, current, at)
    // Who is in the middle of an earlier version goes on with it; not with what is now held back.
    const held = new Set(Object.values(current.files).flatMap(f => (released(f) > now ? [f.sha] : [])))
    for (const earlier of head.versions.toReversed()) {
      if (earlier.left === undefined || now - earlier.left > this.limits.earlierMs) continue
      const version = await this.version(id, earlier.id)
      const old = version && Object.hasOwn(version.files, path) ? version.files[path] : undefined
      if (old && !held.has(old.sha)) return give(old, version!, earlier.at)
    }
    return null
  }

  /** When the first of a publication is released, ISO, where nothing is yet. */
  async opensAt(id: string): Promise<string | null> {
    const first = (await this.given(id))?.version.pages[0]
    return first && released(first) > this.now() ? first.from : null
  }

  /** Puts a publication on a class page, or, with null, on none. @throws Refusal 404 */
  async list(id: string, course: string | null): Promise<void> {
    if (course !== null) await this.courses.add(course, id)
    await this.change(id, async head => {
      if (head.course && head.course !== course) await this.courses.remove(head.course, id)
      head.course = course
    })
  }

  /** Whether students had it, and it was taken away. */
  async isTakenAway(id: string): Promise<boolean> {
    const head = await this.head(id)
    return head !== null && head.current === null && head.versions.length > 0
  }

  private version(id: string, version: string): Promise<SiteVersion | null> {
    return this.versions.get(`${id}:${version}`, async () =>
      SiteVersion.nullable().parse(await this.storage.getItem(`pub:${id}:v:${version}`)),
    )
  }
  /** What the version that students have counts, or null. */
  async counted(id: string): Promise<SiteVersion['counted']> {
    return (await this.given(id))?.version.counted ?? null
  }

  /** Drops a publication that students never had. @throws Refusal 409 for one that they had */
  async drop(id: string): Promise<void> {
    await this.change(id, async head => {
      if (head.versions.length) throw new Refusal(409, 'Students have had it')
      await this.clear(id)
      return 'gone'
    })
  }

  /** Removes what was sent and belongs to nothing. */
  async sweep(): Promise<void> {
    for (const id of await this.ids()) {
      const head = await this.head(id).catch(() => null)
      if (!head) continue
      const needed = new Set<string>()
      for (const { id: version } of head.versions)
        for (const sha of contentsOf(
          (await this.version(id, version)) ?? { pages: [], feeds: [], listings: [], files: {} },
        ))
          needed.add(sha)
      await this.contents.sweep(id, needed)
      const left = head.versions.length || (await this.storage.getKeys(`pub:${id}:at`)).length
      if (!left && this.now() - Date.parse(head.createdAt) > this.limits.unusedMs) await this.clear(id)
    }
  }

  private async clear(id: string) {
    for (const key of await this.storage.getKeys(`pub:${id}`)) await this.storage.removeItem(key)
  }
  private async ids(): Promise<string[]> {
    const keys = await this.storage.getKeys('pub')
    return keys.filter(k => k.endsWith(':head')).map(k => k.split(':')[1]!)
  }
  private readonly at = () => new Date(this.now()).toISOString()
  private readonly writeHead = (id: string, head: Head) => this.storage.setItem(`pub:${id}:head`, head)

  /** Changes a head, one change after the other. @throws Refusal 404, and what the change throws: nothing is changed then */
  private async change(id: string, how: (head: Head) => Promise<unknown> | unknown): Promise<void> {
    const before = this.changing.get(id) ?? Promise.resolve()
    const run = before
      .catch(() => {})
      .then(async () => {
        const head = await this.head(id)
        if (!head) throw new Refusal(404, 'No such publication')
        if ((await how(head)) !== 'gone') await this.writeHead(id, head)
      })
    this.changing.set(id, run)
    try {
      await run
    } finally {
      if (this.changing.get(id) === run) this.changing.delete(id)
    }
  }
}
