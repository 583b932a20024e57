import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { editionOf } from '../../core/edition'
import type { Ledger } from '../../core/folio'
import { press, renderQuestion, visit, type Running } from '../support/browser'
import { closeDemo, openDemo, seededFolio } from '../support/demo'
import { Downloads } from '../support/downloads'
import { decodeErrors, frameAt, likeness, probe } from '../support/media'
import { rows } from '../support/stored'

/** A question is edited as it is read, and what students get is what was read. */
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))
const keys = async (...names: string[]) => {
  for (const k of names) await page.keyboard.press(k as 'Enter')
}
const ledgerNow = async (i = 0): Promise<Ledger> => {
  await wait(300)
  const folios = await rows<{ doc: { questions: { ledger: Ledger }[] } }>(page, 'folios')
  return folios[0]!.doc.questions[i]!.ledger
}
const time = () => page.$eval('[data-part=proof-time]', e => Number((e as HTMLElement).dataset.ms))

beforeAll(async () => {
  ;({ app, browser, page } = await openDemo())
  await visit(page, app.origin, '/folio/balloon-day/proof?q=question-1', { microphone: 'none', countdown: 0 })
  await page.waitForSelector('[data-part=proof-board]')
  await page.waitForFunction(() => document.querySelectorAll('[data-part=step-picture] canvas').length > 1)
})
afterAll(() => closeDemo(app, browser))

describe('proofing a question', () => {
  it('takes a stretch out by keys, leaves its ink, and brings it back; undo takes back one thing at a time', async () => {
    await keys('ArrowDown', 'w', 'Delete')
    const struck = (await ledgerNow()).strikes!
    expect(struck).toHaveLength(1)
    await page.waitForSelector('[data-part=strike]')
    await press(page, 'with its ink', '[data-part=strike]')
    expect((await ledgerNow()).strikes![0]!.inkStays).toBe(true)
    await press(page, 'Bring back', '[data-part=strike]')
    expect((await ledgerNow()).strikes).toEqual([])
    for (let i = 0; i < 3; i++) {
      await page.keyboard.down('Control')
      await keys('z')
      await page.keyboard.up('Control')
    }
    expect((await ledgerNow()).strikes).toBeUndefined()
  })

  it('tightens what is chosen, and says how long it is then', async () => {
    await keys('g')
    await page.waitForSelector('[data-part=tighten]')
    await page.$eval('[data-part=tighten] input[type=range]', e => {
      ;(e as HTMLInputElement).value = '1'
      e.dispatchEvent(new Event('input', { bubbles: true }))
    })
    await page.waitForSelector('[data-part=proposal]')
    const told = await page.$eval('[data-part=tight-length]', e => e.textContent!.split('→')[1]!.trim())
    await press(page, 'Tighten', '[data-part=tighten] .flex.gap-2')
    const ledger = await ledgerNow()
    expect((ledger.strikes?.length ?? 0) + (ledger.paces?.length ?? 0)).toBeGreaterThan(0)
    expect(await page.$eval('[data-part=proof-time]', e => e.textContent!.split(' of ')[1]!.trim())).toBe(told)
  })

  it('plays over the joints without stopping, at three times the speed', async () => {
    await keys('ArrowUp', 'ArrowUp')
    const from = await time()
    await keys('Space')
    await wait(1500)
    await keys('Space')
    const at = await time()
    expect(at - from).toBeGreaterThan(700)
    await keys('n')
    expect(await time()).toBeGreaterThan(at)
  })

  it('mends a digit that was written: it is moved, and another one takes its place and its time', async () => {
    await keys('ArrowUp', 'ArrowUp', 'ArrowUp', 'ArrowDown', 'ArrowDown', 'ArrowRight', 'ArrowRight')
    await keys('h')
    await page.waitForSelector('[data-part=mend] [data-part=frame]')
    await wait(400)
    const frame = (await (await page.$('[data-part=mend] [data-part=frame]'))!.boundingBox())!
    await keys('1')
    await page.mouse.move(frame.x + frame.width * 0.7, frame.y + frame.height * 0.3)
    await page.mouse.down()
    await page.mouse.move(frame.x + frame.width * 0.8, frame.y + frame.height * 0.5, { steps: 8 })
    await page.mouse.up()
    const [mend] = (await ledgerNow()).mends!
    expect(mend!.events.map(e => e.type)).toEqual(['stroke'])
    // Rung, and moved by the arrows.
    await keys('v')
    await page.mouse.click(frame.x + frame.width * 0.75, frame.y + frame.height * 0.4)
    await keys('ArrowRight')
    expect((await ledgerNow()).mends!.flatMap(m => m.events.map(e => e.type))).toEqual(['stroke', 'alter'])
    await keys('a')
    await page.mouse.move(frame.x + frame.width * 0.7, frame.y + frame.height * 0.6)
    await page.mouse.down()
    await page.mouse.move(frame.x + frame.width * 0.8, frame.y + frame.height * 0.6, { steps: 8 })
    await page.mouse.up()
    const mends = (await ledgerNow()).mends!
    expect(mends[2]!.events.map(e => e.type)).toEqual(['erase', 'stroke'])
    expect(Math.abs((mends[2]!.events[1] as { t: number }).t - (mends[0]!.events[0] as { t: number }).t)).toBeLessThan(
      5,
    )
    await keys('Escape', 'Escape')
    await page.waitForFunction(() => !document.querySelector('[data-part=mend]'))
    expect(page.faults).toEqual([])
  })

  it('names a step, moves one, and students get just that: the video is the edition', async () => {
    await keys('t')
    await page.keyboard.type('Named by her')
    await keys('Enter')
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    const ledger = await ledgerNow()
    const { folio, takes } = await seededFolio('all')
    const whole = takes.find(t => t.take.id === ledger.takeId)!
    const edition = editionOf({ ...whole, ledger, pages: folio.pages })
    const folder = mkdtempSync(join(tmpdir(), 'orthograph-proof-'))
    const downloads = await Downloads.into(browser, folder)
    const stills: { file: string; at: number }[] = []
    for (const k of ['ArrowUp', 'ArrowDown', 'ArrowRight']) {
      await keys(k)
      const file = await downloads.after(() => page.keyboard.press('i'))
      stills.push({ file, at: Number(/(\d+)ms\.png$/.exec(file)![1]) / 1000 })
    }
    await renderQuestion(page, app.origin, 'Still to climb')
    const video = await downloads.after(() => press(page, 'Video', '[data-part=video]'))
    const found = probe(video)
    expect(decodeErrors(video)).toBe('')
    expect(Math.abs(Number(found.format.duration) * 1000 - edition.duration)).toBeLessThan(1000 / 12 + 60)
    expect(found.chapters.map(c => c.tags.title)).toContain('Named by her')
    for (const { file, at } of stills) {
      const frame = join(folder, 'frame.png')
      frameAt(video, at + 0.034, frame)
      expect(likeness(file, frame), `at ${at} s`).toBeGreaterThan(28)
    }
    rmSync(folder, { recursive: true, force: true })
  })
})

describe('a step in the middle', () => {
  const draw = async (y: number) => {
    const frame = (await (await page.$('[data-part=frame]'))!.boundingBox())!
    await page.mouse.move(frame.x + 100, frame.y + frame.height * y)
    await page.mouse.down()
    await page.mouse.move(frame.x + 200, frame.y + frame.height * y, { steps: 8 })
    await page.mouse.up()
  }
  const taking = () =>
    page.waitForFunction(() =>
      document.querySelector('[data-part=taking]')?.textContent?.match(/Taking|Talking|Writing/),
    )
  const menu = async (item: string) => {
    await page.click('[data-part=step]:nth-child(2) button[aria-label="More for step 2"]')
    await page.waitForSelector('[role=menuitem]')
    await press(page, item, '[role=menu]')
  }
  const told = (text: string) =>
    page.waitForFunction(
      t => document.querySelector('[data-part=step]:nth-child(2)')?.textContent?.includes(t),
      {},
      text,
    )

  it('is recorded anew: what comes after stays, and moves to its new end', async () => {
    await visit(page, app.origin, '/folio/balloon-day/solve?q=question-4', { microphone: 'none', countdown: 0 })
    await page.waitForSelector('[data-part=ledger-steps] li')
    const before = await ledgerNow(3)
    await page.click('[data-part=ledger-steps] li:nth-child(2) button')
    await press(page, 'Anew', '[data-part=ledger-steps]')
    await taking()
    await wait(700)
    await draw(0.8)
    await wait(600)
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
    const after = await ledgerNow(3)
    expect([after.takeId, after.steps.length]).toEqual([before.takeId, before.steps.length])
    const { anew } = after.steps[1]!
    expect(anew!.from).toBe(before.steps[1]!.t)
    expect(anew!.to - anew!.from).toBeGreaterThan(900)
    await told('recorded anew')
  })

  it('is said again over its ink, and written again over its sound; the versions stand beside each other', async () => {
    await menu('Put the first one back')
    expect((await ledgerNow(3)).steps[1]!.anew).toBeUndefined()
    await visit(page, app.origin, '/folio/balloon-day/proof?q=question-4', { microphone: 'sim:voice', countdown: 0 })
    await page.waitForSelector('[data-part=step]:nth-child(2)')
    await menu('Say it again')
    await taking()
    await wait(2000)
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
    await told('said again')
    const { voice } = (await ledgerNow(3)).steps[1]!
    expect(voice!.to).toBeGreaterThan(1500)
    await menu('Write it again')
    await taking()
    await wait(400)
    await draw(0.7)
    await wait(300)
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
    await told('written again')
    const step = (await ledgerNow(3)).steps[1]!
    expect([step.anew!.over, step.voice, step.versions!.length]).toEqual([true, voice, 3])
    await menu('Compare its versions')
    await page.waitForSelector('[data-part=versions] li:nth-child(4)')
    await press(page, 'Use this one', '[data-part=versions] li:nth-child(3)')
    expect((await ledgerNow(3)).steps[1]!).toMatchObject({ voice })
    expect((await ledgerNow(3)).steps[1]!.anew).toBeUndefined()
    await keys('Escape')
  })

  it('cut off while it is recorded, it is offered and comes back as a version of that step', async () => {
    await menu('Record it anew')
    await taking()
    await wait(700)
    await draw(0.6)
    await wait(900)
    await page.reload()
    await page.waitForFunction(() => document.body.textContent!.includes('A take was cut off'))
    const before = await ledgerNow(3)
    await press(page, 'Keep')
    await page.waitForFunction(() => !document.body.textContent!.includes('A take was cut off'))
    const after = await ledgerNow(3)
    expect([after.takeId, after.steps[1]!.versions!.length]).toEqual([before.takeId, 4])
    expect(after.steps[1]!.anew!.from).toBe(before.steps[1]!.t)
    expect(page.faults).toEqual([])
  })
})
