import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { archiveBlob } from '../../core/folio'
import { folioFiles } from '../../core/publish'
import { drawLine, openPage, press, see, still, type Running } from '../support/browser'
import { closeDemo, openDemo, seededFolio } from '../support/demo'
import { rows } from '../support/stored'

/** Nothing that she made is lost, in the real interface: each of these was lost, or went on without a word, once. */
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }
const dir = mkdtempSync(join(tmpdir(), 'orthograph-safety-'))
const short = await seededFolio('three')
type Folio = {
  id: string
  doc: {
    title: string
    updatedAt: string
    questions: { id: string; title: string; ledger: { takeId: string } | null }[]
  }
}

beforeAll(async () => {
  ;({ app, browser, page } = await openDemo('three'))
})
afterAll(async () => {
  await closeDemo(app, browser)
  rmSync(dir, { recursive: true, force: true })
})
beforeEach(async () => {
  await page.bringToFront()
  await page.evaluate(() => document.querySelectorAll<HTMLElement>('[data-trouble] button').forEach(b => b.click()))
})

async function bring(name: string, file: Blob) {
  const path = join(dir, name)
  writeFileSync(path, new Uint8Array(await file.arrayBuffer()))
  await ((await page.waitForSelector('input[type=file]')) as ElementHandle<HTMLInputElement>).uploadFile(path)
}
const go = async (path: string, ready: string) => {
  await page.goto(`${app.origin}/folio/balloon-day/${path}`)
  await page.waitForSelector(ready)
}
const remember = (values: object) =>
  page.evaluate(
    v =>
      localStorage.setItem(
        'orthograph-settings',
        JSON.stringify({ countdown: 0, microphone: 'none', sampleOffered: true, ...v }),
      ),
    values,
  )
/** Nothing can be stored until there is room again; of some tables only, where they are named. */
const fill = (...tables: string[]) =>
  page.evaluate((names: string[]) => {
    const put = IDBObjectStore.prototype.put
    Object.assign(window, {
      makeRoom: () => {
        IDBObjectStore.prototype.put = put
      },
    })
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args: [unknown]) {
      if (names.length && !names.includes(this.name)) return put.apply(this, args)
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError')
    }
  }, tables)
const makeRoom = () => page.evaluate(() => (window as unknown as { makeRoom(): void }).makeRoom())
/** Answers what she is asked, and waits until the question is gone. */
const answer = async (words: string) => {
  await press(page, words, '[role=dialog]')
  await page.waitForFunction(
    () => !document.querySelector('[role=dialog]') && getComputedStyle(document.body).pointerEvents !== 'none',
  )
}
const trouble = async (code: string) =>
  (await page.waitForSelector(`[data-trouble="${code}"]`))!.evaluate(e => (e as HTMLElement).innerText)
const taking = () =>
  page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
const folios = () => rows<Folio>(page, 'folios')

describe('a change that could not be stored', () => {
  it('is stored as soon as there is room, and leaving asks until then', async () => {
    await go('pages?q=question-5', '[data-part=page]')
    await fill('folios')
    const field = (await page.$$('[data-part=question-row] input'))[9]!
    await field.click({ count: 3 })
    await page.keyboard.type('Forces')
    await page.keyboard.press('Tab')
    await see(page, 'not stored')
    const asked = new Promise<string>(r => page.once('dialog', d => r(d.type())))
    void page.reload().catch(() => {})
    expect(await asked).toBe('beforeunload')
    await page.waitForSelector('[data-part=page]')
    // The dialog was answered with leaving here; the change was lost knowingly. Once more, and this time there is room
    // in the end.
    await fill('folios')
    const again = (await page.$$('[data-part=question-row] input'))[9]!
    await again.click({ count: 3 })
    await page.keyboard.type('Lift')
    await page.keyboard.press('Tab')
    await see(page, 'not stored')
    await page.click('a[aria-label="All folios"]')
    await see(page, 'Leave what is not stored?')
    await answer('Leave it')
    await makeRoom()
    await see(page, 'everything stored')
    expect((await folios())[0]!.doc.questions[4]!.title).toBe('Lift')
  })
})

describe('a take', () => {
  it('whose Stop came while it was made ready does not begin', async () => {
    await remember({ microphone: 'sim:voice' })
    // The microphone's own sound comes when the test says so.
    await page.evaluateOnNewDocument(() => {
      const real = window.fetch
      const said = new Promise(r => Object.assign(window, { letSoundCome: r }))
      window.fetch = async (...args) => {
        if (String(args[0]).includes('lesson.ogg')) {
          Object.assign(window, { soundIsAsked: true })
          await said
        }
        return real(...args)
      }
    })
    await go('solve?q=question-6', 'canvas[data-page=shown]')
    const before = (await rows(page, 'takes')).length
    await page.keyboard.press('r')
    await page.waitForSelector('[data-part=taking]')
    await page.waitForFunction(() => 'soundIsAsked' in window)
    await page.keyboard.press('s')
    await page.evaluate(() => (window as unknown as { letSoundCome(): void }).letSoundCome())
    await page.waitForFunction(() => !document.querySelector('[data-part=taking]'))
    expect((await rows(page, 'takes')).length).toBe(before)
    expect(
      await page.evaluate(
        async () => (await navigator.locks.query()).held!.filter(l => l.name!.startsWith('take:')).length,
      ),
    ).toBe(0)
  })
  it('of the next question that is stopped before it begins does not begin; the one before is kept', async () => {
    await remember({ nextCountdown: 10 })
    await go('solve?q=question-5', 'canvas[data-page=shown]')
    await page.keyboard.press('r')
    await taking()
    await drawLine(page, 0.5)
    await new Promise(r => setTimeout(r, 400))
    await page.keyboard.press('PageDown')
    await page.waitForFunction(() => location.search.includes('question-6'))
    await page.keyboard.press('s')
    await page.waitForFunction(() => !document.querySelector('[data-part=taking]'))
    await page.waitForFunction(
      () => document.querySelector('[data-part=spine] a:nth-child(5) svg')?.getAttribute('aria-label') === 'recorded',
      { timeout: 100_000 },
    )
    expect(
      (await rows<{ questionId: string; doc: { state: string } }>(page, 'takes'))
        .filter(t => ['question-5', 'question-6'].includes(t.questionId))
        .map(t => [t.questionId, t.doc.state]),
    ).toEqual([['question-5', 'whole']])
  })
  it('that cannot begin lets go of its lock', async () => {
    await remember({})
    await go('solve?q=question-6', 'canvas[data-page=shown]')
    await fill('takes')
    await page.keyboard.press('r')
    await trouble('storage-full')
    await page.waitForFunction(() => !document.querySelector('[data-part=taking]'))
    expect(
      await page.evaluate(
        async () => (await navigator.locks.query()).held!.filter(l => l.name!.startsWith('take:')).length,
      ),
    ).toBe(0)
    await makeRoom()
  })
  it('whose end could not be stored does not go on; it is stored when there is room', async () => {
    await go('solve?q=question-6', 'canvas[data-page=shown]')
    await page.keyboard.press('r')
    await taking()
    await fill('journal', 'takes')
    await page.keyboard.press('Space')
    await page.keyboard.press('s')
    await see(page, 'Not stored')
    await see(page, 'The end of the take is not stored.')
    await page.keyboard.press('p')
    await new Promise(r => setTimeout(r, 400))
    await see(page, 'Not stored')
    await makeRoom()
    await page.keyboard.press('s')
    await page.waitForSelector('[data-part=proof-board]')
  })
  it('is put in use though the folio is left while it is put together', async () => {
    await go('solve?q=question-3', 'canvas[data-page=shown]')
    await page.keyboard.press('r')
    await taking()
    await drawLine(page, 0.5)
    await new Promise(r => setTimeout(r, 700))
    // Settling waits here, so that the folio is surely left before it ends.
    await page.evaluate(() => {
      const real = Worker.prototype.postMessage
      Worker.prototype.postMessage = function (this: Worker, message: { name?: string }, ...rest: []) {
        if (message.name === 'begin') setTimeout(() => real.call(this, message, ...rest), 1200)
        else real.call(this, message, ...rest)
      }
    })
    await page.keyboard.press('s')
    await page.evaluate(() => document.querySelector<HTMLElement>('a[aria-label="All folios"]')!.click())
    await page.waitForSelector('[data-part=folio]')
    await see(page, 'The take is kept: Balloon Day, question 3.', 30_000)
    const { takeId } = (await folios())[0]!.doc.questions[2]!.ledger!
    expect((await rows<{ id: string; state: string }>(page, 'takes')).find(t => t.id === takeId)!.state).toBe('whole')
  })
})

describe('rows that a newer or damaged store holds', () => {
  const put = (table: string, row: object) =>
    page.evaluate(
      (name: string, value: object) =>
        new Promise<void>(resolve => {
          const open = indexedDB.open('orthograph')
          open.onsuccess = () => {
            const t = open.result.transaction(name, 'readwrite')
            t.objectStore(name).put(value)
            t.oncomplete = () => {
              open.result.close()
              resolve()
            }
          }
        }),
      table,
      row,
    )
  it('blank no screen, and are told', async () => {
    await put('folios', { id: 'newer', updatedAt: '2027-01-01T00:00:00.000Z', doc: { schema: 99 } })
    await put('takes', {
      id: 'odd',
      folioId: 'balloon-day',
      questionId: 'question-1',
      state: 'whole',
      doc: { id: 'odd' },
    })
    await page.goto(app.origin)
    await see(page, 'One folio in this browser cannot be read by this version. It is left as it is.')
    await page.goto(`${app.origin}/folio/newer/pages`)
    await see(page, 'This folio cannot be opened')
    await see(page, 'was made by a newer version of Orthograph')
    await go('pages', '[data-part=page]')
    expect(await trouble('take-damaged')).toContain('One take of this folio cannot be read')
  })
})

describe('a folio file', () => {
  it('with ids of another folio changes nothing of that; what is unreadable in it is named, and the rest opened', async () => {
    await page.goto(app.origin)
    await page.waitForSelector('[data-part=folio]')
    const before = JSON.stringify((await folios()).find(f => f.id === 'balloon-day'))
    const whole = {
      ...short,
      folio: { ...short.folio, id: 'another', title: 'Another' },
      takes: short.takes.map((t, i) =>
        i ? t : { ...t, sound: new Blob(['this is no sound'], { type: 'audio/ogg' }) },
      ),
    }
    await bring('another.folio', await archiveBlob(folioFiles(whole)))
    expect(await trouble('sound-unreadable')).toContain(
      'The sound of 1 — Still to climb in another.folio cannot be read.',
    )
    await page.waitForFunction(() =>
      [...document.querySelectorAll('[data-part=folio] h2')].some(h => h.textContent!.trim() === 'Another'),
    )
    const now = await folios()
    expect(JSON.stringify(now.find(f => f.id === 'balloon-day'))).toBe(before)
    const own = now
      .find(f => f.doc.title === 'Another')!
      .doc.questions.flatMap(q => (q.ledger ? [q.ledger.takeId] : []))
    expect(own.some(id => short.takes.some(t => t.take.id === id))).toBe(false)
  })
  it('that is a newer state of a folio here is asked about', async () => {
    const newer = {
      ...short,
      folio: { ...short.folio, title: 'Balloon Day, gone on', updatedAt: new Date(Date.now() + 60_000).toISOString() },
    }
    const file = await archiveBlob(folioFiles(newer))
    const count = (await folios()).length
    await bring('newer.folio', file)
    await see(page, 'A newer state of a folio that is here')
    await answer('Leave it')
    await page.waitForFunction(() => !document.querySelector('[role=status] button'))
    expect((await folios()).length).toBe(count)
    await bring('newer.folio', file)
    await see(page, 'A newer state of a folio that is here')
    await answer('Put it in its place')
    await page.waitForFunction(() =>
      [...document.querySelectorAll('[data-part=folio] h2')].some(
        h => h.textContent!.trim() === 'Balloon Day, gone on',
      ),
    )
    const now = await folios()
    expect(now.length).toBe(count)
    expect(now.some(f => f.id === 'balloon-day')).toBe(false)
  })
})

describe('videos', () => {
  let id = ''
  const publish = async () => {
    await page.goto(`${app.origin}/folio/${id}/publish`)
    await see(page, 'Videos to render')
  }
  it('are rendered in a tab that is not in front, and no other tab sweeps them', async () => {
    id = (await folios()).find(f => f.doc.title === 'Balloon Day, gone on')!.id
    await publish()
    // A tab that is not seen has no animation frames.
    await page.evaluate(() => {
      Object.defineProperty(document, 'hidden', { value: true, configurable: true })
      window.requestAnimationFrame = () => 0
    })
    await press(page, 'All recorded questions')
    await press(page, 'Bottles of helium')
    await press(page, 'The whole folio')
    await press(page, 'Render 1 video')
    const second = await openPage(browser, app.origin)
    for (let i = 0; i < 3; i++) {
      await second.goto(app.origin)
      await second.waitForSelector('[data-part=folio]')
    }
    await page.waitForFunction(() => document.querySelector('[data-part=video]'), { timeout: 100_000, polling: 200 })
    await second.goto(app.origin)
    await second.waitForSelector('[data-part=folio]')
    await second.close()
    const [{ doc }] = (await rows<{ doc: { file: string } }>(page, 'publications')) as [{ doc: { file: string } }]
    expect(
      await page.evaluate(
        async (name: string) =>
          (
            await (
              await (await (await navigator.storage.getDirectory()).getDirectoryHandle('files')).getFileHandle(name)
            ).getFile()
          ).size,
        doc.file,
      ),
    ).toBeGreaterThan(10_000)
    expect(await page.$eval('[data-part=spine] a:nth-child(4) svg', s => s.getAttribute('aria-label'))).toBe('rendered')
  })
  it('are not needed for the student page; one whose file is gone is left out of it', async () => {
    await publish()
    await press(page, 'Publish', '[data-part=student-link]')
    await page.waitForSelector('[data-part=class-link]')
    expect(await page.$eval('[data-part=spine] a:nth-child(4) svg', s => s.getAttribute('aria-label'))).toBe(
      'published',
    )
    // The link is this folio's: another one has none, and this one keeps it.
    const other = (await folios()).find(f => f.doc.title === 'Another')!.id
    await page.goto(`${app.origin}/folio/${other}/publish`)
    await see(page, 'Videos to render')
    expect(await page.$('[data-part=class-link]')).toBeNull()
    await publish()
    await page.waitForSelector('[data-part=class-link]')
    await page.evaluate(async () => {
      const files = await (await navigator.storage.getDirectory()).getDirectoryHandle('files')
      for await (const name of (files as unknown as { keys(): AsyncIterable<string> }).keys())
        await files.removeEntry(name)
    })
    await press(page, 'Publish the changes', '[data-part=student-link]')
    await see(page, 'Students have version 2')
    const html = await (
      await fetch(await page.$eval('[data-part=class-link]', a => (a as HTMLAnchorElement).href))
    ).text()
    expect([html.includes('Download the video'), html.includes('Bottles of helium')]).toEqual([false, true])
  })
  it('are published from another machine only with the key that stands on the server’s', async () => {
    await remember({ publishingKey: '' })
    await publish()
    await press(page, 'All recorded questions')
    await press(page, 'Bottles of helium')
    await press(page, 'The whole folio')
    await press(page, 'Render 1 video')
    await page.waitForSelector('[data-part=render-tasks]')
    await page.waitForFunction(
      () => !document.querySelector('[data-part=render-tasks]') && document.querySelector('[data-part=video]'),
      { timeout: 100_000 },
    )
    const before = await page.$eval('[data-part=class-link]', a => (a as HTMLAnchorElement).href)
    await page.keyboard.press('v')
    await press(page, 'Give up this link')
    await press(page, 'Give it up')
    await page.waitForSelector('[data-part=class-link]', { hidden: true })
    await still(page)
    // As through a go-between: the server cannot know that it is the same machine.
    await page.setExtraHTTPHeaders({ 'x-forwarded-for': '203.0.113.9' })
    await press(page, 'Publish', '[data-part=student-link]')
    for (const [title, key] of [
      ['The publishing key', 'guessed'],
      ['That key is not right', app.publishingKey],
    ] as const) {
      await see(page, title)
      await still(page)
      await page.type('input[name=password]', key)
      await page.keyboard.press('Enter')
    }
    await see(page, 'Students have version 1')
    expect(await page.$eval('[data-part=class-link]', a => (a as HTMLAnchorElement).href)).not.toBe(before)
    await page.setExtraHTTPHeaders({})
  })
})
