import { rmSync } from 'node:fs'
import type { Page } from 'puppeteer-core'
import { seededRandom } from '../core/ink'
import { launch, openPage, press } from '../tests/support/browser'

interface Left {
  startedAt: number
  soundMs: number
  inkMs: number
}
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))

/** What is on disk of the take that was cut off. */
function left(page: Page): Promise<Left | null> {
  return page.evaluate(
    () =>
      new Promise<Left | null>(resolve => {
        const open = indexedDB.open('orthograph')
        open.onsuccess = () => {
          const t = open.result.transaction(['takes', 'journal', 'chunks'])
          const takes = t.objectStore('takes').getAll(),
            journal = t.objectStore('journal').getAll(),
            chunks = t.objectStore('chunks').getAll()
          t.oncomplete = () => {
            open.result.close()
            const take = (takes.result as { id: string; state: string; doc: { startedAt: string } }[]).find(
              x => x.state === 'recording',
            )
            if (!take) return resolve(null)
            const ends = (chunks.result as { takeId: string; t0: number; rate: number; pcm: ArrayBuffer }[])
              .filter(c => c.takeId === take.id)
              .map(c => c.t0 + (c.pcm.byteLength / 2 / c.rate) * 1000)
            const inks = (journal.result as { takeId: string; entries: { points?: number[] }[] }[])
              .filter(j => j.takeId === take.id)
              .flatMap(j => j.entries.map(e => e.points?.at(-1) ?? 0))
            resolve({
              startedAt: new Date(take.doc.startedAt).getTime(),
              soundMs: Math.max(0, ...ends),
              inkMs: Math.max(0, ...inks),
            })
          }
        }
      }),
  )
}

/**
 * Kills the browser at random moments of a take, starts it again on the same profile, and looks what is left.
 * @returns the most that was lost of sound and of ink, ms, and how often the folio did not open
 */
export async function killed(origin: string, times: number): Promise<{ sound: number; ink: number; unopened: number }> {
  const random = seededRandom(41)
  const worst = { sound: 0, ink: 0, unopened: 0 }
  let browser = await launch()
  let page = await openPage(browser, origin)
  await page.goto(origin)
  await page.waitForSelector('[data-part=folio] canvas')
  await page.evaluate(() =>
    localStorage.setItem(
      'orthograph-settings',
      JSON.stringify({ microphone: 'sim:clicks', countdown: 0, sampleOffered: true }),
    ),
  )
  for (let n = 0; n < times; n++) {
    await page.goto(`${origin}/folio/balloon-day/solve?q=question-6`)
    await page.waitForSelector('canvas[data-page=shown]')
    const frame = (await (await page.$('[data-part=frame]'))!.boundingBox())!
    await page.keyboard.press('r')
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
    const end = Date.now() + 1200 + random() * 4000
    // Writes on and on, so that the moment of the kill lies anywhere: in a stroke, between two, while something is
    // stored.
    await page.mouse.move(frame.x + 60, frame.y + 200)
    await page.mouse.down()
    let lastInk = Date.now()
    for (let i = 0; Date.now() < end; i++) {
      await page.mouse.move(frame.x + 60 + ((i * 7) % 400), frame.y + 200 + 40 * Math.sin(i / 5))
      lastInk = Date.now()
      await wait(4)
    }
    const at = Date.now()
    browser.process()!.kill('SIGKILL')
    await wait(400)
    browser = await launch({ profile: browser.profile })
    page = await openPage(browser, origin)
    await page.goto(origin)
    const opened = await page.waitForSelector('[data-part=lost-take]', { timeout: 20_000 }).then(
      () => true,
      () => false,
    )
    const found = opened ? await left(page) : null
    if (!found) {
      worst.unopened++
      continue
    }
    worst.sound = Math.max(worst.sound, at - found.startedAt - found.soundMs)
    worst.ink = Math.max(worst.ink, lastInk - found.startedAt - found.inkMs)
    await press(page, 'Throw it away', '[data-part=lost-take]')
    await press(page, 'Throw it away', '[role=dialog]')
    await page.waitForFunction(() => !document.querySelector('[data-part=lost-take]'))
  }
  await browser.close()
  rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
  return worst
}

interface Kept {
  folio: string
  takes: { id: string; state: string; durationMs: number; used: boolean; sound: boolean }[]
  videos: number
}

/** What there is of the folio: its document without what changes by itself, its takes, its videos. */
function kept(page: Page): Promise<Kept> {
  return page.evaluate(
    () =>
      new Promise<Kept>(resolve => {
        const open = indexedDB.open('orthograph')
        open.onsuccess = () => {
          const t = open.result.transaction(['folios', 'takes', 'sounds', 'publications'])
          const [folios, takes, sounds, publications] = ['folios', 'takes', 'sounds', 'publications'].map(name =>
            t.objectStore(name).getAll(),
          )
          t.oncomplete = () => {
            open.result.close()
            type Doc = { pages: unknown; questions: { ledger: { takeId: string } | null }[] }
            const { doc } = (folios!.result as { id: string; doc: Doc }[]).find(f => f.id === 'balloon-day')!
            const used = new Set(doc.questions.flatMap(q => (q.ledger ? [q.ledger.takeId] : [])))
            const heard = new Set((sounds!.result as { takeId: string }[]).map(s => s.takeId))
            resolve({
              folio: JSON.stringify([doc.pages, doc.questions.slice(0, 5)]),
              videos: publications!.result.length,
              takes: (takes!.result as { id: string; state: string; doc: { durationMs: number } }[]).map(r => ({
                id: r.id,
                state: r.state,
                durationMs: r.doc.durationMs,
                used: used.has(r.id),
                sound: heard.has(r.id),
              })),
            })
          }
        }
      }),
  )
}

/**
 * Kills the browser at random moments while a take is put together, and while a video is rendered. Afterwards the take
 * has to be there, whole or
 * offered, with its sound, and the folio as it was; a video that was being made may be gone.
 * @returns how often anything else was lost
 */
export async function killedAtWork(origin: string, times: number): Promise<{ lost: number; shortest: number }> {
  const random = seededRandom(43)
  let lost = 0,
    shortest = Number.POSITIVE_INFINITY
  let browser = await launch()
  let page = await openPage(browser, origin)
  const again = async () => {
    browser.process()!.kill('SIGKILL')
    await wait(400)
    browser = await launch({ profile: browser.profile })
    page = await openPage(browser, origin)
    await page.goto(origin)
    await page.waitForSelector('[data-part=folio] canvas')
  }
  const fail = (n: number, why: string) => {
    lost++
    console.error(`kill ${n}: ${why}`)
  }
  await page.goto(origin)
  await page.waitForSelector('[data-part=folio] canvas')
  await page.evaluate(() =>
    localStorage.setItem(
      'orthograph-settings',
      JSON.stringify({ microphone: 'sim:clicks', countdown: 0, sampleOffered: true }),
    ),
  )
  const first = await kept(page)
  for (let n = 0; n < times; n++) {
    const before = await kept(page)
    if (n % 2) {
      await page.goto(`${origin}/folio/balloon-day/publish`)
      await press(page, 'The whole folio')
      await press(page, 'Render ')
      await page.waitForSelector('[data-part=render-tasks]')
      await wait(random() * 6000)
    } else {
      await page.goto(`${origin}/folio/balloon-day/solve?q=question-6`)
      await page.waitForSelector('canvas[data-page=shown]')
      await page.keyboard.press('r')
      await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
      await wait(1500)
      await page.keyboard.press('s')
      await wait(random() * 350)
    }
    await again()
    if (await page.$('[data-part=lost-take]')) {
      await press(page, 'Keep the take', '[data-part=lost-take]')
      await page.waitForFunction(() => !document.querySelector('[data-part=lost-take]'), { timeout: 30_000 })
    }
    const after = await kept(page)
    if (after.folio !== first.folio) fail(n, 'the folio is another')
    if (
      !before.takes.every(t =>
        after.takes.some(u => u.id === t.id && u.durationMs === t.durationMs && u.sound === t.sound),
      )
    )
      fail(n, 'an earlier take is another')
    if ((n + 1) % 10 === 0) console.log(`        ${n + 1} kills, ${lost} with a loss`)
    if (n % 2) continue
    const made = after.takes.filter(t => !before.takes.some(u => u.id === t.id))
    if (made.length !== 1 || made[0]!.state === 'recording' || !made[0]!.used || !made[0]!.sound)
      fail(n, `the take: ${JSON.stringify(made)}`)
    shortest = Math.min(shortest, ...made.map(t => t.durationMs))
  }
  await browser.close()
  rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
  return { lost, shortest }
}
