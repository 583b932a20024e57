import { copyFileSync, cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { deflateRawSync, inflateRawSync } from 'node:zlib'
import type { Browser, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { editionOf } from '../../core/edition'
import { encodeLesson, lessonOf } from '../../core/lesson'
import { studentPage, type PublishedFolio } from '../../core/publish'
import { makeDemoFolio } from '../../demo/make'
import { launch, openPage } from '../support/browser'
import { serveStatic } from '../support/staticSite'

/** The student page with what nobody means to be in it, and in browsers that refuse what it asks for. */
const root = mkdtempSync(join(tmpdir(), 'orthograph-attack-'))
const asset = (name: string) => readFileSync(new URL(`../../student/built/${name}`, import.meta.url), 'utf8')
const NASTY = [
  `<img src=x onerror="window.ran=1"><script>window.ran=1</script></script><!--`,
  "\u202Eright to left\u202C “&quot;' ]]> \u2028",
  'W'.repeat(10_000),
  '\u{1D54F}\u{1F9EE} 𝕏 = 🧮 \uD800',
]
let browser: Browser
let site: ReturnType<typeof serveStatic>

beforeAll(async () => {
  const { folio, takes } = await makeDemoFolio()
  const questions: PublishedFolio['questions'] = []
  mkdirSync(join(root, 'sound'))
  cpSync(join(import.meta.dirname, '../../public/fonts'), join(root, 'fonts'), { recursive: true })
  for (const [i, text] of NASTY.entries()) {
    const { take, events } = takes[i]!
    const question = folio.questions.find(q => q.ledger?.takeId === take.id)!
    const edition = editionOf({ take, events, ledger: question.ledger!, pages: folio.pages })
    copyFileSync(join(import.meta.dirname, '../../demo/voice/lesson.ogg'), join(root, `sound/${i}.ogg`))
    const sound = { path: `sound/${i}.ogg`, mime: 'audio/ogg' }
    const view = { frame: edition.first, page: { id: 'p1', width: 595, height: 842 }, pictures: [] }
    const lesson = lessonOf(edition, { views: [view], documents: [], sound })
    const turns = [{ t: 900, to: 1400, seconds: 20 }]
    const steps = lesson.steps.map(s => ({ ...s, title: text, part: text, also: text }))
    questions.push({
      id: text,
      number: text,
      title: text,
      lesson: deflateRawSync(encodeLesson({ ...lesson, steps, turns })).toString('base64'),
      sound,
      duration: edition.duration,
      chapters: steps,
      captions: [{ from: 0, to: 4000, text }],
      turns,
      print: [text],
      base: `questions/${i}`,
      name: 'Video.mp4',
    })
  }
  const next = NASTY.map((text, i) => ({ id: `n${i}`, text, answer: text, hint: text }))
  const plan = { lesson: NASTY[0]!, due: NASTY[1]!, bring: NASTY[2]!, next, related: [] }
  const named = { id: NASTY[1]!, title: NASTY[0]!, course: NASTY[1]!, author: NASTY[3]! }
  const page = { ...named, questions, worksheets: [], plan, skipped: [{ name: NASTY[0]!, why: NASTY[1]! }] }
  writeFileSync(
    join(root, 'index.html'),
    await studentPage(page, {
      script: asset('player.js'),
      aids: asset('aids.js'),
      style: asset('page.css'),
      icons: asset('icons.svg'),
    }),
  )
  const whole = readFileSync(join(root, 'index.html'), 'utf8')
  // The second question's data is cut off; the third's is of a form that is not known yet.
  const broken = [...whole.matchAll(/orthograph-lesson" data-of="q\d">([^<]+)</g)].map(m => m[1]!)
  const newer = inflateRawSync(Buffer.from(broken[2]!, 'base64'))
  newer.writeUInt32BE(99, 4)
  writeFileSync(
    join(root, 'broken.html'),
    whole.replace(broken[1]!, broken[1]!.slice(0, 400)).replace(broken[2]!, deflateRawSync(newer).toString('base64')),
  )
  site = serveStatic(root)
  browser = await launch()
})
afterAll(async () => {
  site?.close()
  await browser?.close()
  rmSync(root, { recursive: true, force: true })
})

const now = (page: Page, q: string) => page.$eval(q, s => Number((s as HTMLElement).dataset.ms))
const click = (page: Page, selector: string) => page.$eval(selector, b => (b as HTMLElement).click())
async function open(path = '', before?: (page: Page) => Promise<unknown>) {
  const page = await openPage(browser, site.origin)
  await before?.(page)
  await page.goto(`${site.origin}/${path}`)
  await page.waitForSelector('#q1 .stage:not([hidden])')
  return page
}
const toFront = (page: Page, q: string) => click(page, `.strip a[data-of=${q}]`)
async function plays(page: Page, q = '#q1') {
  await toFront(page, q.slice(1))
  await click(page, `${q} .play`)
  await page.waitForFunction((s: string) => Number(document.querySelector<HTMLElement>(s)!.dataset.ms) > 300, {}, q)
}

describe('a page full of hostile text', () => {
  it.each([1280, 768, 390, 360])('runs nothing of it, and fits, at %i px', async width => {
    const page = await open('', p => p.setViewport({ width, height: 800 }))
    for (let i = 1; i <= NASTY.length; i++) {
      await toFront(page, `q${i}`)
      await page.waitForSelector(`#q${i} .stage:not([hidden])`)
      await page.$$eval(`#q${i} details`, all => all.forEach(d => ((d as HTMLDetailsElement).open = true)))
    }
    await plays(page, '#q4')
    await page.type('#find', 'onerror')
    await page.waitForFunction(() => document.querySelectorAll('#hits li').length > 0)
    const seen = await page.evaluate(() => ({
      ran: (window as unknown as { ran?: number }).ran,
      wide: document.documentElement.scrollWidth - innerWidth,
      inserted: document.querySelectorAll('img[src=x]').length,
      questions: document.querySelectorAll('section.question').length,
    }))
    expect(seen).toEqual({ ran: undefined, wide: expect.any(Number) as number, inserted: 0, questions: 4 })
    expect(seen.wide).toBeLessThanOrEqual(0)
    expect(page.faults).toEqual([])
    await page.close()
  })
})

describe('a damaged page', () => {
  it('says of each question what is wrong with it; the others play', async () => {
    const page = await open('broken.html')
    for (const [q, word] of [
      ['#q2', 'cannot be read'],
      ['#q3', 'newer version'],
    ] as const) {
      await toFront(page, q.slice(1))
      await page.waitForFunction(
        (s: string, w: string) => document.querySelector(`${s} .word`)!.textContent!.includes(w),
        {},
        q,
        word,
      )
    }
    await plays(page)
    await plays(page, '#q4')
    expect(page.faults).toEqual([])
    await page.close()
  })
  it('goes on in silence where its sound is gone', async () => {
    const page = await open('', async p => {
      await p.setRequestInterception(true)
      p.on('request', r => void (r.url().includes('/sound/') ? r.abort() : r.continue()))
    })
    await plays(page)
    expect(await page.$eval('#q1 .word', w => w.textContent)).toContain('goes on without it')
    await page.close()
  })
})

describe('a browser that keeps nothing', () => {
  it.each(['refuses', 'is full'])('plays as well where storage %s, and says what is lost', async how => {
    const page = await open('', p =>
      p.evaluateOnNewDocument(full => {
        const fail = () => {
          throw new DOMException('no', full ? 'QuotaExceededError' : 'SecurityError')
        }
        if (full) Storage.prototype.setItem = fail
        else Object.defineProperty(window, 'localStorage', { get: fail })
      }, how === 'is full'),
    )
    await page.select('#q1 .speed', '1.5')
    await page.waitForSelector('#kept-word:not([hidden])')
    await plays(page)
    await click(page, '#save-mine')
    expect(page.faults).toEqual([])
    await page.close()
  })
})

describe('a page that is opened twice', () => {
  it('keeps what is written in either', async () => {
    const tabs = [await open(), await open()]
    for (const [i, page] of tabs.entries()) {
      await page.bringToFront()
      if (i)
        await page.waitForFunction(() => Object.keys(localStorage).some(k => k.includes('attempt ')), {
          polling: 100,
        })
      await page.waitForSelector('#q1 .stage:not([hidden])')
      await click(page, '#q1 .play')
      await page.waitForSelector('#q1 .turn:not([hidden])')
      const box = (await (await page.$('#q1 canvas.own'))!.boundingBox())!
      await page.mouse.move(box.x + 60, box.y + 60 + 40 * i)
      await page.mouse.down()
      await page.mouse.move(box.x + 200, box.y + 60 + 40 * i, { steps: 5 })
      await page.mouse.up()
    }
    // Tabs are told of each other's storage in their own time.
    for (const page of tabs)
      await page.waitForFunction(
        () => {
          const key = Object.keys(localStorage).find(k => k.includes('attempt '))
          return key && (JSON.parse(localStorage.getItem(key)!) as unknown[]).length === 2
        },
        { polling: 100 },
      )
    expect(await now(tabs[1]!, '#q1')).toBeGreaterThan(0)
    for (const page of tabs) await page.close()
  })
})
