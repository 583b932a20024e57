import { mkdtempSync, readdirSync, rmSync, utimesSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { LIMITS, type SiteLimits } from '../../server/classSite/limits'
import { classSiteListener, rangeOf } from '../../server/classSite/serve'
import { ClassSite } from '../../server/classSite/store'

/** The class site's rules, in a folder of its own; what it sends, over the loopback, by RFC 9110. */
const root = mkdtempSync(join(tmpdir(), 'orthograph-site-'))
const player = { script: 'sha256-script', style: 'sha256-style' }
let time = Date.now()
const siteWith = (limits: Partial<SiteLimits> = {}) =>
  new ClassSite(mkdtempSync(join(root, 's-')), player, { ...LIMITS, ...limits }, () => time)
const site = siteWith({ begunAMinute: 1000 })
afterAll(() => rmSync(root, { recursive: true, force: true }))

const refused = (status: number) => expect.objectContaining({ statusCode: status })
async function* bodyOf(...pieces: (string | Uint8Array | Error)[]) {
  for (const piece of pieces) {
    await new Promise(r => setTimeout(r, 1))
    if (piece instanceof Error) throw piece
    yield typeof piece === 'string' ? Buffer.from(piece) : piece
  }
}
const all = { from: 0, total: null, whole: true }
async function begun(of = site) {
  const { id, key } = await of.begin('<b>Title</b>')
  return {
    id,
    key,
    meta: () => of.guarded(id, key),
    put: (path: string, text: string) => of.receive(id, path, bodyOf(text), all),
    left: () => ['files', 'parts'].map(f => readdirSync(join(of.folder, id, f)).length),
  }
}

describe('publications', () => {
  it('are guarded by a key that is not kept itself', async () => {
    const { id, key } = await begun()
    expect(JSON.stringify(await site.meta(id))).not.toContain(key)
    expect((await site.guarded(id, key)).title).toBe('<b>Title</b>')
    for (const wrong of ['', undefined, `${key}x`, key.toUpperCase()])
      await expect(site.guarded(id, wrong)).rejects.toEqual(refused(403))
    await expect(site.guarded('0123456789abcdef', key)).rejects.toEqual(refused(404))
  })
  it.each(['../meta', 'x', '', 'ABCDEF0123456789', '0123456789abcdef0'])('%j is no id', async id =>
    expect(await site.meta(id)).toBeNull(),
  )
  it('are open only with a page in them, and then never change', async () => {
    const { id, put, meta } = await begun()
    await expect(site.open(id, await meta())).rejects.toEqual(refused(409))
    await put('index.html', 'page')
    expect(await site.find(id, 'index.html')).toBeNull()
    const late = expect(site.receive(id, 'late.png', bodyOf('a', 'b', 'c'), all)).rejects.toEqual(refused(409))
    await site.open(id, await meta())
    await late
    await expect(put('index.html', 'other')).rejects.toEqual(refused(409))
    await expect(site.drop(id, await meta())).rejects.toEqual(refused(409))
    expect((await site.find(id, 'index.html'))!.stats.size).toBe(4)
    expect(await site.find(id, 'late.png')).toBeNull()
  })
  it('cannot be begun without end', async () => {
    const small = siteWith({ begunAMinute: 3, publications: 5 })
    for (let i = 0; i < 3; i++) await small.begin('x')
    await expect(small.begin('x')).rejects.toEqual(
      expect.objectContaining({ statusCode: 429, headers: { 'Retry-After': '60' } }),
    )
    time += 61_000
    for (let i = 0; i < 2; i++) await small.begin('x')
    await expect(small.begin('x')).rejects.toEqual(refused(507))
  })
  it('that were begun and left are swept, others not', async () => {
    const [left, going, opened] = [await begun(), await begun(), await begun()]
    await opened.put('index.html', 'page')
    await site.open(opened.id, await opened.meta())
    const old = new Date(Date.now() - 30 * 3_600_000)
    for (const { id } of [left, opened])
      for (const part of ['files', 'parts', ''])
        try {
          utimesSync(join(site.folder, id, part), old, old)
        } catch {
          /* an open one has no parts */
        }
    time = Date.now()
    await site.sweep()
    expect([await site.meta(left.id), (await site.meta(going.id))!.open, (await site.meta(opened.id))!.open]).toEqual([
      null,
      false,
      true,
    ])
  })
})

describe('files', () => {
  it.each([
    'index.html',
    'videos/01-Größe.mp4',
    'videos/a.webm',
    'a.vtt',
    'b.PNG',
    'worksheet/x y.pdf',
    'fonts/a.woff2',
  ])('%s has a place and a type', path => {
    const { file, type } = site.placeOf('0123456789abcdef', path)
    expect(file).toMatch(/[a-f0-9]{64}$/)
    expect(type).toMatch(/^[a-z]+\/[a-z0-9]+/)
  })
  it.each([
    '../index.html',
    '/index.html',
    'a/../b.html',
    'run.js',
    'page.svg',
    'noending',
    'x.html/',
    'a\\b.html',
    'x.constructor',
    'x.__proto__',
    'x.toString',
  ])('%s is refused', path => {
    expect(() => site.placeOf('0123456789abcdef', path)).toThrowError(refused(400))
  })
  it('sent at once that break off leave nothing', async () => {
    const { id, left } = await begun()
    await expect(site.receive(id, 'a.mp4', bodyOf('begins', new Error('gone')), all)).rejects.toThrow('gone')
    await expect(site.receive(id, 'a.mp4', bodyOf('short'), { from: 0, total: 99, whole: true })).rejects.toEqual(
      refused(400),
    )
    expect(left()).toEqual([0, 0])
  })
  it('sent in pieces go on where they broke off', async () => {
    const { id, left } = await begun()
    const piece = (from: number, ...body: (string | Error)[]) =>
      site.receive(id, 'v.mp4', bodyOf(...body), { from, total: 12, whole: false })
    await piece(0, 'abcd')
    await expect(piece(4, 'ef', new Error('gone'))).rejects.toThrow('gone')
    expect(await site.received(id, 'v.mp4')).toEqual({ bytes: 6, whole: false })
    await expect(piece(4, 'efgh')).rejects.toEqual(
      expect.objectContaining({ statusCode: 409, headers: { 'Upload-Offset': '6' } }),
    )
    expect(await piece(6, 'ghijkl')).toEqual({ bytes: 12, whole: true })
    expect(await site.received(id, 'v.mp4')).toEqual({ bytes: 12, whole: true })
    expect(left()).toEqual([1, 0])
  })
  it('are bounded while they stream, in size, number and rate, one by one and together', async () => {
    const small = siteWith({ fileBytes: 10, totalBytes: 15, files: 3, sentAMinute: 8 })
    const { id, put, left } = await begun(small)
    let taken = 0
    const endless = async function* () {
      for (;;) {
        taken++
        yield Buffer.from('xxxx')
      }
    }
    await expect(small.receive(id, 'a.mp4', endless(), all)).rejects.toEqual(refused(413))
    expect(taken).toBe(3)
    await expect(small.receive(id, 'a.mp4', bodyOf('x'), { from: 0, total: 11, whole: false })).rejects.toEqual(
      refused(413),
    )
    expect(left()).toEqual([0, 0])
    await put('a.png', '0123456789')
    await expect(put('b.png', '0123456789')).rejects.toEqual(refused(413))
    await put('b.png', '01')
    await put('c.png', '01')
    await expect(put('d.png', '01')).rejects.toEqual(refused(413))
    await expect(put('d.png', '01')).rejects.toEqual(refused(413))
    await expect(put('a.png', 'x')).rejects.toEqual(refused(429))
  })
})

describe('what students are sent', () => {
  let server: Server,
    base = '',
    id = ''
  const get = (path: string, headers: Record<string, string> = {}, method = 'GET') =>
    fetch(base + path, { headers, method, redirect: 'manual' })
  beforeAll(async () => {
    const own = await begun()
    id = own.id
    await own.put('index.html', '<script>alert(1)</script>'.repeat(20))
    await own.put('videos/Größe 1.mp4', '0123456789')
    await site.open(id, await own.meta())
    server = createServer(classSiteListener(site))
    await new Promise<void>(r => server.listen(0, '127.0.0.1', r))
    base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  })
  afterAll(() => server.close())
  const video = () => `/${id}/videos/Gr%C3%B6%C3%9Fe%201.mp4`

  it('runs only the player’s own script, whatever the page says', async () => {
    const { headers } = await get(`/${id}/`)
    const policy = headers.get('content-security-policy')!
    expect(policy).toContain("script-src 'sha256-script';")
    expect(policy).toContain("default-src 'none'")
    expect(policy).not.toContain('unsafe')
    expect([
      headers.get('x-content-type-options'),
      headers.get('referrer-policy'),
      headers.get('content-type'),
    ]).toEqual(['nosniff', 'no-referrer', 'text/html; charset=utf-8'])
  })
  it('is packed where that helps, and told apart', async () => {
    const packed = await get(`/${id}/`, { 'accept-encoding': 'gzip' })
    expect([packed.headers.get('content-encoding'), packed.headers.get('vary')]).toEqual(['gzip', 'Accept-Encoding'])
    expect(Number(packed.headers.get('content-length'))).toBeLessThan(200)
    const plain = await get(`/${id}/`, { 'accept-encoding': 'identity' })
    expect(plain.headers.get('etag')).not.toBe(packed.headers.get('etag'))
    expect(await plain.text()).toContain('alert')
  })
  it('comes in parts, whole, or not at all when it is known', async () => {
    const whole = await get(video())
    const [etag, modified] = [whole.headers.get('etag')!, whole.headers.get('last-modified')!]
    expect([
      whole.status,
      whole.headers.get('content-type'),
      whole.headers.get('accept-ranges'),
      await whole.text(),
    ]).toEqual([200, 'video/mp4', 'bytes', '0123456789'])
    const part = await get(video(), { range: 'bytes=2-4' })
    expect([
      part.status,
      part.headers.get('content-range'),
      part.headers.get('content-length'),
      await part.text(),
    ]).toEqual([206, 'bytes 2-4/10', '3', '234'])
    for (const known of [
      { 'if-none-match': etag },
      { 'if-none-match': `"x", W/${etag}` },
      { 'if-none-match': '*' },
      { 'if-modified-since': modified },
    ] as Record<string, string>[])
      expect((await get(video(), known)).status).toBe(304)
    for (const other of [{ 'if-none-match': '"x"' }, { 'if-modified-since': new Date(0).toUTCString() }] as Record<
      string,
      string
    >[])
      expect((await get(video(), other)).status).toBe(200)
    expect((await get(video(), { 'range': 'bytes=2-4', 'if-range': etag })).status).toBe(206)
    expect((await get(video(), { 'range': 'bytes=2-4', 'if-range': '"other"' })).status).toBe(200)
    const beyond = await get(video(), { range: 'bytes=10-' })
    expect([beyond.status, beyond.headers.get('content-range')]).toEqual([416, 'bytes */10'])
    const head = await get(video(), {}, 'HEAD')
    expect([
      head.status,
      head.headers.get('content-type'),
      head.headers.get('content-length'),
      await head.text(),
    ]).toEqual([200, 'video/mp4', '10', ''])
  })
  it('is nothing that is not there, and no other address', async () => {
    expect([(await get(`/${id}`)).status, (await get(`/${id}`)).headers.get('location')]).toEqual([301, `/${id}/`])
    for (const path of ['/', `/${id}/none.mp4`, '/0123456789abcdef/', '/x/y/z.html'])
      expect((await get(path)).status).toBe(404)
    expect((await get(`/${id}/%E0%A4%A.mp4`)).status).toBe(400)
    expect((await get(`/${id}/..%2Findex.html`)).status).toBe(400)
    const post = await get(`/${id}/`, {}, 'POST')
    expect([post.status, post.headers.get('allow')]).toEqual([405, 'GET, HEAD'])
  })
})

describe('parts of a file', () => {
  it.each([
    [undefined, null],
    ['bytes=0-', { from: 0, to: 99 }],
    ['bytes=10-19', { from: 10, to: 19 }],
    ['bytes=90-400', { from: 90, to: 99 }],
    ['bytes=-5', { from: 95, to: 99 }],
    ['bytes=-500', { from: 0, to: 99 }],
    ['bytes=-', null],
    ['items=0-1', null],
    ['bytes=0-1,5-6', null],
    ['bytes=20-10', null],
  ])('%s', (header, wanted) => expect(rangeOf(header, 100)).toEqual(wanted))
  it.each(['bytes=100-', 'bytes=100-200', 'bytes=-0'])('%s cannot be had', header =>
    expect(() => rangeOf(header, 100)).toThrowError(refused(416)),
  )
})
