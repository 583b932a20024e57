import { z } from 'zod'
import { Trouble, type ArchiveFile } from '#core/folio'
import { encodePath } from '#core/publish'

const Opened = z.object({ id: z.string(), key: z.string() })
const Closed = z.object({ link: z.string() })

/**
 * Hands a student page to the class site that ships with the application, file by file.
 * @returns the link under which students find it
 */
export async function publishToClassSite(title: string, files: readonly ArchiveFile[], onProgress: (share: number) => void, signal: AbortSignal): Promise<string> {
  const { id, key } = Opened.parse(await send('POST', '/api/class-site', JSON.stringify({ title }), {}, signal))
  const auth = { 'x-publication-key': key }
  for (const [i, file] of files.entries()) {
    await send('PUT', `/api/class-site/${id}/${encodePath(file.path)}`, file.data, { ...auth, 'content-type': 'application/octet-stream' }, signal)
    onProgress((i + 1) / (files.length + 1))
  }
  const { link } = Closed.parse(await send('POST', `/api/class-site/${id}/open`, '', auth, signal))
  onProgress(1)
  return new URL(link, location.href).href
}

async function send(method: string, url: string, body: Blob | string, headers: Record<string, string>, signal: AbortSignal): Promise<unknown> {
  const response = await fetch(url, { method, body, headers, signal }).catch((cause: unknown) => {
    if (signal.aborted) throw new Trouble('cancelled', 'Stopped as you asked.', 'Students see nothing of it.', 'Publish again whenever you like.')
    throw new Trouble('site-away', 'The class site cannot be reached.', 'The videos are safe in this browser.', 'See that the application is still running, then publish again.', cause)
  })
  if (!response.ok) throw new Trouble('site-refused', `The class site did not take it (answer ${response.status}).`, 'The videos are safe in this browser, and students see nothing half done.', 'Try once more, or give students the zip file.')
  return response.json()
}
