import { build } from 'esbuild'
import { createServer } from 'node:http'
import type { Browser, Page } from 'puppeteer-core'
import { freePort, openPage, turnOnCamera } from '../tests/support/browser'
import { rows } from '../tests/support/stored'

const wait = (ms: number) => new Promise(r => setTimeout(r, ms))
/** Samples a second of a good pen. */
const PEN_HZ = 240
const SECONDS = 20

async function solve(browser: Browser, origin: string): Promise<Page> {
  const page = await openPage(browser, origin)
  await page.goto(origin)
  await page.waitForSelector('[data-part=folio] canvas')
  await page.evaluate(() =>
    localStorage.setItem(
      'orthograph-settings',
      JSON.stringify({ microphone: 'sim:voice', countdown: 0, sampleOffered: true }),
    ),
  )
  await page.goto(`${origin}/folio/balloon-day/solve?q=question-6`)
  await page.waitForSelector('canvas[data-page=shown]')
  return page
}
const taking = (page: Page) =>
  page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))

/** Writes like a pen of 240 Hz: short strokes over the frame, for so many seconds. */
async function write(page: Page, seconds: number) {
  const box = (await (await page.$('[data-part=frame]'))!.boundingBox())!
  const client = await page.createCDPSession()
  const send = (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', x: number, y: number) =>
    client.send('Input.dispatchMouseEvent', {
      type,
      x,
      y,
      button: 'left',
      buttons: 1,
      clickCount: 1,
      pointerType: 'pen',
      force: 0.5,
    })
  const began = performance.now()
  let sent = 0,
    down = false
  const pending: Promise<unknown>[] = []
  while (performance.now() - began < seconds * 1000) {
    for (; sent < ((performance.now() - began) / 1000) * PEN_HZ; sent++) {
      const stroke = Math.floor(sent / 120),
        i = sent % 120
      const x = box.x + 40 + (stroke % 12) * 60 + i * 0.4,
        y = box.y + 130 + (Math.floor(stroke / 12) % 9) * 30 + 9 * Math.sin(i / 6)
      // A third of the time the pen is in the air.
      if (i === 0 || i === 80) pending.push(send(i ? 'mouseReleased' : 'mousePressed', x, y))
      else if (down || i < 80) pending.push(send('mouseMoved', x, y))
      down = i < 80
    }
    await wait(2)
  }
  await Promise.all(pending)
}

/**
 * Pictures a second of the main thread while it records and a pen of 240 Hz writes.
 * @param camera whether the camera is recorded, too
 */
export async function framesWhileWriting(browser: Browser, origin: string, camera: boolean): Promise<number> {
  const page = await solve(browser, origin)
  if (camera) {
    await turnOnCamera(page, 'a drawn figure')
    await page.waitForSelector('[data-part=portrait]')
  }
  await page.keyboard.press('r')
  await taking(page)
  await page.evaluate(
    'window.frames_ = 0; window.began_ = performance.now(); (function count() { window.frames_++; requestAnimationFrame(count) })()',
  )
  await write(page, SECONDS)
  const fps = (await page.evaluate('window.frames_ / ((performance.now() - window.began_) / 1000)')) as number
  await page.keyboard.press('s')
  await page.waitForSelector('[data-part=proof-board]', { timeout: 60_000 })
  await page.close()
  return fps
}

/** How long going back a step takes until it can be spoken, with much ink on the board; without countdown, ms. */
export async function goingBack(browser: Browser, origin: string, times: number): Promise<number[]> {
  const page = await solve(browser, origin)
  await page.keyboard.press('r')
  await taking(page)
  await write(page, 10)
  const took: number[] = []
  for (let n = 0; n < times; n++) {
    await page.keyboard.press('Space')
    await write(page, 2.6)
    // A text, not a function: it runs in the page without this file's own helpers. Ready is when it says so, and the
    // picture after has come.
    took.push(
      (await page.evaluate(`new Promise((resolve) => {
      const began = performance.now()
      const look = () => document.querySelector('[data-part=taking]').textContent.includes('Taking') ? requestAnimationFrame(() => resolve(performance.now() - began)) : requestAnimationFrame(look)
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Backspace', bubbles: true }))
      requestAnimationFrame(look)
    })`)) as number,
    )
  }
  await page.keyboard.press('s')
  await page.waitForSelector('[data-part=proof-board]', { timeout: 60_000 })
  const backs = (await rows<{ entries: { type: string }[] }>(page, 'journal'))
    .flatMap(j => j.entries)
    .filter(e => e.type === 'back').length
  if (backs !== times) throw new Error(`went back ${backs} times instead of ${times}`)
  await page.close()
  return took
}

/**
 * Growth of the page's memory over a take of an hour, MB: the product's recorder writes to the browser's real store;
 * only the devices' time is
 * handed in, which neither can tell.
 */
export async function longTake(browser: Browser, minutes: number): Promise<{ growth: number; took: number }> {
  const root = new URL('..', import.meta.url).pathname
  const { outputFiles } = await build({
    entryPoints: [`${root}bench/longTake.ts`],
    bundle: true,
    write: false,
    format: 'iife',
    platform: 'browser',
    target: 'chrome120',
    logLevel: 'error',
    alias: { '#core': `${root}core` },
  })
  const port = await freePort()
  const server = createServer((request, response) => {
    const script = request.url === '/long.js'
    response.setHeader('Content-Type', script ? 'text/javascript' : 'text/html')
    response.end(script ? outputFiles[0]!.text : '<!doctype html><title>bench</title><script src="/long.js"></script>')
  }).listen(port, '127.0.0.1')
  const page = await openPage(browser, `http://127.0.0.1:${port}`)
  await page.goto(`http://127.0.0.1:${port}/`)
  const client = await page.createCDPSession()
  const heap = async () => {
    await client.send('HeapProfiler.collectGarbage')
    const { metrics } = await client.send('Performance.getMetrics')
    return metrics.find(m => m.name === 'JSHeapUsedSize')!.value / 1e6
  }
  await client.send('Performance.enable')
  const began = performance.now()
  await page.evaluate('longTake.record(60)')
  const early = await heap()
  await page.evaluate(`longTake.record(${minutes * 60 - 60})`)
  const growth = (await heap()) - early
  await page.evaluate('longTake.stop()')
  const took = performance.now() - began
  await page.close()
  server.close()
  return { growth, took }
}
