import { rmSync } from 'node:fs'
import type { Page } from 'puppeteer-core'
import { seededRandom } from '../core/ink'
import { launch, openPage, press } from '../tests/support/browser'

interface Left { startedAt: number, soundMs: number, inkMs: number }
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))

/** What is on disk of the take that was cut off. */
function left(page: Page): Promise<Left | null> {
  return page.evaluate(() => new Promise<Left | null>((resolve) => {
    const open = indexedDB.open('orthograph')
    open.onsuccess = () => {
      const t = open.result.transaction(['takes', 'journal', 'chunks'])
      const takes = t.objectStore('takes').getAll(), journal = t.objectStore('journal').getAll(), chunks = t.objectStore('chunks').getAll()
      t.oncomplete = () => {
        open.result.close()
        const take = (takes.result as { id: string, state: string, doc: { startedAt: string } }[]).find(x => x.state === 'recording')
        if (!take) return resolve(null)
        const ends = (chunks.result as { takeId: string, t0: number, rate: number, pcm: ArrayBuffer }[]).filter(c => c.takeId === take.id).map(c => c.t0 + (c.pcm.byteLength / 2 / c.rate) * 1000)
        const inks = (journal.result as { takeId: string, entries: { points?: number[] }[] }[]).filter(j => j.takeId === take.id).flatMap(j => j.entries.map(e => e.points?.at(-1) ?? 0))
        resolve({ startedAt: new Date(take.doc.startedAt).getTime(), soundMs: Math.max(0, ...ends), inkMs: Math.max(0, ...inks) })
      }
    }
  }))
}

/**
 * Kills the browser at random moments of a take, starts it again on the same profile, and looks what is left.
 * @returns the most that was lost of sound and of ink, ms, and how often the folio did not open
 */
export async function killed(origin: string, times: number): Promise<{ sound: number, ink: number, unopened: number }> {
  const random = seededRandom(41)
  const worst = { sound: 0, ink: 0, unopened: 0 }
  let browser = await launch()
  let page = await openPage(browser, origin)
  await page.goto(origin)
  await page.waitForSelector('[data-part=folio] canvas')
  await page.evaluate(() => localStorage.setItem('orthograph-settings', JSON.stringify({ microphone: 'sim:clicks', countdown: 0, sampleOffered: true })))
  for (let n = 0; n < times; n++) {
    await page.goto(`${origin}/folio/balloon-day/solve?q=question-6`)
    await page.waitForSelector('canvas[data-page=shown]')
    const frame = (await (await page.$('[data-part=frame]'))!.boundingBox())!
    await page.keyboard.press('r')
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
    const end = Date.now() + 1200 + random() * 4000
    // Writes on and on, so that the moment of the kill lies anywhere: in a stroke, between two, while something is stored.
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
    const opened = await page.waitForSelector('[data-part=lost-take]', { timeout: 20_000 }).then(() => true, () => false)
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
