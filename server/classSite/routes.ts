import { createError, getRouterParam, type H3Event } from 'h3'
import { dataFolder } from '../data'
import { isSameMachine } from '../guard'
import { isPublishingKey } from '../publishingKey'
import { Refusal, refusalOf } from './refusal'
import { theClassSite } from './running'
import type { Sent } from './contents'
import type { Head } from './store'

/** Turns a refusal into an answer with its status and headers; it is the asker's fault, and nothing to be logged. */
export async function answering<T>(event: H3Event, work: () => Promise<T> | T): Promise<T> {
  try {
    return await work()
  } catch (error) {
    const refusal = refusalOf(error)
    if (!refusal) throw error
    for (const [name, value] of Object.entries(refusal.headers)) event.node.res.setHeader(name, value)
    // What is still coming is not wanted any more.
    if (!event.node.req.complete) event.node.res.setHeader('Connection', 'close')
    throw createError({ statusCode: refusal.statusCode, statusMessage: refusal.message })
  }
}

/** Only who has the publishing key goes on; the application on this machine knows it. @throws Refusal 403 */
export function needsKey({ node: { req } }: H3Event): void {
  if (!isPublishingKey(String(req.headers['x-publishing-key'] ?? ''), dataFolder()))
    throw new Refusal(403, 'The publishing key is needed')
}

/** Only the application on this machine, or who has the publishing key. @throws Refusal 403 */
export function needsMachineOrKey(event: H3Event): void {
  if (!isSameMachine(event.node.req)) needsKey(event)
}

/** The publication that a request is about, when its key allows to change it. @throws Refusal 403, 404 */
export async function guardedPublication(event: H3Event): Promise<{ id: string; head: Head }> {
  const id = getRouterParam(event, 'id') ?? ''
  return { id, head: await theClassSite().guarded(id, String(event.node.req.headers['x-publication-key'] ?? '')) }
}

/** The version that a change is made to follow (If-Match, RFC 9110, 13.1.1); null for none. @throws Refusal 428 */
export function versionBefore({ node: { req } }: H3Event): string | null {
  const match = /^"([a-f0-9]{16}|none)"$/.exec(String(req.headers['if-match'] ?? ''))
  if (!match) throw new Refusal(428, 'Which version it follows is to be said in If-Match')
  return match[1] === 'none' ? null : match[1]!
}

/**
 * Which part of a content a request brings (Content-Range, RFC 9110, 14.5); without that, all of it.
 * @throws Refusal 400, 413
 */
export function partOf({ node: { req } }: H3Event, most: number): Sent {
  const length = Number(req.headers['content-length'] ?? Number.NaN)
  const header = req.headers['content-range']
  if (header === undefined) {
    if (length > most) throw new Refusal(413, 'Too large')
    return { from: 0, total: Number.isNaN(length) ? null : length }
  }
  const range = /^bytes (\d{1,15})-(\d{1,15})\/(\d{1,15})$/.exec(header)
  const [from, to, total] = (range ?? []).slice(1).map(Number)
  if (from === undefined || !(from <= to! && to! < total!)) throw new Refusal(400, 'This part is not written rightly')
  if (total! > most) throw new Refusal(413, 'Too large')
  return { from, total: total! }
}
