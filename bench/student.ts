import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { dirname, extname, join } from 'node:path'
import { deflateRawSync } from 'node:zlib'
import type { Browser } from 'puppeteer-core'
import { editionOf } from '../core/edition'
import { openArchive } from '../core/folio/archive'
import { encodeLesson, lessonOf } from '../core/lesson'
import { openPage, press } from '../tests/support/browser'
import { Downloads } from '../tests/support/downloads'
import { makeLesson } from './lesson'

const MIME: Record<string, string> = { '.html': 'text/html', '.webp': 'image/webp', '.m4a': 'audio/mp4' }
/** Bytes a second of speech at 32 kbit/s. */
const SPEECH = 4000

/** Of a lesson of 60 minutes and 100,000 points, the bytes beside its sound, as a share of those. */
export function longLessonShare(): number {
  const made = makeLesson(60, 100_000, 3.5)
  const frame = { pageId: made.page.id, box: made.frame }
  const take = { durationMs: made.durationMs, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame }
  const edition = editionOf({ take, events: made.events, ledger: made.ledger, pages: [] })
  const view = { frame, page: made.page, pictures: [] }
  const data = deflateRawSync(encodeLesson(lessonOf(edition, { views: [view], documents: [], sound: null })))
  return data.length / ((made.durationMs / 1000) * SPEECH)
}

/** The sample's student page, made in the application, then used as a student does. */
export async function studentPage(browser: Browser, origin: string) {
  const folder = mkdtempSync(join(tmpdir(), 'orthograph-bench-student-'))
  const page = await openPage(browser, origin)
  await page.goto(origin)
  await page.waitForSelector('[data-part=folio] canvas')
  await page.goto(`${origin}/folio/balloon-day/publish`)
  await page.waitForFunction(() => document.body.textContent!.includes('Student page as a zip'))
  await new Promise(r => setTimeout(r, 1500))
  const downloads = await Downloads.into(browser, folder)
  const began = performance.now()
  const zip = await downloads.after(() => press(page, 'Student page as a zip'), 120_000)
  const made = (performance.now() - began) / 1000
  await page.close()
  const archive = await openArchive(new Blob([new Uint8Array(readFileSync(zip))]), zip)
  const sizes = new Map<string, number>()
  for (const name of archive.names) {
    const path = join(folder, 'site', name)
    mkdirSync(dirname(path), { recursive: true })
    const data = new Uint8Array(await (await archive.blob(name, '')).arrayBuffer())
    writeFileSync(path, data)
    sizes.set(name, data.length)
  }
  const html = readFileSync(join(folder, 'site/index.html'), 'utf8')
  const lessons = [...html.matchAll(/orthograph-lesson">([^<]+)</g)].map(m => Buffer.from(m[1]!, 'base64'))
  const sum = (of: (name: string) => boolean) => [...sizes].reduce((n, [name, size]) => n + (of(name) ? size : 0), 0)
  const sound = sum(n => n.startsWith('sound/'))
  const ink = lessons.reduce((n, l) => n + l.length, 0)
  const pictures = sum(n => n.startsWith('pictures/'))
  const used = await asStudent(browser, join(folder, 'site'))
  rmSync(folder, { recursive: true, force: true })
  return { made, sound, ink, pictures, ...used }
}

async function asStudent(browser: Browser, site: string) {
  const server = createServer((request, response) => {
    const path = decodeURIComponent(new URL(request.url!, 'http://x').pathname)
    const file = path === '/' ? '/index.html' : path
    try {
      const data = readFileSync(join(site, file))
      response.writeHead(200, { 'Content-Type': MIME[extname(file)] ?? 'application/octet-stream' }).end(data)
    } catch {
      response.writeHead(404).end()
    }
  }).listen(0)
  const at = `http://localhost:${(server.address() as AddressInfo).port}/`
  const first: number[] = []
  for (let i = 0; i < 5; i++) {
    const page = await openPage(browser, at)
    await page.setCacheEnabled(false)
    const began = performance.now()
    await page.goto(at, { waitUntil: 'domcontentloaded' })
    await page.waitForSelector('#q1 .stage:not([hidden])')
    await page.evaluate(() => document.querySelector<HTMLElement>('#q1 .play')!.click())
    await page.waitForFunction(() => Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) > 0, {
      polling: 'raf',
    })
    first.push((performance.now() - began) / 1000)
    await page.close()
  }
  const page = await openPage(browser, at)
  await page.setViewport({ width: 390, height: 844, deviceScaleFactor: 2 })
  await page.goto(at)
  await page.waitForSelector('#q1 .stage:not([hidden])')
  const jumps = (await page.evaluate(`(() => {
    const at = document.querySelector('#q1 .at')
    return Array.from({ length: 40 }, (_, i) => {
      at.value = String((i * 7919) % Number(at.max))
      const began = performance.now()
      at.dispatchEvent(new Event('input'))
      return new Promise(r => requestAnimationFrame(() => r(performance.now() - began)))
    }).reduce(async (all, one) => [...(await all), await one], Promise.resolve([]))
  })()`)) as number[]
  const session = await page.createCDPSession()
  await session.send('Emulation.setCPUThrottlingRate', { rate: 4 })
  const frames = (await page.evaluate(`(async () => {
    const at = document.querySelector('#q1 .at')
    at.value = '15000'
    at.dispatchEvent(new Event('input'))
    document.querySelector('#q1 .play').click()
    await new Promise(r => setTimeout(r, 1500))
    let n = 0
    const began = performance.now()
    while (performance.now() - began < 8000) { await new Promise(requestAnimationFrame); n++ }
    return (n * 1000) / (performance.now() - began)
  })()`)) as number
  await page.close()
  server.close()
  return { first, jumps, frames }
}
