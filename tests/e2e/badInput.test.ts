import { createHash } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { archiveBlob, newFolio } from '../../core/folio'
import { folioFiles, readFolioFile } from '../../core/publish'
import { launch, openPage, press, see, startApp, turnOnCamera, visit, VIEWPORT, type Running } from '../support/browser'
import { Downloads } from '../support/downloads'
import { soundOf } from '../support/media'
import { makeFiles } from '../support/pdfs'
import { builtPlayer, filesOnClassSite } from '../support/staticSite'

/** Each bad thing has a clear message that names the file, and loses nothing. */
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }
let files: Awaited<ReturnType<typeof makeFiles>>
const bad = mkdtempSync(join(tmpdir(), 'orthograph-bad-'))

beforeAll(async () => {
  app = await startApp()
  files = await makeFiles()
  browser = await launch()
  page = await openPage(browser, app.origin)
  await page.goto(app.origin)
  await page.waitForSelector('[data-part=folio]')
})
afterAll(async () => {
  await browser?.close()
  app?.stop()
  for (const dir of [bad, files?.dir, browser?.profile])
    if (dir) rmSync(dir, { recursive: true, force: true, maxRetries: 5 })
})
beforeEach(() => {
  page.faults.length = 0
})

async function choose(path: string) {
  const input = (await page.waitForSelector('input[type=file]')) as ElementHandle<HTMLInputElement>
  await input.uploadFile(path)
}
const trouble = async (code: string) =>
  (await page.waitForSelector(`[data-trouble="${code}"]`))!.evaluate(e => (e as HTMLElement).innerText)
const clear = () =>
  page.evaluate(() => document.querySelectorAll<HTMLElement>('[data-trouble] button').forEach(b => b.click()))
const go = async (path: string, ready: string) => {
  await page.goto(`${app.origin}/folio/balloon-day/${path}`)
  await page.waitForSelector(ready)
}
async function remember(values: Record<string, unknown>) {
  await page.evaluate(
    (v: Record<string, unknown>) =>
      localStorage.setItem(
        'orthograph-settings',
        JSON.stringify({ ...JSON.parse(localStorage.getItem('orthograph-settings') ?? '{}'), ...v }),
      ),
    values,
  )
}

describe('pages that cannot be brought in', () => {
  it.each([
    ['text', 'pdf-not', 'notes.pdf is not a PDF'],
    ['image', 'image-damaged', 'photo.pdf cannot be read: the picture is damaged'],
    ['empty', 'pdf-empty', 'empty.pdf is empty'],
    ['truncated', 'pdf-damaged', 'truncated.pdf cannot be read'],
    ['loop', 'pdf-damaged', 'loop.pdf'],
    ['long', 'pdf-too-long', 'long.pdf has 1000 pages'],
  ] as const)('%s', async (name, code, words) => {
    if (name === 'text') await go('pages', '[data-part=page]')
    await choose(files[name])
    const said = await trouble(code)
    expect(said).toContain(words)
    expect(said).toContain('Nothing in the folio was changed.')
    expect(await page.$$eval('[data-part=page]', all => all.length)).toBe(2)
    await clear()
  })
  it('one with a script in it, and a page of five metres, is only shown: the script does nothing', async () => {
    await go('pages', '[data-part=page]')
    await choose(files.script)
    await see(page, 'Page 3')
    await page.waitForFunction(() => document.querySelectorAll('[data-part=page]')[2]?.querySelector('canvas'))
    const pixels = await page.evaluate(() => {
      const c = document.querySelectorAll('[data-part=page]')[2]!.querySelector('canvas')!
      return c.width * c.height
    })
    expect(pixels).toBeLessThan(16_100_000)
    expect(page.faults).toEqual([])
    await page.keyboard.down('Control')
    await page.keyboard.press('z')
    await page.keyboard.up('Control')
    await page.waitForFunction(() => document.querySelectorAll('[data-part=page]').length === 2)
    // The next test loads the folio again: what was taken back has to be stored by then.
    await see(page, 'everything stored')
  })
  it('a locked PDF asks for its password, again after a wrong one, and can be left', async () => {
    await go('pages', '[data-part=page]')
    await choose(files.locked)
    await see(page, 'This file is locked')
    await page.type('input[name=password]', 'wrong')
    await page.keyboard.press('Enter')
    await see(page, 'That password does not open it')
    await page.type('input[name=password]', 'open sesame')
    await page.keyboard.press('Enter')
    await see(page, 'Page 4')
    await page.waitForSelector('[data-part=proposal]')
    await see(page, 'everything stored')
    await page.reload()
    await page.waitForFunction(() => {
      const a = document.querySelector('[data-part=page-area]')
      if (a) a.scrollTop = a.scrollHeight
      return document.querySelectorAll('[data-part=page]')[3]?.querySelector('canvas')
    })
    await choose(files.locked)
    await see(page, 'This file is locked')
    await press(page, 'Leave it')
    expect(await trouble('pdf-locked')).toContain('locked.pdf is locked with a password')
    await clear()
    expect(page.faults).toEqual([])
  })
})

describe('folio files that cannot be opened', () => {
  const good = async () => archiveBlob(folioFiles({ folio: newFolio('Good'), documents: new Map(), takes: [] }))
  const write = async (name: string, blob: Blob | string) => {
    const path = join(bad, name)
    writeFileSync(path, typeof blob === 'string' ? blob : new Uint8Array(await blob.arrayBuffer()))
    return path
  }
  /** A zip whose names the library would not write: made by hand from a good one. */
  const renamed = async (from: string, to: string) =>
    new Blob(
      [
        Buffer.from(await (await good()).arrayBuffer())
          .toString('latin1')
          .replaceAll(from, to),
      ].map(s => Buffer.from(s, 'latin1')),
    )
  it.each([
    ['cut.folio', async () => (await good()).slice(0, 150), 'archive-damaged'],
    ['text.folio', async () => 'hello', 'archive-damaged'],
    [
      'newer.folio',
      async () =>
        archiveBlob([
          {
            path: 'folio.json',
            data: JSON.stringify({ format: 'orthograph-folio', schema: 99, folio: { schema: 99 }, takes: [] }),
          },
        ]),
      'folio-newer',
    ],
    ['leads-out.folio', async () => renamed('folio.json', '../io.json'), 'archive-path'],
    ['bomb.folio', async () => archiveBlob([{ path: 'folio.json', data: '0'.repeat(30_000_000) }]), 'archive-bomb'],
  ] as [string, () => Promise<Blob | string>, string][])('%s', async (name, make, code) => {
    await visit(page, app.origin, '/')
    await page.waitForSelector('[data-part=folio]')
    const before = await page.$$eval('[data-part=folio]', all => all.length)
    await choose(await write(name, await make()))
    expect(await trouble(code)).toContain(name)
    expect(await page.$$eval('[data-part=folio]', all => all.length)).toBe(before)
    await clear()
  })
})

describe('microphones', () => {
  it('one that is refused: nothing is recorded, and the way out is said', async () => {
    await remember({ microphone: 'sim:refused', countdown: 0 })
    await go('solve?q=question-5', '[data-part=frame]')
    await page.keyboard.press('r')
    expect(await trouble('microphone-refused')).toContain('address bar')
    await see(page, 'Record')
    await clear()
  })
  it('a real one that is refused, and one that is absent', async () => {
    const context = browser.defaultBrowserContext()
    await context.overridePermissions(app.origin, [])
    await page.evaluateOnNewDocument(() => {
      navigator.mediaDevices.enumerateDevices = async () => [
        { kind: 'audioinput', deviceId: 'gone', label: 'Gone microphone', groupId: '' } as MediaDeviceInfo,
      ]
    })
    await remember({ microphone: 'device:gone' })
    await go('solve?q=question-5', '[data-part=frame]')
    await see(page, 'Gone microphone')
    await page.keyboard.press('r')
    const said = (await page.waitForSelector('[data-trouble^=microphone]'))!
    expect(await said.evaluate(e => (e as HTMLElement).dataset.trouble)).toMatch(/microphone-(refused|absent)/)
    await clear()
  })
  it('one that is pulled out in the middle: the take goes on, and keeps all until then', async () => {
    await remember({ microphone: 'sim:unplugged' })
    await go('solve?q=question-5', '[data-part=frame]')
    await page.keyboard.press('r')
    await page.waitForSelector('[data-part=taking]')
    await page.waitForSelector('[data-fault=lost]')
    await see(page, 'Ink and all sound until now are kept')
    await page.keyboard.press('s')
    await page.waitForSelector('[data-part=proof-board]')
    await clear()
  })
})

describe('storage', () => {
  it('that is full in the middle of a take: it is said, and the take is whole once there is room again', async () => {
    await remember({ microphone: 'sim:clicks' })
    await go('solve?q=question-5', '[data-part=frame]')
    await turnOnCamera(page, 'a drawn figure')
    await page.waitForSelector('[data-part=portrait]')
    await page.keyboard.press('r')
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
    await page.evaluate(() => {
      const put = IDBObjectStore.prototype.put
      Object.assign(window, {
        makeRoom: () => {
          IDBObjectStore.prototype.put = put
        },
      })
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('The quota has been exceeded.', 'QuotaExceededError')
      }
    })
    await page.waitForSelector('[data-part=room-warning]')
    await see(page, 'There is no room left to store the take')
    // Going on would leave behind what waits in memory.
    await page.keyboard.press('PageDown')
    expect(await trouble('storage-full')).toContain('The take of question 5 cannot be stored.')
    expect(page.url()).toContain('question-5')
    await clear()
    await new Promise(r => setTimeout(r, 1200))
    const rescued = await (
      await Downloads.into(browser, join(browser.profile, 'rescued'))
    ).after(() => press(page, 'Save to a file'))
    const whole = await readFolioFile(new Blob([readFileSync(rescued)]), 'rescued')
    expect(whole.takes.map(t => [t.take.state, t.sound?.type])).toEqual([['recovered', 'audio/wav']])
    expect(whole.takes[0]!.take.camera).toMatchObject({ width: 640, height: 360 })
    expect(whole.takes[0]!.camera!.size).toBeGreaterThan(5000)
    expect(whole.folio.questions.find(q => q.id === 'question-5')!.ledger!.portrait!.shape).toBe('circle')
    const wav = join(bad, 'rescued.wav')
    writeFileSync(wav, new Uint8Array(await whole.takes[0]!.sound!.arrayBuffer()))
    const heard = soundOf(wav)
    expect(Math.abs(heard.length / 48 - whole.takes[0]!.take.durationMs)).toBeLessThan(2)
    expect(heard.length / 48).toBeGreaterThan(1000)
    expect(heard.some(v => Math.abs(v) > 6000)).toBe(true)
    await page.evaluate(() => (window as unknown as { makeRoom(): void }).makeRoom())
    await page.waitForFunction(() => !document.querySelector('[data-part=room-warning]'))
    await page.keyboard.press('s')
    await page.waitForSelector('[data-part=proof-board]')
    expect(await page.evaluate(() => document.body.innerText.includes('Sound was lost'))).toBe(false)
    await clear()
  })
  it('that refuses to save a change: the sentence says so, and the work stays on screen', async () => {
    await go('pages?q=question-5', '[data-part=page]')
    await page.evaluate(() => {
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('full', 'QuotaExceededError')
      }
    })
    const title = (await page.$$('[data-part=question-row] input'))[9]!
    await title.click({ count: 3 })
    await page.keyboard.type('Forces')
    await page.keyboard.press('Tab')
    expect(await trouble('storage-full')).toContain('storage is full')
    await see(page, 'not stored')
    expect(await title.evaluate(e => (e as HTMLInputElement).value)).toBe('Forces')
  })
})

describe('a second tab', () => {
  it('of the same folio can look, not change', async () => {
    await go('pages', '[data-part=page]')
    const second = await openPage(browser, app.origin)
    await second.goto(`${app.origin}/folio/balloon-day/pages`)
    await see(second, 'Open in another tab.')
    const way = (await (await second.waitForSelector('[data-part=read-only] button'))!.boundingBox())!
    expect(way.x + way.width).toBeLessThan(VIEWPORT.width)
    expect(await second.$eval('[data-part=question-row] input', e => (e as HTMLInputElement).disabled)).toBe(true)
    await press(second, 'Take over')
    await second.waitForFunction(
      () => !(document.querySelector('[data-part=question-row] input') as HTMLInputElement).disabled,
    )
    await see(page, 'Open in another tab.')
    await page.bringToFront()
    // A take that runs is not interrupted.
    await press(page, 'Take over')
    await page.waitForFunction(
      () => !(document.querySelector('[data-part=question-row] input') as HTMLInputElement).disabled,
    )
    await clear()
    await go('solve?q=question-5', '[data-part=frame]')
    await page.keyboard.press('r')
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
    await second.bringToFront()
    await press(second, 'Take over')
    await see(second, 'A take is running in the other tab')
    await second.close()
    await page.bringToFront()
    await page.keyboard.press('s')
    await page.waitForSelector('[data-part=proof-board]')
  })
})

describe('addresses', () => {
  it('of folios that are not here say so', async () => {
    await page.goto(`${app.origin}/folio/nowhere/solve`)
    await see(page, 'This folio is not in this browser')
  })
  it('of the class site refuse what is not theirs', async () => {
    const at = (path: string, init?: RequestInit) => fetch(app.origin + path, init).then(r => r.status)
    const begin = (body: string, headers: Record<string, string> = { 'x-publishing-key': app.publishingKey }) =>
      fetch(`${app.origin}/api/class-site`, { method: 'POST', body, headers })
    expect((await begin('{"title":"x"}', {})).status).toBe(403)
    expect(
      (await begin('{"title":"x"}', { 'x-publishing-key': app.publishingKey, 'origin': 'http://elsewhere.example' }))
        .status,
    ).toBe(403)
    for (const bad of ['{"title":5}', '{bad', '']) expect((await begin(bad)).status).toBe(400)
    expect((await begin(`{"title":"${'x'.repeat(200_000)}"}`)).status).toBe(413)
    const { id, key } = (await (await begin('{"title":"x"}')).json()) as { id: string; key: string }
    const auth = { 'x-publication-key': key }
    const put = (sha: string, k = key) =>
      at(`/api/class-site/${id}/contents/${sha}`, { method: 'PUT', body: 'x', headers: { 'x-publication-key': k } })
    const sha = createHash('sha256').update('x').digest('hex')
    expect(await put(sha, 'wrong')).toBe(403)
    for (const name of ['evil.js', '..%2Foutside.html', 'x.constructor', sha.toUpperCase(), sha.replace(/./, '0')])
      expect(await put(name), name).toBe(400)
    expect(await put(sha)).toBe(200)
    const page = { sha, size: 1, from: null }
    const made = (value: object, headers: Record<string, string> = { 'if-match': '"none"' }) =>
      fetch(`${app.origin}/api/class-site/${id}/versions`, {
        method: 'POST',
        body: JSON.stringify({
          form: 1,
          title: 'x',
          player: builtPlayer(),
          pages: [page],
          files: {},
          counted: null,
          ...value,
        }),
        headers: { ...auth, ...headers },
      })
    expect((await made({}, {})).status).toBe(428)
    for (const path of ['evil.js', '../outside.html', 'x.constructor'])
      expect((await made({ files: { [path]: page } })).status, path).toBe(400)
    const { link, version } = (await (await made({})).json()) as Record<string, string>
    expect(link).toMatch(new RegExp(`^http://127\\.0\\.0\\.1:\\d+/${id}/$`))
    expect((await made({}, { 'if-match': '"none"' })).status).toBe(412)
    expect(version).toMatch(/^[a-f0-9]{16}$/)
    expect(await at(`/class/${id}/`)).toBe(200)
    expect((await fetch(`${app.origin}/class/${id}/`, { redirect: 'manual' })).headers.get('location')).toBe(link)
    expect(await at('/class/0000000000000000/')).toBe(404)
    for (const path of ['/api/nothing', '/api/class-site/nothing', '/api']) expect(await at(path), path).toBe(404)
    expect(await at('/%E0%A4%A')).toBe(400)
  })
  it('have headers that let nothing in', async () => {
    const { headers } = await fetch(app.origin)
    expect(headers.get('content-security-policy')).toMatch(/script-src 'sha256-.*'self' 'wasm-unsafe-eval'; /)
    expect(headers.get('content-security-policy')).not.toMatch(/script-src[^;]*'unsafe-(inline|eval)'/)
    expect(headers.get('content-security-policy')).toContain("frame-ancestors 'none'")
    expect([
      headers.get('x-powered-by'),
      headers.get('x-content-type-options'),
      headers.get('referrer-policy'),
    ]).toEqual([null, 'nosniff', 'no-referrer'])
    expect(headers.get('permissions-policy')).toContain('microphone=(self), camera=(self)')
  })
  it('a hostile page that is published runs nothing, and reads nothing of the teacher’s', async () => {
    const html = `<h1>Hello</h1><script>document.querySelector('h1').textContent = 'ran'; indexedDB.open('orthograph')</script><img src=x onerror="document.querySelector('h1').textContent = 'ran'"><iframe src="${app.origin}/"></iframe><form action="${app.origin}/api/pad" method=post></form>`
    const { link } = await filesOnClassSite(app, new Map([['index.html', Buffer.from(html)]]))
    const hostile = await browser.newPage()
    await hostile.goto(link)
    expect(await hostile.$eval('h1', h => h.textContent)).toBe('Hello')
    expect(await hostile.evaluate(async () => (await indexedDB.databases()).length)).toBe(0)
    // What its scripts would do, if they ran, from its origin: the application answers nobody there.
    expect(
      await hostile.evaluate(
        origin =>
          fetch(`${origin}/api/class-site/key`).then(
            r => r.text(),
            () => 'refused',
          ),
        app.origin,
      ),
    ).toBe('refused')
    await hostile.close()
  })
})
