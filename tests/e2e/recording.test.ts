import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { SoundPlacer } from '../../core/sound'
import { drawLine, openPage, press, see, visit, type Running } from '../support/browser'
import { closeDemo, openDemo } from '../support/demo'
import { soundOf } from '../support/media'
import { BUSY_MS, filesIn, missing, rows } from '../support/stored'

/** Recording in the real interface with simulated microphones, some of which fail on purpose. */
interface Stored {
  id: string
  doc: {
    questionId: string
    durationMs: number
    gaps: { from: number; to: number }[]
    after?: { takeId: string; t: number }
  }
}
interface Sheet {
  doc: {
    questions: {
      id: string
      ledger: { takeId: string; steps: { t: number; struck: boolean; title: string }[]; turns: unknown[] } | null
      shelved: { takeId: string }[]
    }[]
  }
}
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))
const keys = async (...names: string[]) => {
  for (const name of names) await page.keyboard.press(name as 'Enter')
}

beforeAll(async () => {
  ;({ app, browser, page } = await openDemo())
})
afterAll(() => closeDemo(app, browser))

async function solve(question: number, settings: object) {
  await page.evaluate(() => document.querySelectorAll<HTMLElement>('[data-trouble] button').forEach(b => b.click()))
  await visit(page, app.origin, `/folio/balloon-day/solve?q=question-${question}`, { countdown: 0, ...settings })
  await page.waitForSelector('[data-part=solve-board] canvas[data-page=shown]')
}
const line = (y: number) => drawLine(page, y)
const taking = () =>
  page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
const stepsShown = () => page.$$eval('[data-part=take-steps] li', all => all.length)
const all = <T>(name: string) => rows<T>(page, name)
/** The recorded pieces that are stored now. */
const pieces = () => filesIn<{ takeId: string; t0: number; rate: number }>(page, 'chunks', 'pcm')
async function ledgerOf(question: number) {
  const folio = (await all<Sheet>('folios'))[0]!
  return folio.doc.questions.find(q => q.id === `question-${question}`)!
}

describe('before a take', () => {
  it('the microphone is heard for five seconds, and what is wrong is told with its mend', async () => {
    await solve(6, { microphone: 'sim:hum' })
    await page.waitForFunction(
      () => document.querySelector('[data-part=check]')?.textContent?.includes('It hums at 50 Hz'),
      { timeout: 100_000 },
    )
    await see(page, 'use another socket')
    expect(await page.$$eval('[data-part=check] li', l => l.map(e => (e as HTMLElement).dataset.state))).not.toContain(
      'fails',
    )
  })
  it('notes are hers: they stand beside the frame, also while a take runs, and stay', async () => {
    await press(page, 'Notes for the talk')
    await page.type('[data-part=notes] textarea', 'Mention the minus sign')
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await wait(300)
    await solve(6, { microphone: 'sim:voice' })
    expect(await page.$eval('[data-part=notes] textarea', t => (t as HTMLTextAreaElement).value)).toBe(
      'Mention the minus sign',
    )
  })
})

describe('during a take', () => {
  it('one key goes back a step: ink, sound and steps; the cut leaves out what was taken back', async () => {
    await keys('r')
    await taking()
    await see(page, 'Mention the minus sign')
    await wait(400)
    await line(0.5)
    await keys('Space', 'j')
    await line(0.6)
    await wait(700)
    await keys('Backspace')
    await taking()
    expect(await stepsShown()).toBe(2)
    await line(0.7)
    await wait(600)
    await keys('j')
    await wait(300)
  })
  it('the next question begins without a stop between; the old take is put together meanwhile', async () => {
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
    const { ledger } = await ledgerOf(6)
    expect(ledger!.steps.map(s => s.struck)).toEqual([false, true, false])
    expect(ledger!.turns).toHaveLength(2)
    // A question that is recorded is passed over: the fifth waits to be.
    await page.evaluate(async () => {
      const done = (request: IDBRequest) => new Promise(r => (request.onsuccess = r))
      const open = indexedDB.open('orthograph')
      await done(open)
      const folios = open.result.transaction('folios', 'readwrite').objectStore('folios')
      const read = folios.get('balloon-day') as IDBRequest<{
        doc: { questions: { id: string; ledger: object | null }[] }
      }>
      await done(read)
      read.result.doc.questions.find(q => q.id === 'question-5')!.ledger = null
      await done(folios.put(read.result))
      open.result.close()
    })
    // What the application has in memory is read anew.
    await page.reload()
    await solve(4, { microphone: 'sim:voice' })
    await keys('r')
    await taking()
    await wait(500)
    await line(0.6)
    await wait(500)
    await keys('PageDown')
    await page.waitForFunction(() => location.search.includes('question-5'))
    await taking()
    await wait(900)
    await line(0.5)
    await wait(500)
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
    const takes = await all<Stored>('takes')
    // The fourth has one in use, and nobody could be asked on the way: the new one waits beside it.
    expect((await ledgerOf(4)).ledger!.takeId).toBe('take-4')
    for (const question of [4, 5, 6]) {
      const { ledger, shelved } = await ledgerOf(question)
      expect(shelved).toEqual([])
      const take = takes.find(t =>
        question === 4
          ? t.doc.questionId === 'question-4' && t.id !== 'take-4' && !t.doc.after
          : t.id === ledger!.takeId,
      )!
      expect(missing(take.doc.gaps)).toBeLessThan(BUSY_MS)
      expect(take.doc.durationMs).toBeGreaterThan(900)
    }
  })
  it('a drop-out is told within two seconds, and stops nothing', async () => {
    await solve(6, { microphone: 'sim:drops' })
    await keys('r')
    await taking()
    const began = Date.now()
    await line(0.5)
    await page.waitForSelector(
      '[data-part=sound-warning][data-fault=dropped], [data-part=sound-warning][data-fault=lost]',
      { timeout: 9000 },
    )
    // The first drop of this microphone comes 5.6 s after it was opened, and lasts 0.4 s.
    expect(Date.now() - began).toBeLessThan(8000)
    await taking()
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
    await see(page, 'Sound was lost on the way')
  })
})

describe('a machine that slept', () => {
  it('wakes with the take waiting where it was, and says so; nothing of that time is in it', async () => {
    await solve(6, { microphone: 'none' })
    await keys('r')
    await taking()
    await line(0.5)
    // In a sleep, the wall clock goes on while nothing of the page does.
    await wait(1200)
    await page.evaluate(() => {
      const now = Date.now
      Date.now = () => now() + 60_000
    })
    await see(page, 'The machine slept for')
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Paused'))
    await keys('p')
    await taking()
    await wait(400)
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
    const { ledger } = await ledgerOf(6)
    expect((await all<Stored>('takes')).find(t => t.id === ledger!.takeId)!.doc.durationMs).toBeLessThan(5000)
  })
})

describe('a clock that is set', () => {
  it('is no sleep: the microphone went on', async () => {
    await solve(6, { microphone: 'sim:clicks' })
    await keys('r')
    await taking()
    await wait(600)
    await page.evaluate(() => {
      const now = Date.now
      Date.now = () => now() + 3_600_000
    })
    await wait(900)
    await taking()
    expect(await page.$('[data-trouble=slept]')).toBeNull()
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
  })
})

describe('a microphone that is gone', () => {
  it('is exchanged for another one while the take goes on; only the time between is silent', async () => {
    await solve(6, { microphone: 'sim:unplugged' })
    await keys('r')
    await taking()
    await line(0.5)
    await page.waitForSelector('[data-part=sound-warning][data-fault=lost]', { timeout: 8000 })
    await page.click('[data-part=sound-warning] button[aria-label="Go on with another microphone"]')
    await press(page, 'a click every second', '[role=listbox]')
    await page.waitForFunction(() => !document.querySelector('[data-part=sound-warning]'))
    await wait(1600)
    await taking()
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
    const { ledger } = await ledgerOf(6)
    const take = (await all<Stored>('takes')).find(t => t.id === ledger!.takeId)!
    expect(take.doc.gaps.length).toBeGreaterThanOrEqual(1)
    expect(missing(take.doc.gaps, take.doc.durationMs - 2000)).toBeLessThan(BUSY_MS)
  })
})

describe('after a take', () => {
  it('the coded sound, read by ffmpeg, has the recorded samples: none lost, none changed', async () => {
    for (const microphone of ['sim:clicks', 'sim:voice']) {
      await solve(6, { microphone })
      await keys('r')
      await taking()
      await wait(1200)
      await keys('p')
      await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Paused'))
      await wait(350)
      const recorded = await pieces()
      await keys('s')
      await page.waitForSelector('[data-part=proof-board]')
      expect(await pieces()).toEqual([])
      const take = (await all<Stored>('takes')).find(t => t.id === recorded[0]!.takeId)!
      const placer = new SoundPlacer(take.doc.durationMs)
      const pcm = recorded.flatMap(({ t0, rate, bytes }) =>
        placer.push({ t0, rate, pcm: new Int16Array(new Uint8Array(bytes).buffer) }),
      )
      const samples = [...pcm, ...placer.finish()].flatMap(p => [...p])
      const file = (await filesIn<{ takeId: string }>(page, 'sounds', 'blob')).find(f => f.takeId === take.id)!
      expect(file.type).toBe('audio/flac')
      const folder = mkdtempSync(join(tmpdir(), 'orthograph-sound-'))
      writeFileSync(join(folder, 'take.flac'), file.bytes)
      const read = soundOf(join(folder, 'take.flac'))
      expect(read.length, microphone).toBe(samples.length)
      expect(
        read.some(v => Math.abs(v) > 500),
        microphone,
      ).toBe(true)
      expect(
        read.findIndex((v, i) => v !== samples[i]),
        microphone,
      ).toBe(-1)
      rmSync(folder, { recursive: true })
    }
  })
  it('a step is recorded anew from its mark: the board stands as it stood there; both takes are kept', async () => {
    await solve(4, { microphone: 'sim:voice' })
    const before = (await ledgerOf(4)).ledger!
    await page.click('[data-part=takes] button')
    await page.waitForSelector('[role=option]')
    await press(page, 'Take 1')
    await page.waitForFunction(
      () =>
        document.querySelectorAll('[data-part=ledger-steps] li').length === 3 &&
        !document.querySelector('[role=option]') &&
        getComputedStyle(document.body).pointerEvents !== 'none',
    )
    await page.click('[data-part=ledger-steps] li:nth-child(3) button')
    await press(page, 'Record anew')
    await taking()
    expect(await stepsShown()).toBe(3)
    await wait(800)
    await line(0.8)
    await wait(700)
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
    const { ledger, shelved } = await ledgerOf(4)
    const old = (await all<Stored>('takes')).find(t => t.id === 'take-4')!
    const take = (await all<Stored>('takes')).find(t => t.id === ledger!.takeId)!
    expect(take.doc.after).toEqual({ takeId: 'take-4', t: ledger!.steps[2]!.t })
    expect(ledger!.steps.map(s => s.title)).toEqual(['4x − 18 = 2x + 30', 'Take 2x from both sides: 2x − 18 = 30', ''])
    expect(take.doc.durationMs).toBeLessThan(old.doc.durationMs)
    expect(missing(take.doc.gaps)).toBeLessThan(BUSY_MS)
    expect(before.takeId).toBe('take-4')
    expect(shelved.map(l => l.takeId)).toEqual(['take-4'])
  })
  it('takes are compared beside each other, and one is chosen; undo chooses the other again', async () => {
    await solve(4, { microphone: 'sim:voice' })
    const { takeId } = (await ledgerOf(4)).ledger!
    await page.click('[data-part=takes] button[aria-label="Compare the takes"]')
    await page.waitForSelector('[data-part=take-card]:nth-child(3) canvas')
    await press(page, 'Play take 1')
    await page.waitForFunction(
      () => Number(document.querySelector<HTMLInputElement>('[data-part=take-card] input[type=range]')!.value) > 200,
    )
    await press(page, 'Use this one', '[data-part=take-card]')
    await page.waitForFunction(() => document.querySelector('[data-part=take-card]')!.textContent!.includes('in use'))
    await wait(300)
    expect((await ledgerOf(4)).ledger!.takeId).toBe('take-4')
    await keys('Escape')
    await page.waitForFunction(() => !document.querySelector('[data-part=compare]'))
    await page.keyboard.down('Control')
    await keys('z')
    await page.keyboard.up('Control')
    await wait(400)
    expect((await ledgerOf(4)).ledger!.takeId).toBe(takeId)
  })
  it('the button of a pen does what the keys do', async () => {
    await solve(6, { microphone: 'none', penButton: 'step' })
    await keys('r')
    await taking()
    await line(0.5)
    await wait(600)
    const f = (await (await page.$('[data-part=frame]'))!.boundingBox())!
    const client = await page.createCDPSession()
    // The tip touches while the barrel's button is held: browsers call that the second button.
    for (const type of ['mousePressed', 'mouseReleased'] as const)
      await client.send('Input.dispatchMouseEvent', {
        type,
        x: f.x + 80,
        y: f.y + 200,
        button: 'right',
        buttons: type === 'mousePressed' ? 2 : 0,
        clickCount: 1,
        pointerType: 'pen',
        force: 0.5,
      })
    await page.waitForFunction(() => document.querySelectorAll('[data-part=take-steps] li').length === 2)
    await keys('s')
    await page.waitForSelector('[data-part=proof-board]')
  })
  it('its ink can be talked over, and its sound be written over: steps and length are the same', async () => {
    for (const [question, what] of [
      [1, 'Talk over'],
      [2, 'Write over'],
    ] as const) {
      await solve(question, { microphone: 'sim:voice' })
      const old = (await ledgerOf(question)).ledger!
      await press(page, what, '[data-part=over]')
      await page.waitForFunction(() =>
        /Talking over|Writing over/.test(document.querySelector('[data-part=taking]')?.textContent ?? ''),
      )
      await wait(1600)
      // Its steps are those it has: none is marked or gone back, and of the talk the first is the one that plays.
      expect(
        await page.$$eval('button', all => all.some(b => /^(Step|Back|Your turn)/.test(b.textContent!.trim()))),
      ).toBe(false)
      if (what === 'Talk over')
        expect(
          await page.$$eval('[data-part=take-steps] li', all => all.map(l => l.textContent!.includes('now'))),
        ).toEqual(old.steps.map((_, i) => i === 0))
      await line(0.7)
      await keys('s')
      await page.waitForSelector('[data-part=proof-board]')
      const { ledger } = await ledgerOf(question)
      const [take, before] = [ledger!.takeId, old.takeId].map(
        async id => (await all<Stored>('takes')).find(t => t.id === id)!,
      )
      const made = await take,
        from = await before
      if (what === 'Talk over') {
        expect(ledger!.steps.map(s => [s.t, s.title])).toEqual(old.steps.map(s => [s.t, s.title]))
        expect(made!.doc.durationMs).toBeGreaterThan(from!.doc.durationMs - 5000)
      } else {
        expect(made!.doc.after).toEqual({ takeId: 'take-2', t: from!.doc.durationMs })
        expect(missing(made!.doc.gaps)).toBeLessThan(BUSY_MS)
        // What was not written over goes on as it was.
        expect(ledger!.steps.map(s => s.title)).toEqual(old.steps.map(s => s.title))
        expect(made!.doc.durationMs).toBe(from!.doc.durationMs)
      }
    }
  })
  it('a practice is recorded like a take, and nothing of it is kept', async () => {
    await solve(6, { microphone: 'sim:drops' })
    const before = (await all('takes')).length
    await page.click('[data-part=devices]')
    await press(page, 'Practise a take')
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Practice'))
    await line(0.5)
    await keys('Space', 'Backspace')
    await wait(300)
    await keys('s')
    await see(page, 'Nothing of it was kept')
    expect(await all('takes')).toHaveLength(before)
    expect(page.faults).toEqual([])
  })
})

describe('the pad', () => {
  it('is turned on, paired by its code, and does what the keys do', async () => {
    await solve(6, { microphone: 'none' })
    await page.click('[data-part=devices]')
    await press(page, 'Turn on the pad')
    const code = await (await page.waitForSelector('[data-part=pad] p.serif'))!.evaluate(e => e.textContent!.trim())
    const address = await page.$$eval('[data-part=pad] strong', all => all[0]!.textContent!.trim())
    const phone = await openPage(browser, address)
    await phone.setViewport({ width: 390, height: 780 })
    await phone.goto(address)
    await phone.type('#code', code)
    await phone.keyboard.press('Enter')
    await see(phone, 'Ready')
    await press(phone, 'Record')
    await page.bringToFront()
    await taking()
    await phone.bringToFront()
    await see(phone, 'step 1')
    await page.bringToFront()
    await line(0.5)
    await phone.bringToFront()
    await wait(600)
    await press(phone, 'Step', '#keys')
    await see(phone, 'step 2')
    // A step that ends at once with nothing in it is none.
    await wait(2800)
    await press(phone, 'Stop')
    await page.bringToFront()
    await page.waitForSelector('[data-part=proof-board]')
    expect((await ledgerOf(6)).ledger!.steps).toHaveLength(2)
    expect(phone.faults).toEqual([])
    await phone.close()
  })
})
