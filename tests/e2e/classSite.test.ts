import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { freePort, startApp, type Running } from '../support/browser'
import { filesOnClassSite } from '../support/staticSite'

/** Two servers over one storage, Debian's Redis: each serves what the other was given, also while it changes. */
const folder = mkdtempSync(join(tmpdir(), 'orthograph-redis-'))
let redis: ChildProcess
let port = 0
let servers: Running[] = []
beforeAll(async () => {
  port = await freePort()
  redis = spawn('redis-server', ['--port', String(port), '--bind', '127.0.0.1', '--dir', folder, '--save', ''], {
    stdio: 'ignore',
  })
  const env = { CLASS_SITE_STORAGE: `redis://127.0.0.1:${port}` }
  servers = [await startApp({ demo: false, env }), await startApp({ demo: false, env })]
})
afterAll(() => {
  for (const server of servers) server.stop()
  redis?.kill()
  rmSync(folder, { recursive: true, force: true })
})

/** The link of a publication at another server. */
async function linkAt(server: Running, id: string, auth: Record<string, string>) {
  const state = await fetch(`${server.origin}/api/class-site/${id}`, { headers: auth })
  return (await state.json()) as { link: string; current: string }
}

describe('two servers over one storage', () => {
  it('serve one publication, by ranges, while it is updated by either; no request fails', async () => {
    const [one, two] = servers as [Running, Running]
    const video = randomBytes(3_000_000)
    const made = await filesOnClassSite(
      one,
      new Map([
        ['index.html', Buffer.from('version 1')],
        ['a.mp4', video],
      ]),
    )
    const other = await linkAt(two, made.id, made.auth)
    expect(other.current).toBe(made.version)
    expect(other.link).not.toBe(made.link)
    let reading = true
    const failed: number[] = []
    const seen = new Set<string>()
    let ranges = 0
    const students = Array.from({ length: 8 }, async (_, i) => {
      for (let n = 0; reading; n++) {
        const link = (i + n) % 2 ? made.link : other.link
        const from = Math.floor(((i * 37 + n * 101) % 100) * 29_000)
        const range = await fetch(`${link}a.mp4`, { headers: { range: `bytes=${from}-${from + 9999}` } })
        const bytes = Buffer.from(await range.arrayBuffer())
        if (range.status !== 206 || !bytes.equals(video.subarray(from, from + 10_000))) failed.push(range.status)
        const page = await fetch(link)
        if (!page.ok) failed.push(page.status)
        seen.add(await page.text())
        ranges++
      }
    })
    let last = made.version
    for (let version = 2; version <= 6; version++) {
      const at = version % 2 ? one : two
      last = (
        await filesOnClassSite(
          at,
          new Map([
            ['index.html', Buffer.from(`version ${version}`)],
            ['a.mp4', video],
          ]),
          { ...made, version: last },
        )
      ).version
      // Both give the new one at once.
      for (const link of [made.link, other.link]) expect(await (await fetch(link)).text()).toBe(`version ${version}`)
    }
    reading = false
    await Promise.all(students)
    expect(failed).toEqual([])
    expect(ranges).toBeGreaterThan(50)
    expect([...seen].every(text => /^version [1-6]$/.test(text))).toBe(true)
  })
  it('a storage that is away is told, and nothing is lost when it is back', async () => {
    const [one] = servers as [Running]
    const made = await filesOnClassSite(one, new Map([['index.html', Buffer.from('stays')]]))
    redis.kill('SIGSTOP')
    const away = await Promise.race([
      fetch(made.link).then(r => r.status),
      new Promise(r => setTimeout(() => r('waits'), 1500)),
    ])
    redis.kill('SIGCONT')
    expect([500, 'waits']).toContain(away)
    expect(await (await fetch(made.link)).text()).toBe('stays')
  })
  it('a storage without room is told as such, students keep what they have, and it goes on where there is room again', async () => {
    const [one] = servers as [Running]
    const made = await filesOnClassSite(one, new Map([['index.html', Buffer.from('had')]]))
    const room = (bytes: string) =>
      execFileSync('redis-cli', ['-p', String(port), 'config', 'set', 'maxmemory', bytes], { stdio: 'ignore' })
    const next = () => filesOnClassSite(one, new Map([['index.html', Buffer.from('next')]]), made)
    room('1')
    await expect(next()).rejects.toThrow('507')
    expect(await (await fetch(made.link)).text()).toBe('had')
    room('0')
    await next()
    expect(await (await fetch(made.link)).text()).toBe('next')
  })
})
