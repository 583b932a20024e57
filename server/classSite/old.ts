import { createHash } from 'node:crypto'
import { createReadStream, type Stats } from 'node:fs'
import { readFile, stat } from 'node:fs/promises'
import type { IncomingMessage, ServerResponse } from 'node:http'
import { join } from 'node:path'
import { pipeline } from 'node:stream'
import { z } from 'zod'
import { COMMON, isKnown, mayRange, policyOf, rangeOf } from './http'
import { isId } from './courses'
import { typeOf } from './store'

const Meta = z.object({ open: z.literal(true), script: z.string().default(''), style: z.string().default('') })

interface OldFile {
  file: string
  type: string
  stats: Stats
  player: { script: string; style: string }
}

/**
 * A file of a publication that was made before there were versions: `<id>/meta.json` and `<id>/files/<hash of the path>`.
 * Its link goes on working; it is never written any more.
 */
export async function findOld(folder: string, id: string, path: string): Promise<OldFile | null> {
  const type = typeOf(path)
  if (!isId(id) || !type) return null
  const text = await readFile(join(folder, id, 'meta.json'), 'utf8').catch(() => null)
  const meta = text === null ? null : Meta.safeParse(JSON.parse(text))
  if (!meta?.success) return null
  const file = join(folder, id, 'files', createHash('sha256').update(path).digest('hex'))
  const stats = await stat(file).catch(() => null)
  return stats && { file, type, stats, player: meta.data }
}

export function sendOld(request: IncomingMessage, response: ServerResponse, { file, type, stats, player }: OldFile) {
  const modified = stats.mtime.toUTCString()
  const etag = `"${stats.size.toString(36)}-${Math.round(stats.mtimeMs).toString(36)}"`
  const range = mayRange(request, etag, modified) ? rangeOf(request.headers.range, stats.size) : null
  const { from, to } = range ?? { from: 0, to: stats.size - 1 }
  const headers = {
    ...COMMON,
    'Content-Type': type,
    'ETag': etag,
    'Last-Modified': modified,
    'Accept-Ranges': 'bytes',
    'Cache-Control': 'no-cache',
    ...(type.startsWith('text/html') ? { 'Content-Security-Policy': policyOf(player) } : {}),
  }
  if (isKnown(request, etag, modified)) return void response.writeHead(304, headers).end()
  response.writeHead(range ? 206 : 200, {
    ...headers,
    'Content-Length': to - from + 1,
    ...(range ? { 'Content-Range': `bytes ${from}-${to}/${stats.size}` } : {}),
  })
  if (request.method === 'HEAD' || to < from) return void response.end()
  pipeline(createReadStream(file, { start: from, end: to }), response, () => {})
}
