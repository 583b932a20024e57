import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { launch, openPage, press, see, startApp, type Running } from '../support/browser'
import { makeFiles } from '../support/pdfs'

/** Getting a worksheet ready, in the real interface. */
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }
let files: Awaited<ReturnType<typeof makeFiles>>
const out = mkdtempSync(join(tmpdir(), 'orthograph-pages-'))

beforeAll(async () => {
  app = await startApp({ demo: false })
  files = await makeFiles()
  browser = await launch()
  page = await openPage(browser, app.origin)
})
afterAll(async () => {
  await browser?.close()
  app?.stop()
  for (const dir of [out, files?.dir, browser?.profile])
    if (dir) rmSync(dir, { recursive: true, force: true, maxRetries: 5 })
})

const count = (selector: string, n: number) =>
  page.waitForFunction((s: string, k: number) => document.querySelectorAll(s).length === k, {}, selector, n)
const numbers = () => page.$$eval('[data-part=spine] a', all => all.map(a => a.textContent?.trim()))
async function choose(path: string) {
  const input = (await page.waitForSelector(
    'input[aria-label="PDF files and pictures"]',
  )) as ElementHandle<HTMLInputElement>
  await input.uploadFile(path)
}
async function begin(title: string) {
  await page.goto(app.origin)
  await page.waitForSelector('#new-title')
  await page.type('#new-title', title)
  await press(page, 'Begin with its pages')
  await see(page, 'Begin with the page')
}
async function control(key: string) {
  await page.keyboard.down('Control')
  await page.keyboard.press(key as 'z')
  await page.keyboard.up('Control')
}
const folio = () =>
  page.evaluate(
    () =>
      new Promise<{ questions: Record<string, unknown>[]; pages: Record<string, unknown>[] }>(resolve => {
        const open = indexedDB.open('orthograph')
        open.onsuccess = () => {
          const all = open.result.transaction('folios').objectStore('folios').getAll()
          all.onsuccess = () => {
            open.result.close()
            resolve(
              (all.result as { doc: never; updatedAt: string }[]).sort((a, b) =>
                b.updatedAt.localeCompare(a.updatedAt),
              )[0]!.doc,
            )
          }
        }
      }),
  )
describe('a ten-question, four-page paper', () => {
  it('is ready in at most 15 actions beside dropping it: questions taken, key read, room made, notice made', async () => {
    let actions = 0
    const act = async (what: Promise<unknown>) => {
      actions++
      await what
    }
    await begin('Second quiz')
    await choose(files.ten)
    await page.waitForSelector('[data-part=proposal]')
    await see(page, '10 questions')
    await act(page.keyboard.press('a'))
    await page.waitForFunction(() => !document.querySelector('[data-part=proposal]'))
    await act(press(page, 'Answers', '[role=tablist]'))
    await act(press(page, 'From the key page'))
    await see(page, '13 answers filled in.')
    await see(page, 'Every question has its answer.')
    await act(press(page, 'Plan', '[role=tablist]'))
    await act(
      (async () => {
        const field = (await page.$('input[type=date]'))!
        await field.type('12042026')
        await page.keyboard.press('Tab')
      })(),
    )
    await act(page.click('[aria-label="Add a page"]'))
    await act(
      page.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('[role=menuitem]')]
          .find(e => e.textContent?.includes('Opening notice'))!
          .click(),
      ),
    )
    await count('[data-part=thumb]', 5)
    expect(await numbers()).toEqual(['0', '1', '2', '3', '4', '5', '6', '7', '8', '9', '10'])
    await see(page, 'everything stored')
    const stored = await folio()
    expect(stored.questions.slice(1).map(q => q.marks)).toEqual([1, 5, 3, 1, 5, 3, 1, 5, 3, 1])
    expect(stored.questions.filter(q => (q.options as unknown[]).length === 4)).toHaveLength(4)
    // The count that is written down in docs/decisions/0005.
    expect(actions).toBe(7)
  })

  it('is shown page by page, also where a busy browser tells late, several at once, what came into sight', async () => {
    const late =
      await page.evaluateOnNewDocument(`globalThis.IntersectionObserver = class extends IntersectionObserver {
      constructor(listen, options) {
        super((now, self) => listen([...now.map(e => ({ target: e.target, isIntersecting: !e.isIntersecting, time: e.time - 1 })), ...now], self), options)
      }
    }`)
    await page.reload()
    await count('[data-part=page]', 5)
    for (let i = 0; i < 5; i++) {
      await page.waitForFunction(
        (n: number) => {
          const sheet = document.querySelectorAll('[data-part=page]')[n]!
          sheet.scrollIntoView()
          return (
            sheet.querySelector('canvas') && document.querySelectorAll('[data-part=thumb]')[n]!.querySelector('canvas')
          )
        },
        {},
        i,
      )
    }
    await page.removeScriptToEvaluateOnNewDocument(late.identifier)
    await page.reload()
    await count('[data-part=page]', 5)
  })

  it('what was found is corrected by keys and pointer, and every correction can be taken back', async () => {
    await page.evaluate(() => [...document.querySelectorAll<HTMLElement>('[data-part=spine] a')][3]!.click())
    await page.waitForFunction(() => location.search.includes('q='))
    await press(page, 'Questions', '[role=tablist]')
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.keyboard.press('j')
    await page.waitForFunction(() => document.querySelectorAll('[data-part=spine] a').length === 10)
    await control('z')
    await page.waitForFunction(() => document.querySelectorAll('[data-part=spine] a').length === 11)
    await page.evaluate(() => [...document.querySelectorAll<HTMLElement>('[data-part=spine] a')][3]!.click())
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.keyboard.press('m')
    await page.waitForFunction(() => document.querySelectorAll('[data-part=spine] a').length === 10)
    await control('z')
    await count('[data-part=spine] a', 11)
    await page.keyboard.press('c')
    const box = (await (await page.waitForSelector('[data-part=region].selected, [data-part=region]'))!.boundingBox())!
    const inside = await page.$$eval(
      '[data-part=region]',
      all =>
        all
          .map(e => e.getBoundingClientRect())
          .filter(r => r.top > 120 && r.bottom < 740 && r.height > 60)
          .map(r => ({ x: r.x + r.width / 2, y: r.y + r.height / 2 }))[0],
    )
    await page.mouse.click(inside?.x ?? box.x + 50, inside?.y ?? box.y + 60)
    await count('[data-part=spine] a', 12)
    await control('z')
    await count('[data-part=spine] a', 11)
  })

  it('room below a line moves what is below; a patch covers a misprint and is listed; pages are moved and turned', async () => {
    const before = await folio()
    await page.evaluate(() => [...document.querySelectorAll<HTMLElement>('[data-part=thumb]')][1]!.click())
    await page.keyboard.press('r')
    const sheet = (await (await page.$$('[data-part=page]'))[1]!.boundingBox())!
    await page.mouse.click(sheet.x + 200, sheet.y + 260)
    await page.waitForFunction(() => !document.querySelector('.lining'))
    await see(page, 'everything stored')
    const after = await folio()
    expect((after.pages[1]!.height as number) - (before.pages[1]!.height as number)).toBeCloseTo(113, 0)
    const y = (f: typeof after, i: number) => (f.questions[i]!.regions as { box: { y: number } }[])[0]!.box.y
    expect(y(after, 3) - y(before, 3)).toBeCloseTo(113, 0)
    expect(y(after, 1)).toBe(y(before, 1))
    await page.keyboard.press('h')
    await page.mouse.move(sheet.x + 60, sheet.y + 48)
    await page.mouse.down()
    await page.mouse.move(sheet.x + 230, sheet.y + 66, { steps: 5 })
    await page.mouse.up()
    await see(page, 'Patch a misprint')
    await page.waitForFunction(() => document.activeElement?.tagName === 'TEXTAREA')
    await page.keyboard.down('Control')
    await page.keyboard.press('a')
    await page.keyboard.up('Control')
    await page.keyboard.type('Balloon Day: third quiz')
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await press(page, 'Plan', '[role=tablist]')
    await see(page, 'For the author of the sheet')
    await see(page, 'third quiz')
    await press(page, 'Questions', '[role=tablist]')
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.evaluate(() => [...document.querySelectorAll<HTMLElement>('[data-part=thumb]')][4]!.click())
    await page.keyboard.down('Alt')
    await page.keyboard.press('ArrowUp')
    await page.keyboard.up('Alt')
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.keyboard.press('t')
    await see(page, 'everything stored')
    const turned = await folio()
    expect(turned.pages[3]).toMatchObject({ turns: 1, width: 842, height: 595 })
    expect(page.faults).toEqual([])
  })
})

describe('answers from a table', () => {
  it('lines that cannot be read are named, and the rest is taken', async () => {
    const path = join(out, 'key.csv')
    writeFileSync(path, 'Question,Answer,Marks\n1,D,2\nx,7,1\n3,,1\n99,4,1\n')
    await press(page, 'Answers', '[role=tablist]')
    const input = (await page.waitForSelector(
      'input[aria-label="Table of answers"]',
    )) as ElementHandle<HTMLInputElement>
    await input.uploadFile(path)
    const report = await page.waitForSelector('[data-part=key-report]')
    await see(page, '1 answer filled in')
    const said = await report!.evaluate(e => (e as HTMLElement).innerText)
    expect(said).toContain('key.csv, line 3')
    expect(said).toContain('key.csv, line 4')
    expect(said).toContain('99: the folio has no such question')
  })
})

describe('pictures', () => {
  it('several at once, one of them broken: the others come in, turned as the camera was held', async () => {
    await begin('Photos')
    const jpeg = Buffer.from(
      await page.evaluate(async () => {
        const canvas = new OffscreenCanvas(400, 300)
        const context = canvas.getContext('2d')!
        context.fillStyle = '#fff'
        context.fillRect(0, 0, 400, 300)
        context.fillStyle = '#c00'
        context.fillRect(0, 0, 60, 60)
        return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg' })).arrayBuffer())]
      }),
    )
    // An Exif segment that says: turned by 90° (orientation 6).
    const exif = Buffer.from('ffe1002245786966000049492a0008000000010012010300010000000600000000000000', 'hex')
    const held = join(out, 'held.jpg'),
      broken = join(out, 'broken.png')
    writeFileSync(held, Buffer.concat([jpeg.subarray(0, 2), exif, jpeg.subarray(2)]))
    writeFileSync(broken, Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]), Buffer.alloc(50)]))
    const input = (await page.waitForSelector(
      'input[aria-label="PDF files and pictures"]',
    )) as ElementHandle<HTMLInputElement>
    await input.uploadFile(broken, held)
    expect(
      await (await page.waitForSelector('[data-trouble=image-damaged]'))!.evaluate(e => (e as HTMLElement).innerText),
    ).toContain('broken.png cannot be read')
    await count('[data-part=page] canvas', 1)
    await see(page, 'no text')
    const stored = (await folio()).pages
    expect(stored).toHaveLength(1)
    expect((stored[0]!.height as number) > (stored[0]!.width as number)).toBe(true)
    const corner = await page.$eval('[data-part=page] canvas', c => {
      const canvas = c as HTMLCanvasElement
      return [...canvas.getContext('2d')!.getImageData(canvas.width - 20, 20, 1, 1).data]
    })
    expect(corner[0]! - corner[1]!).toBeGreaterThan(100)
  })

  it('pasted from the clipboard, and blank pages of every paper', async () => {
    await page.evaluate(async () => {
      const canvas = new OffscreenCanvas(50, 50)
      canvas.getContext('2d')!.fillRect(0, 0, 50, 50)
      const transfer = new DataTransfer()
      transfer.items.add(new File([await canvas.convertToBlob()], 'image.png', { type: 'image/png' }))
      document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true }))
    })
    await count('[data-part=thumb]', 2)
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.keyboard.press('n')
    await count('[data-part=thumb]', 3)
    await page.click('[aria-label="Add a page"]')
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[role=menuitem]')]
        .find(e => e.textContent?.includes('Dotted, dark'))!
        .click(),
    )
    await count('[data-part=thumb]', 4)
    expect(
      (await folio()).pages
        .filter(p => p.kind === 'blank')
        .map(p => p.paper)
        .sort(),
    ).toEqual(['dotted', 'squared'])
  })

  it("a scanned page is read by character recognition, from this application's own files", async () => {
    execFileSync('pdftoppm', [
      '-r',
      '150',
      '-png',
      '-f',
      '1',
      '-l',
      '1',
      '-singlefile',
      files.worksheet,
      join(out, 'scan'),
    ])
    await begin('Scan')
    await choose(join(out, 'scan.png'))
    await see(page, 'no text')
    await press(page, 'Read the scan')
    await page.waitForSelector('[data-part=proposal]')
    expect(await numbers()).toEqual(['1', '2', '3'])
    expect(page.faults).toEqual([])
  })

  it('a photo of a sheet is straightened; its original stays and comes back', async () => {
    const photo = join(out, 'sheet.jpg')
    writeFileSync(
      photo,
      Buffer.from(
        await page.evaluate(
          async (data: number[]) => {
            const sheet = await createImageBitmap(new Blob([new Uint8Array(data)]))
            const canvas = new OffscreenCanvas(1600, 1200)
            const context = canvas.getContext('2d')!
            context.fillStyle = '#5b4630'
            context.fillRect(0, 0, 1600, 1200)
            context.translate(800, 600)
            context.rotate(0.12)
            context.drawImage(sheet, -370, -523, 740, 1046)
            return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg' })).arrayBuffer())]
          },
          [...readFileSync(join(out, 'scan.png'))],
        ),
      ),
    )
    await begin('Sheet')
    await choose(photo)
    await press(page, 'Straighten the photo')
    await page.waitForFunction(
      () =>
        document.querySelector('[data-part=photo] polygon') &&
        !document.body.textContent!.includes('Looking for the sheet'),
      { timeout: 100_000 },
    )
    await press(page, 'Straighten it')
    await page.waitForFunction(() => !document.querySelector('[data-part=photo]'))
    const clean = (await folio()).pages[0]!
    expect((clean.height as number) / (clean.width as number)).toBeCloseTo(Math.SQRT2, 1)
    expect(clean.original).toBeTruthy()
    await control('z')
    await page.waitForFunction(
      () =>
        document.querySelector('[data-part=page]')!.getBoundingClientRect().width >
        document.querySelector('[data-part=page]')!.getBoundingClientRect().height,
    )
    expect(page.faults).toEqual([])
  })
})
