import { Trouble } from '#core/folio'

/** Contents larger than this go over in parts of this size, so that one that breaks off goes on where it was, bytes. */
const PART = 8 * 1024 ** 2
/** How long is waited before a part is tried again, ms; after the last, it is given up. */
const AGAIN_MS = [500, 1000, 2000, 4000, 8000]

/**
 * Sends a content (`name` says which, where it is refused), in parts where it is large; a part that fails is tried
 * again from where the site has it.
 * @throws Trouble `site-away`, `site-refused`, `cancelled`
 */
export async function sendContent(
  url: string,
  { name, data }: { name: string; data: Blob },
  auth: Record<string, string>,
  onBytes: (bytes: number) => void,
  signal: AbortSignal,
): Promise<void> {
  if (data.size <= PART) {
    await send('PUT', url, { name, body: data }, auth, signal)
    return onBytes(data.size)
  }
  for (let from = 0, failed = 0; from < data.size; ) {
    const to = Math.min(data.size, from + PART)
    const range = { 'content-range': `bytes ${from}-${to - 1}/${data.size}` }
    const part = { name, body: data.slice(from, to) }
    const response = await send('PUT', url, part, { ...auth, ...range }, signal, [409], 1).catch((error: unknown) => {
      if (signal.aborted || ++failed > AGAIN_MS.length) throw error
      return null
    })
    if (!response) {
      await pause(AGAIN_MS[failed - 1]!, signal)
      const there = await send('HEAD', url, {}, auth, signal)
      from = there.headers.get('upload-complete') === '?1' ? data.size : Number(there.headers.get('upload-offset') ?? 0)
    } else if (response.status === 409) {
      const offset = response.headers.get('upload-offset')
      if (offset === null || ++failed > AGAIN_MS.length) throw siteRefused(response.status, name)
      from = Number(offset)
    } else {
      from = to
      failed = 0
    }
    onBytes(from)
  }
}

/** The publishing key, as a request brings it; nothing where this browser knows none. */
export const withPublishingKey = (key: string): Record<string, string> => (key ? { 'x-publishing-key': key } : {})

const SAFE = 'Everything is safe in this browser, and students have what they had before.'

/** The trouble of a site that does not take something. @param name of the file, where it is one */
export function siteRefused(status: number, name = 'it'): Trouble {
  const refused = (message: string, next: string) => new Trouble('site-refused', message, SAFE, next)
  if (status === 507)
    return refused(
      `The class site has no room left: it did not take ${name}.`,
      'Make room on the machine that it runs on, then publish again; until then, give students the zip file.',
    )
  if (status === 413)
    return refused(
      `The class site did not take ${name}: it is too large.`,
      'Make the video smaller or leave it out of the page, then publish again; or give students the zip file.',
    )
  return refused(
    `The class site did not take ${name} (answer ${status}).`,
    'Try once more, or give students the zip file.',
  )
}

/**
 * Asks the class site; while it is away or busy, again.
 * @param expected statuses that are no trouble @param tries how often at most
 * @throws Trouble `site-away`, `site-refused`, `cancelled`
 */
export async function send(
  method: string,
  url: string,
  { name, body }: { name?: string; body?: Blob | string },
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
            'Students have what they had before.',
            'Publish again whenever you like.',
          )
        return new Trouble(
          'site-away',
          'The class site cannot be reached.',
          SAFE,
          'See that the application is still running, then try again.',
          cause,
        )
      },
    )
    const busy =
      response instanceof Trouble || response.status === 429 || (response.status >= 502 && response.status !== 507)
    if (busy && i + 1 < tries) {
      const wait = response instanceof Trouble ? 0 : 1000 * Number(response.headers.get('retry-after') ?? 0)
      await pause(Math.max(wait, AGAIN_MS[i]!), signal)
      continue
    }
    if (response instanceof Trouble) throw response
    if (!response.ok && !expected.includes(response.status)) throw siteRefused(response.status, name)
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
