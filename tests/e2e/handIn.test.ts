import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decodeLesson, fromBase64, inflated, type Explanation, type Stuck } from '../../core/lesson'
import { openPage, see, type Running } from '../support/browser'
import { closeDemo, openDemo, seededFolio } from '../support/demo'
import { Downloads } from '../support/downloads'
import { soundOf } from '../support/media'
import { madeSiteIn, serveStatic } from '../support/staticSite'

/** What students hand in, from the page where it is made to the board where the teacher sees it. */
const root = mkdtempSync(join(tmpdir(), 'orthograph-hand-in-'))
let app: Running
let browser: Browser & { profile: string }
let site: ReturnType<typeof serveStatic>
let teacher: Page & { faults: string[] }
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))

beforeAll(async () => {
  ;({ app, browser, page: teacher } = await openDemo('three'))
  await teacher.goto(`${app.origin}/folio/balloon-day/publish`)
  await teacher.waitForFunction(() => document.body.textContent!.includes('Student page as a zip'))
  await madeSiteIn(join(root, 'site'), browser, teacher)
  site = serveStatic(join(root, 'site'))
})
afterAll(async () => {
  site?.close()
  await closeDemo(app, browser)
  rmSync(root, { recursive: true, force: true })
})

/** A microphone that clicks each second; `clicks` are the machine times at which it does, `touched` those of the pen. */
async function student(microphone: 'clicks' | 'refused' = 'clicks') {
  const page = await openPage(browser, site.origin)
  await page.evaluateOnNewDocument(kind => {
    const noted = { clicks: [] as number[], touched: [] as number[] }
    Object.assign(window, { noted })
    addEventListener('pointerdown', e => noted.touched.push(e.timeStamp), true)
    navigator.mediaDevices.getUserMedia = async () => {
      if (kind === 'refused') throw new DOMException('no', 'NotAllowedError')
      const context = new AudioContext()
      await context.resume()
      const to = context.createMediaStreamDestination()
      for (let k = 0; k < 20; k++) {
        const tone = context.createOscillator()
        tone.frequency.value = 1000
        const at = context.currentTime + 0.7 + k
        noted.clicks.push(performance.now() + 700 + k * 1000)
        tone.connect(to)
        tone.start(at)
        tone.stop(at + 0.03)
      }
      return to.stream
    }
  }, microphone)
  await page.goto(`${site.origin}/`)
  await page.waitForSelector('#q1 .stage:not([hidden])')
  await page.$eval('#q1 .explain', d => ((d as HTMLDetailsElement).open = true))
  await page.waitForSelector('#q1 .explain canvas.board')
  return page
}
/** It glides there. */
async function inSight(page: Page) {
  await page.$eval('#q1 .explain .stage', s => s.scrollIntoView({ block: 'center' }))
  await wait(800)
}
async function write(page: Page, y: number) {
  const box = (await (await page.$('#q1 .explain canvas.own'))!.boundingBox())!
  await page.mouse.move(box.x + 60, box.y + box.height * y)
  await page.mouse.down()
  await page.mouse.move(box.x + 260, box.y + box.height * y, { steps: 8 })
  await page.mouse.up()
}
const click = (page: Page, selector: string) => page.$eval(selector, b => (b as HTMLElement).click())
const saidAt = (page: Page) => page.$eval('#q1 .explain .done', d => d.textContent)
async function saved<T>(page: Page, button: string): Promise<{ file: string; handIn: T }> {
  const downloads = await Downloads.into(browser, root)
  const file = await downloads.after(() => click(page, button))
  return { file, handIn: JSON.parse(readFileSync(file, 'utf8')) as T }
}
async function handOver(...files: string[]) {
  // A tab that is not in front draws nothing.
  await teacher.bringToFront()
  const field = (await teacher.$('[data-part=hand-ins] input')) as ElementHandle<HTMLInputElement>
  await field.uploadFile(...files)
}
const lessonOf = async ({ data }: Explanation) => decodeLesson(await inflated(fromBase64(data)))

describe('an explanation of her own', () => {
  it('is recorded, heard, saved, and played beside the question; ink and voice are 40 ms apart at most', async () => {
    const page = await student()
    await inSight(page)
    await click(page, '#q1 .explain .record')
    await page.waitForFunction(() => document.querySelector('#q1 .explain .record')!.textContent === 'Stop')
    await wait(900)
    await write(page, 0.6)
    await wait(300)
    await write(page, 0.7)
    await click(page, '#q1 .explain .undo')
    await wait(1800)
    await click(page, '#q1 .explain .record')
    await page.waitForSelector('#q1 .explain .after:not([hidden])')
    await click(page, '#q1 .explain .listen')
    await page.waitForFunction(() => document.querySelector('#q1 .explain .listen')!.textContent === 'Pause')
    await page.waitForFunction(() => document.querySelector('#q1 .explain .at-mine')!.textContent === '0:01')
    await page.type('#q1 .explain .by', 'Ada')
    const { file, handIn } = await saved<Explanation>(page, '#q1 .explain .save')
    expect(handIn).toMatchObject({ by: 'Ada', question: 'question-1', number: '1', version: 1 })
    const lesson = await lessonOf(handIn)
    expect(lesson.events.map(e => e.type)).toEqual(['stroke', 'stroke', 'erase'])

    // Her strokes say when the recording began by the machine's clock; the clicks then lie in the sound where they sounded.
    const noted = await page.evaluate(
      () => (window as unknown as { noted: { clicks: number[]; touched: number[] } }).noted,
    )
    const stroke = lesson.events[0] as { points: number[] }
    const touched = noted.touched.find(t => noted.touched.length && Math.abs(t - noted.touched[0]!) < 1)!
    const began = touched - stroke.points[3]!
    const voice = join(root, 'voice.webm')
    writeFileSync(voice, Buffer.from(handIn.sound!.data, 'base64'))
    const pcm = soundOf(voice)
    const heard: number[] = []
    for (let i = 0; i < pcm.length; i++)
      if (Math.abs(pcm[i]!) > 6000 && i / 48 - (heard.at(-1) ?? -500) > 500) heard.push(i / 48)
    expect(heard.length).toBeGreaterThan(1)
    for (const at of heard.slice(1)) {
      const off = Math.min(...noted.clicks.map(c => Math.abs(c - began - at)))
      expect(off, JSON.stringify({ heard, clicks: noted.clicks.map(c => Math.round(c - began)) })).toBeLessThan(40)
    }

    await handOver(file)
    await see(teacher, 'Explained by Ada')
    await teacher.$$eval('[role=dialog] button', all =>
      (all.find(b => b.textContent!.includes('Play')) as HTMLElement).click(),
    )
    await teacher.waitForFunction(
      () => Number(document.querySelector<HTMLElement>('[data-part=explained-time]')!.dataset.ms) > 600,
    )
    await teacher.keyboard.press('Escape')
    expect(page.faults).toEqual([])
    await page.close()
  })

  it('goes without a voice where the microphone is refused, and says so', async () => {
    const page = await student('refused')
    await inSight(page)
    await click(page, '#q1 .explain .record')
    await page.waitForFunction(() => document.querySelector('#q1 .explain .record')!.textContent === 'Stop')
    expect(await saidAt(page)).toContain('microphone cannot be used')
    await write(page, 0.5)
    await click(page, '#q1 .explain .rest')
    await wait(700)
    await click(page, '#q1 .explain .rest')
    await write(page, 0.6)
    await click(page, '#q1 .explain .record')
    await page.waitForSelector('#q1 .explain .after:not([hidden])')
    const { handIn } = await saved<Explanation>(page, '#q1 .explain .save')
    const { events, duration } = await lessonOf(handIn)
    expect(handIn.sound).toBeNull()
    // What lies between is not the time for which it rested.
    const [a, b] = events.map(e => e.t) as [number, number]
    expect(b - a).toBeLessThan(650)
    expect(duration).toBeGreaterThanOrEqual(b)
    await page.close()
  })
})

describe('where she is stuck', () => {
  it('is a file that opens at its moment, with what she wrote, and leads to Proof there', async () => {
    const page = await student()
    await page.$eval('.strip a[data-of=q2]', a => (a as HTMLElement).click())
    await page.waitForSelector('#q2 .stage:not([hidden])')
    await page.$eval('#q2 .at', e => {
      ;(e as HTMLInputElement).value = '4000'
      e.dispatchEvent(new Event('input'))
    })
    await page.$eval('#q2 .stuck', d => ((d as HTMLDetailsElement).open = true))
    await page.type('#q2 .stuck textarea', 'Why? <script>alert(1)</script> \u202Edrow 😀')
    const { file, handIn } = await saved<Stuck>(page, '#q2 .stuck .save')
    expect(handIn).toMatchObject({ t: 4000, question: 'question-2' })
    const { takes } = await seededFolio('three')
    const { box } = takes.find(t => t.take.questionId === 'question-2')!.take.frame
    const [x, y] = [box.x + box.w / 2, box.y + box.h / 2]
    const inked = join(root, 'inked.json')
    writeFileSync(inked, JSON.stringify({ ...handIn, attempt: [[x, y, 0.5, 0, x + 60, y, 0.5, 80]] }))
    const broken = join(root, 'broken.json')
    writeFileSync(broken, readFileSync(file, 'utf8').slice(0, 80))
    const elsewhere = join(root, 'elsewhere.json')
    writeFileSync(elsewhere, JSON.stringify({ ...handIn, lesson: 'other' }))
    await handOver(broken, elsewhere, inked)
    await see(teacher, 'broken.json cannot be read')
    await see(teacher, 'elsewhere.json belongs to another folio')
    await see(teacher, 'Why? <script>')
    const violet = await teacher.$eval('[data-part=stuck-picture]', async i => {
      const image = i as HTMLImageElement
      await image.decode()
      const canvas = Object.assign(document.createElement('canvas'), { width: 1600, height: 900 })
      const context = canvas.getContext('2d')!
      context.drawImage(image, 0, 0)
      const { data } = context.getImageData(0, 0, 1600, 900)
      let n = 0
      for (let k = 0; k < data.length; k += 4)
        if (Math.abs(data[k]! - 122) < 12 && Math.abs(data[k + 1]! - 47) < 12 && Math.abs(data[k + 2]! - 138) < 12) n++
      return n
    })
    expect(violet).toBeGreaterThan(300)
    await teacher.$$eval('[role=dialog] a', all =>
      (all.find(a => a.textContent!.includes('Go there in Proof')) as HTMLElement).click(),
    )
    await teacher.waitForFunction(
      () => Number(document.querySelector<HTMLElement>('[data-part=proof-time]')?.dataset.ms) === 4000,
    )
    expect(teacher.faults).toEqual([])
    expect(page.faults).toEqual([])
    await page.close()
  })
})
