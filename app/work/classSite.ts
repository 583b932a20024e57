import { z } from 'zod'
import { Trouble, type ArchiveFile } from '#core/folio'
import { encodePath } from '#core/publish'

const Opened = z.object({ id: z.string(), key: z.string(), player: z.string() })
const Closed = z.object({ link: z.string() })

/** Files larger than this go over in pieces of this size, so that one that breaks off goes on where it was, bytes. */
const PIECE = 8 * 1024 ** 2
/** How long is waited before a piece is tried again, ms; after the last, it is given up. */
const AGAIN_MS = [500, 1000, 2000, 4000, 8000]

/** The publishing key: known to the application on the same machine, else remembered, else asked for. */
export interface KeyKeeper {
  remembered: string
  ask(again: boolean): Promise<string | null>
}

/** @returns the key where this machine is the server's own; null elsewhere */
export async function keyOfThisMachine(): Promise<string | null> {
  const response = await fetch('/api/class-site/key').catch(() => null)
  if (!response?.ok) return null
  return z.object({ key: z.string() }).parse(await response.json()).key
}

/** What a site is told about a publication. @param player hash of the student page's script, which the site lets run */
export interface PublishOptions {
  title: string
  player: string
  files: readonly ArchiveFile[]
  key: KeyKeeper
  onProgress: (share: number) => void
  signal: AbortSignal
}

/**
 * Hands a student page to the class site that ships with the application, file by file. What breaks off is dropped.
 * @returns the link under which students find it
 * @throws Trouble `site-older`, `site-away`, `site-refused`, `cancelled`
 */
export async function publishToClassSite({
  title,
  player,
  files,
  key,
  onProgress,
  signal,
}: PublishOptions): Promise<string> {
  const own = await begin(title, key, signal)
  const auth = { 'x-publication-key': own.key }
  try {
    if (own.player !== player)
      throw new Trouble(
        'site-older',
        'The application was renewed since this tab was opened.',
        'Everything is stored, and students see nothing half done.',
        'Load this page again, then publish.',
      )
    const sizes = files.map(f => (typeof f.data === 'string' ? f.data.length : f.data.size))
    const total = Math.max(
      1,
      sizes.reduce((a, b) => a + b, 0),
    )
    let done = 0
    for (const [i, file] of files.entries()) {
      await sendFile(
        `/api/class-site/${own.id}/${encodePath(file.path)}`,
        new Blob([file.data]),
        auth,
        bytes => onProgress((done + bytes) / total),
        signal,
      )
      done += sizes[i]!
    }
    const { link } = Closed.parse(await (await send('POST', `/api/class-site/${own.id}/open`, {}, auth, signal)).json())
    onProgress(1)
    return link
  } catch (error) {
    await fetch(`/api/class-site/${own.id}`, { method: 'DELETE', headers: auth }).catch(() => {})
    throw error
  }
}

async function begin(title: string, keeper: KeyKeeper, signal: AbortSignal) {
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
    return Opened.parse(await response.json())
  }
}

/** Sends one file, in pieces where it is large; a piece that fails is tried again from where the site has it. */
async function sendFile(
  url: string,
  data: Blob,
  auth: Record<string, string>,
  onBytes: (bytes: number) => void,
  signal: AbortSignal,
) {
  if (data.size <= PIECE) {
    await send('PUT', url, { body: data }, auth, signal)
    return onBytes(data.size)
  }
  for (let from = 0, failed = 0; from < data.size; ) {
    const to = Math.min(data.size, from + PIECE)
    const range = { 'content-range': `bytes ${from}-${to - 1}/${data.size}` }
    const response = await send(
      'PUT',
      url,
      { body: data.slice(from, to) },
      { ...auth, ...range },
      signal,
      [409],
      1,
    ).catch((error: unknown) => {
      if (signal.aborted || ++failed > AGAIN_MS.length) throw error
      return null
    })
    if (!response) {
      await pause(AGAIN_MS[failed - 1]!, signal)
      const there = await send('HEAD', url, {}, auth, signal)
      from = there.headers.get('upload-complete') === '?1' ? data.size : Number(there.headers.get('upload-offset') ?? 0)
    } else if (response.status === 409) {
      const offset = response.headers.get('upload-offset')
      if (offset === null || ++failed > AGAIN_MS.length) throw refused(response.status)
      from = Number(offset)
    } else {
      from = to
      failed = 0
    }
    onBytes(from)
  }
}

const refused = (status: number) =>
  new Trouble(
    'site-refused',
    `The class site did not take it (answer ${status}).`,
    'The videos are safe in this browser, and students see nothing half done.',
    'Try once more, or give students the zip file.',
  )

/** @param expected statuses that are no trouble @param tries how often at most, while the site is away or busy */
async function send(
  method: string,
  url: string,
  { body }: { body?: Blob | string },
  headers: Record<string, string>,
  signal: AbortSignal,
  expected: readonly number[] = [],
  tries = AGAIN_MS.length,
): Promise<Response> {
  for (let i = 0; ; i++) {
    const response = await fetch(url, { method, headers, signal, ...(body === undefined ? {} : { body }) }).catch(
      (cause: unknown) => {
        if (signal.aborted)
          throw new Trouble(
            'cancelled',
            'Stopped as you asked.',
            'Students see nothing of it.',
            'Publish again whenever you like.',
          )
        return new Trouble(
          'site-away',
          'The class site cannot be reached.',
          'The videos are safe in this browser.',
          'See that the application is still running, then publish again.',
          cause,
        )
      },
    )
    const busy = response instanceof Trouble || response.status === 429 || response.status >= 502
    if (busy && i + 1 < tries) {
      const wait = response instanceof Trouble ? 0 : 1000 * Number(response.headers.get('retry-after') ?? 0)
      await pause(Math.max(wait, AGAIN_MS[i]!), signal)
      continue
    }
    if (response instanceof Trouble) throw response
    if (!response.ok && !expected.includes(response.status)) throw refused(response.status)
    return response
  }
}

function pause(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise(resolve => {
    const timer = setTimeout(resolve, ms)
    signal.addEventListener(
      'abort',
      () => {
        clearTimeout(timer)
        resolve()
      },
      { once: true },
    )
  })
}
