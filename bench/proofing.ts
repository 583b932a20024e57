import type { Browser, Page } from 'puppeteer-core'
import { archiveBlob } from '../core/folio/archive'
import { newId } from '../core/folio'
import { folioFiles } from '../core/publish'
import { makeDemoFolio } from '../demo/make'
import { openPage, putOnShelf } from '../tests/support/browser'

const wait = (ms: number) => new Promise(r => setTimeout(r, ms))

/** The sample with its first question cut in so many steps, and so many of its pauses struck out. */
async function manySteps(steps: number, strikes: number): Promise<Blob> {
  const whole = await makeDemoFolio()
  const question = whole.folio.questions[0]!
  const { ledger } = question
  const { durationMs } = whole.takes.find(t => t.take.id === ledger!.takeId)!.take
  ledger!.steps = Array.from({ length: steps }, (_, i) => ({
    id: `bench-${i}`,
    t: Math.round((i * durationMs) / steps),
    title: '',
    words: '',
    struck: false,
  }))
  ledger!.strikes = Array.from({ length: strikes }, (_, i) => {
    const from = Math.round((i + 0.5) * (durationMs / strikes))
    return { id: newId(), from, to: from + 200, inkStays: true }
  })
  whole.folio.title = 'Many steps'
  return archiveBlob(folioFiles(whole))
}

/** What happens in the page, noted by the page itself. */
interface Noted {
  /** Stretches of sound: asked for at machine time `at`, heard at `when` on the sound's clock, in `delay` ms. */
  starts: { at: number; when: number; seconds: number; delay: number }[]
  /** What is shown, and what time the sound's clock is at that is heard then, s. */
  shown: { clock: number; ms: number }[]
  /** Machine times of keys. */
  keys: number[]
}

/** Proof with 200 rows: how soon the first are there, and how evenly they scroll. */
export async function ledgerOfMany(browser: Browser, origin: string): Promise<{ first: number[]; dropped: number }> {
  const { page, at } = await shelf(browser, origin, await manySteps(200, 0))
  const first: number[] = []
  for (let i = 0; i < 5; i++) {
    await page.goto(`${at}/solve?q=question-1`)
    await page.waitForSelector('[data-part=ledger-steps] li')
    await wait(1000)
    first.push(
      await page.evaluate(
        () =>
          new Promise<number>(done => {
            const began = performance.now()
            // A row is there when its sound is drawn, and what was written in it, where anything was.
            const seen = () =>
              document.querySelectorAll('[data-part=step] [data-part=wave] path[d^=M]').length >= 5 &&
              document.querySelector('[data-part=step-picture] canvas')
                ? requestAnimationFrame(() => done(performance.now() - began))
                : requestAnimationFrame(seen)
            document.querySelector<HTMLElement>('a[href*="/proof"]')!.click()
            seen()
          }),
      ),
    )
  }
  await wait(1500)
  // A wheel turned for three seconds.
  const frames = await page.evaluate(
    () =>
      new Promise<number[]>(done => {
        const list = document.querySelector('[data-part=step]')!.parentElement!
        const out: number[] = []
        let last = performance.now()
        const began = last
        const run = (now: number) => {
          out.push(now - last)
          last = now
          list.scrollTop += 40
          if (now - began < 3000) requestAnimationFrame(run)
          else done(out.slice(2))
        }
        requestAnimationFrame(run)
      }),
  )
  await page.close()
  return { first, dropped: frames.filter(ms => ms > 25).length / frames.length }
}

/**
 * Proof plays over a hundred joints a minute: how far picture and voice are apart, ms, and how long a change of the
 * ledger takes to be heard, ms.
 */
export async function playing(
  browser: Browser,
  origin: string,
): Promise<{ apart: number[]; late: number[]; stalled: number }> {
  const { page, at: folio } = await shelf(browser, origin, await manySteps(30, 120))
  await page.evaluateOnNewDocument(() => {
    const noted: Noted = { starts: [], shown: [], keys: [] }
    ;(window as unknown as { noted: Noted }).noted = noted
    let context: AudioContext | null = null
    const start = AudioBufferSourceNode.prototype.start
    AudioBufferSourceNode.prototype.start = function (when = 0, ...more) {
      context = this.context as AudioContext
      const delay = (when - context.currentTime) * 1000
      noted.starts.push({ at: performance.now(), when, seconds: this.buffer!.duration, delay })
      start.call(this, when, ...more)
    }
    const look = () => {
      const clock = document.querySelector<HTMLElement>('[data-part=proof-time]')
      if (context && clock)
        noted.shown.push({ clock: context.currentTime - context.outputLatency, ms: Number(clock.dataset.ms) })
      requestAnimationFrame(look)
    }
    requestAnimationFrame(look)
    addEventListener('keydown', () => noted.keys.push(performance.now()), true)
  })
  const noted = () => page.evaluate(() => (window as unknown as { noted: Noted }).noted)
  const apart: number[] = []
  let stalled = 0
  for (const speed of [0.5, 1, 2, 3]) {
    await page.evaluate(() => localStorage.setItem('orthograph-settings', JSON.stringify({ sampleOffered: true })))
    await page.goto(`${folio}/proof?q=question-1`)
    await page.waitForSelector('[data-part=step-picture] canvas')
    await choose(page, speed)
    await page.keyboard.press('Space')
    await wait(6000)
    await page.keyboard.press('Space')
    const { starts, shown } = await noted()
    // What is heard at each moment: the stretches were made one after another from the beginning.
    let lesson = 0
    // The clock that is heard runs behind by the latency; stretches are placed later by as much.
    const chunks = starts.map(s => ({ ...s, lesson: (lesson += s.seconds * speed) - s.seconds * speed }))
    for (const { clock, ms } of shown.slice(5)) {
      const heard = chunks.findLast(c => c.when <= clock)
      if (!heard || clock > heard.when + heard.seconds) continue
      apart.push(Math.abs(ms - (heard.lesson + (clock - heard.when) * speed) * 1000) / speed)
    }
    stalled += chunks.filter((c, i) => i > 0 && c.when - (chunks[i - 1]!.when + chunks[i - 1]!.seconds) > 0.002).length
  }
  const late: number[] = []
  await page.keyboard.press('Space')
  await wait(1500)
  for (let i = 0; i < 7; i++) {
    const before = (await noted()).starts.length
    await page.keyboard.press('x')
    await wait(600)
    const { starts, keys } = await noted()
    const next = starts.slice(before).find(c => c.at >= keys.at(-1)! && c.seconds < 0.3)!
    late.push(next.at + next.delay - keys.at(-1)!)
    await wait(700)
  }
  await page.close()
  return { apart, late, stalled }
}

async function choose(page: Page, speed: number) {
  if (speed === 1) return
  await page.click('button[aria-label=Speed]')
  await page.waitForSelector('[role=option]')
  await page.evaluate(
    (label: string) =>
      [...document.querySelectorAll<HTMLElement>('[role=option]')]
        .find(o => o.textContent!.trim() === label)!
        .dispatchEvent(new PointerEvent('pointerup', { bubbles: true })),
    `${speed} ×`,
  )
  await page.waitForFunction(() => !document.querySelector('[role=listbox]'))
  await page.evaluate(() => (document.activeElement as HTMLElement).blur())
}

/** A folio file on a shelf of its own. @returns where its screens are */
async function shelf(browser: Browser, origin: string, file: Blob): Promise<{ page: Page; at: string }> {
  const page = await openPage(browser, origin)
  // Functions are given to the page as they were compiled, with their names.
  await page.evaluateOnNewDocument('globalThis.__name = f => f')
  await page.goto(origin)
  await page.waitForSelector('#new-title')
  await putOnShelf(page, file)
  const place = await page.waitForFunction(
    () =>
      [...document.querySelectorAll<HTMLAnchorElement>('a[href*="/folio/"]')]
        .find(a => a.closest('[data-part=folio]')?.textContent?.includes('Many steps'))
        ?.getAttribute('href')
        ?.match(/folio\/[^/]+/)?.[0],
  )
  return { page, at: `${origin}/${(await place.jsonValue()) as string}` }
}
