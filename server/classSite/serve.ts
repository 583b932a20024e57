import type { IncomingMessage, ServerResponse } from 'node:http'
import { promisify } from 'node:util'
import { gzip } from 'node:zlib'
import { readJson, readText } from '../body'
import { Held } from './contents'
import { answerClassPage } from './coursePages'
import { COMMON, isKnown, mayRange, policyOf, rangeOf } from './http'
import { findOld, sendOld } from './old'
import { ownPage, OWN_POLICY, type NothingThere } from './ownPage'
import { Refusal, refusalOf } from './refusal'
import type { ClassSite, Found } from './store'

/**
 * Shows published pages to students, on an origin of their own. Whatever a page says, only the player's script runs on
 * it: the
 * policy stands in the headers and names it by its hash. Files are streamed piece by piece from the storage.
 * @param old folder of publications that were made before there were versions
 */
export function classSiteListener(site: ClassSite, old: string | null = null) {
  const zipped = new Held<Buffer>(ZIPPED_HELD, b => b.length)
  return (request: IncomingMessage, response: ServerResponse): void => {
    answer({ site, old, zipped, request, response }).catch((error: unknown) => {
      if (response.headersSent) return response.destroy()
      const { statusCode, message, headers, nothing } = refusalOf(error) ?? new Refusal(500, 'Something went wrong')
      const wantsPage = request.method === 'GET' && request.headers.accept?.includes('text/html')
      if (wantsPage && (nothing || statusCode === 500)) {
        const own = { 'Content-Type': 'text/html; charset=utf-8', 'Content-Security-Policy': OWN_POLICY }
        response.writeHead(statusCode, { ...COMMON, ...own, ...headers }).end(ownPage(nothing ?? { why: 'fault' }))
        return
      }
      response
        .writeHead(statusCode, { ...COMMON, 'Content-Type': 'text/plain; charset=utf-8', ...headers })
        .end(request.method === 'HEAD' ? undefined : message)
    })
  }
}

/** Texts up to this size are packed on the way, and so much of packed ones is held for the next who asks, bytes. */
const SMALL_TEXT = 16 * 1024 ** 2
const ZIPPED_HELD = 32 * 1024 ** 2
export const packed = promisify(gzip)

export interface Asked {
  site: ClassSite
  old: string | null
  zipped: Held<Buffer>
  request: IncomingMessage
  response: ServerResponse
}

async function answer(asked: Asked) {
  const { site, old, request, response } = asked
  const [, id = '', rest] = /^\/([^/?]+)(\/[^?]*)?(?:\?|$)/.exec(request.url ?? '') ?? []
  const path = decoded((rest ?? '').slice(1)) || 'index.html'
  if (request.method === 'POST' && (path === 'messages' || path === 'plays')) return told(asked, id, path)
  if (request.method !== 'GET' && request.method !== 'HEAD')
    throw new Refusal(405, 'Only reading is possible here', { Allow: 'GET, HEAD' })
  if (id === 'course') return answerClassPage(asked, path)
  if (path === KEEPER && site.player.keep && (await site.find(id, 'index.html')))
    return sendKeeper(site.player.keep, asked)
  const found = await site.find(id, path)
  if (found && rest === undefined) throw new Refusal(301, 'It stands here', { Location: `/${id}/` })
  if (found) return send(asked, id, found)
  const earlier = old && (await findOld(old, id, path))
  if (earlier && rest === undefined) throw new Refusal(301, 'It stands here', { Location: `/${id}/` })
  if (earlier) return sendOld(request, response, earlier)
  const nothing = await nothingAt(site, id, path)
  throw new Refusal(
    404,
    nothing.why === 'closed'
      ? `This opens on ${nothing.opens.replace('T', ' at ').slice(0, 19)} UTC`
      : 'Nothing is published here',
    {},
    nothing,
  )
}

/** The worker that keeps a lesson is the site's own: a publication cannot bring one. */
const KEEPER = 'keep.js'
function sendKeeper(text: string, { request, response }: Asked) {
  const headers = {
    ...COMMON,
    'Content-Type': 'text/javascript; charset=utf-8',
    'Content-Security-Policy': "default-src 'none'; connect-src 'self'",
    'Cache-Control': 'no-cache',
  }
  response.writeHead(200, headers).end(request.method === 'HEAD' ? undefined : text)
}

/** Why there is nothing at an address. */
async function nothingAt(site: ClassSite, id: string, path: string): Promise<NothingThere> {
  if (path !== 'index.html') return { why: 'unknown' }
  const opens = await site.opensAt(id)
  if (opens) return { why: 'closed', opens }
  return { why: (await site.isTakenAway(id)) ? 'taken-away' : 'unknown' }
}

/** What a page tells: a message to the teacher, or that a question is played. Only pages of this site may. */
async function told({ site, request, response }: Asked, id: string, path: 'messages' | 'plays') {
  const { origin, host } = request.headers
  const same = request.headers['sec-fetch-site'] ?? 'same-origin'
  if (same !== 'same-origin' || (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`))
    throw new Refusal(403, 'Not from another page', { Connection: 'close' })
  const close = (error: unknown) => {
    // What is still coming is not wanted any more.
    if (error instanceof Refusal) error.headers.Connection = 'close'
    throw error
  }
  if (!(await site.find(id, 'index.html'))) throw new Refusal(404, 'Nothing is published here', { Connection: 'close' })
  if (path === 'messages')
    await site.messages.take(id, () => readText(request, site.limits.explanationBytes)).catch(close)
  else site.plays.note(id, await site.counted(id), await readJson(request))
  response.writeHead(204, COMMON).end()
}

function decoded(path: string): string {
  try {
    return decodeURIComponent(path)
  } catch {
    throw new Refusal(400, 'This address is not written rightly')
  }
}

async function send({ site, zipped, request, response }: Asked, id: string, found: Found) {
  const { sha, size, type, since, version } = found
  const page = type.startsWith('text/html')
  const text = /^text\/|\bxml\b|\+xml/.test(type) && size <= SMALL_TEXT
  const zip = text && !request.headers.range && /\bgzip\b/.test(String(request.headers['accept-encoding'] ?? ''))
  const modified = new Date(since).toUTCString()
  const etag = `"${sha.slice(0, 32)}${zip ? '-gz' : ''}"`
  const headers: Record<string, string | number> = {
    ...COMMON,
    'Content-Type': type,
    'ETag': etag,
    'Last-Modified': modified,
    'Accept-Ranges': 'bytes',
    // The page is asked for anew each time, and answered with "not modified"; what stands beside it is named by its
    // content, and never changes.
    'Cache-Control': found.changing ? 'no-cache' : 'public, max-age=31536000, immutable',
    ...(text ? { Vary: 'Accept-Encoding' } : {}),
    ...(zip ? { 'Content-Encoding': 'gzip' } : {}),
    ...(page ? { 'Content-Security-Policy': policyOf(version.player) } : {}),
  }
  if (isKnown(request, etag, modified)) return void response.writeHead(304, headers).end()
  const range = mayRange(request, etag, modified) ? rangeOf(request.headers.range, size) : null
  if (zip) {
    const body = await zipped.get(`${id}:${sha}`, async () => packed(await site.contents.whole(id, sha, size)))
    return void response
      .writeHead(200, { ...headers, 'Content-Length': body.length })
      .end(request.method === 'HEAD' ? undefined : body)
  }
  const { from, to } = range ?? { from: 0, to: size - 1 }
  response.writeHead(range ? 206 : 200, {
    ...headers,
    'Content-Length': to - from + 1,
    ...(range ? { 'Content-Range': `bytes ${from}-${to}/${size}` } : {}),
  })
  if (request.method === 'HEAD' || to < from) return void response.end()
  await poured(site.contents.read(id, sha, from, to), response)
}

/** Gives away what is read, piece by piece, as fast as it is taken; reads on no further than who takes it stays. */
async function poured(pieces: AsyncIterable<Uint8Array>, response: ServerResponse): Promise<void> {
  for await (const piece of pieces) {
    if (response.destroyed) return
    if (!response.write(piece)) await roomIn(response)
  }
  response.end()
}
const roomIn = (response: ServerResponse) =>
  new Promise<void>(resolve => {
    const done = () => {
      response.off('drain', done).off('close', done)
      resolve()
    }
    response.on('drain', done).on('close', done)
  })
