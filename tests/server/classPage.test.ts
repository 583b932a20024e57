import { createHash } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { HtmlValidate } from 'html-validate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { ClassWords, Listing } from '../../core/publish/listing'
import { siteStorage } from '../../server/classSite/drivers'
import { LIMITS } from '../../server/classSite/limits'
import { classSiteListener } from '../../server/classSite/serve'
import { ClassSite } from '../../server/classSite/store'

/** The class page, from what the class site holds; over the loopback. */
const root = mkdtempSync(join(tmpdir(), 'orthograph-course-'))
const player = {
  script: 'sha256-script',
  style: 'sha256-style',
  classPage: {
    script: 'void 0',
    style: 'body { margin: 0 }',
    icons: '<svg class="icons" aria-hidden="true"></svg>',
    face: async (name: string) => (name === 'a-face.woff2' ? Buffer.from('face') : null),
  },
}
let time = Date.parse('2026-12-01T08:00:00.000Z')
const site = new ClassSite(siteStorage(root), player, { ...LIMITS, courses: 3 }, () => time)
const server = createServer(classSiteListener(site))
let origin = ''
beforeAll(async () => {
  await new Promise<void>(r => server.listen(0, '127.0.0.1', r))
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(() => {
  server.close()
  rmSync(root, { recursive: true, force: true })
})
const refused = (status: number) => expect.objectContaining({ statusCode: status })

const listing = (title: string, more: Partial<Listing['questions'][number]> = {}): Listing => ({
  form: 1,
  lesson: `folio-${title}`,
  title,
  part: '12',
  due: '2026-12-04',
  questions: [
    {
      id: 'a',
      number: '1',
      title: 'Rate of climb',
      duration: 60_000,
      print: ['How fast does it <i>climb</i>?'],
      steps: [{ t: 1500, title: 'x = 11 547', also: 'common denominator' }],
      ...more,
    },
  ],
})

/** A publication with a listing for each moment. @param later texts that are released later */
async function published(now: unknown, later: [unknown, string][] = [], after?: { id: string; version: string }) {
  const id = after?.id ?? (await site.begin('any')).id
  const put = async (value: unknown, from: string | null) => {
    const data = typeof value === 'string' ? value : JSON.stringify(value)
    const sha = createHash('sha256').update(data).digest('hex')
    const body = (async function* () {
      yield Buffer.from(data)
    })()
    await site.receive(id, sha, body, { from: 0, total: null })
    return { sha, size: Buffer.byteLength(data), from }
  }
  const states = [[now, null] as const, ...later.map(l => l as readonly [unknown, string])]
  const value = {
    form: 1,
    title: 'As it is called',
    player,
    pages: await Promise.all(states.map(([, from], i) => put(`<p>${i}`, from))),
    feeds: [],
    listings: await Promise.all(states.map(([text, from]) => put(text, from))),
    files: {},
    counted: null,
  }
  const { version } = await site.publish(id, value, after?.version ?? null)
  time += 60_000
  return { id, version }
}
const get = (path: string, headers: Record<string, string> = {}) =>
  fetch(origin + path, { headers, redirect: 'manual' })
const page = async (course: string) => (await get(`/course/${course}/`)).text()

describe('a class page', () => {
  it('is one for a course and a teacher, however they are written; its address stays when it is renamed', async () => {
    const course = await site.courses.open({ name: 'Mathematics 7', author: 'M. Perrin' })
    expect(await site.courses.open({ name: '  mathematics  7', author: 'm. perrin ' })).toBe(course)
    expect(await site.courses.open({ name: 'Mathematics 7', author: 'A. Lund' })).not.toBe(course)
    await site.courses.rename(course, { name: 'Mathematics 8 & more', author: 'M. Perrin' })
    expect(await page(course)).toContain('<title>Mathematics 8 &amp; more</title>')
    await site.courses.rename(course, { name: 'Mathematics 7', author: 'M. Perrin' })
    for (const wrong of [{ name: ' ', author: '' }, { name: 'x'.repeat(301), author: '' }, { name: 'x' }, null])
      await expect(site.courses.open(wrong)).rejects.toEqual(refused(400))
    await site.courses.open({ name: 'third', author: '' })
    await expect(site.courses.open({ name: 'fourth', author: '' })).rejects.toEqual(refused(507))
    await expect(site.courses.rename('0123456789abcdef', { name: 'x', author: '' })).rejects.toEqual(refused(404))
  })
  it('shows what students have, the newest first, escaped, and valid; with scripts off it is a list of links', async () => {
    const course = await site.courses.open({ name: 'Mathematics 7', author: 'M. Perrin' })
    const first = await published(listing('<Older>'))
    const second = await published(listing('Newer'))
    await site.list(first.id, course)
    await site.list(second.id, course)
    const html = await page(course)
    expect(html.indexOf('Newer')).toBeLessThan(html.indexOf('&lt;Older&gt;'))
    expect(html).toContain(`href="../../${second.id}/"`)
    expect(html).toContain(`href="../../${second.id}/#q-a"`)
    expect(html).toMatch(/due\s+4 December 2026/)
    const checked = await new HtmlValidate({
      extends: ['html-validate:standard'],
      rules: { 'void-style': 'off', 'no-inline-style': 'off', 'long-title': 'off', 'doctype-style': 'off' },
    }).validateString(html)
    expect(checked.results.flatMap(r => r.messages.map(m => `${m.ruleId}: ${m.message}`))).toEqual([])
  })
  it('tells nothing before it is released: neither on the page nor in its words', async () => {
    const course = await site.courses.open({ name: 'Mathematics 7', author: 'M. Perrin' })
    const opens = new Date(time + 3_600_000).toISOString()
    const closed = listing('Held back', { opens, steps: [], duration: 0 })
    const { id } = await published(closed, [[listing('Held back', { steps: [{ t: 0, title: 'SECRET' }] }), opens]])
    await site.list(id, course)
    const words = async () => (await get(`/course/${course}/search.json`)).text()
    expect(await page(course)).toMatch(/What opens next[\s\S]*Held back, question 1/)
    expect((await page(course)) + (await words())).not.toContain('SECRET')
    time += 3_700_000
    expect(await words()).toContain('SECRET')
    expect(await page(course)).not.toContain('What opens next')
  })
  it('leaves out what was taken away, moved or taken off, and shows again what comes back', async () => {
    const course = await site.courses.open({ name: 'Mathematics 7', author: 'M. Perrin' })
    const other = await site.courses.open({ name: 'third', author: '' })
    const { id, version } = await published(listing('Going about'))
    await site.list(id, course)
    expect(await page(course)).toContain('Going about')
    await site.list(id, other)
    expect(await page(course)).not.toContain('Going about')
    expect(await page(other)).toContain('Going about')
    await site.show(id, null, version)
    expect(await page(other)).toContain('There is no lesson here yet')
    await site.show(id, version, null)
    expect(await page(other)).toContain('Going about')
    await site.list(id, null)
    expect((await site.head(id))!.course).toBeNull()
    expect(await page(other)).not.toContain('Going about')
    await expect(site.list(id, 'ffffffffffffffff')).rejects.toEqual(refused(404))
  })
  it('stands with a lesson whose listing is strange, or not there, by its title alone', async () => {
    const course = await site.courses.open({ name: 'third', author: '' })
    for (const odd of ['no json', JSON.stringify({ form: 2 }), JSON.stringify({ ...listing('x'), more: 1 })]) {
      const { id } = await published(odd)
      await site.list(id, course)
      expect(await page(course)).toContain('As it is called')
      expect(JSON.parse(await (await get(`/course/${course}/search.json`)).text()) as ClassWords).toEqual([])
      await site.list(id, null)
    }
  })
  it('is told from one that is known, has its faces, and runs its own script alone (RFC 9110, 13.1.2; CSP 3)', async () => {
    const course = await site.courses.open({ name: 'Mathematics 7', author: 'M. Perrin' })
    const whole = await get(`/course/${course}/`)
    const hash = createHash('sha256').update('void 0').digest('base64')
    expect(whole.headers.get('content-security-policy')).toContain(`script-src 'sha256-${hash}'`)
    expect(await whole.clone().text()).toContain('<script>void 0</script>')
    const again = await get(`/course/${course}/`, { 'if-none-match': whole.headers.get('etag')! })
    expect(again.status).toBe(304)
    expect((await get(`/course/${course}`)).headers.get('location')).toBe(`/course/${course}/`)
    expect(await (await get(`/course/${course}/fonts/a-face.woff2`)).text()).toBe('face')
    const wrong = ['', '/', '/../x', '/0123456789abcdef/', `/${course}/other`, `/${course}/fonts/b-face.woff2`]
    for (const path of wrong) expect((await get(`/course${path}`)).status, path).toBe(404)
  })
})
