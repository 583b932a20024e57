import { readFileSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { extname, join } from 'node:path'

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
