import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Pad } from '../../server/utils/pad'

/** The pad's own small server, over the network of this machine. */
const pad = new Pad(readFileSync(join(import.meta.dirname, '../../pad/pad.html'), 'utf8'))
const pressed: string[] = []
let base: string
beforeAll(async () => {
  const addresses = await pad.open()
  base = addresses.at(-1)!
  pad.listen(press => pressed.push(press))
})
afterAll(() => pad.close())
const send = (body: unknown) => fetch(`${base}press`, { method: 'POST', body: typeof body === 'string' ? body : JSON.stringify(body) }).then(r => r.status)
const wrong = () => String((Number(pad.code) + 1) % 1_000_000).padStart(6, '0')

describe('the pad', () => {
  it('serves one page, that asks for nothing off its host, and nothing else', async () => {
    const page = await (await fetch(base)).text()
    expect(page).toContain('data-press="back"')
    expect(page).not.toMatch(/https?:\/\//)
    expect((await fetch(`${base}../etc/passwd`)).status).toBe(404)
    expect((await fetch(`${base}press`)).status).toBe(404)
  })
  it('takes presses with the right code only, of the kinds there are', async () => {
    expect(await send({ code: pad.code, press: 'hello' })).toBe(204)
    expect(await send({ code: pad.code, press: 'step' })).toBe(204)
    expect(await send({ code: wrong(), press: 'stop' })).toBe(403)
    expect(await send({ code: pad.code, press: 'erase everything' })).toBe(400)
    expect(await send('not json')).toBe(400)
    expect(await send(`{"code":"${pad.code}","press":"${'x'.repeat(5000)}"}`)).toBe(400)
    expect(pressed).toEqual(['step'])
  })
  it('shows what it is told as it changes', async () => {
    const reader = (await fetch(`${base}state?code=${pad.code}`)).body!.getReader()
    const next = async () => new TextDecoder().decode((await reader.read()).value)
    expect(await next()).toContain('Ready')
    pad.tell({ says: 'Taking 0:07, step 2', taking: true, warning: '' })
    expect(await next()).toBe('data: {"says":"Taking 0:07, step 2","taking":true,"warning":""}\n\n')
    await reader.cancel()
  })
  it('answers nothing more after a few guesses, not even the right code', async () => {
    const statuses: number[] = []
    for (let i = 0; i < 9; i++) statuses.push(await send({ code: wrong(), press: 'hello' }))
    expect(statuses.at(-1)).toBe(429)
    expect(await send({ code: pad.code, press: 'step' })).toBe(429)
    expect(pressed).toEqual(['step'])
  })
})
