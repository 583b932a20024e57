import { mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser } from 'puppeteer-core'
import { press, see } from '../tests/support/browser'
import { Downloads } from '../tests/support/downloads'
import { openHour } from './student'

/**
 * Publishing a folio of 20 questions and 60 minutes: its handout, its first version, and a change of one step of it.
 * @returns times, s; bytes of the handout and of what its pages were brought in from
 */
export async function publishing(browser: Browser, origin: string) {
  const { page, originals } = await openHour(browser, origin)
  const folder = mkdtempSync(join(tmpdir(), 'orthograph-bench-'))
  const timed = async (work: () => Promise<unknown>) => {
    const began = performance.now()
    await work()
    return (performance.now() - began) / 1000
  }
  try {
    const first = await timed(async () => {
      await page.keyboard.press('p')
      await see(page, 'Students have version 1', 300_000)
    })
    const { ms } = JSON.parse(
      (await page.$eval('[data-part=check-report]', e => (e as HTMLElement).dataset.report)) ?? '{}',
    ) as { ms: number }
    const downloads = await Downloads.into(browser, folder)
    await page.keyboard.press('h')
    await page.waitForSelector('[role=dialog]')
    let pdf = ''
    const handout = await timed(async () => {
      pdf = await downloads.after(() => press(page, 'Make the PDF'))
    })
    const { size } = statSync(pdf)
    await press(page, 'Proof')
    const name = (await page.waitForSelector('[data-part=step] input'))!
    await name.click({ count: 3 })
    await name.type('Renamed')
    await page.keyboard.press('Tab')
    await press(page, 'Publish')
    await see(page, 'changed: 1')
    // The site is asked first what stands there.
    await new Promise(r => setTimeout(r, 1500))
    const update = await timed(async () => {
      await page.keyboard.press('p')
      await see(page, 'Students have version 2', 300_000)
    })
    return { first, check: ms / 1000, handout, size, originals, update }
  } finally {
    await page.close()
    rmSync(folder, { recursive: true, force: true })
  }
}
