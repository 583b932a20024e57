import { z } from 'zod'
import { Trouble, type Published } from '#core/folio'
import { contentsOf, versionBytes, type SiteVersion, type StateDate, type VersionFile } from '#core/publish'
import type { StudentSite } from './package'
import { shaOf } from './sha'
import { send, sendContent, siteRefused, withPublishingKey } from './siteRequests'

const Begun = z.object({ id: z.string(), key: z.string(), owner: z.string(), player: z.string() })
const Made = z.object({ version: z.string(), link: z.string() })
const State = z.object({
  link: z.string(),
  current: z.string().nullable(),
  versions: z.array(z.object({ version: z.string(), at: z.string(), bytes: z.number() })),
  counts: z.record(z.string(), z.number()),
  /** The class page that it stands on; null for none, absent where nothing was said of it yet. */
  course: z.string().nullable().optional(),
})
/** What stands under a link, as the class site tells it. */
export type SiteState = z.infer<typeof State>
const Messages = z.object({ messages: z.array(z.object({ id: z.string(), at: z.string(), text: z.string() })) })
export type SiteMessage = z.infer<typeof Messages>['messages'][number]

/** Files sent side by side. */
const LANES = 4

/** The publishing key: known to the application on the same machine, else remembered, else asked for. */
export interface KeyKeeper {
  remembered: string
  ask(again: boolean): Promise<string | null>
}

/** Where keys of publications are kept in this browser, by their ids. */
export interface PublicationKeys {
  get(id: string): string | undefined
  set(id: string, key: string): void
}

const api = (id: string, rest = '') => `/api/class-site/${id}${rest}`

/** @returns the key where this machine is the server's own; null elsewhere */
export async function keyOfThisMachine(): Promise<string | null> {
  const response = await fetch('/api/class-site/key').catch(() => null)
  if (!response?.ok) return null
  return z.object({ key: z.string() }).parse(await response.json()).key
}

type Known = Pick<Published, 'id' | 'owner'>

/**
 * Asks the class site about a publication, with the key of this browser; where that is lost or no longer right, with a
 * new one, which whoever has the folio can make.
 * @throws Trouble `site-away`, `site-gone` where the site does not have it, `site-refused`
 */
export class SitePublication {
  constructor(
    private readonly known: Known,
    private readonly keys: PublicationKeys,
    private readonly signal: AbortSignal,
  ) {}

  get id(): string {
    return this.known.id
  }

  async ask(
    method: string,
    rest: string,
    init: { body?: Blob | string; headers?: Record<string, string> } = {},
    expected: number[] = [],
  ) {
    const { id, owner } = this.known
    for (let again = false; ; again = true) {
      const headers = { ...init.headers, 'x-publication-key': this.keys.get(id) ?? '' }
      const response = await send(method, api(id, rest), init, headers, this.signal, [...expected, 403, 404])
      if (response.status === 404 && !expected.includes(404)) throw gone()
      if (response.status !== 403) return response
      if (again) throw siteRefused(403)
      const made = await send('POST', api(id, '/key'), {}, { 'x-publication-owner': owner }, this.signal, [403, 404])
      if (made.status === 404) throw gone()
      if (!made.ok) throw notMine()
      this.keys.set(id, z.object({ key: z.string() }).parse(await made.json()).key)
    }
  }

  /** Drops what was begun and never shown. */
  async drop(): Promise<void> {
    await this.ask('DELETE', '')
  }
  async state(): Promise<SiteState> {
    return State.parse(await (await this.ask('GET', '')).json())
  }
  async messages(): Promise<SiteMessage[]> {
    return Messages.parse(await (await this.ask('GET', '/messages')).json()).messages
  }
  async removeMessage(id: string): Promise<void> {
    await this.ask('DELETE', `/messages/${encodeURIComponent(id)}`)
  }

  /**
   * Puts it on a class page, or, with null, on none.
   * @param publishingKey as far as this browser knows it
   * @throws Trouble `site-refused`
   */
  async list(course: string | null, publishingKey: string): Promise<void> {
    await this.ask('PUT', '/course', {
      body: JSON.stringify({ course }),
      headers: withPublishingKey(publishingKey),
    })
  }

  /**
   * Shows another version, or none.
   * @param dates of its states, where they are not its own any more
   * @returns the version that students have then
   * @throws Trouble `site-other` when it was changed from elsewhere meanwhile
   */
  async show(version: string | null, after: string | null, dates?: readonly StateDate[]): Promise<string | null> {
    const response = await this.ask(
      'PUT',
      '/current',
      { body: JSON.stringify({ version, ...(dates ? { dates } : {}) }), headers: { 'if-match': tagOf(after) } },
      [412],
    )
    if (response.status === 412) throw other()
    return z.object({ version: z.string().nullable() }).parse(await response.json()).version
  }

  /**
   * Sends what the site does not have yet, then shows all of it as one version: students have the one before until then.
   * @param after the version that students have, as far as is known here
   * @returns the version, and bytes of all that it holds
   * @throws Trouble `site-other`, `site-older`, `site-away`, `site-refused`, `cancelled`
   */
  async publish(
    site: StudentSite,
    { title, player, counts, after, onProgress }: PublishWish,
  ): Promise<{ version: string; link: string; bytes: number }> {
    const contents = new Map<string, { name: string; data: Blob }>()
    const listed = async (name: string, content: Blob | string, from: string | null): Promise<VersionFile> => {
      const blob = typeof content === 'string' ? new Blob([content]) : content
      const sha = await shaOf(blob)
      contents.set(sha, { name, data: blob })
      return { sha, size: blob.size, from }
    }
    const version: SiteVersion = {
      form: 1,
      title,
      player,
      pages: [],
      feeds: [],
      listings: [],
      files: {},
      counted: counts ? site.questions : null,
    }
    for (const { html, feed, listing, from } of site.pages) {
      version.pages.push(await listed('the page', html, from))
      version.feeds.push(await listed('the feed', feed, from))
      version.listings.push(await listed('the listing', listing, from))
    }
    for (const file of site.files) version.files[file.path] = await listed(file.path, file.data, file.from)
    const asked = await this.ask('POST', '/missing', { body: JSON.stringify({ contents: [...contentsOf(version)] }) })
    const { missing } = z.object({ missing: z.array(z.string()) }).parse(await asked.json())
    await this.sendAll(
      missing.map(sha => [sha, contents.get(sha)!] as const),
      onProgress,
    )
    const response = await this.ask(
      'POST',
      '/versions',
      { body: JSON.stringify(version), headers: { 'if-match': tagOf(after) } },
      [409, 412],
    )
    if (response.status === 412) throw other()
    if (response.status === 409) throw older()
    onProgress(1)
    return { ...Made.parse(await response.json()), bytes: versionBytes(version) }
  }

  private async sendAll(
    all: readonly (readonly [string, { name: string; data: Blob }])[],
    onProgress: (share: number) => void,
  ) {
    const total = all.reduce((n, [, { data }]) => n + data.size, 0)
    const done = new Map<string, number>()
    const waiting = [...all]
    const lane = async () => {
      for (let next = waiting.shift(); next; next = waiting.shift()) {
        const [sha, content] = next
        await sendContent(
          api(this.id, `/contents/${sha}`),
          content,
          { 'x-publication-key': this.keys.get(this.id) ?? '' },
          bytes => {
            done.set(sha, bytes)
            onProgress([...done.values()].reduce((a, b) => a + b, 0) / Math.max(1, total))
          },
          this.signal,
        )
      }
    }
    await Promise.all(Array.from({ length: LANES }, lane))
  }
}

/** What a version says beside its files. @property player hashes of the page's script and style */
export interface PublishWish {
  title: string
  player: SiteVersion['player']
  counts: boolean
  after: string | null
  onProgress: (share: number) => void
}

const tagOf = (version: string | null) => `"${version ?? 'none'}"`

/**
 * Begins a publication on the class site.
 * @param player hash of the page's script, as this tab knows it
 * @throws Trouble `site-older`, `site-away`, `site-refused`, `cancelled`
 */
export async function beginPublication(
  title: string,
  player: string,
  keeper: KeyKeeper,
  keys: PublicationKeys,
  signal: AbortSignal,
): Promise<Known> {
  let key = (await keyOfThisMachine()) ?? keeper.remembered
  for (let again = false; ; again = true) {
    if (!key || again) {
      const given = await keeper.ask(again)
      if (given === null)
        throw new Trouble(
          'cancelled',
          'Stopped as you asked.',
          'Students see nothing of it.',
          'Publish again whenever you like.',
        )
      key = given.trim()
    }
    const response = await send(
      'POST',
      '/api/class-site',
      { body: JSON.stringify({ title }) },
      { 'x-publishing-key': key },
      signal,
      [403],
    )
    if (response.status === 403) continue
    keeper.remembered = key
    const begun = Begun.parse(await response.json())
    keys.set(begun.id, begun.key)
    if (begun.player !== player) throw older()
    return { id: begun.id, owner: begun.owner }
  }
}

const older = () =>
  new Trouble(
    'site-older',
    'The application was renewed since this tab was opened.',
    'Everything is stored, and students have what they had before.',
    'Load this page again, then publish.',
  )
const other = () =>
  new Trouble(
    'site-other',
    'This folio was published from another tab or machine meanwhile.',
    'Students have what was published there; nothing of this was shown.',
    'See what stands under the link now, then publish again if yours is to follow.',
  )
const gone = () =>
  new Trouble(
    'site-gone',
    'The class site does not have this publication any more.',
    'The folio is untouched.',
    'Publish it again: it gets a new link.',
  )
const notMine = () =>
  new Trouble(
    'site-not-mine',
    'The class site does not take this folio for the one that was published.',
    'Students have what they had before.',
    'Open the folio that it was published from, or publish this one under a link of its own.',
  )
