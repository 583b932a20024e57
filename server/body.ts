import type { IncomingMessage } from 'node:http'
import { Refusal } from './classSite/refusal'

/** Most bytes of a JSON body. */
const MOST_JSON = 64 * 1024
/** A JSON body has come by then, or never will, ms. */
const JSON_MS = 30_000

/** Reads a small JSON body, bounded while it streams. @throws Refusal 400, 413 */
export async function readJson(request: IncomingMessage): Promise<unknown> {
  if (Number(request.headers['content-length'] ?? 0) > MOST_JSON)
    throw new Refusal(413, 'Too large', { Connection: 'close' })
  const timer = setTimeout(() => request.destroy(), JSON_MS)
  const pieces: Buffer[] = []
  let bytes = 0
  try {
    for await (const piece of request as AsyncIterable<Buffer>) {
      bytes += piece.length
      if (bytes > MOST_JSON) throw new Refusal(413, 'Too large', { Connection: 'close' })
      pieces.push(piece)
    }
  } finally {
    clearTimeout(timer)
  }
  try {
    return JSON.parse(Buffer.concat(pieces).toString('utf8')) as unknown
  } catch {
    throw new Refusal(400, 'This is not JSON')
  }
}
