import { randomBytes, randomInt } from 'node:crypto'
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import { networkInterfaces } from 'node:os'
import { z } from 'zod'
import { PRESSES } from '../../core/take/presses'

/** Wrong codes after which a pad answers nothing more. */
const MOST_WRONG = 8

const Press = z.object({ code: z.string().max(6), press: z.enum([...PRESSES, 'hello']) })
/** What a pad shows of the take. */
export const PadState = z.object({ says: z.string().max(200), taking: z.boolean(), warning: z.string().max(300) })
export type PadState = z.infer<typeof PadState>
export type PressListener = (press: typeof PRESSES[number]) => void

/**
 * A small page of large buttons for a phone or a second tablet in the same network. It has a server of its own, which listens only while the
 * teacher has turned it on, and takes presses only with the code on her screen.
 */
export class Pad {
  readonly code = String(randomInt(1_000_000)).padStart(6, '0')
  /** Known to the application's own page only. */
  readonly key = randomBytes(18).toString('base64url')
  private readonly listeners = new Set<PressListener>()
  private readonly watchers = new Set<ServerResponse>()
  private state: PadState = { says: 'Ready', taking: false, warning: '' }
  private wrong = 0
  private readonly server: Server = createServer((request, response) => { void this.answer(request, response) })

  /** @param page the pad's own HTML */
  constructor(private readonly page: string) {}

  /** @returns the addresses at which a device of the same network finds it */
  async open(): Promise<string[]> {
    await new Promise<void>((resolve, reject) => {
      this.server.once('error', reject)
      this.server.listen(0, '0.0.0.0', resolve)
    })
    const { port } = this.server.address() as { port: number }
    const hosts = Object.values(networkInterfaces()).flatMap(all => all ?? []).filter(a => a.family === 'IPv4' && !a.internal).map(a => a.address)
    return [...hosts, '127.0.0.1'].map(host => `http://${host}:${port}/`)
  }

  close(): void {
    for (const watcher of this.watchers) watcher.end()
    this.server.close()
    this.server.closeAllConnections()
  }

  /** @returns stops listening */
  listen(listener: PressListener): () => void {
    this.listeners.add(listener)
    return () => { this.listeners.delete(listener) }
  }

  tell(state: PadState): void {
    this.state = state
    for (const watcher of this.watchers) watcher.write(`data: ${JSON.stringify(state)}\n\n`)
  }

  /** The HTTP status with which a code is refused, or null for the right one; guessing ends soon. */
  private refusal(code: string): 403 | 429 | null {
    if (this.wrong >= MOST_WRONG) return 429
    if (code === this.code) return null
    this.wrong++
    return 403
  }

  private async answer(request: IncomingMessage, response: ServerResponse) {
    const url = new URL(request.url ?? '/', 'http://pad')
    const refuse = (status: number) => response.writeHead(status).end()
    if (request.method === 'GET' && url.pathname === '/') {
      response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8', 'Cache-Control': 'no-store', 'Referrer-Policy': 'no-referrer', 'X-Frame-Options': 'DENY' })
      return response.end(this.page)
    }
    if (request.method === 'GET' && url.pathname === '/state') {
      const refused = this.refusal(url.searchParams.get('code') ?? '')
      if (refused) return refuse(refused)
      response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' })
      response.write(`data: ${JSON.stringify(this.state)}\n\n`)
      this.watchers.add(response)
      return request.on('close', () => { this.watchers.delete(response) })
    }
    if (request.method !== 'POST' || url.pathname !== '/press') return refuse(404)
    const body = Press.safeParse(await jsonOf(request))
    if (!body.success) return refuse(400)
    const refused = this.refusal(body.data.code)
    if (refused) return refuse(refused)
    const { press } = body.data
    if (press !== 'hello') for (const listener of this.listeners) listener(press)
    return refuse(204)
  }
}

async function jsonOf(request: IncomingMessage): Promise<unknown> {
  let text = ''
  for await (const piece of request) {
    text += String(piece)
    if (text.length > 1000) return null
  }
  try { return JSON.parse(text) }
  catch { return null }
}

let pad: Pad | null = null

/** Turns the pad on, in place of one that was on. */
export async function openPad(): Promise<{ code: string, key: string, addresses: string[] }> {
  pad?.close()
  pad = new Pad(String(await useStorage('assets:pad').getItem('pad.html')))
  return { code: pad.code, key: pad.key, addresses: await pad.open() }
}

/** The pad that is on. @throws 404 without one, 403 for another key */
export function guardedPad(key: unknown): Pad {
  if (!pad) throw createError({ statusCode: 404, statusMessage: 'No pad is on' })
  if (key !== pad.key) throw createError({ statusCode: 403, statusMessage: 'Wrong key' })
  return pad
}

export function closePad(key: unknown): void {
  guardedPad(key).close()
  pad = null
}
