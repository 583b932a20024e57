import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, HTTPRequest, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import jsQR from 'jsqr'
import FeedReader from 'rss-parser'
import { openPage, press, see, still, visit, type Running } from '../support/browser'
import { closeDemo, openDemo } from '../support/demo'
import { Downloads } from '../support/downloads'

/** Publishing from the teacher's screen to what students have: one link, versions, cuts with dates, messages. */
const folder = mkdtempSync(join(tmpdir(), 'orthograph-publish-'))
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }
const publishPage = () => page.goto(`${app.origin}/folio/balloon-day/publish`)
const link = async () =>
  (await page.waitForSelector('[data-part=class-link]'))!.evaluate(a => (a as HTMLAnchorElement).href)
const html = async () => (await fetch(await link())).text()

beforeAll(async () => {
  ;({ app, browser, page } = await openDemo('three'))
  await publishPage()
  await see(page, 'Videos to render')
})
afterAll(async () => {
  expect(page.faults).toEqual([])
  await closeDemo(app, browser)
  rmSync(folder, { recursive: true, force: true })
})

/** Sets a field of date and time as the browser's own picker does. */
async function setMoment(label: string, value: string) {
  const field = await page.waitForSelector(`input[aria-label="${label}"]`)
  await field!.evaluate((e, v) => {
    ;(e as HTMLInputElement).value = v
    e.dispatchEvent(new Event('change', { bubbles: true }))
  }, value)
}
async function publishChanges(version: number) {
  await page.keyboard.press('p')
  await see(page, `Students have version ${version}`, 90_000)
}

describe('one link', () => {
  it('is there after one press, checked before; as text and as a code that a reader reads', async () => {
    await publishChanges(1)
    expect(await page.$eval('[data-part=check-report]', e => (e as HTMLElement).innerText)).toMatch(
      /^Opened again and checked: 3 replays, 9 pictures, 9 stretches of sound, 3 caption files/,
    )
    expect((await fetch(await link())).status).toBe(200)
    await press(page, 'QR code')
    await page.waitForSelector('[data-part=qr-code]')
    await still(page)
    const { data, width, height } = await page.$eval('[data-part=qr-code]', async image => {
      const from = image as HTMLImageElement
      const canvas = new OffscreenCanvas(300, 300)
      const context = canvas.getContext('2d')!
      context.imageSmoothingEnabled = false
      context.drawImage(from, 0, 0, 300, 300)
      return { data: [...context.getImageData(0, 0, 300, 300).data], width: 300, height: 300 }
    })
    expect(jsQR(new Uint8ClampedArray(data), width, height)?.data).toBe(await link())
    await page.keyboard.press('Escape')
    await still(page)
  })
  it('is on the class page of its course, with how far a student got, and a search that leads to the moment', async () => {
    const at = await (await page.waitForSelector('[data-part=class-page] a'))!.evaluate(
      a => (a as HTMLAnchorElement).href,
    )
    const student = await openPage(browser, new URL(at).origin)
    await student.setViewport({ width: 390, height: 844 })
    await student.goto(at)
    expect(await student.$$eval('.lesson-row', rows => rows.length)).toBe(1)
    await student.click('.lesson-row h2 a')
    await student.waitForSelector('#q1 .stage:not([hidden])')
    await student.$eval('#q1 .at', slider => {
      const range = slider as HTMLInputElement
      range.value = range.max
      range.dispatchEvent(new Event('input', { bubbles: true }))
    })
    await student.waitForSelector('.strip [data-of=q1][data-state=done]')
    await Promise.all([student.waitForNavigation(), student.click('.top .back')])
    await student.waitForSelector('.lesson-row [data-state=done]')
    expect(await student.$eval('.far', e => e.textContent)).toBe('1 of 3 done')
    await student.focus('#find')
    await student.keyboard.type('what is asked')
    await student.waitForSelector('#hits a[href*="&t="], #hits a[href*="#q-"]')
    await Promise.all([student.waitForNavigation(), student.keyboard.press('Enter')])
    await student.waitForSelector('.question.front .stage:not([hidden])')
    expect(new URL(student.url()).hash).toMatch(/^#q-/)
    expect(student.faults).toEqual([])
    await student.close()
    // Taken off, it stands on none; a later version does not put it back by itself.
    await press(page, 'Take it off', '[data-part=class-page]')
    await see(page, 'It stands on no class page')
    expect(await (await fetch(at)).text()).toContain('There is no lesson here yet')
    await press(page, 'Put it on the class page of', '[data-part=class-page]')
    await page.waitForSelector('[data-part=class-page] a')
  })
  it('stays while the lesson changes; only what changed is sent, and who is in the middle plays on', async () => {
    const before = await link()
    const student = await openPage(browser, new URL(before).origin)
    await student.goto(before)
    await student.waitForSelector('#q1 .stage:not([hidden])')
    await student.$eval('#q1 .play', b => (b as HTMLElement).click())
    await page.bringToFront()
    await press(page, 'Proof')
    await page.waitForSelector('[data-part=step] input')
    const name = (await page.$('[data-part=step] input'))!
    await name.click({ count: 3 })
    await name.type('What is asked here')
    await page.keyboard.press('Tab')
    await press(page, 'Publish')
    await see(page, 'changed: 1')
    const sent: string[] = []
    const note = (r: HTTPRequest) => {
      if (r.method() === 'PUT') sent.push(r.url())
    }
    page.on('request', note)
    // She goes on with her work while it is checked and sent.
    await page.keyboard.press('p')
    await press(page, 'Pages')
    await page.waitForSelector('[data-part=work-sign]')
    await see(page, 'Students have version 2 of Balloon Day', 90_000)
    await press(page, 'Publish')
    await see(page, 'Students have version 2,')
    page.off('request', note)
    expect(sent.length).toBeGreaterThan(0)
    expect(sent.length).toBeLessThan(6)
    expect(await link()).toBe(before)
    expect(await html()).toContain('What is asked here')
    await student.bringToFront()
    const ms = () => student.$eval('#q1', q => Number((q as HTMLElement).dataset.ms))
    const at = await ms()
    await student.$eval('#q1 .at', e => {
      ;(e as HTMLInputElement).value = '3000'
      e.dispatchEvent(new Event('input'))
    })
    if (await student.$eval('#q1 .play', b => b.getAttribute('aria-label')!.startsWith('Play')))
      await student.$eval('#q1 .play', b => (b as HTMLElement).click())
    await student.waitForFunction(() => Number(document.querySelector<HTMLElement>('#q1')!.dataset.ms) > 3300)
    expect(at).toBeGreaterThanOrEqual(0)
    await student.reload()
    await student.$eval('#about', d => ((d as HTMLDetailsElement).open = true))
    await see(student, 'Changed')
    expect(student.faults).toEqual([])
    await student.close()
    await page.bringToFront()
  })
  it('is there after a restart; versions are brought back, and taken away', async () => {
    await visit(page, app.origin, '/')
    await page.waitForSelector('[data-part=published-list]')
    const [name, stands, number, , size, since] = await page.$$eval('[data-part=published-list] td', cells =>
      cells.map(c => c.textContent!.trim()),
    )
    expect([name, number, since]).toEqual(['Balloon Day', '2', 'nothing changed'])
    expect(size).toMatch(/^[\d.]+ MB$/)
    await publishPage()
    expect(stands).toBe(await link())
    await see(page, 'Students have version 2')
    await page.keyboard.press('v')
    await press(page, 'Bring back', '[data-part=version]')
    await press(page, 'Bring it back')
    await see(page, 'Students have version 1')
    expect(await html()).not.toContain('What is asked here')
    await still(page)
    await page.keyboard.press('v')
    await press(page, 'Take it from students')
    await press(page, 'Take it away')
    await see(page, 'Students have nothing of it now')
    expect((await fetch(await link())).status).toBe(404)
    await still(page)
    await page.keyboard.press('v')
    await press(page, 'Bring back', '[data-part=version]')
    await press(page, 'Bring it back')
    await see(page, 'Students have version 2')
    expect((await fetch(await link())).status).toBe(200)
    await still(page)
  })
  it('a site without room says so; students keep what they have, and nothing is sent again and again', async () => {
    await publishPage()
    await see(page, 'Students have version 2')
    let asked = 0
    const full = (request: HTTPRequest) => {
      if (request.method() !== 'PUT') return void request.continue()
      asked++
      void request.respond({ status: 507, contentType: 'application/json', body: '{}' })
    }
    await page.setRequestInterception(true)
    page.on('request', full)
    try {
      await page.keyboard.press('p')
      await see(page, 'The class site has no room left: it did not take')
    } finally {
      page.off('request', full)
      await page.setRequestInterception(false)
    }
    expect(asked).toBeLessThanOrEqual(2)
    await see(page, 'students have what they had before')
    await see(page, 'Students have version 2')
    page.faults.splice(0, page.faults.length, ...page.faults.filter(f => !f.includes('507')))
  })
  it('is changed by a key that is made anew where it is lost, and not by a second tab that knows of nothing', async () => {
    await page.evaluate(() => localStorage.removeItem('orthograph-publication-keys'))
    const known = await page.evaluate(async () => {
      const open = indexedDB.open('orthograph')
      await new Promise(r => (open.onsuccess = r))
      const read = open.result.transaction('folios').objectStore('folios').getAll()
      await new Promise(r => (read.onsuccess = r))
      const { published } = (read.result as { doc: { published: { id: string; versions: { id: string }[] } } }[])[0]!
        .doc
      open.result.close()
      return published
    })
    await publishPage()
    await see(page, 'Students have version 2')
    await page.waitForFunction(() => localStorage.getItem('orthograph-publication-keys')?.includes('":"'))
    // What another tab published meanwhile is not covered up.
    const keys = JSON.parse(
      (await page.evaluate(() => localStorage.getItem('orthograph-publication-keys')))!,
    ) as Record<string, string>
    const elsewhere = await fetch(`${app.origin}/api/class-site/${known.id}/current`, {
      method: 'PUT',
      body: JSON.stringify({ version: known.versions[0]!.id }),
      headers: { 'x-publication-key': keys[known.id]!, 'if-match': `"${known.versions[1]!.id}"` },
    })
    expect(elsewhere.ok).toBe(true)
    await page.keyboard.press('p')
    await see(page, 'published from another tab or machine meanwhile')
    await see(page, 'Students have version 1')
    // The browser itself notes what it was refused.
    page.faults.splice(0, page.faults.length, ...page.faults.filter(f => !/status of (403|412)/.test(f)))
  })
})

describe('cuts and dates', () => {
  it('give hints now and solutions later; the page changes by the site’s clock', async () => {
    await page.keyboard.press('d')
    await press(page, 'No hint')
    await page.waitForSelector('[data-part=release] ol [role=checkbox]')
    await still(page)
    await (await page.$('[data-part=release] ol [role=checkbox]'))!.click()
    await see(page, 'Hint: 1 of')
    const soon = new Date(Date.now() + 3_600_000 - new Date().getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
    await setMoment('All of question 1 from', soon)
    await setMoment('All of question 2 from', soon)
    await see(page, 'The hint now, all of it')
    await see(page, 'Nothing before')
    await page.keyboard.press('Escape')
    await still(page)
    await publishChanges(3)
    const student = await openPage(browser, new URL(await link()).origin)
    await student.goto(await link())
    await student.waitForSelector('#q1 .stage:not([hidden])')
    const seen = await student.evaluate(() => ({
      hint: document.querySelector('#q1 .hint')?.textContent ?? '',
      steps: document.querySelectorAll('#q1 .steps button').length,
      closed: document.querySelector('#q2')!.className,
      player: document.querySelector('#q2 canvas'),
    }))
    expect(seen.hint).toContain('This is how it begins')
    expect([seen.steps, seen.closed, seen.player]).toEqual([1, 'closed', null])
    // Its feed has what is released whole, and leads to its place.
    const feed = await fetch(`${await link()}feed.xml`)
    expect(feed.headers.get('content-type')).toMatch(/^application\/rss\+xml/)
    expect((await new FeedReader().parseString(await feed.text())).items.map(i => i.link)).toEqual([
      `${await link()}#q-question-4`,
    ])
    // It ends with her turn, and does not begin again.
    await student.$eval('#q1 .at', e => {
      const at = e as HTMLInputElement
      at.value = String(Number(at.max) - 700)
      at.dispatchEvent(new Event('input'))
    })
    await student.$eval('#q1 .play', b => (b as HTMLElement).click())
    await student.waitForSelector('#q1 .turn:not([hidden])')
    await student.$eval('#q1 .turn .go', b => (b as HTMLElement).click())
    await new Promise(r => setTimeout(r, 400))
    expect(await student.$eval('#q1 .play', b => b.getAttribute('aria-label'))).toBe('Play question 1')
    expect(student.faults).toEqual([])
    await student.close()
    await page.bringToFront()
  })
})

describe('the handout', () => {
  it('is the pages as they are with the ink over them, and codes that lead to the questions', async () => {
    const downloads = await Downloads.into(browser, folder)
    await page.keyboard.press('h')
    let began = 0
    const pdf = await downloads.after(async () => {
      await press(page, 'Make the PDF')
      // The solution of the first is for later: paper would give it now.
      await see(page, 'Not released yet')
      await still(page)
      began = performance.now()
      await press(page, 'Make it all the same')
    }, 60_000)
    expect(performance.now() - began).toBeLessThan(20_000)
    execFileSync('qpdf', ['--check', pdf])
    const text = execFileSync('pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' })
    expect(text).toContain('The balloon is planned to burst at 30 204 m')
    expect(text).toContain('What is asked here')
    const pages = Number(/Pages: +(\d+)/.exec(execFileSync('pdfinfo', [pdf], { encoding: 'utf8' }))![1])
    execFileSync('pdftoppm', ['-gray', '-r', '150', '-f', String(pages), '-singlefile', pdf, join(folder, 'last')])
    const pgm = readFileSync(join(folder, 'last.pgm'))
    const head = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(pgm.subarray(0, 40).toString('latin1'))!
    const grey = pgm.subarray(head[0].length)
    const rgba = new Uint8ClampedArray(4 * grey.length)
    grey.forEach((v, i) => rgba.set([v, v, v, 255], 4 * i))
    expect(jsQR(rgba, Number(head[1]), Number(head[2]))?.data.startsWith(`${await link()}#q`)).toBe(true)
    // The page's own print is no picture.
    expect(execFileSync('pdfimages', ['-list', pdf], { encoding: 'utf8' }).trim().split('\n')).toHaveLength(2)
  })
})

/** A student's question on the page, at its first step. */
async function ask(id: string, words: string) {
  const student = await openPage(browser, new URL(await link()).origin)
  await student.goto(await link())
  await student.$eval(`.strip a[data-of=${id.slice(1)}]`, a => (a as HTMLElement).click())
  await student.waitForSelector(`${id} .stage:not([hidden])`)
  await student.$eval(`${id} .stuck`, d => ((d as HTMLDetailsElement).open = true))
  await student.type(`${id} .stuck textarea`, words)
  await student.$eval(`${id} .stuck .send`, b => (b as HTMLElement).click())
  await student.waitForFunction(
    (done: string) => document.querySelector(done)!.textContent!.startsWith('Sent'),
    {},
    `${id} .stuck .done`,
  )
  expect(student.faults).toEqual([])
  await student.close()
  await page.bringToFront()
}

describe('messages', () => {
  it('come from the page to the inbox, open at their moment, and are answered in the next version', async () => {
    await ask('#q1', 'Why is it <b>subtracted</b>?')
    await publishPage()
    await page.waitForSelector('[data-part=message]')
    await press(page, 'is stuck at', '[data-part=message]')
    await page.waitForSelector('[data-part=stuck-picture]')
    await still(page)
    await page.type('textarea[name=answer]', 'Because it is how much is left.')
    await press(page, 'Answer on the page')
    await page.waitForSelector('[data-part=message]', { hidden: true })
    await see(page, 'changed: 1')
    await publishChanges(4)
    expect(await html()).toMatch(
      /Why is it &lt;b&gt;subtracted&lt;\/b&gt;\?<\/p>\s*<p>Because it is how much is left\./,
    )
  })
  it('are answered by a step that is recorded for them, and goes in there', async () => {
    await ask('#q3', 'Where does the volume come from?')
    const steps = async () =>
      (await html()).split('id="q3"')[1]!.match(/<li>\s*<button type="button"\s+data-t=/g)?.length ?? 0
    const before = await steps()
    await visit(page, app.origin, '/folio/balloon-day/proof', { microphone: 'sim:voice', countdown: 0 })
    await visit(page, app.origin, '/folio/balloon-day/publish')
    await page.waitForSelector('[data-part=message]')
    await press(page, 'is stuck at', '[data-part=message]')
    await page.waitForSelector('[data-part=stuck-picture]')
    await still(page)
    await press(page, 'Record a step for it')
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
    await new Promise(r => setTimeout(r, 2500))
    await page.keyboard.press('s')
    await page.waitForSelector('[data-part=proof-board]')
    await press(page, 'Publish')
    await see(page, 'changed: 4')
    await page.waitForSelector('[data-part=message]', { hidden: true })
    await publishChanges(5)
    expect(await html()).toMatch(/Where does the volume come from\?<\/p>\s*<p>This step is about it\./)
    expect(await steps()).toBe(before + 1)
  })
})

describe('what goes out', () => {
  it('is shown to nobody where it fails a check: the file is named, and made anew the next time', async () => {
    // One sound is another question's, one is none at all.
    await page.evaluate(async () => {
      const open = indexedDB.open('orthograph')
      await new Promise(r => (open.onsuccess = r))
      const sounds = open.result.transaction('madeSounds', 'readwrite').objectStore('madeSounds')
      const read = sounds.getAll()
      await new Promise(r => (read.onsuccess = r))
      const [one, two, three] = read.result as { blob: Blob }[]
      sounds.put({ ...one, blob: two!.blob })
      const last = sounds.put({ ...three, blob: new Blob(['none'], { type: 'audio/mp4' }) })
      await new Promise(r => (last.onsuccess = r))
      open.result.close()
    })
    await publishPage()
    await see(page, 'Students have version 5')
    await page.keyboard.press('p')
    await see(page, 'Nothing went out: ')
    const told = await page.$eval('[data-part=check-report]', e => (e as HTMLElement).innerText)
    const wrong = new Set(told.match(/sound\/[0-9a-f]{16}\.m4a/g))
    expect(wrong.size, told).toBeGreaterThanOrEqual(2)
    expect(told).toMatch(/of question \d cannot be checked/)
    expect(told).toContain('Publish once more')
    await see(page, 'Students have version 5')
    await publishChanges(6)
    page.faults.splice(0, page.faults.length, ...page.faults.filter(f => !f.includes('m4a')))
  })
})

describe('a lesson that is kept', () => {
  it('opens, plays and finds its questions when its site is gone; never half of it', async () => {
    const at = await link()
    const student = await openPage(browser, new URL(at).origin)
    await student.goto(at)
    await student.$eval('#about', d => ((d as HTMLDetailsElement).open = true))
    await student.waitForSelector('.keep:not([hidden])')
    expect(await student.$eval('.keep button', b => b.textContent)).toMatch(
      /^Keep it for use without a line, [\d.]+ MB$/,
    )
    await press(student, 'Keep it for use', '.keep')
    await see(student, 'This lesson is kept in this browser')
    // All that it names, and the page itself, in one cache.
    const kept = await student.evaluate(async () => {
      const names = await caches.keys()
      const paths = await Promise.all(names.map(async n => (await (await caches.open(n)).keys()).length))
      const { files } = JSON.parse(document.querySelector('#to-keep')!.textContent!) as { files: string[] }
      await navigator.serviceWorker.ready
      return { caches: names.length, paths: paths[0], files: files.length }
    })
    expect(kept).toEqual({ caches: 1, paths: kept.files + 1, files: kept.files })
    // A publication cannot bring a worker of its own: the site gives its own.
    const worker = await fetch(`${at}keep.js`)
    expect(worker.headers.get('content-security-policy')).toBe("default-src 'none'; connect-src 'self'")
    app.stop()
    await student.reload()
    await student.waitForSelector('#q1 .stage:not([hidden])')
    await student.$eval('.strip a[data-of=q3]', a => (a as HTMLElement).click())
    await student.$eval('#q3 .play', b => (b as HTMLElement).click())
    await student.waitForFunction(() => Number(document.querySelector<HTMLElement>('#q3')!.dataset.ms) > 600)
    expect(await student.$eval('#q3 .word', w => (w as HTMLElement).hidden)).toBe(true)
    // Part of a sound, as a player asks for it.
    const part = await student.evaluate(async () => {
      const sound = document.querySelector<HTMLElement>('#q3')!.dataset.sound!
      const { status, headers } = await fetch(sound, { headers: { Range: 'bytes=10-19' } })
      return [status, headers.get('content-range')?.replace(/\d+$/, 'N'), headers.get('content-length')]
    })
    expect(part).toEqual([206, 'bytes 10-19/N', '10'])
    await student.$eval('#about', d => ((d as HTMLDetailsElement).open = true))
    await press(student, 'Let go of what is kept')
    await student.waitForFunction(async () => (await caches.keys()).length === 0)
    await student.close()
  })
})
