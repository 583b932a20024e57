import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Browser, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { drawLine, press, see, still, VIEWPORT, type Running } from '../support/browser'
import { closeDemo, openDemo } from '../support/demo'

/**
 * Every screen by the rules of an independent accessibility checker (axe-core, WCAG 2.2 A and AA), and what fingers and
 * keys need.
 */
const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }

beforeAll(async () => {
  ;({ app, browser, page } = await openDemo())
})
afterAll(() => closeDemo(app, browser))

async function violations(): Promise<string[]> {
  await page.evaluate(axe)
  return page.evaluate(async () => {
    const { violations: found } = await (
      window as unknown as {
        axe: {
          run(
            o: object,
          ): Promise<{ violations: { id: string; nodes: { target: unknown[]; failureSummary: string }[] }[] }>
        }
      }
    ).axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })
    return found.flatMap(v =>
      v.nodes.slice(0, 3).map(n => `${v.id}: ${String(n.target)} ${n.failureSummary.split('\n')[1] ?? ''}`),
    )
  })
}
const SCREENS = [
  ['home', '/', '[data-part=folio]'],
  ['pages', '/folio/balloon-day/pages?q=question-1', '[data-part=page] canvas'],
  ['solve', '/folio/balloon-day/solve?q=question-2', 'canvas[data-page=shown]'],
  ['proof', '/folio/balloon-day/proof?q=question-1', 'canvas[data-page=shown]'],
  ['publish', '/folio/balloon-day/publish', '[data-part=spine]'],
] as const

describe.each(['light', 'dark'] as const)('in %s', scheme => {
  it.each(SCREENS)('%s has no violations', async (_, path, ready) => {
    await page.evaluate((s: string) => localStorage.setItem('nuxt-color-mode', s), scheme)
    await page.goto(app.origin + path)
    await page.waitForSelector(ready)
    await still(page)
    expect(await violations()).toEqual([])
    expect(page.faults).toEqual([])
  })
})

describe.each(['dark'] as const)('with the camera on, in %s', scheme => {
  it('clips and compared takes have no violations', async () => {
    await page.evaluate((s: string) => localStorage.setItem('nuxt-color-mode', s), scheme)
    await page.evaluate(() =>
      localStorage.setItem(
        'orthograph-settings',
        JSON.stringify({ countdown: 0, microphone: 'sim:voice', sampleOffered: true }),
      ),
    )
    await page.goto(`${app.origin}/folio/balloon-day/solve?q=question-2`)
    await page.waitForSelector('canvas[data-page=shown]')
    await press(page, 'Clips')
    await press(page, 'Turn the camera on', '[data-part=clips]')
    await page.waitForSelector('[data-part=clips] video')
    await still(page)
    expect(await violations()).toEqual([])
    await page.keyboard.press('Escape')
    await page.waitForFunction(() => !document.querySelector('[data-part=clips]'))
    await page.keyboard.press('r')
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
    await still(page)
    expect(await violations()).toEqual([])
    await drawLine(page, 0.5)
    await page.keyboard.press('s')
    await page.waitForSelector('[data-part=portrait-row]')
    await press(page, 'Compare')
    await page.waitForSelector('[data-part=take-card]:nth-child(2) canvas')
    await still(page)
    expect(await violations()).toEqual([])
    await page.keyboard.press('Escape')
  })
})

describe('for fingers and small tablets', () => {
  it('everything in Solve that is touched while writing is at least 44 px', async () => {
    await page.goto(`${app.origin}/folio/balloon-day/solve?q=question-2`)
    await page.waitForSelector('canvas[data-page=shown]')
    await page.evaluate(() =>
      localStorage.setItem('orthograph-settings', JSON.stringify({ countdown: 0, microphone: 'none' })),
    )
    await page.reload()
    await page.waitForSelector('canvas[data-page=shown]')
    await page.keyboard.press('r')
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
    const small = await page.evaluate(() =>
      [...document.querySelectorAll('[role=toolbar] button, [data-part=taking] ~ button')]
        .map(b => [b.textContent!.trim() || b.getAttribute('aria-label'), b.getBoundingClientRect()] as const)
        .filter(([, r]) => r.height < 44 || r.width < 43.5)
        .map(([name, r]) => `${name} ${r.width}×${r.height}`),
    )
    expect(small).toEqual([])
    await page.keyboard.press('s')
    await page.waitForSelector('[data-part=proof-board]')
  })
  it.each(SCREENS)('%s fits 1024 × 768 without scrolling sideways', async (_, path, ready) => {
    await page.setViewport({ width: 1024, height: 768 })
    await page.goto(app.origin + path)
    await page.waitForSelector(ready)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024)
    await page.setViewport(VIEWPORT)
  })
})

describe('Pages', () => {
  it('opens where the chosen question stands', async () => {
    await page.goto(`${app.origin}/folio/balloon-day/pages?q=question-5`)
    await page.waitForFunction(() => {
      const area = document.querySelector('[data-part=page-area]')?.getBoundingClientRect(),
        region = document.querySelector('[data-part=region].selected')?.getBoundingClientRect()
      return area && region && region.top >= area.top && region.bottom <= area.bottom
    })
  })
})

describe('keys', () => {
  it('are all listed on one key, and the list closes again', async () => {
    await page.goto(`${app.origin}/folio/balloon-day/proof?q=question-1`)
    await page.waitForSelector('[data-part=proof-board]')
    await page.keyboard.press('k')
    for (const words of [
      'Strike out this step, or bring it back',
      'Next question',
      'Save the folio as a file',
      'Play or pause',
    ])
      await see(page, words)
    await page.keyboard.press('Escape')
    await page.waitForFunction(() => !document.body.innerText.includes('Keys that work here'))
  })
  it('go to the next question and to the next stage', async () => {
    await page.keyboard.press('PageDown')
    await page.waitForFunction(() => location.search.includes('question-2'))
    await page.keyboard.down('Alt')
    await page.keyboard.press('2')
    await page.keyboard.up('Alt')
    await page.waitForFunction(() => location.pathname.endsWith('/solve'))
  })
  it('do nothing while words are typed', async () => {
    await page.goto(`${app.origin}/folio/balloon-day/proof?q=question-1`)
    await page.waitForSelector('[data-part=step] .name')
    await page.click('[data-part=step] .name', { count: 3 })
    await page.keyboard.type('x k r 1')
    expect(await page.$eval('[data-part=step] .name', e => (e as HTMLInputElement).value)).toBe('x k r 1')
    await page.keyboard.press('Tab')
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.keyboard.down('Control')
    await page.keyboard.press('z')
    await page.keyboard.up('Control')
    await page.waitForFunction(
      () => (document.querySelector('[data-part=step] .name') as HTMLInputElement).value === 'What is asked',
    )
  })
})

describe('long work', () => {
  it('can be stopped, and leaves nothing half done', async () => {
    await page.goto(`${app.origin}/folio/balloon-day/publish`)
    await press(page, 'Render')
    await page.waitForFunction(() => / %/.test(document.querySelector('[data-part=render-tasks]')?.textContent ?? ''))
    await press(page, 'Stop')
    await page.waitForFunction(() => !document.querySelector('[data-part=render-tasks]'))
    const left = await page.evaluate(async () => {
      const names: string[] = []
      const dir = await (await navigator.storage.getDirectory()).getDirectoryHandle('files', { create: true })
      for await (const name of (dir as unknown as { keys(): AsyncIterable<string> }).keys()) names.push(name)
      return names
    })
    expect(left.length).toBe(await page.$$eval('[data-part=video]', all => all.length))
    expect(await page.$$eval('[data-trouble]', all => all.length)).toBe(0)
  })
})
