import { createReadStream, type Stats } from 'node:fs'
import { readFile } from 'node:fs/promises'
import type { IncomingMessage, ServerResponse } from 'node:http'
import { pipeline } from 'node:stream'
import { promisify } from 'node:util'
import { gzip } from 'node:zlib'
import { Refusal } from './refusal'
import type { ClassSite, Meta } from './store'

/**
 * Shows published pages to students, on an origin of their own. Whatever a page says, only the player's script runs on
 * it: the
 * policy stands in the headers and names it by its hash. Files are streamed from where they lie.
 */
export function classSiteListener(site: ClassSite) {
  return (request: IncomingMessage, response: ServerResponse): void => {
    answer(site, request, response).catch((error: unknown) => {
      if (response.headersSent) return response.destroy()
      const { statusCode, message, headers } =
        error instanceof Refusal ? error : new Refusal(500, 'Something went wrong')
      response
        .writeHead(statusCode, { ...COMMON, 'Content-Type': 'text/plain; charset=utf-8', ...headers })
        .end(request.method === 'HEAD' ? undefined : message)
    })
  }
}

const COMMON = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  // A student may record an explanation on the page; it goes nowhere but into a file of hers.
  'Permissions-Policy': 'camera=(), microphone=(self), geolocation=()',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Content-Security-Policy': "default-src 'none'; frame-ancestors 'none'",
}
const SMALL_TEXT = 4 * 1024 ** 2
const zipped = promisify(gzip)

async function answer(site: ClassSite, request: IncomingMessage, response: ServerResponse) {
  if (request.method !== 'GET' && request.method !== 'HEAD')
    throw new Refusal(405, 'Only reading is possible here', { Allow: 'GET, HEAD' })
  const [, id = '', rest] = /^\/([^/?]+)(\/[^?]*)?(?:\?|$)/.exec(request.url ?? '') ?? []
  if (rest === undefined && (await site.meta(id))?.open)
    throw new Refusal(301, 'It stands here', { Location: `/${id}/` })
  const path = decoded((rest ?? '').slice(1)) || 'index.html'
  const found = await site.find(id, path)
  if (!found) throw new Refusal(404, 'Nothing is published here')
  await send(request, response, found)
}

function decoded(path: string): string {
  try {
    return decodeURIComponent(path)
  } catch {
    throw new Refusal(400, 'This address is not written rightly')
  }
}

async function send(
  request: IncomingMessage,
  response: ServerResponse,
  { file, type, stats, meta }: { file: string; type: string; stats: Stats; meta: Meta },
) {
  const text = type.startsWith('text/') && stats.size <= SMALL_TEXT
  const zip = text && !request.headers.range && /\bgzip\b/.test(String(request.headers['accept-encoding'] ?? ''))
  const etag = `"${stats.size.toString(36)}-${Math.round(stats.mtimeMs).toString(36)}${zip ? '-gz' : ''}"`
  const headers: Record<string, string | number> = {
    ...COMMON,
    'Content-Type': type,
    'ETag': etag,
    'Last-Modified': stats.mtime.toUTCString(),
    'Accept-Ranges': 'bytes',
    // The page is asked for anew each time, and answered with "not modified"; what stands beside it stays for a day.
    'Cache-Control': type.startsWith('text/html') ? 'no-cache' : 'public, max-age=86400',
    ...(text ? { Vary: 'Accept-Encoding' } : {}),
    ...(zip ? { 'Content-Encoding': 'gzip' } : {}),
    ...(type.startsWith('text/html') ? { 'Content-Security-Policy': policyOf(meta) } : {}),
  }
  if (isKnown(request, etag, stats)) return void response.writeHead(304, headers).end()
  const range = mayRange(request, etag, stats) ? rangeOf(request.headers.range, stats.size) : null
  if (zip) {
    const body = await zipped(await readFile(file))
    return void response
      .writeHead(200, { ...headers, 'Content-Length': body.length })
      .end(request.method === 'HEAD' ? undefined : body)
  }
  const { from, to } = range ?? { from: 0, to: stats.size - 1 }
  response.writeHead(range ? 206 : 200, {
    ...headers,
    'Content-Length': to - from + 1,
    ...(range ? { 'Content-Range': `bytes ${from}-${to}/${stats.size}` } : {}),
  })
  if (request.method === 'HEAD' || to < from) return void response.end()
  pipeline(createReadStream(file, { start: from, end: to, highWaterMark: 256 * 1024 }), response, () => {})
}

/** What a published page may do. Nothing but the player's own script and style, and files that stand beside it. */
export function policyOf(meta: Pick<Meta, 'script' | 'style'>): string {
  const own = (hash: string) => (hash ? `'${hash}'` : `'none'`)
  return [
    `default-src 'none'`,
    `script-src ${own(meta.script)}`,
    `style-src ${own(meta.style)}`,
    `img-src 'self' data:`,
    `media-src 'self'`,
    `font-src 'self'`,
    `base-uri 'none'`,
    `form-action 'none'`,
    `frame-ancestors 'none'`,
  ].join('; ')
}

/** Whether the reader has it already (If-None-Match, else If-Modified-Since; RFC 9110, 13.1). */
function isKnown({ headers }: IncomingMessage, etag: string, stats: Stats): boolean {
  const match = headers['if-none-match']
  if (match !== undefined) return match.split(',').some(tag => ['*', etag].includes(tag.trim().replace(/^W\//, '')))
  const since = Date.parse(headers['if-modified-since'] ?? '')
  return since >= Math.floor(stats.mtimeMs / 1000) * 1000
}

/** Whether a part may be given: without If-Range always, else only of the same file (RFC 9110, 13.1.5). */
function mayRange({ headers }: IncomingMessage, etag: string, stats: Stats): boolean {
  const condition = headers['if-range']
  return condition === undefined || condition === etag || condition === stats.mtime.toUTCString()
}

/** The bytes that a Range header asks for, or null for the whole. @throws Refusal 416 */
export function rangeOf(header: string | undefined, size: number): { from: number; to: number } | null {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '')
  if (!match || (!match[1] && !match[2])) return null
  const from = match[1] ? Number(match[1]) : Math.max(0, size - Number(match[2]))
  const to = match[1] && match[2] ? Math.min(Number(match[2]), size - 1) : size - 1
  if (match[1] && match[2] && Number(match[2]) < from) return null
  if (from > to || from >= size) throw new Refusal(416, 'Range not satisfiable', { 'Content-Range': `bytes */${size}` })
  return { from, to }
}
