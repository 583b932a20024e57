import { randomBytes, randomInt } from 'node:crypto'
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import { networkInterfaces } from 'node:os'
import { z } from 'zod'
import { PRESSES } from '../../core/recording/presses'
import { Refusal } from '../classSite/refusal'

/** Wrong codes after which a device has to wait, and for how long, ms. */
const MOST_WRONG = 8
const WAIT_MS = 60_000
/** Wrong codes of all devices together after which no new one is paired; paired ones go on. */
const MOST_WRONG_IN_ALL = 200

const Press = z
  .object({ code: z.string().max(6), press: z.literal('hello') })
  .or(z.object({ token: z.string().max(64), press: z.enum(PRESSES) }))
/** What a pad shows of the take. */
export const PadState = z.object({ says: z.string().max(200), taking: z.boolean(), warning: z.string().max(300) })
export type PadState = z.infer<typeof PadState>
export type PressListener = (press: (typeof PRESSES)[number]) => void

/** Fonts that the pad's page asks for, by file name. */
export type PadFonts = ReadonlyMap<string, Uint8Array>

/**
 * A small page of large buttons for a phone or a second tablet in the same network. It has a server of its own, which
 * listens only while the
 * teacher has turned it on, on the address she chose. A device is paired with the code on her screen and gets a token
 * of its own for it.
 */
export class Pad {
  readonly code = String(randomInt(1_000_000)).padStart(6, '0')
  /** Known to the application's own page only. */
  readonly key = randomBytes(18).toString('base64url')
  private readonly listeners = new Set<PressListener>()
  private readonly watchers = new Set<ServerResponse>()
  private readonly tokens = new Set<string>()
  private readonly wrong = new Map<string, { times: number; until: number }>()
  private wrongInAll = 0
  private hosts: string[] = []
  private state: PadState = { says: 'Ready', taking: false, warning: '' }
  private readonly server: Server = createServer((request, response) => {
    this.answer(request, response).catch(() => {
      if (response.headersSent) response.destroy()
      else response.writeHead(500).end()
    })
  })

  /** @param page the pad's own HTML */
  constructor(
    private readonly page: string,
    private readonly fonts: PadFonts = new Map(),
    private readonly now: () => number = Date.now,
  ) {}

  /** @param address of this machine, on which it listens @returns where a device finds it */
  async open(address = '127.0.0.1'): Promise<string[]> {
    await new Promise<void>((resolve, reject) => {
      this.server.once('error', reject)
      this.server.listen(0, address, resolve)
    })
    const { port } = this.server.address() as { port: number }
    this.hosts = [`${address}:${port}`, ...(address === '127.0.0.1' ? [`localhost:${port}`] : [])]
    return [`http://${address}:${port}/`]
  }

  close(): void {
    for (const watcher of this.watchers) watcher.end()
    this.server.close()
    this.server.closeAllConnections()
  }

  /** Whether a device is paired with it, and the page that turned it on still listens. */
  get inUse(): boolean {
    return this.tokens.size > 0 && this.listeners.size > 0
  }

  /** @returns stops listening */
  listen(listener: PressListener): () => void {
    this.listeners.add(listener)
    return () => {
      this.listeners.delete(listener)
    }
  }

  tell(state: PadState): void {
    this.state = state
    for (const watcher of this.watchers) watcher.write(`data: ${JSON.stringify(state)}\n\n`)
  }

  /**
   * Pairs a device.
   * @returns its token, or the status with which the code is refused; guessing makes only the one who guesses wait
   */
  private pair(code: string, device: string): string | 403 | 429 {
    const before = this.wrong.get(device)
    if ((before && before.times >= MOST_WRONG && this.now() < before.until) || this.wrongInAll >= MOST_WRONG_IN_ALL)
      return 429
    if (code === this.code) {
      this.wrong.delete(device)
      const token = randomBytes(18).toString('base64url')
      this.tokens.add(token)
      return token
    }
    const times = before && this.now() < before.until ? before.times + 1 : 1
    this.wrong.set(device, { times, until: this.now() + WAIT_MS })
    this.wrongInAll++
    return 403
  }

  private async answer(request: IncomingMessage, response: ServerResponse) {
    const url = new URL(request.url ?? '/', 'http://pad')
    const refuse = (status: number) => response.writeHead(status).end()
    const { host = '', origin } = request.headers
    // Another name that leads here, or another page, is not the pad's own.
    if (!this.hosts.includes(host)) return refuse(421)
    if (origin !== undefined && origin !== `http://${host}`) return refuse(403)
    if (request.method === 'GET' && url.pathname === '/') {
      response.writeHead(200, {
        'Content-Type': 'text/html; charset=utf-8',
        'Cache-Control': 'no-store',
        'Referrer-Policy': 'no-referrer',
        'X-Frame-Options': 'DENY',
        'X-Content-Type-Options': 'nosniff',
        'Content-Security-Policy':
          "default-src 'self' data:; script-src 'unsafe-inline'; style-src 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'",
      })
      return response.end(this.page)
    }
    const font = request.method === 'GET' && this.fonts.get(url.pathname.replace(/^\/fonts\//, ''))
    if (font)
      return response
        .writeHead(200, {
          'Content-Type': 'font/woff2',
          'Cache-Control': 'max-age=86400',
          'X-Content-Type-Options': 'nosniff',
        })
        .end(font)
    if (request.method === 'GET' && url.pathname === '/state') {
      if (!this.tokens.has(url.searchParams.get('token') ?? '')) return refuse(403)
      response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' })
      response.write(`data: ${JSON.stringify(this.state)}\n\n`)
      this.watchers.add(response)
      return request.on('close', () => {
        this.watchers.delete(response)
      })
    }
    if (request.method !== 'POST' || url.pathname !== '/press') return refuse(404)
    const body = Press.safeParse(await jsonOf(request))
    if (!body.success) return refuse(400)
    if ('code' in body.data) {
      const token = this.pair(body.data.code, request.socket.remoteAddress ?? '')
      return typeof token === 'number'
        ? refuse(token)
        : response
            .writeHead(200, { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' })
            .end(JSON.stringify({ token }))
    }
    if (!this.tokens.has(body.data.token)) return refuse(403)
    for (const listener of this.listeners) listener(body.data.press)
    return refuse(204)
  }
}

async function jsonOf(request: IncomingMessage): Promise<unknown> {
  let text = ''
  for await (const piece of request) {
    text += String(piece)
    if (text.length > 1000) return null
  }
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}

/** The addresses of this machine that the pad can listen on: those other devices may reach, then the loopback. */
export function padAddresses(): string[] {
  return [
    ...Object.values(networkInterfaces())
      .flatMap(all => all ?? [])
      .filter(a => a.family === 'IPv4' && !a.internal)
      .map(a => a.address),
    '127.0.0.1',
  ]
}

let pad: Pad | null = null

/**
 * Turns the pad on.
 * @param address one of this machine's, the loopback when left out @param key of the pad that this page turned on
 * before
 * @throws Refusal 400 for another address, 409 while a device is paired with a pad that somebody else turned on
 */
export async function openPad(
  address?: string,
  key?: string,
): Promise<{ code: string; key: string; addresses: string[] }> {
  if (address !== undefined && !padAddresses().includes(address))
    throw new Refusal(400, 'This machine has no such address')
  if (pad?.inUse && key !== pad.key) throw new Refusal(409, 'A pad is in use')
  pad?.close()
  const fonts = useStorage('assets:fonts')
  const names = (await fonts.getKeys()).filter(name => name.endsWith('.woff2'))
  const files = await Promise.all(
    names.map(async name => [name, Buffer.from((await fonts.getItemRaw(name)) as Uint8Array)] as const),
  )
  pad = new Pad(String(await useStorage('assets:pad').getItem('pad.html')), new Map(files))
  return { code: pad.code, key: pad.key, addresses: await pad.open(address) }
}

/** The pad that is on. @throws Refusal 404 without one, 403 for another key */
export function guardedPad(key: unknown): Pad {
  if (!pad) throw new Refusal(404, 'No pad is on')
  if (key !== pad.key) throw new Refusal(403, 'Wrong key')
  return pad
}

export function closePad(key: unknown): void {
  guardedPad(key).close()
  pad = null
}
