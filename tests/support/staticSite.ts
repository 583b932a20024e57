import { createHash } from 'node:crypto'
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { dirname, extname, join, relative } from 'node:path'
import { gzipSync } from 'node:zlib'
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

/** Serves a folder as any web host does, and knows nothing else. @param zips whether texts are packed, as most hosts do */
export function serveStatic(folder: string, zips = false): { origin: string; close(): void } {
  const server = createServer((request, response) => {
    const asked = decodeURIComponent(new URL(request.url!, 'http://x').pathname)
    const path = asked === '/' ? '/index.html' : asked
    try {
      const data = readFileSync(join(folder, path))
      const type = MIME[extname(path)] ?? 'application/octet-stream'
      if (zips && type.startsWith('text/'))
        response.writeHead(200, { 'Content-Type': type, 'Content-Encoding': 'gzip' }).end(gzipSync(data))
      else response.writeHead(200, { 'Content-Type': type }).end(data)
    } catch {
      response.writeHead(404).end()
    }
  }).listen(0)
  return { origin: `http://localhost:${(server.address() as AddressInfo).port}`, close: () => void server.close() }
}

/** Unpacks a zip into a folder. @returns bytes of its files, by their paths in it */
export async function unpackZip(zip: string, folder: string): Promise<Map<string, number>> {
  const archive = await openArchive(new Blob([new Uint8Array(readFileSync(zip))]), zip)
  const sizes = new Map<string, number>()
  for (const name of archive.names) {
    const path = join(folder, name)
    mkdirSync(dirname(path), { recursive: true })
    const data = new Uint8Array(await (await archive.blob(name, '')).arrayBuffer())
    writeFileSync(path, data)
    sizes.set(name, data.length)
  }
  return sizes
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
  const sizes = await unpackZip(zip, folder)
  return { sizes, made }
}

const built = (name: string) => readFileSync(join(import.meta.dirname, '../../student/built', name), 'utf8')
const hashOf = (text: string) => `sha256-${createHash('sha256').update(text).digest('base64')}`
/** Hashes of the page's script and style, as the application that was built from these files knows them. */
export const builtPlayer = () => ({ script: `${hashOf(built('player.js'))} ${hashOf(built('aids.js'))}`, style: hashOf(built('page.css')) })

interface OnSite {
  link: string
  version: string
  id: string
  auth: Record<string, string>
}

/**
 * Puts files on the class site by its interface, as one version.
 * @param of the publication whose next version it is; a new one when left out
 */
export async function filesOnClassSite(
  app: Pick<Running, 'origin' | 'publishingKey'>,
  files: ReadonlyMap<string, Uint8Array>,
  of?: OnSite,
): Promise<OnSite> {
  const api = `${app.origin}/api/class-site`
  const ask = async (method: string, path: string, body: BodyInit, headers: Record<string, string>) => {
    const response = await fetch(api + path, { method, body, headers })
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
    return (await response.json()) as Record<string, string>
  }
  const begun = of ? null : await ask('POST', '', '{"title":"Balloon Day"}', { 'x-publishing-key': app.publishingKey })
  const id = of?.id ?? begun!.id!
  const auth = of?.auth ?? { 'x-publication-key': begun!.key! }
  const listed: Record<string, { sha: string; size: number; from: null }> = {}
  for (const [path, data] of files) {
    const sha = createHash('sha256').update(data).digest('hex')
    await ask('PUT', `/${id}/contents/${sha}`, data as Uint8Array<ArrayBuffer>, auth)
    listed[path] = { sha, size: data.length, from: null }
  }
  const { 'index.html': page, ...rest } = listed
  const version = { form: 1, title: 'Balloon Day', player: builtPlayer(), pages: [page], files: rest, counted: null }
  const made = await ask('POST', `/${id}/versions`, JSON.stringify(version), {
    ...auth,
    'if-match': `"${of?.version ?? 'none'}"`,
  })
  return { link: made.link!, version: made.version!, id, auth }
}

/** Puts a folder on the class site. @returns the link under which students find it */
export async function onClassSite(app: Pick<Running, 'origin' | 'publishingKey'>, folder: string): Promise<string> {
  const files = new Map<string, Uint8Array>()
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    const path = join(entry.parentPath, entry.name)
    if (entry.isFile()) files.set(relative(folder, path), readFileSync(path))
  }
  return (await filesOnClassSite(app, files)).link
}
