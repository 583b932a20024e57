import { createHash } from 'node:crypto'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PIECE } from '../../server/classSite/contents'
import { siteStorage } from '../../server/classSite/drivers'
import { rangeOf } from '../../server/classSite/http'
import { LIMITS, type SiteLimits } from '../../server/classSite/limits'
import { classSiteListener } from '../../server/classSite/serve'
import { ClassSite } from '../../server/classSite/store'
import { aStuck } from '../support/handIns'

/** The class site's rules, in a folder of its own; what it sends, over the loopback, by RFC 9110. */
const root = mkdtempSync(join(tmpdir(), 'orthograph-site-'))
const player = { script: 'sha256-script', style: 'sha256-style' }
let time = Date.now()
const at = (ms: number) => new Date(time + ms).toISOString()
const siteWith = (limits: Partial<SiteLimits> = {}) =>
  new ClassSite(siteStorage(mkdtempSync(join(root, 's-'))), player, { ...LIMITS, ...limits }, () => time)
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
const shaOf = (data: string | Uint8Array) => createHash('sha256').update(data).digest('hex')
const all = { from: 0, total: null }

/** A publication that is begun, and how versions are made of texts. */
async function begun(of = site) {
  const { id, key, owner } = await of.begin('<b>Title</b>')
  const put = async (data: string | Uint8Array, from: string | null = null) => {
    const sha = shaOf(data)
    await of.receive(id, sha, bodyOf(data), all)
    return { sha, size: data.length, from }
  }
  let last: string | null = null
  /** @param files by path: a text, or a text and when it is released */
  const version = async (
    page: string,
    files: Record<string, string | [string, string]> = {},
    later: [string, string][] = [],
  ) => {
    const pages = [await put(page)]
    const feeds = [await put(`feed of ${page}`)]
    for (const [text, from] of later) {
      pages.push(await put(text, from))
      feeds.push(await put(`feed of ${text}`, from))
    }
    const listed: Record<string, unknown> = {}
    for (const [path, file] of Object.entries(files))
      listed[path] = typeof file === 'string' ? await put(file) : await put(...file)
    const value = {
      form: 1,
      title: 'Balloon Day',
      player,
      pages,
      feeds,
      files: listed,
      counted: [{ id: 'q1', steps: 3 }],
    }
    const made = await of.publish(id, value, last)
    return (last = made.version)
  }
  const text = async (path: string) => {
    const found = await of.find(id, path)
    if (!found) return null
    let out = ''
    for await (const piece of of.contents.read(id, found.sha, 0, found.size - 1)) out += Buffer.from(piece).toString()
    return out
  }
  return { id, key, owner, put, version, text }
}

describe('publications', () => {
  it('are guarded by a key that is not kept itself; who has the folio makes a new one', async () => {
    const { id, key, owner } = await begun()
    expect(JSON.stringify(await site.head(id))).not.toMatch(new RegExp(`${key}|${owner}`))
    expect((await site.guarded(id, key)).title).toBe('<b>Title</b>')
    for (const wrong of ['', undefined, `${key}x`, key.toUpperCase(), owner])
      await expect(site.guarded(id, wrong)).rejects.toEqual(refused(403))
    await expect(site.guarded('0123456789abcdef', key)).rejects.toEqual(refused(404))
    await expect(site.newKey(id, key)).rejects.toEqual(refused(403))
    const next = await site.newKey(id, owner)
    await expect(site.guarded(id, key)).rejects.toEqual(refused(403))
    expect((await site.guarded(id, next)).title).toBe('<b>Title</b>')
  })
  it.each(['../meta', 'x', '', 'ABCDEF0123456789', '0123456789abcdef0'])('%j is no id', async id =>
    expect(await site.head(id)).toBeNull(),
  )
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
  it('that were begun and left are swept, and what belongs to no version', async () => {
    const own = siteWith()
    const [left, going, opened] = [await begun(own), await begun(own), await begun(own)]
    const kept = await opened.version('page', { 'a.png': 'kept' })
    const unused = await opened.put('sent, and in no version')
    time += 20 * 3_600_000
    const lately = await going.put('lately')
    time += 10 * 3_600_000
    await own.sweep()
    await own.sweep()
    expect([await own.head(left.id), (await own.head(opened.id))!.current]).toEqual([null, kept])
    expect(await own.contents.missing(opened.id, [unused.sha, shaOf('kept')])).toEqual([unused.sha])
    expect(await own.contents.missing(going.id, [lately.sha])).toEqual([])
    await own.drop(going.id)
    expect(await own.head(going.id)).toBeNull()
    await expect(own.drop(opened.id)).rejects.toEqual(refused(409))
  })
})

describe('versions', () => {
  it('stand under one link; an earlier one is brought back, none is shown, and who is in the middle goes on', async () => {
    const { id, version, text } = await begun()
    const first = await version('one', { 'a.1.m4a': 'voice 1', 'b.png': 'same' })
    const second = await version('two', { 'a.2.m4a': 'voice 2', 'b.png': 'same' })
    expect(await Promise.all(['index.html', 'a.2.m4a', 'a.1.m4a', 'b.png', 'none.png'].map(text))).toEqual([
      'two',
      'voice 2',
      'voice 1',
      'same',
      null,
    ])
    await site.show(id, first, second)
    expect(await text('index.html')).toBe('one')
    expect(await text('a.2.m4a')).toBe('voice 2')
    time += LIMITS.earlierMs + 1
    expect(await text('a.2.m4a')).toBeNull()
    await expect(site.show(id, null, second)).rejects.toEqual(refused(412))
    await expect(site.show(id, '0123456789abcdef', first)).rejects.toEqual(refused(404))
    await site.show(id, null, first)
    expect(await Promise.all(['index.html', 'b.png'].map(text))).toEqual([null, null])
    expect((await site.head(id))!.versions.map(v => v.bytes)).toEqual([25, 25])
  })
  it('need all of their files, this application’s page, and follow what students have', async () => {
    const { id, put, version } = await begun()
    const page = await put('page')
    const value = { form: 1, title: 'x', player, pages: [page], files: {} as Record<string, unknown>, counted: null }
    const absent = { sha: shaOf('never sent'), size: 5, from: null }
    for (const [status, wrong] of [
      [400, { ...value, form: 2 }],
      [400, { ...value, pages: [] }],
      [400, { ...value, pages: [{ ...page, from: 'tomorrow' }] }],
      [400, { ...value, files: { '../x.png': page } }],
      [400, { ...value, files: { 'run.js': page } }],
      [409, { ...value, files: { 'a.png': absent } }],
      [409, { ...value, player: { ...player, script: 'sha256-other' } }],
    ] as const)
      await expect(site.publish(id, wrong, null)).rejects.toEqual(refused(status))
    expect(await site.find(id, 'index.html')).toBeNull()
    const first = await version('page')
    // A second tab that knows nothing of it does not cover it up.
    await expect(site.publish(id, { ...value, title: 'other tab' }, null)).rejects.toEqual(refused(412))
    expect((await site.head(id))!.current).toBe(first)
    const both = await Promise.allSettled(['x', 'y'].map(title => site.publish(id, { ...value, title }, first)))
    expect(both.map(r => r.status).sort()).toEqual(['fulfilled', 'rejected'])
  })
  it('keep to their dates by the site’s own clock: nothing is served before', async () => {
    const own = await begun()
    const { version, text } = own
    await version('hints', { 'hint.m4a': 'hint', 'full.m4a': ['full', at(3_600_000)] }, [['all', at(3_600_000)]])
    const seen = () => Promise.all(['index.html', 'feed.xml', 'hint.m4a', 'full.m4a'].map(text))
    expect(await seen()).toEqual(['hints', 'feed of hints', 'hint', null])
    time += 3_599_000
    expect(await seen()).toEqual(['hints', 'feed of hints', 'hint', null])
    time += 2000
    expect(await seen()).toEqual(['all', 'feed of all', 'hint', 'full'])
    // Readers of feeds ask each time, as for the page; what is named by its content stays.
    const asked = ['index.html', 'feed.xml', 'hint.m4a'].map(path => site.find(own.id, path))
    expect((await Promise.all(asked)).map(f => f!.changing)).toEqual([true, true, false])
    // Held back again: not from the version before either.
    await version('hints again', { 'full.m4a': ['full', at(86_400_000)], 'other.m4a': ['full', at(86_400_000)] })
    expect(await text('full.m4a')).toBeNull()
    expect(await site.opensAt(own.id)).toBeNull()
  })
  it('are as many as can be brought back', async () => {
    const small = siteWith({ versions: 3 })
    const { id, version } = await begun(small)
    const made = []
    for (let i = 0; i < 5; i++) made.push(await version(`page ${i}`))
    expect((await small.head(id))!.versions.map(v => v.id)).toEqual(made.slice(2))
  })
})

describe('contents', () => {
  it('are what their names say, and are never sent twice', async () => {
    const { id } = await begun()
    const sha = shaOf('abc')
    await expect(site.receive(id, sha, bodyOf('abd'), all)).rejects.toEqual(refused(400))
    await expect(site.receive(id, 'x'.repeat(64), bodyOf('abc'), all)).rejects.toEqual(refused(400))
    expect(await site.contents.missing(id, [sha])).toEqual([sha])
    expect(await site.receive(id, sha, bodyOf('abc'), all)).toMatchObject({ bytes: 3, whole: true })
    expect(await site.receive(id, sha, bodyOf(new Error('not read')), all)).toMatchObject({ bytes: 3, whole: true })
    expect(await site.receive(id, shaOf(''), bodyOf(), all)).toMatchObject({ bytes: 0, whole: true })
  })
  it('that break off go on from the last whole piece', async () => {
    const { id } = await begun()
    const data = Buffer.alloc(2.5 * PIECE, 'x')
    const sha = shaOf(data)
    const total = data.length
    await expect(
      site.receive(id, sha, bodyOf(data.subarray(0, 1.5 * PIECE), new Error('gone')), { from: 0, total }),
    ).rejects.toThrow('gone')
    expect(await site.contents.arrived(id, sha)).toMatchObject({ bytes: PIECE, whole: false })
    await expect(site.receive(id, sha, bodyOf('x'), { from: 2 * PIECE, total })).rejects.toEqual(
      expect.objectContaining({ statusCode: 409, headers: { 'Upload-Offset': String(PIECE) } }),
    )
    const rest = data.subarray(PIECE)
    expect(await site.receive(id, sha, bodyOf(rest), { from: PIECE, total })).toMatchObject({
      bytes: total,
      whole: true,
    })
    const part: Uint8Array[] = []
    for await (const piece of site.contents.read(id, sha, PIECE - 2, PIECE + 1)) part.push(piece)
    expect(part.map(p => p.length)).toEqual([2, 2])
  })
  it('are bounded while they stream, in size, number and rate', async () => {
    const small = siteWith({ fileBytes: 10, totalBytes: 15, files: 3, sentAMinute: 8 })
    const { id, put } = await begun(small)
    let taken = 0
    const endless = async function* () {
      for (;;) {
        taken++
        yield Buffer.from('xxxx')
      }
    }
    const sha = shaOf('endless')
    await expect(small.receive(id, sha, endless(), all)).rejects.toEqual(refused(413))
    expect(taken).toBe(3)
    await expect(small.receive(id, sha, bodyOf('x'), { from: 0, total: 11 })).rejects.toEqual(refused(413))
    await put('0123456789')
    await expect(put('9876543210')).rejects.toEqual(refused(413))
    await put('01')
    await put('02')
    await expect(put('03')).rejects.toEqual(refused(413))
    await expect(put('04')).rejects.toEqual(refused(413))
    await expect(put('05')).rejects.toEqual(refused(429))
  })
  it('a storage that refuses is told, and nothing half done stands', async () => {
    const storage = siteStorage(mkdtempSync(join(root, 's-')))
    const own = new ClassSite(storage, player, LIMITS, () => time)
    const { put, version, text } = await begun(own)
    await version('page')
    const { setItem, setItemRaw } = storage
    storage.setItemRaw = () => Promise.reject(new Error('disk full'))
    await expect(put('more')).rejects.toThrow('disk full')
    Object.assign(storage, { setItemRaw })
    expect((await put('more')).size).toBe(4)
    storage.setItem = () => Promise.reject(new Error('disk full'))
    await expect(version('page')).rejects.toThrow('disk full')
    Object.assign(storage, { setItem })
    expect(await text('index.html')).toBe('page')
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
    await own.version('<script>alert(1)</script>'.repeat(20), { 'videos/Größe 1.mp4': '0123456789' })
    server = createServer(classSiteListener(site, old))
    await new Promise<void>(r => server.listen(0, '127.0.0.1', r))
    base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  })
  afterAll(() => server.close())
  const old = mkdtempSync(join(root, 'old-'))
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
  it('says in a page of its own, kindly and with nothing else in it, why there is nothing', async () => {
    const asked = { accept: 'text/html,*/*' }
    const unknown = await get('/0123456789abcdef/', asked)
    const html = await unknown.text()
    expect([unknown.status, unknown.headers.get('content-type')]).toEqual([404, 'text/html; charset=utf-8'])
    expect(html).toContain('No lesson stands at this address.')
    // Its few lines of script and style are named in its policy, by the hash that a browser makes of them.
    const policy = unknown.headers.get('content-security-policy')!
    for (const kind of ['script', 'style']) {
      const text = new RegExp(`<${kind}>([^]*?)</${kind}>`).exec(html)![1]!
      expect(policy).toContain(`${kind}-src 'sha256-${createHash('sha256').update(text).digest('base64')}'`)
    }
    expect(html).not.toMatch(/(src|href)="(?!data:)/)
    const own = await begun()
    const first = await own.version('a page')
    await site.show(own.id, null, first)
    const gone = await get(`/${own.id}/`, asked)
    expect([gone.status, await gone.text()]).toEqual([404, expect.stringContaining('has taken this lesson away')])
    // Who asks for no page gets a word.
    expect(await (await get('/0123456789abcdef/')).text()).toBe('Nothing is published here')
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
    for (const path of [
      '/',
      `/${id}/none.mp4`,
      '/0123456789abcdef/',
      '/x/y/z.html',
      `/${id}/__proto__`,
      `/${id}/..%2Findex.html`,
    ])
      expect((await get(path)).status).toBe(404)
    expect((await get(`/${id}/%E0%A4%A.mp4`)).status).toBe(400)
    const post = await get(`/${id}/`, {}, 'POST')
    expect([post.status, post.headers.get('allow')]).toEqual([405, 'GET, HEAD'])
  })
  it('made before there were versions stands under its link as before', async () => {
    const link = '0123456789abcde0'
    mkdirSync(join(old, link, 'files'), { recursive: true })
    writeFileSync(join(old, link, 'meta.json'), JSON.stringify({ open: true, title: 'x', script: 's', style: 't' }))
    for (const [path, text] of [
      ['index.html', 'old page'],
      ['a.mp4', '0123456789'],
    ] as const)
      writeFileSync(join(old, link, 'files', shaOf(path)), text)
    const page = await get(`/${link}/`)
    expect([page.status, await page.text()]).toEqual([200, 'old page'])
    expect(page.headers.get('content-security-policy')).toContain("script-src 's'")
    expect(await (await get(`/${link}/a.mp4`, { range: 'bytes=2-4' })).text()).toBe('234')
    expect([(await get(`/${link}`)).status, (await get(`/${link}/b.mp4`)).status]).toEqual([301, 404])
  })
})

describe('what students tell', () => {
  const post = (path: string, body: string | Uint8Array<ArrayBuffer>, headers: Record<string, string> = {}) =>
    fetch(base + path, { method: 'POST', body, headers })
  let server: Server,
    base = '',
    id = '',
    own: ClassSite
  beforeAll(async () => {
    own = siteWith({ messagesAMinute: 10, messages: 12, explanations: 2 })
    const publication = await begun(own)
    id = publication.id
    await publication.version('page')
    server = createServer(classSiteListener(own))
    await new Promise<void>(r => server.listen(0, '127.0.0.1', r))
    base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  })
  afterAll(() => server.close())
  const stuck = JSON.stringify(aStuck({ says: '<img src=x onerror=alert(1)> Why 30?' }))

  it('comes into the inbox as it was written, and is put away', async () => {
    expect((await post(`/${id}/messages`, stuck)).status).toBe(204)
    const [message] = await own.messages.all(id)
    expect(JSON.parse(message!.text)).toEqual(JSON.parse(stuck))
    await own.messages.remove(id, '../head')
    await own.messages.remove(id, message!.id)
    expect(await own.messages.all(id)).toEqual([])
  })
  it('is an explanation with her voice as well, of which there are a few at most', async () => {
    const { lesson, question, number, version } = aStuck({})
    const named = { version, lesson, question, number, says: '', by: 'Ada' }
    const sound = { mime: 'audio/webm;codecs=opus', data: 'A'.repeat(1_000_000) }
    const explained = JSON.stringify({ form: 'orthograph-explanation', ...named, data: 'AAAA', sound })
    const answers = []
    for (let i = 0; i < 3; i++) answers.push((await post(`/${id}/messages`, explained)).status)
    expect(answers).toEqual([204, 204, 507])
    // A question about a moment has its own, smaller bound.
    expect((await post(`/${id}/messages`, stuck.replace('Why', 'y'.repeat(600_000)))).status).toBeGreaterThanOrEqual(
      400,
    )
    const all = await own.messages.all(id)
    expect(all.map(m => (JSON.parse(m.text) as { by: string }).by)).toEqual(['Ada', 'Ada'])
    for (const { id: message } of all) await own.messages.remove(id, message)
    expect(await own.messages.all(id)).toEqual([])
  })
  it('is refused with a word where it is no message, too large, too often, from elsewhere or about nothing', async () => {
    time += 61_000
    expect((await post(`/${id}/messages`, 'x')).status).toBe(400)
    expect((await post(`/${id}/messages`, '{"form":"orthograph-stuck"}')).status).toBe(400)
    const large = await post(`/${id}/messages`, new Uint8Array(100 * 1024 ** 2)).then(
      r => r.status,
      () => 413,
    )
    expect(large).toBe(413)
    expect((await post(`/${id}/messages`, stuck, { origin: 'https://other.example' })).status).toBe(403)
    expect((await post(`/${id}/messages`, stuck, { 'sec-fetch-site': 'cross-site' })).status).toBe(403)
    expect((await post('/0123456789abcdef/messages', stuck)).status).toBe(404)
    const many = await Promise.all(
      Array.from({ length: 1000 }, () => post(`/${id}/messages`, stuck).then(r => r.status)),
    )
    expect(new Set(many)).toEqual(new Set([204, 429]))
    expect((await own.messages.all(id)).length).toBe(7)
    time += 61_000
    const more: number[] = []
    for (let i = 0; i < 6; i++) more.push((await post(`/${id}/messages`, stuck)).status)
    expect(more).toEqual([204, 204, 204, 204, 204, 507])
  }, 60_000)
  it('is counted without names, where the version counts', async () => {
    const told = (body: unknown) => post(`/${id}/plays`, JSON.stringify(body)).then(r => r.status)
    const bodies = [
      { question: 'q1' },
      { question: 'q1' },
      { question: 'q1', step: 2 },
      { question: 'q1', step: 3 },
      { question: 'q2' },
      { question: 'q1', what: 'ended' },
      { question: 'q1', what: 'not-yet' },
      { question: 'q1', step: 1, what: 'left' },
      { question: 'q1', what: 'left' },
      { question: 'q1', what: 'who it was' },
      { question: 'q1', name: 'Ada' },
    ]
    const answers = []
    for (const body of bodies) answers.push(await told(body))
    expect(answers).toEqual([204, 204, 204, 400, 400, 204, 204, 204, 400, 400, 400])
    const seen = { 'q1/2': 1, 'q1:ended': 1, 'q1:not-yet': 1, 'q1/1:left': 1 }
    expect(await own.plays.of(id)).toEqual({ q1: 2, ...seen })
    // Another server over the same storage adds to it.
    const other = new ClassSite(own.storage, player)
    other.plays.note(id, await other.counted(id), { question: 'q1' })
    await other.plays.settle()
    expect(await own.plays.of(id)).toEqual({ q1: 3, ...seen })
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
