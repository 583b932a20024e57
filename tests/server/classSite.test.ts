import { beforeAll, describe, expect, it, vi } from 'vitest'

/** The class site's rules, with a storage in memory in place of Nitro's. */
const kept = new Map<string, unknown>()
type Site = typeof import('../../server/utils/classSite')
let site: Site
beforeAll(async () => {
  vi.stubGlobal('createError', (o: { statusCode: number, statusMessage: string }) => Object.assign(new Error(o.statusMessage), o))
  vi.stubGlobal('useStorage', () => ({ setItem: async (k: string, v: unknown) => { kept.set(k, structuredClone(v)) }, getItem: async (k: string) => kept.get(k) ?? null }))
  site = await import('../../server/utils/classSite')
})
const refused = (status: number) => expect.objectContaining({ statusCode: status })

describe('publications', () => {
  it('are guarded by a key that is not kept itself', async () => {
    const { id, key } = await site.beginPublication('<b>Title</b>')
    expect(id).toMatch(/^[a-f0-9]{16}$/)
    expect(JSON.stringify([...kept.values()])).not.toContain(key)
    expect((await site.guardedMeta(id, key)).title).toBe('<b>Title</b>')
    for (const wrong of ['', undefined, `${key}x`, key.toUpperCase()]) await expect(site.guardedMeta(id, wrong)).rejects.toEqual(refused(403))
    await expect(site.guardedMeta('0123456789abcdef', key)).rejects.toEqual(refused(404))
  })
  it('are shown only once they are open', async () => {
    const { id, key } = await site.beginPublication('x')
    expect((await site.readMeta(id))!.open).toBe(false)
    await site.openPublication(id, await site.guardedMeta(id, key))
    expect((await site.readMeta(id))!.open).toBe(true)
  })
  it.each(['../meta', 'x', '', 'ABCDEF0123456789', '0123456789abcdef0'])('%j is no id', async id => expect(await site.readMeta(id)).toBeNull())
})

describe('files', () => {
  it.each(['index.html', 'videos/01-Größe.mp4', 'videos/a.webm', 'a.vtt', 'b.PNG', 'worksheet/x y.pdf'])('%s has a place and a type', (path) => {
    const { key, type } = site.placeOf('0123456789abcdef', path)
    expect(key).toMatch(/^0123456789abcdef:files:[a-f0-9]{64}$/)
    expect(type).toMatch(/^[a-z]+\/[a-z0-9]+/)
  })
  it.each(['../index.html', '/index.html', 'a/../b.html', 'run.js', 'page.svg', 'noending', 'x.html/', 'a\\b.html'])('%s is refused', (path) => {
    expect(() => site.placeOf('0123456789abcdef', path)).toThrowError(refused(400))
  })
})

describe('parts of a file', () => {
  it.each([
    [undefined, null], ['bytes=0-', { from: 0, to: 99 }], ['bytes=10-19', { from: 10, to: 19 }], ['bytes=90-400', { from: 90, to: 99 }], ['bytes=-5', { from: 95, to: 99 }], ['bytes=-500', { from: 0, to: 99 }],
    ['bytes=-', null], ['items=0-1', null], ['bytes=0-1,5-6', null],
  ])('%s', (header, wanted) => expect(site.rangeOf(header, 100)).toEqual(wanted))
  it.each(['bytes=100-', 'bytes=20-10'])('%s cannot be had', header => expect(() => site.rangeOf(header, 100)).toThrowError(refused(416)))
})
