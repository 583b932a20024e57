import type { IncomingMessage } from 'node:http'
import { Refusal } from './classSite/refusal'

/** Most bytes of a JSON body, where nothing else is said. */
const MOST_JSON = 64 * 1024
/** A body has come by then, or never will, ms. */
const COME_MS = 30_000

/** Reads a text, bounded while it streams. @param most bytes @throws Refusal 413 */
export async function readText(request: IncomingMessage, most: number): Promise<string> {
  if (Number(request.headers['content-length'] ?? 0) > most)
    throw new Refusal(413, 'Too large', { Connection: 'close' })
  const timer = setTimeout(() => request.destroy(), COME_MS)
  const pieces: Buffer[] = []
  let bytes = 0
  try {
    for await (const piece of request as AsyncIterable<Buffer>) {
      bytes += piece.length
      if (bytes > most) throw new Refusal(413, 'Too large', { Connection: 'close' })
      pieces.push(piece)
    }
  } finally {
    clearTimeout(timer)
  }
  return Buffer.concat(pieces).toString('utf8')
}

/** Reads a small JSON body. @param most bytes @throws Refusal 400, 413 */
export async function readJson(request: IncomingMessage, most = MOST_JSON): Promise<unknown> {
  const text = await readText(request, most)
  try {
    return JSON.parse(text) as unknown
  } catch {
    throw new Refusal(400, 'This is not JSON')
  }
}
