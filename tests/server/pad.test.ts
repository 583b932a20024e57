import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { request } from 'node:http'
import { Pad, padAddresses } from '../../server/utils/pad'

/** The pad's own small server, over the loopback. */
let time = 0
const pad = new Pad(
  readFileSync(join(import.meta.dirname, '../../pad/pad.html'), 'utf8'),
  new Map([['a.woff2', Buffer.from('font')]]),
  () => time,
)
const pressed: string[] = []
let base: string
beforeAll(async () => {
  ;[base] = (await pad.open()) as [string]
  pad.listen(press => pressed.push(press))
})
afterAll(() => pad.close())
const send = (body: unknown, headers: Record<string, string> = {}) =>
  fetch(`${base}press`, { method: 'POST', headers, body: typeof body === 'string' ? body : JSON.stringify(body) })
const status = (body: unknown, headers?: Record<string, string>) => send(body, headers).then(r => r.status)
const wrong = () => String((Number(pad.code) + 1) % 1_000_000).padStart(6, '0')
const paired = async () => ((await (await send({ code: pad.code, press: 'hello' })).json()) as { token: string }).token
/** What a request is answered whose headers no browser would send. */
const raw = (headers: Record<string, string>) =>
  new Promise<number>(resolve => {
    request(base, { headers }, r => resolve(r.statusCode!)).end()
  })

describe('the pad', () => {
  it('serves one page with the product’s own fonts, that asks for nothing off its host, and nothing else', async () => {
    const page = await (await fetch(base)).text()
    expect(page).toContain('data-press="back"')
    expect(page).not.toMatch(/https?:\/\//)
    expect(await (await fetch(`${base}fonts/a.woff2`)).text()).toBe('font')
    for (const path of ['../etc/passwd', 'press', 'fonts/b.woff2', 'fonts/../a.woff2'])
      expect((await fetch(base + path)).status).toBe(404)
  })
  it('is reached on the loopback unless another address was chosen, by its own name, from its own page', async () => {
    expect(base).toMatch(/^http:\/\/127\.0\.0\.1:\d+\/$/)
    expect(await raw({ host: 'rebound.example' })).toBe(421)
    expect(await raw({ host: new URL(base).host })).toBe(200)
    expect(await status({ code: pad.code, press: 'hello' }, { origin: 'http://elsewhere.example' })).toBe(403)
    expect(await status({ code: pad.code, press: 'hello' }, { origin: base.slice(0, -1) })).toBe(200)
  })
  it('takes presses of paired devices only, of the kinds there are', async () => {
    const token = await paired()
    expect(await status({ token, press: 'step' })).toBe(204)
    expect(await status({ code: wrong(), press: 'hello' })).toBe(403)
    expect(await status({ token: 'guessed', press: 'stop' })).toBe(403)
    expect(await status({ code: pad.code, press: 'stop' })).toBe(400)
    expect(await status({ token, press: 'erase everything' })).toBe(400)
    expect(await status('not json')).toBe(400)
    expect(await status(`{"token":"${token}","press":"${'x'.repeat(5000)}"}`)).toBe(400)
    expect(pressed).toEqual(['step'])
  })
  it('shows what it is told as it changes', async () => {
    const reader = (await fetch(`${base}state?token=${await paired()}`)).body!.getReader()
    const next = async () => new TextDecoder().decode((await reader.read()).value)
    expect(await next()).toContain('Ready')
    pad.tell({ says: 'Taking 0:07, step 2', taking: true, warning: '' })
    expect(await next()).toBe('data: {"says":"Taking 0:07, step 2","taking":true,"warning":""}\n\n')
    await reader.cancel()
    expect((await fetch(`${base}state?token=guessed`)).status).toBe(403)
  })
  it('lets who guesses wait, and goes on for devices that are paired', async () => {
    const token = await paired()
    const statuses: number[] = []
    for (let i = 0; i < 9; i++) statuses.push(await status({ code: wrong(), press: 'hello' }))
    expect(statuses).toEqual([...Array<number>(8).fill(403), 429])
    expect(await status({ code: pad.code, press: 'hello' })).toBe(429)
    expect(await status({ token, press: 'turn' })).toBe(204)
    time += 61_000
    expect(await status({ code: pad.code, press: 'hello' })).toBe(200)
    expect(pressed).toEqual(['step', 'turn'])
  })
  it('is in use while a device is paired and the page that turned it on listens', async () => {
    expect(pad.inUse).toBe(true)
    const other = new Pad('')
    expect(other.inUse).toBe(false)
    expect(padAddresses().at(-1)).toBe('127.0.0.1')
  })
})
