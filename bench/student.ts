import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { deflateRawSync } from 'node:zlib'
import type { Browser, Page } from 'puppeteer-core'
import { editionOf } from '../core/edition'
import { encodeLesson, lessonOf } from '../core/lesson'
import { openPage, putOnShelf } from '../tests/support/browser'
import { madeSiteIn, serveStatic } from '../tests/support/staticSite'
import { hourFolio } from './hour'
import { makeLesson } from './lesson'

/** Bytes a second of speech at 32 kbit/s. */
const SPEECH = 4000
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))

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

/** The processor is so many times slower than it is, as a phone's is. */
const SLOWED = 4
const ROUNDS = 5
/** Animation frames a second, over six of them. */
const COUNT = `(async () => {
  let n = 0
  const began = performance.now()
  while (performance.now() - began < 6000) { await new Promise(requestAnimationFrame); n++ }
  return (n * 1000) / (performance.now() - began)
})()`

interface Site {
  folder: string
  /** Bytes of the lessons' data, of pictures under their ink, and of their sounds. */
  lessons: number
  pictures: number
  sound: number
  /** From the press until the file is there, s. */
  made: number
}

/** Makes the student page of the folio that is open on Publish, and lays it out as a host does. */
async function madeSite(browser: Browser, page: Page): Promise<Site> {
  const folder = mkdtempSync(join(tmpdir(), 'orthograph-bench-student-'))
  const { sizes, made } = await madeSiteIn(join(folder, 'site'), browser, page)
  const html = readFileSync(join(folder, 'site/index.html'), 'utf8')
  const lessons = [...html.matchAll(/orthograph-lesson">([^<]+)</g)].map(m => Buffer.from(m[1]!, 'base64').length)
  const sum = (of: string) => [...sizes].reduce((n, [name, size]) => n + (name.startsWith(of) ? size : 0), 0)
  // Questions that sound alike have one file; each has its length of it.
  const sounds = [...html.matchAll(/data-sound="([^"]+)"/g)].map(m => sizes.get(m[1]!) ?? 0)
  const total = (all: number[]) => all.reduce((a, b) => a + b, 0)
  return { folder, made, lessons: total(lessons), pictures: sum('pictures/'), sound: total(sounds) }
}

/** How a page runs for a student. */
async function used(browser: Browser, { folder }: Site) {
  const site = serveStatic(join(folder, 'site'))
  const at = `${site.origin}/`
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
  const jumps = (await page.evaluate(`(async () => {
    const at = document.querySelector('#q1 .at')
    const all = []
    for (let i = 0; i < 40; i++) {
      at.value = String((i * 7919) % Number(at.max))
      const began = performance.now()
      at.dispatchEvent(new Event('input'))
      // Drawn, and given to the screen.
      await new Promise(r => requestAnimationFrame(() => setTimeout(r)))
      all.push(performance.now() - began)
    }
    return all
  })()`)) as number[]
  const session = await page.createCDPSession()
  await session.send('Emulation.setCPUThrottlingRate', { rate: SLOWED })
  const frames: number[] = []
  const bare: number[] = []
  for (let round = 0; round < ROUNDS; round++) {
    await page.evaluate(`(async () => {
      const at = document.querySelector('#q1 .at')
      at.value = '15000'
      at.dispatchEvent(new Event('input'))
      document.querySelector('#q1 .play').click()
      await new Promise(r => setTimeout(r, 1500))
    })()`)
    frames.push((await page.evaluate(COUNT)) as number)
    await page.evaluate(`document.querySelector('#q1 .play').click()`)
    bare.push((await page.evaluate(COUNT)) as number)
  }
  await page.close()
  site.close()
  return { first, jumps, frames, bare }
}

/**
 * A phone on a slow line: 400 kbit/s, 400 ms, a processor six times slower.
 * @returns seconds until the first picture with its controls, and from then until the first sound, and bytes until then
 */
async function onSlowLine(browser: Browser, { folder }: Site) {
  const site = serveStatic(join(folder, 'site'), true)
  const page = await openPage(browser, `${site.origin}/`)
  await page.setViewport({ width: 390, height: 844, deviceScaleFactor: 3, isMobile: true, hasTouch: true })
  const session = await page.createCDPSession()
  await session.send('Network.enable')
  let bytes = 0
  session.on('Network.dataReceived', e => (bytes += e.encodedDataLength))
  const speed = { downloadThroughput: 50_000, uploadThroughput: 50_000, latency: 400 }
  await session.send('Network.emulateNetworkConditions', { offline: false, ...speed })
  await session.send('Emulation.setCPUThrottlingRate', { rate: 6 })
  const began = performance.now()
  const since = () => (performance.now() - began) / 1000
  // Other questions are still coming when the first can be seen.
  const whole = page.goto(`${site.origin}/`)
  await page.waitForFunction(() => {
    const board = document.querySelector<HTMLCanvasElement>('#q1 canvas.board')
    return board && board.width > 0 && document.querySelector('#q1 .play')!.getBoundingClientRect().height > 0
  })
  const picture = since()
  const before = bytes
  await page.evaluate(() => document.querySelector<HTMLElement>('#q1 .play')!.click())
  await page.waitForFunction(() => Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) > 0)
  const sound = since()
  await whole
  await page.close()
  site.close()
  return { picture, sound, before }
}

/** The sample's student page, made in the application as soon as Publish is open, then used as a student does. */
export async function samplePage(browser: Browser, origin: string) {
  const page = await openPage(browser, origin)
  await page.goto(origin)
  await page.waitForSelector('[data-part=folio] canvas')
  await page.goto(`${origin}/folio/balloon-day/publish`)
  await page.waitForFunction(() => document.body.textContent!.includes('Student page as a zip'))
  await wait(300)
  const site = await madeSite(browser, page)
  await page.close()
  const run = await used(browser, site)
  const slow = await onSlowLine(browser, site)
  rmSync(site.folder, { recursive: true, force: true })
  return { ...site, ...run, slow }
}

/** The page of 20 questions and 60 minutes: with sounds that were made ahead, and at once. */
/** Opens the folio of an hour on Publish. */
export async function openHour(browser: Browser, origin: string) {
  const { title, file, originals } = await hourFolio()
  const page = await openPage(browser, origin)
  await page.goto(origin)
  await page.waitForSelector('#new-title')
  await putOnShelf(page, file, 180_000)
  const id = await page.waitForFunction(
    t =>
      [...document.querySelectorAll<HTMLAnchorElement>('a[href*="/folio/"]')]
        .find(a => a.closest('[data-part=folio]')?.textContent?.includes(t))
        ?.getAttribute('href')
        ?.match(/folio\/([^/]+)/)?.[1],
    { timeout: 180_000 },
    title,
  )
  await page.goto(`${origin}/folio/${(await id.jsonValue()) as string}/publish`)
  await page.waitForFunction(() => document.body.textContent!.includes('Student page as a zip'))
  return { page, originals }
}

export async function hourPage(browser: Browser, origin: string) {
  const { page } = await openHour(browser, origin)
  const cold = await madeSite(browser, page)
  const again = await madeSite(browser, page)
  await page.close()
  const run = await used(browser, again)
  rmSync(cold.folder, { recursive: true, force: true })
  rmSync(again.folder, { recursive: true, force: true })
  return { ...again, cold: cold.made, ahead: again.made, ...run }
}
