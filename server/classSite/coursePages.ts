import { createHash } from 'node:crypto'
import { classPage, SEARCH_FILE, type ClassPageAssets } from '../../core/publish/classPage'
import { wordsOfLessons } from '../../core/publish/listing'
import { COMMON, isKnown, policyHash } from './http'
import { lessonsOn } from './lessons'
import { Refusal } from './refusal'
import { packed, type Asked } from './serve'

/** What class pages are made with; `face` reads one of the product's fonts, by its file's name. */
export interface ServedClassPages extends ClassPageAssets {
  face(name: string): Promise<Uint8Array | null>
}

/** Answers under `course/`: a class page, the words of its lessons, and its fonts. @throws Refusal 301, 404 */
export async function answerClassPage(asked: Asked, path: string): Promise<void> {
  const { site, request } = asked
  const assets = site.player.classPage
  const [, id = '', rest] = /^([^/]*)(?:\/(.*))?$/.exec(path) ?? []
  const course = assets && (await site.courses.get(id))
  if (!course) throw new Refusal(404, 'Nothing is published here', {}, { why: 'unknown' })
  if (rest === undefined) throw new Refusal(301, 'It stands here', { Location: `/course/${id}/` })
  const face = /^fonts\/([\w-]+\.woff2)$/.exec(rest)?.[1]
  const font = face && (await assets.face(face))
  if (font) return sendFont(asked, font)
  if (rest !== '' && rest !== SEARCH_FILE) throw new Refusal(404, 'Nothing is published here', {}, { why: 'unknown' })
  const page = await lessonsOn(site, id, course)
  const text = rest === '' ? classPage(page, assets) : JSON.stringify(wordsOfLessons(page.lessons))
  const type = rest === '' ? 'text/html; charset=utf-8' : 'application/json; charset=utf-8'
  const etag = `"${createHash('sha256').update(text).digest('hex').slice(0, 32)}"`
  const zip = /\bgzip\b/.test(String(request.headers['accept-encoding'] ?? ''))
  const headers = {
    ...COMMON,
    'Content-Type': type,
    // The same for packed and unpacked words (RFC 9110, 8.8.1): it says what they say.
    'ETag': `W/${etag}`,
    'Cache-Control': 'no-cache',
    'Vary': 'Accept-Encoding',
    ...(rest === '' ? { 'Content-Security-Policy': policyOfClassPage(assets) } : {}),
  }
  if (isKnown(request, etag, '')) return void asked.response.writeHead(304, headers).end()
  const body = zip ? await asked.zipped.get(`course:${etag}`, () => packed(Buffer.from(text))) : Buffer.from(text)
  asked.response
    .writeHead(200, { ...headers, ...(zip ? { 'Content-Encoding': 'gzip' } : {}), 'Content-Length': body.length })
    .end(request.method === 'HEAD' ? undefined : body)
}

function sendFont({ request, response }: Asked, font: Uint8Array) {
  const headers = {
    ...COMMON,
    'Content-Type': 'font/woff2',
    'Content-Length': font.length,
    'Cache-Control': 'public, max-age=31536000, immutable',
  }
  response.writeHead(200, headers).end(request.method === 'HEAD' ? undefined : font)
}

const policyOfClassPage = ({ script, style }: ClassPageAssets) =>
  `default-src 'none'; script-src '${policyHash(script)}'; style-src '${policyHash(style)}'; img-src data:; connect-src 'self'; font-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'`
