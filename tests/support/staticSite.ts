import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { dirname, extname, join, relative } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { openArchive } from '../../core/folio/archive'
import { press, type Running } from './browser'
import { Downloads } from './downloads'

const MIME: Record<string, string> = {
  '.html': 'text/html',
  '.webp': 'image/webp',
  '.m4a': 'audio/mp4',
  '.mp4': 'video/mp4',
  '.vtt': 'text/vtt',
  '.woff2': 'font/woff2',
  '.pdf': 'application/pdf',
}

/** Serves a folder as any web host does, and knows nothing else. */
export function serveStatic(folder: string): { origin: string; close(): void } {
  const server = createServer((request, response) => {
    const asked = decodeURIComponent(new URL(request.url!, 'http://x').pathname)
    const path = asked === '/' ? '/index.html' : asked
    try {
      const data = readFileSync(join(folder, path))
      response.writeHead(200, { 'Content-Type': MIME[extname(path)] ?? 'application/octet-stream' }).end(data)
    } catch {
      response.writeHead(404).end()
    }
  }).listen(0)
  return { origin: `http://localhost:${(server.address() as AddressInfo).port}`, close: () => void server.close() }
}

/**
 * Makes the student page of the folio that is open on Publish, and unpacks it as for a web host.
 * @returns bytes of its files, and how long it took from the press, s
 */
export async function madeSiteIn(folder: string, browser: Browser, page: Page) {
  const downloads = await Downloads.into(browser, folder)
  const began = performance.now()
  const zip = await downloads.after(() => press(page, 'Student page as a zip'), 300_000)
  const made = (performance.now() - began) / 1000
  const archive = await openArchive(new Blob([new Uint8Array(readFileSync(zip))]), zip)
  const sizes = new Map<string, number>()
  for (const name of archive.names) {
    const path = join(folder, name)
    mkdirSync(dirname(path), { recursive: true })
    const data = new Uint8Array(await (await archive.blob(name, '')).arrayBuffer())
    writeFileSync(path, data)
    sizes.set(name, data.length)
  }
  return { sizes, made }
}

/** Puts a site on the class site by its interface. @returns the link under which students find it */
export async function onClassSite(app: Pick<Running, 'origin' | 'publishingKey'>, folder: string): Promise<string> {
  const api = `${app.origin}/api/class-site`
  const begun = await fetch(api, {
    method: 'POST',
    body: '{"title":"Balloon Day"}',
    headers: { 'x-publishing-key': app.publishingKey },
  })
  const { id, key } = (await begun.json()) as { id: string; key: string }
  const headers = { 'x-publication-key': key }
  for (const name of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!name.isFile()) continue
    const path = relative(folder, join(name.parentPath, name.name))
    const address = `${api}/${id}/${path.split('/').map(encodeURIComponent).join('/')}`
    const put = await fetch(address, { method: 'PUT', body: readFileSync(join(folder, path)), headers })
    if (!put.ok) throw new Error(`${path}: ${put.status} ${await put.text()}`)
  }
  const opened = await fetch(`${api}/${id}/open`, { method: 'POST', headers })
  return ((await opened.json()) as { link: string }).link
}
