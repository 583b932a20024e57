/** Makes the pictures of the main views in docs/screenshots, from the sample folio: `npm run screenshots`. */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { tmpdir } from 'node:os'
import type { ElementHandle, Page } from 'puppeteer-core'
import { tenQuestions } from '../tests/support/pdfs'
import { launch, openPage, press, startApp, turnOnCamera } from '../tests/support/browser'
import { nineQuestions } from '../bench/nine'
import { exportDemo } from './export'

const folder = join(new URL('..', import.meta.url).pathname, 'docs/screenshots')
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))
mkdirSync(folder, { recursive: true })
const app = await startApp()
const browser = await launch()
const page = await openPage(browser, app.origin)
const shot = async (name: string, of: Page = page) => {
  await wait(900)
  await of.screenshot({ path: join(folder, `${name}.png`) })
  console.log(name)
}
const settings = (values: object) =>
  page.evaluate(
    (v: object) =>
      localStorage.setItem(
        'orthograph-settings',
        JSON.stringify({ ...JSON.parse(localStorage.getItem('orthograph-settings') ?? '{}'), ...v }),
      ),
    values,
  )
const go = async (stage: string, question: string, ready: string) => {
  await page.goto(`${app.origin}/folio/balloon-day/${stage}?q=question-${question}`)
  await page.waitForSelector(ready)
}

await page.goto(app.origin)
await page.waitForSelector('[data-part=folio] canvas')
await settings({
  pen: 'sim:pen',
  countdown: 0,
  simulatedText: '318 × 46 = 12720 + 1908\n         = 14628',
  microphone: 'sim:voice',
})
await go('pages', '1', '[data-part=page] canvas')
await shot('pages')
await press(page, 'Plan', '[role=tablist]')
await shot('plan')
const ten = join(tmpdir(), `orthograph-ten-${process.pid}.pdf`)
writeFileSync(ten, await tenQuestions())
await page.goto(app.origin)
await page.waitForSelector('#new-title')
await page.type('#new-title', 'Second quiz')
await press(page, 'Begin with its pages')
await (
  (await page.waitForSelector('input[aria-label="PDF files and pictures"]')) as ElementHandle<HTMLInputElement>
).uploadFile(ten)
await page.waitForSelector('[data-part=proposal]')
await page.evaluate(() => [...document.querySelectorAll<HTMLElement>('[data-part=spine] a')][1]!.click())
await shot('questions-found')
await page.keyboard.press('a')
await page.waitForFunction(() => !document.querySelector('[data-part=proposal]'))
await page.keyboard.press('i')
await page.waitForSelector('[data-part=frames]')
await shot('frames')
await page.keyboard.press('Escape')
rmSync(ten, { force: true })
const snapshot = join(tmpdir(), `orthograph-sheet-${process.pid}.jpg`)
writeFileSync(
  snapshot,
  Buffer.from(
    await page.evaluate(async () => {
      const sheet = document.querySelector<HTMLCanvasElement>('[data-part=page] canvas')!
      const canvas = new OffscreenCanvas(2000, 1500),
        context = canvas.getContext('2d')!
      context.fillStyle = '#5b4630'
      context.fillRect(0, 0, 2000, 1500)
      context.translate(1000, 760)
      context.rotate(0.13)
      context.drawImage(sheet, -480, -680, 960, 1360)
      context.fillStyle = 'rgb(30 20 10 / 0.35)'
      context.fillRect(-480, -680, 420, 1360)
      return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg' })).arrayBuffer())]
    }),
  ),
)
await ((await page.$('input[aria-label="PDF files and pictures"]')) as ElementHandle<HTMLInputElement>).uploadFile(
  snapshot,
)
await page.waitForSelector('[data-part=thumb]:nth-child(5)')
await page.evaluate(() => [...document.querySelectorAll<HTMLElement>('[data-part=thumb]')][4]!.click())
await press(page, 'Straighten')
await page.waitForFunction(
  () =>
    document.querySelector('[data-part=photo] polygon') &&
    !document.body.textContent!.includes('Looking for the sheet'),
)
await shot('photo')
rmSync(snapshot, { force: true })
await go('solve', '5', 'canvas[data-page=shown]')
await page.keyboard.press('l')
await page.type('[data-part=sheets] input', 'force')
await shot('reference-sheets')
await settings({ guide: 'multiply', figure: 'axes' })
await page.reload()
await go('solve', '6', 'canvas[data-page=shown]')
const board = (await (await page.waitForSelector('[data-part=frame]'))!.boundingBox())!
const tap = (x: number, y: number) => page.mouse.click(board.x + board.width * x, board.y + board.height * y)
await page.keyboard.press('t')
await tap(0.5, 0.42)
await page.waitForSelector('[data-part=line-editor] input:focus')
await page.keyboard.type('T = 15 - 8 * 6.5')
await page.keyboard.press('Enter')
await page.waitForFunction(
  () => (document.querySelector('[data-part=line-editor] input') as HTMLInputElement).value === '',
)
await page.keyboard.type('T = @4(-37) "  °C"')
await shot('solve-at-rest')
await page.keyboard.press('Enter')
await wait(500)
await page.keyboard.press('Escape')
await page.evaluate(() => (document.activeElement as HTMLElement).blur())
await page.keyboard.press('g')
await page.keyboard.press('g')
await page.keyboard.type('6.5 * 8')
await tap(0.06, 0.36)
await page.evaluate(() => (document.activeElement as HTMLElement).blur())
await page.keyboard.press('r')
await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
await page.keyboard.press('h')
await wait(1500)
await page.keyboard.press('m')
await page.mouse.move(board.x + board.width * 0.16, board.y + board.height * 0.1)
await page.mouse.down()
await page.mouse.move(board.x + board.width * 0.4, board.y + board.height * 0.1, { steps: 8 })
await page.mouse.up()
await page.keyboard.press('h')
await page.keyboard.press('h')
await page.keyboard.press('Space')
await page.keyboard.press('g')
for (let i = 0; i < 5; i++) await page.keyboard.press('n')
await wait(6000)
await shot('solve-recording')
await page.keyboard.press('s')
await page.waitForSelector('[data-part=proof-board]')
// A microphone that drops out, and the pad beside it.
await settings({ microphone: 'sim:drops' })
await go('solve', '6', 'canvas[data-page=shown]')
await page.click('[data-part=devices]')
await press(page, 'Turn on the pad')
const code = await (await page.waitForSelector('[data-part=pad] p.serif'))!.evaluate(e => e.textContent!.trim())
const pad = await openPage(browser, await page.$eval('[data-part=pad] strong', e => e.textContent!.trim()))
await pad.setViewport({ width: 390, height: 780 })
await pad.goto(await page.$eval('[data-part=pad] strong', e => e.textContent!.trim()))
await pad.type('#code', code)
await pad.keyboard.press('Enter')
await page.bringToFront()
await page.keyboard.press('Escape')
await page.keyboard.press('r')
await page.waitForSelector('[data-part=sound-warning]', { timeout: 20_000 })
await shot('solve-warning')
await pad.bringToFront()
await shot('pad', pad)
await pad.close()
await page.bringToFront()
await page.keyboard.press('s')
await page.waitForSelector('[data-part=proof-board]')
// The camera on, and two takes beside each other.
await settings({ microphone: 'sim:voice', simulatedText: '4x − 18 = 2x + 30\n2x − 18 = 30' })
await go('solve', '4', 'canvas[data-page=shown]')
await turnOnCamera(page, 'a drawn figure')
await page.waitForSelector('[data-part=portrait]')
await page.keyboard.press('r')
await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
await page.keyboard.press('w')
await wait(4500)
await shot('solve-camera')
await page.keyboard.press('s')
await page.waitForSelector('[data-part=proof-board]')
await press(page, 'Compare')
await page.waitForSelector('[data-part=take-card]:nth-child(2) canvas')
await shot('takes')
await page.keyboard.press('Escape')
await go('proof', '1', 'canvas[data-page=shown]')
for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowDown')
await page.keyboard.press('ArrowRight')
await page.keyboard.press('ArrowRight')
await page.keyboard.press('ArrowRight')
// Words that are heard here, marked to be taken out.
await page.keyboard.press('w')
await page.waitForSelector('[data-part=strike-bar]')
await shot('proof')
await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: 'dark' }])
await page.evaluate(() => localStorage.setItem('nuxt-color-mode', 'dark'))
await go('proof', '4', 'canvas[data-page=shown]')
for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown')
await page.keyboard.press('ArrowRight')
await page.keyboard.press('h')
await page.waitForSelector('[data-part=mend] canvas[data-page=shown]')
await shot('proof-dark')
await page.evaluate(() => localStorage.setItem('nuxt-color-mode', 'light'))
await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: 'light' }])
await go('publish', '1', '[data-part=spine]')
await page.keyboard.press('p')
await page.waitForSelector('[data-part=check-report]', { timeout: 120_000 })
await page.waitForSelector('[data-part=version-now]')
await shot('publish')
await page.goto(app.origin)
await page.waitForSelector('[data-part=published-list]')
await page.waitForSelector('[data-part=folio] canvas')
await shot('home')
await browser.close()
rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
app.stop()

const out = join(tmpdir(), `orthograph-shots-${process.pid}`)
await exportDemo({ out })
const reader = await launch()
const student = await openPage(reader, 'file://')
await student.goto(pathToFileURL(join(out, 'site/index.html')).href)
await student.waitForSelector('#q1 .stage:not([hidden])')
await student.click('#q1 .steps li:nth-child(5) button')
await wait(4000)
await student.click('#q1 .play')
await shot('student-page', student)
await student.setViewport({ width: 390, height: 844, deviceScaleFactor: 1.5 })
await student.reload()
await student.waitForSelector('#q1 .stage:not([hidden])')
await student.evaluate(() => {
  document.querySelector<HTMLElement>('#q1 .captions')!.click()
  document.querySelector<HTMLElement>('#q1 .steps li:nth-child(3) button')!.click()
})
await wait(5000)
await shot('student-page-phone', student)
await reader.close()
rmSync(reader.profile, { recursive: true, force: true, maxRetries: 5 })
rmSync(out, { recursive: true, force: true })

// Nine questions, each as its board stands at the answer, on one sheet.
const alone = await startApp({ demo: false })
const hand = await launch()
const boards: string[] = []
await nineQuestions(hand, alone.origin, (_, png) => boards.push(Buffer.from(png).toString('base64')))
const sheet = await openPage(hand, alone.origin)
const composed = await sheet.evaluate(async (pictures: string[]) => {
  const bitmaps = await Promise.all(
    pictures.map(p => createImageBitmap(new Blob([Uint8Array.from(atob(p), c => c.charCodeAt(0))]))),
  )
  const [w, h] = [640, Math.round((640 * bitmaps[0]!.height) / bitmaps[0]!.width)]
  const canvas = new OffscreenCanvas(3 * w, 3 * h)
  const context = canvas.getContext('2d')!
  bitmaps.forEach((b, i) => context.drawImage(b, (i % 3) * w, Math.floor(i / 3) * h, w, h))
  return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())]
}, boards)
writeFileSync(join(folder, 'nine-questions.png'), new Uint8Array(composed))
console.log('nine-questions')
await hand.close()
rmSync(hand.profile, { recursive: true, force: true, maxRetries: 5 })
alone.stop()
