import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { HtmlValidate } from 'html-validate'
import type { Browser, HTTPRequest, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { editionOf, type Edition } from '../../core/edition'
import { seededRandom } from '../../core/ink'
import { exportFolio } from '../../scripts/export'
import { openPage, press, type Running } from '../support/browser'
import { closeDemo, openDemo, seededFolio } from '../support/demo'
import { lag, likeness, pictureTimes, soundOf, thinned } from '../support/media'
import { onClassSite, serveStatic } from '../support/staticSite'

/** The student page as a student has it, against what nobody here wrote: ffmpeg, poppler, axe, a validator of HTML. */
const root = mkdtempSync(join(tmpdir(), 'orthograph-student-'))
const site = join(root, 'site')
let app: Running
let browser: Browser & { profile: string }
let server: ReturnType<typeof serveStatic> | undefined
let origin: string
let classSite: string
const voices = new Map<string, Blob>()
const editions: Edition[] = []
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))

beforeAll(async () => {
  let page: Page & { faults: string[] }
  ;({ app, browser, page } = await openDemo('three'))
  await exportFolio(page, browser, app.origin, { out: root, container: 'mp4', without: ['The whole folio'] })
  await page.close()
  const { folio, takes } = await seededFolio('three')
  for (const q of folio.questions) {
    const take = takes.find(t => t.take.id === q.ledger?.takeId)
    if (take) editions.push(editionOf({ ...take, ledger: q.ledger!, pages: folio.pages }))
  }
  classSite = await onClassSite(app, site)
  for (const { take, sound } of takes) voices.set(take.id, sound!)
  server = serveStatic(site)
  ;({ origin } = server)
})
afterAll(async () => {
  server?.close()
  await closeDemo(app, browser)
  rmSync(root, { recursive: true, force: true })
})

type Host = 'folder' | 'server' | 'class site'
async function student(from: Host = 'server', width = 1280, height = 800, before?: (page: Page) => Promise<unknown>) {
  const at = {
    'folder': pathToFileURL(join(site, 'index.html')).href,
    'server': `${origin}/`,
    'class site': classSite,
  }[from]
  const page = await openPage(browser, from === 'folder' ? 'file://' : new URL(at).origin)
  await before?.(page)
  await page.setViewport({ width, height })
  await page.goto(at)
  await page.evaluate(() => localStorage.clear())
  await page.reload()
  await page.waitForSelector('#q1 .stage:not([hidden])')
  return page
}
/** Brings a question, or what to do next, to the front by its link in the strip. */
const front = (page: Page, of: string) => page.$eval(`.strip a[data-of=${of}]`, a => (a as HTMLElement).click())
const play = (page: Page, q = 'q1') => page.$eval(`#${q} .play`, b => (b as HTMLElement).click())
const seek = (page: Page, ms: number, q = 'q1') =>
  page.$eval(
    `#${q} .at`,
    (at, t) => {
      ;(at as HTMLInputElement).value = String(t)
      at.dispatchEvent(new Event('input'))
    },
    Math.round(ms),
  )
const reached = (page: Page, ms: number, q = 'q1') =>
  page.waitForFunction(
    (id: string, t: number) => Number(document.getElementById(id)!.dataset.ms) >= t,
    {},
    q,
    Math.round(ms),
  )
const now = (page: Page, q = 'q1') => page.$eval(`#${q}`, s => Number((s as HTMLElement).dataset.ms))
const shut = async (page: Page & { faults: string[] }) => {
  expect(page.faults).toEqual([])
  await page.close()
}

describe('the replay', () => {
  it('shows at any moment what the video shows (six moments a question, by ffmpeg)', async () => {
    const page = await student()
    const random = seededRandom(1520)
    for (const [i, edition] of editions.entries()) {
      const id = `q${i + 1}`
      const video = join(
        site,
        await page.$eval(`#${id} a.download`, a => decodeURIComponent(new URL((a as HTMLAnchorElement).href).pathname)),
      )
      const times = pictureTimes(video)
      await front(page, id)
      await page.waitForSelector(`#${id} .stage:not([hidden])`)
      await wait(500)
      for (let n = 0; n < 6; n++) {
        // A moment of which the video has a picture; where the student is to try, the page has a card of its own.
        const asks = (t: number) => edition.turns().some(u => t > u.t - 200 && t < u.to + 200)
        let t = 0
        do t = times[Math.floor(random() * times.length)]! * 1000
        while (asks(t) || t > edition.duration - 50)
        const data = await page.evaluate(
          async (name: string, ms: number) => {
            const section = document.getElementById(name)!
            const at = section.querySelector<HTMLInputElement>('.at')!
            at.value = String(ms)
            at.dispatchEvent(new Event('input'))
            await new Promise(r => requestAnimationFrame(() => requestAnimationFrame(r)))
            const box = section.querySelector('canvas.board')!.getBoundingClientRect()
            return [box.x + scrollX, box.y + scrollY, box.width, box.height]
          },
          id,
          Math.round(t),
        )
        const [x, y, w, h] = data as [number, number, number, number]
        const still = join(root, 'still.png')
        writeFileSync(
          still,
          await page.screenshot({ clip: { x, y, width: w, height: h }, captureBeyondViewport: false }),
        )
        const size = { width: Math.round(w), height: Math.round(h) }
        const like = likeness({ video, at: t / 1000 - 0.001 }, still, size)
        expect(like, `${id} at ${t} ms`).toBeGreaterThan(30)
      }
    }
    await shut(page)
  }, 300_000)

  it('plays sound that lies where it was recorded (every stretch correlated with the take), and takes few bytes', async () => {
    const html = readFileSync(join(site, 'index.html'), 'utf8')
    const sounds = [...html.matchAll(/data-sound="([^"]+)"/g)].map(m => join(site, m[1]!))
    expect(sounds).toHaveLength(editions.length)
    let stretches = 0
    for (const [i, file] of sounds.entries()) {
      const edition = editions[i]!
      expect(readFileSync(file).length / (edition.duration / 1000)).toBeLessThan(4600)
      const heard = thinned(soundOf(file))
      const voice = join(root, 'voice.ogg')
      for (const { at, ms, take, from } of edition.soundPlan()) {
        if (from === null || ms < 500) continue
        writeFileSync(voice, new Uint8Array(await voices.get(take)!.arrayBuffer()))
        const own = thinned(soundOf(voice))
        // A second of every three.
        for (let t = 60; t + 1060 < ms; t += 3000) {
          const off = lag(own, from + t, heard, at + t, 1000)
          if (off === null) continue
          stretches++
          expect(Math.abs(off), `question ${i + 1} at ${at + t} ms`).toBeLessThanOrEqual(10)
        }
      }
    }
    expect(stretches).toBeGreaterThan(5)
  })

  it('shows the ink of the moment that is heard, 40 ms apart at most, at every speed and the same pitch', async () => {
    const page = await student('server', 1280, 800, p =>
      p.evaluateOnNewDocument(() => {
        // Its sounds stand nowhere in the page.
        const sounds: HTMLAudioElement[] = []
        Object.assign(window, { heard: () => sounds.find(a => !a.paused) })
        window.Audio = class extends Audio {
          constructor(src?: string) {
            super(src)
            sounds.push(this)
          }
        } as typeof Audio
      }),
    )
    await page.click('#q1 .play')
    const speeds = await page.$$eval('#q1 .speed option', all => all.map(o => (o as HTMLOptionElement).value))
    expect(speeds.length).toBeGreaterThan(6)
    for (const speed of speeds) {
      await page.select('#q1 .speed', speed)
      const seen = await page.evaluate(async () => {
        const heard = (window as unknown as { heard(): HTMLAudioElement }).heard()
        const section = document.querySelector<HTMLElement>('#q1')!
        const apart: number[] = []
        const watch = new MutationObserver(() => apart.push(Number(section.dataset.ms) - heard.currentTime * 1000))
        heard.currentTime = 2
        await new Promise(r => setTimeout(r, 300))
        watch.observe(section, { attributeFilter: ['data-ms'] })
        const [from, began] = [heard.currentTime, performance.now()]
        await new Promise(r => setTimeout(r, 1200))
        watch.disconnect()
        const rate = ((heard.currentTime - from) * 1000) / (performance.now() - began)
        return { apart, rate, pitch: heard.preservesPitch }
      })
      expect(seen.apart.length, speed).toBeGreaterThan(4)
      expect(Math.max(...seen.apart.map(Math.abs)), `apart at ${speed}`).toBeLessThanOrEqual(40)
      expect(Math.abs(seen.rate / Number(speed) - 1), `rate at ${speed}`).toBeLessThan(0.12)
      expect(seen.pitch).toBe(true)
    }
    await page.close()
  })

  it.each(['folder', 'server', 'class site'] as const)(
    'plays, jumps, follows the steps and keeps what she chose (from the %s)',
    async from => {
      const page = await student(from)
      await page.click('#q1 .play')
      await page.waitForFunction(() => Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) > 600)
      expect(await page.$eval('#q1 .play', b => b.getAttribute('aria-label'))).toBe('Pause question 1')
      await page.click('#q1 .steps li:nth-child(3) button')
      const to = editions[0]!.chapters()[2]!.t
      await page.waitForFunction(
        (t: number) => Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) >= t,
        {},
        to,
      )
      expect(await page.$eval('#q1 .steps li:nth-child(3) button', b => b.getAttribute('aria-current'))).toBe('true')
      await page.click('#q1 .play')
      await page.select('#q1 .speed', '1.5')
      await page.click('#q1 .captions')
      expect(await page.$eval('#q1 .cc', c => c.textContent!.length)).toBeGreaterThan(3)
      await page.reload()
      expect(await page.$eval('#q3 .speed', s => (s as HTMLSelectElement).value)).toBe('1.5')
      expect(await page.$eval('#q3 .captions', c => c.getAttribute('aria-pressed'))).toBe('true')
      expect(await page.$eval('#go-on', b => (b as HTMLElement).hidden)).toBe(false)
      await shut(page)
    },
  )

  it('is worked by keys alone', async () => {
    const page = await student()
    await page.keyboard.press('Space')
    await page.waitForFunction(() => Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) > 300)
    await page.keyboard.press('Space')
    const at = await now(page)
    await page.keyboard.press('ArrowRight')
    await page.waitForFunction(
      (t: number) => Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) > t + 4000,
      {},
      at,
    )
    await page.keyboard.press('/')
    await page.keyboard.type('bottle holds')
    await page.waitForFunction(() => document.querySelectorAll('#hits li').length > 0)
    await page.keyboard.press('Tab')
    await page.keyboard.press('Tab')
    await page.keyboard.press('Enter')
    await page.waitForFunction(() => document.querySelector('#q3 .stage:not([hidden])'))
    await shut(page)
  })

  it('follows the ink on a phone, goes closer by touch, and fits', async () => {
    for (const width of [360, 390, 768]) {
      const page = await student('server', width, 800)
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width)
      if (width === 390) {
        await page.click('#q1 .steps li:nth-child(2) button')
        await page.waitForSelector('#q1 .whole:not([hidden])')
        await page.click('#q1 .whole')
        await page.waitForSelector('#q1 .whole[hidden]')
      }
      await shut(page)
    }
  })

  it('is pinched, dragged and tapped back by touch; turned, it still fits; full screen is as large as the screen', async () => {
    const page = await student('server', 390, 800, p =>
      p.setViewport({ width: 390, height: 800, hasTouch: true, isMobile: true }),
    )
    await page.setViewport({ width: 390, height: 800, hasTouch: true, isMobile: true })
    await page.$eval('#q1 .stage', s => s.scrollIntoView({ behavior: 'instant', block: 'center' }))
    const box = (await (await page.$('#q1 canvas.board'))!.boundingBox())!
    const session = await page.createCDPSession()
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]) =>
      session.send('Input.dispatchTouchEvent', {
        type,
        touchPoints: points.map(([px, py], id) => ({ x: px, y: py, id })),
      })
    await touch('touchStart', [x - 20, y], [x + 20, y])
    for (let k = 1; k <= 8; k++) await touch('touchMove', [x - 20 - 8 * k, y], [x + 20 + 8 * k, y])
    await touch('touchEnd')
    await page.waitForSelector('#q1 .whole:not([hidden])')
    await page.click('#q1 .whole')
    await page.waitForSelector('#q1 .whole[hidden]')
    await page.setViewport({ width: 800, height: 390, hasTouch: true, isMobile: true })
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(800)
    await page.click('#q1 .wide')
    await page.waitForFunction(() => document.fullscreenElement || document.querySelector('.screen.filling'))
    const stage = (await (await page.$('#q1 .stage'))!.boundingBox())!
    expect(stage.y + stage.height).toBeLessThanOrEqual(390)
    expect(stage.height).toBeGreaterThan(250)
    await shut(page)
  })

  it('a sound that is still on its way can be played later, and nothing is said of it', async () => {
    let first = ''
    let isHeld = true
    const waiting: HTTPRequest[] = []
    const page = await student('server', 1280, 800, async p => {
      await p.setRequestInterception(true)
      p.on('request', r => {
        if (/\.m4a$/.test(r.url())) first ||= r.url()
        if (isHeld && r.url() === first) waiting.push(r)
        else void r.continue()
      })
    })
    const said = () => page.$$eval('.word', all => all.map(w => w.textContent).join())
    await play(page)
    await front(page, 'q2')
    await page.waitForSelector('#q2 .stage:not([hidden])')
    await play(page, 'q2')
    await reached(page, 300, 'q2')
    expect(await now(page)).toBe(0)
    expect(await said()).not.toContain('cannot be played')
    isHeld = false
    for (const request of waiting) await request.continue().catch(() => {})
    await front(page, 'q1')
    await play(page)
    await reached(page, 300)
    // Left while it plays, it is offered where it was.
    await page.reload()
    await page.waitForSelector('#go-on, #q1 .stage:not([hidden])')
    expect(
      await page.evaluate(() =>
        Object.entries(localStorage).some(([k, v]) => /place/.test(k) && /still-to-climb|question-1/.test(String(v))),
      ),
    ).toBe(true)
    expect(await said()).not.toContain('cannot be played')
    await shut(page)
  })
  it('an address that cannot be read stops nothing', async () => {
    const page = await student()
    await page.goto(`${origin}/#100%`)
    await page.reload()
    await page.waitForSelector('#q1 .stage:not([hidden])')
    await page.$eval('#q1 .play', b => (b as HTMLElement).click())
    await page.waitForFunction(() => Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) > 200)
    await shut(page)
  })
  it('a link leads to its moment', async () => {
    const page = await student()
    await page.goto(`${origin}/#q2&t=2.5`)
    await page.reload()
    await page.waitForFunction(() => document.querySelector<HTMLElement>('#q2')!.dataset.ms === '2500')
    await shut(page)
  })
})

describe('one question in front', () => {
  const SIZES = [
    [360, 640],
    [390, 844],
    [768, 1024],
    [820, 1180],
    [1024, 768],
    [1280, 800],
    [1920, 1080],
    [844, 390],
  ] as const
  /** Picture and controls of the question in front, in the window, and the moment it is at. */
  const inSight = (page: Page) =>
    page.evaluate(() => {
      const section = document.querySelector<HTMLElement>('section.question.front')!
      const [board, row] = ['.stage', '.controls .play'].map(of => section.querySelector(of)!.getBoundingClientRect())
      return {
        at: section.id,
        ms: Number(section.dataset.ms),
        isSeen: board!.top >= -1 && row!.bottom <= innerHeight + 1 && board!.width > 250,
        isWide: document.documentElement.scrollWidth > innerWidth,
      }
    })

  it('a jump ends where it says, picture and controls in sight, at every width (strip, address, search, steps)', async () => {
    for (const [width, height] of SIZES) {
      const page = await student('server', width, height)
      const where = `at ${width} × ${height}`
      for (const [i, edition] of editions.entries()) {
        const q = `q${i + 1}`
        // From anywhere on the page.
        await page.evaluate(() => scrollTo(0, document.documentElement.scrollHeight))
        await front(page, q)
        expect(await inSight(page), where).toMatchObject({ at: q, isSeen: true, isWide: false })
        const t = Math.round(edition.duration * 0.6)
        await page.evaluate(
          address => {
            location.hash = address
          },
          `#q${i + 1}&t=${t / 1000}`,
        )
        await page.waitForFunction(
          (id: string, ms: number) => Math.abs(Number(document.getElementById(id)!.dataset.ms) - ms) < 2,
          {},
          q,
          t,
        )
        expect(await inSight(page), where).toMatchObject({ at: q, isSeen: true })
        const last = edition.chapters().length
        await page.$eval(`#${q} .steps li:last-child button`, b => (b as HTMLElement).click())
        await reached(page, edition.chapters()[last - 1]!.t, q)
        expect(await inSight(page), `step ${last} ${where}`).toMatchObject({ at: q, isSeen: true })
      }
      await page.$eval('#find', f => {
        ;(f as HTMLInputElement).value = 'bottle holds'
        f.dispatchEvent(new Event('input'))
      })
      await page.$eval('#hits button', b => (b as HTMLElement).click())
      expect(await inSight(page), where).toMatchObject({ at: 'q3', isSeen: true })
      await shut(page)
    }
  }, 300_000)

  it('a step under the picture of a phone plays with the picture in sight', async () => {
    const page = await student('server', 390, 844)
    await page.$eval('#show-all', b => (b as HTMLElement).click())
    await page.$eval('#q1 .steps li:last-child button', b => b.scrollIntoView({ block: 'end' }))
    await page.click('#q1 .steps li:last-child button')
    await reached(page, editions[0]!.chapters().at(-1)!.t)
    expect(await inSight(page)).toMatchObject({ at: 'q1', isSeen: true })
    await shut(page)
  })

  it('tells nothing of a step before it is reached: no name, no picture, no words, not in search; then, and for revision, all', async () => {
    const page = await student()
    const told = () =>
      page.$$eval('#q1 .steps li button', all =>
        all.map(b => [
          (b as HTMLElement).innerText.includes('· · ·') ? 'later' : 'told',
          b.querySelectorAll('canvas').length,
        ]),
      )
    const steps = editions[0]!.chapters()
    expect(await told()).toEqual(steps.map((_, i) => [i ? 'later' : 'told', 0]))
    const last = steps.at(-1)!
    await page.$eval(
      '#find',
      (f, words) => {
        ;(f as HTMLInputElement).value = words
        f.dispatchEvent(new Event('input'))
      },
      last.title,
    )
    const hits = await page.$$eval('#hits li', all => all.map(l => l.textContent))
    expect(hits.length).toBeGreaterThan(0)
    expect(hits.filter(h => h!.includes(last.title))).toEqual([])
    expect(await page.$eval('body', b => b.innerText)).not.toContain(last.title)
    await seek(page, steps[1]!.t + 50)
    expect((await told()).map(([how]) => how)).toEqual(steps.map((_, i) => (i < 2 ? 'told' : 'later')))
    expect((await told())[0]).toEqual(['told', 1])
    // What was reached stays so; all of it is shown when she asks for it, here and the next time.
    await page.reload()
    await page.waitForSelector('#q1 .stage:not([hidden])')
    expect((await told())[1]![0]).toBe('told')
    expect((await told())[2]![0]).toBe('later')
    await page.$eval('#show-all', b => (b as HTMLElement).click())
    expect((await told()).every(([how]) => how === 'told')).toBe(true)
    await page.reload()
    await page.waitForSelector('#q1 .stage:not([hidden])')
    expect((await told()).every(([how]) => how === 'told')).toBe(true)
    await shut(page)
  })

  it('a solution that was seen to its end is marked as done, opens whole the next time, and asks how it went', async () => {
    const page = await student()
    const state = () =>
      page.$eval('.strip a[data-of=q1]', a => [(a as HTMLElement).dataset.state, (a as HTMLElement).innerText])
    expect((await state())[0]).toBe('unseen')
    await seek(page, 2000)
    expect((await state())[0]).toBe('begun')
    await seek(page, editions[0]!.duration)
    expect((await state())[0]).toBe('done')
    await page.click('#q1 .not-yet')
    await page.reload()
    await page.waitForSelector('#q1 .stage:not([hidden])')
    expect(await page.$eval('#q1', s => s.querySelectorAll('.steps .unreached').length)).toBe(0)
    expect(await page.$eval('.strip a[data-of=q1]', a => a.textContent)).toMatch(/done, to come back to/)
    await shut(page)
  })

  it('waits at the end of each step where she wants that, and goes on at the next press; a step is heard again', async () => {
    const page = await student()
    const steps = editions[0]!.chapters()
    await page.keyboard.press('s')
    await seek(page, steps[1]!.t - 700)
    await page.keyboard.press('Space')
    await page.waitForSelector('#q1.playing')
    await page.waitForFunction(
      () =>
        !document.querySelector('#q1.playing') && Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) > 100,
    )
    expect(Math.abs((await now(page)) - steps[1]!.t)).toBeLessThanOrEqual(2)
    expect(await now(page)).toBeLessThan(steps[1]!.t)
    await page.keyboard.press('Space')
    await reached(page, steps[1]!.t + 300)
    await page.$eval('#q1 .again', b => (b as HTMLElement).click())
    await page.waitForFunction(
      (t: number) => Math.abs(Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) - t) < 1500,
      {},
      steps[1]!.t,
    )
    expect(await page.$eval('#q2 .each', b => b.getAttribute('aria-pressed'))).toBe('true')
    await shut(page)
  })

  it('the timeline goes by 5 seconds and by steps, and says where it is; up and down are the page’s', async () => {
    const page = await student()
    const steps = editions[0]!.chapters()
    await page.focus('#q1 .at')
    await page.keyboard.press('ArrowRight')
    expect(await now(page)).toBe(5000)
    await page.keyboard.press('ArrowLeft')
    expect(await now(page)).toBe(0)
    await page.keyboard.press('PageDown')
    expect(await now(page)).toBe(Math.round(steps[1]!.t))
    expect(await page.$eval('#q1 .at', a => a.getAttribute('aria-valuetext'))).toMatch(/step 2, /)
    await page.keyboard.press('PageUp')
    expect(await now(page)).toBe(0)
    await page.$eval('#q1 .at', a => (a as HTMLElement).blur())
    await page.keyboard.press('ArrowDown')
    expect(await now(page)).toBe(0)
    await page.keyboard.press('2')
    expect((await inSight(page)).at).toBe('q2')
    await shut(page)
  })

  it('only the question in front holds pictures in memory', async () => {
    const page = await student('server', 390, 844, p =>
      p.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true, deviceScaleFactor: 3 }),
    )
    await page.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true, deviceScaleFactor: 3 })
    for (let round = 0; round < 2; round++)
      for (const i of editions.keys()) {
        await front(page, `q${i + 1}`)
        await page.waitForFunction(
          id => document.querySelector<HTMLCanvasElement>(`#${id} canvas.board`)!.width > 0,
          {},
          `q${i + 1}`,
        )
      }
    const held = await page.$$eval('section.question', all =>
      all.map(s =>
        [...s.querySelectorAll('canvas')].reduce(
          (sum, c) => sum + (c.width > 300 || c.className !== 'own' ? c.width * c.height * 4 : 0),
          0,
        ),
      ),
    )
    expect(held.filter(bytes => bytes > 400_000)).toHaveLength(1)
    // What was chosen for all of them draws nothing of those that are not in front.
    await page.$eval('#show-all', b => (b as HTMLElement).click())
    expect(await page.$$eval('section.question:not(.front) .step-picture', all => all.length)).toBe(0)
    expect(page.faults).toEqual([])
    expect(Math.max(...held)).toBeLessThan(30e6)
    await shut(page)
  })
})

describe('as a student', () => {
  it('the teacher sees the page inside the application before anyone else does, wide and as a phone', async () => {
    const page = await openPage(browser, app.origin)
    await page.goto(`${app.origin}/folio/balloon-day/publish`)
    await page.waitForFunction(() => document.body.textContent!.includes('As a student'))
    await page.keyboard.press('a')
    for (const width of [1000, 390]) {
      await page.waitForSelector('iframe[data-part=as-student]')
      const frame = () => page.frames().find(f => f !== page.mainFrame())!
      await (await frame().waitForSelector('#q1'))!.evaluate(q => q.scrollIntoView())
      await frame().waitForSelector('#q1 .stage:not([hidden])')
      expect(Math.abs((await frame().evaluate(() => innerWidth)) - width)).toBeLessThan(width === 390 ? 4 : 300)
      // The frame may be made anew while it is pressed: what does not play is pressed again.
      await frame().waitForSelector('#q1 .play')
      for (let tries = 0; tries < 20; tries++) {
        const ms = await frame().$eval('#q1', q => Number((q as HTMLElement).dataset.ms))
        if (ms > 300) break
        await frame().$eval(
          '#q1 .play',
          b => b.getAttribute('aria-label')!.startsWith('Play') && (b as HTMLElement).click(),
        )
        await wait(1000)
      }
      expect(await frame().$eval('#q1', q => Number((q as HTMLElement).dataset.ms))).toBeGreaterThan(300)
      expect(await frame().$eval('#q1 .word', w => (w as HTMLElement).hidden)).toBe(true)
      if (width > 390) await press(page, 'Phone')
      await wait(500)
    }
    await shut(page)
  })
})

describe('what a student does', () => {
  it('tries where she is asked to: her ink is kept, undone, hidden, and goes into what she hands in', async () => {
    const page = await student()
    const turn = editions[1]!.turns()[0]!
    await front(page, 'q2')
    await page.waitForSelector('#q2 .stage:not([hidden])')
    await seek(page, turn.t - 600, 'q2')
    await play(page, 'q2')
    await page.waitForSelector('#q2 .turn:not([hidden])')
    await wait(600)
    const box = (await (await page.$('#q2 canvas.own'))!.boundingBox())!
    for (const y of [0.5, 0.6]) {
      await page.mouse.move(box.x + 60, box.y + box.height * y)
      await page.mouse.down()
      await page.mouse.move(box.x + 200, box.y + box.height * y, { steps: 6 })
      await page.mouse.up()
    }
    const kept = () =>
      page.evaluate(() => {
        const key = Object.keys(localStorage).find(k => k.includes('attempt '))
        return key ? (JSON.parse(localStorage.getItem(key)!) as unknown[]).length : 0
      })
    expect(await kept()).toBe(2)
    await page.click('#q2 .own-tools .undo')
    expect(await kept()).toBe(1)
    await page.click('#q2 .turn .go')
    await reached(page, turn.to, 'q2')
    expect(await page.$eval('#q2 .own-tools .show', b => [(b as HTMLElement).hidden, b.textContent])).toEqual([
      false,
      'Hide mine',
    ])
    // Another question, and back: hers is still over it.
    await front(page, 'q1')
    await front(page, 'q2')
    await page.waitForFunction(() => {
      const own = document.querySelector<HTMLCanvasElement>('#q2 canvas.own')!
      return (
        own.width > 0 &&
        own
          .getContext('2d')!
          .getImageData(0, 0, own.width, own.height)
          .data.some(v => v > 0)
      )
    })
    await page.click('#q2 .stuck summary')
    await page.waitForFunction(() => document.querySelector('#q2 .where')!.textContent!.includes('question 2'))
    expect(await page.$eval('#q2 .play', b => b.getAttribute('aria-label'))).toBe('Play question 2')
    await page.reload()
    expect(await kept()).toBe(1)
    await shut(page)
  })

  it('checks her practice answers, opens hints and answers, and clears what is hers', async () => {
    const page = await student()
    await front(page, 'practice')
    const forms = await page.$$('.practice form')
    expect(forms.length).toBeGreaterThan(0)
    const answer = await page.$eval('.practice form', f => (f as HTMLElement).dataset.answer!)
    await page.type('.practice form input', 'nonsense 12')
    await page.$eval('.practice form button', b => (b as HTMLElement).click())
    expect(await page.$eval('.practice .says', s => s.textContent!.length)).toBeGreaterThan(5)
    await page.$eval('.practice form input', (i, a) => ((i as HTMLInputElement).value = a), answer)
    await page.$eval('.practice form button', b => (b as HTMLElement).click())
    expect(await page.$eval('.practice .says', s => (s as HTMLElement).dataset.verdict)).toMatch(/right|compare/)
    await page.$eval('#clear-mine', b => (b as HTMLElement).click())
    await Promise.all([page.waitForNavigation(), page.$eval('#clear-mine', b => (b as HTMLElement).click())])
    // Of this visit it knows again that there was one.
    expect(await page.evaluate(() => Object.keys(localStorage).filter(k => !k.endsWith(':visited')))).toEqual([])
    await shut(page)
  })
})

describe('without scripts, on paper, by rules', () => {
  it('scripts off: the video with its captions, steps, what is said, and nothing that needs a script', async () => {
    const page = await openPage(browser, origin)
    await page.setJavaScriptEnabled(false)
    await page.goto(`${origin}/`)
    const seen = await page.evaluate(() => ({
      videos: [...document.querySelectorAll('noscript video')].map(v => v.getBoundingClientRect().width > 200),
      tracks: document.querySelectorAll('noscript track[kind=captions]').length,
      dead: [
        ...document.querySelectorAll('.controls, .turn, .stuck, .explain, .find, .practice form, .mine, .chosen, .got'),
      ].filter(e => getComputedStyle(e).display !== 'none').length,
      steps: document.querySelectorAll('.steps li').length,
      answers: document.querySelectorAll('.practice details').length,
    }))
    expect(seen).toEqual({
      videos: editions.map(() => true),
      tracks: editions.length,
      dead: 0,
      steps: editions.reduce((n, e) => n + e.chapters().length, 0),
      answers: expect.any(Number) as number,
    })
    await page.close()
  })

  it('prints each question with its steps and words, and no buttons (read by poppler)', async () => {
    const page = await student()
    const pictures = editions.reduce((n, e) => n + e.chapters().length, 0)
    for (const format of ['a4', 'letter'] as const) {
      const file = join(root, `page-${format}.pdf`)
      writeFileSync(file, await page.pdf({ format, printBackground: true }))
      const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
      expect(text).toContain('Balloon Day')
      for (const c of editions[0]!.chapters()) expect(text.replace(/\s+/g, ' ')).toContain(c.title.slice(0, 12))
      expect(text).not.toMatch(/Full screen|I am stuck here|Copy the link|· · ·/)
      // At once, and of questions that were never opened: each finished board, and the picture of nearly each step.
      const images = execFileSync('pdfimages', ['-list', file], { encoding: 'utf8' })
        .split('\n')
        .filter(l => / image /.test(l))
      const [wide, small] = [600, 60].map(w => images.filter(l => Number(l.trim().split(/\s+/)[3]) >= w).length)
      expect(wide).toBeGreaterThanOrEqual(editions.length)
      expect(small! - wide!).toBeGreaterThanOrEqual(pictures - editions.length)
    }
    await shut(page)
  })

  it('is valid HTML, and axe finds nothing against it', async () => {
    const report = await new HtmlValidate({
      extends: ['html-validate:standard'],
      rules: {
        // The page is made by a machine: how it is laid out and spelt in its source is of no account.
        'no-inline-style': 'off',
        'long-title': 'off',
        'no-trailing-whitespace': 'off',
        'no-raw-characters': 'off',
        'require-sri': 'off',
        'text-content': 'off',
      },
    }).validateString(readFileSync(join(site, 'index.html'), 'utf8'))
    expect(report.results.flatMap(r => r.messages.map(m => `${m.ruleId} ${m.line}: ${m.message}`))).toEqual([])
    const axe = readFileSync(new URL('../../node_modules/axe-core/axe.min.js', import.meta.url), 'utf8')
    for (const theme of ['light', 'dark']) {
      const page = await student()
      await page.select('#theme', theme)
      await page.evaluate(`(() => { ${axe} })()`)
      const found = await page.evaluate(async () =>
        (
          await (
            window as unknown as {
              axe: { run(): Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> }
            }
          ).axe.run()
        ).violations.map(v => `${v.id}: ${v.nodes[0]!.html.slice(0, 120)}`),
      )
      expect(found).toEqual([])
      await page.close()
    }
  })
})
