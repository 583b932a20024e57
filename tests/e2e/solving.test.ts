import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { press, renderQuestion, see, visit, type Running } from '../support/browser'
import { closeDemo, openDemo } from '../support/demo'
import { Downloads } from '../support/downloads'
import { frameAt, likeness } from '../support/media'

/**
 * Every tool of Solve in the real interface: prepared before a take, used in it with pointer and keys, and found again
 * in its log.
 */
interface Logged {
  type: string
  t: number
  thing?: {
    kind: string
    mark?: string
    shape?: string
    state?: string
    source?: string
    numbers?: string[]
    boxes?: unknown[]
  }
  held?: string
  strokes?: unknown[]
  guide?: string
  box?: unknown
  instead?: string[]
  role?: string
}
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }
let frame: { x: number; y: number; width: number; height: number }
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))

beforeAll(async () => {
  ;({ app, browser, page } = await openDemo())
  await visit(page, app.origin, '/folio/balloon-day/solve', { microphone: 'none', countdown: 0 })
})
afterAll(() => closeDemo(app, browser))

async function solve(question: number) {
  // Loaded anew: tools stay as they were left.
  await page.goto(`${app.origin}/folio/balloon-day/solve?q=question-${question}`)
  await page.waitForSelector('[data-part=solve-board] canvas[data-page=shown]')
  frame = (await (await page.waitForSelector('[data-part=frame]'))!.boundingBox())!
}
const at = (x: number, y: number) => [frame.x + frame.width * x, frame.y + frame.height * y] as const
const tap = (x: number, y: number) => page.mouse.click(...at(x, y))
/** Taps where something is about to come, until it is chosen. */
async function untilChosen(x: number, y: number) {
  const chosen = () => page.waitForSelector('[data-part=chosen]', { timeout: 1000 }).catch(() => null)
  for (let i = 0; i < 60; i++) {
    await tap(x, y)
    if (await chosen()) return
  }
  throw new Error('nothing came there to be chosen')
}
async function drag(...spots: [number, number][]) {
  await page.mouse.move(...at(...spots[0]!))
  await page.mouse.down()
  for (const spot of spots.slice(1)) await page.mouse.move(...at(...spot), { steps: 12 })
  await page.mouse.up()
}
const keys = async (...names: string[]) => {
  for (const name of names) await page.keyboard.press(name as 'Enter')
}
const count = (selector: string, n: number) =>
  page.waitForFunction((s: string, wanted: number) => document.querySelectorAll(s).length === wanted, {}, selector, n)
async function record() {
  await keys('r')
  await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
}
/** Ends the take. @returns its log */
async function stop(): Promise<Logged[]> {
  await keys('s')
  await page.waitForSelector('[data-part=proof-board]')
  return page.evaluate(
    () =>
      new Promise<Logged[]>(resolve => {
        const open = indexedDB.open('orthograph')
        open.onsuccess = () => {
          const transaction = open.result.transaction(['takes', 'journal'])
          const takes = transaction.objectStore('takes').getAll(),
            rows = transaction.objectStore('journal').getAll()
          transaction.oncomplete = () => {
            open.result.close()
            const [last] = (takes.result as { id: string; doc: { startedAt: string } }[]).sort((p, q) =>
              q.doc.startedAt.localeCompare(p.doc.startedAt),
            )
            resolve(
              (rows.result as { takeId: string; seq: number; entries: Logged[] }[])
                .filter(r => r.takeId === last!.id)
                .sort((p, q) => p.seq - q.seq)
                .flatMap(r => r.entries),
            )
          }
        }
      }),
  )
}

describe('before a take', () => {
  it('lines are typed with a mouse, lined up, and held; a half typed one says what is missing', async () => {
    await solve(6)
    await keys('t')
    await tap(0.1, 0.45)
    await page.waitForSelector('[data-part=line-editor] input:focus')
    await page.keyboard.type('15 - 8 * 6.5 = -37')
    await page.waitForSelector('[data-part=line-preview] path')
    await keys('Enter')
    await page.waitForFunction(
      () => (document.querySelector('[data-part=line-editor] input') as HTMLInputElement | null)?.value === '',
    )
    await keys('ArrowUp')
    expect(await page.$eval('[data-part=line-editor] input', e => (e as HTMLInputElement).value)).toBe(
      '15 - 8 * 6.5 = -37',
    )
    await page.click('[data-part=line-editor] input', { count: 3 })
    await page.keyboard.type('T = @4(-37 "°C")')
    await page.keyboard.down('Shift')
    await keys('Enter')
    await page.keyboard.up('Shift')
    await count('[data-part=line-editor]', 0)
    await count('[data-part=held] li', 2)
    await tap(0.1, 0.8)
    await page.waitForSelector('[data-part=line-editor] input:focus')
    await keys('Escape')
    await count('[data-part=line-editor]', 0)
  })
  it('a guide is held from what was typed; numbers it cannot work with are answered', async () => {
    await keys('g')
    await page.waitForSelector('[data-part=guide-text]')
    await keys('g')
    await page.waitForSelector('[data-part=guide-text] input:focus')
    await keys('Enter')
    await page.waitForFunction(() =>
      document.querySelector('[data-part=tool-trouble]')?.textContent?.includes('no numbers yet'),
    )
    await page.keyboard.type('eight - two')
    await keys('Enter')
    await page.waitForFunction(() => document.querySelector('[data-part=tool-trouble]')?.textContent?.includes('eight'))
    await page.click('[data-part=guide-text] input', { count: 3 })
    await page.keyboard.type('8000 - 2347')
    await keys('Enter')
    await count('[data-part=held] li', 3)
    await page.waitForFunction(() => document.activeElement === document.body)
  })
  it('an option falls before the take, too, with its reason; a picture waits; the list is put in order', async () => {
    await solve(3)
    await keys('o', 'd')
    await count('[data-part=held] li', 1)
    const picture = (await page.$(
      '[data-part=held] input[type=file]',
    )) as import('puppeteer-core').ElementHandle<HTMLInputElement>
    await picture.uploadFile(join(import.meta.dirname, '../../docs/screenshots/home.png'))
    await count('[data-part=held] li', 2)
    await page.click('[data-part=held] li:nth-child(2) button[aria-label^=Change]')
    await press(page, 'Earlier', '[role=menu]')
    await page.waitForFunction(() => document.querySelector('[data-part=held] li')?.textContent?.includes('home.png'))
    await keys('m', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'Enter', 'ArrowRight', 'Enter')
    await page.waitForFunction(() =>
      document.querySelector('[data-part=held] li:nth-child(3)')?.textContent?.includes('Mark air pressure'),
    )
    await page.keyboard.down('Control')
    await keys('z')
    await page.keyboard.up('Control')
    await count('[data-part=held] li', 2)
    await record()
    await keys('h', 'h')
    await wait(2200)
    await keys('z')
    await drag([0.5, 0.3], [0.9, 0.8])
    await wait(2600)
    const log = await stop()
    expect(log.filter(e => e.held).map(e => e.thing!.kind)).toEqual(['picture', 'option'])
  })
  it('the picture, and going closer to it, are in the video as on the board', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'orthograph-solving-'))
    const downloads = await Downloads.into(browser, folder)
    await page.waitForSelector('canvas[data-page=shown]')
    const stills: string[] = []
    for (const key of ['ArrowRight', 'i', 'ArrowRight', 'i']) {
      if (key !== 'i') {
        await keys(key)
        await wait(400)
      } else stills.push(await downloads.after(() => page.keyboard.press('i')))
    }
    await renderQuestion(page, app.origin, 'Half the pressure')
    const video = await downloads.after(() => press(page, 'Video', '[data-part=video]'))
    const moments = stills.map(s => Number(/(\d+)ms\.png$/.exec(s)![1]) / 1000)
    expect(moments[1]! - moments[0]!).toBeGreaterThan(1.5)
    moments.forEach((at, i) => {
      const frame = join(folder, `${i}.png`)
      // Nothing moves then, and a picture is repeated every second.
      frameAt(video, at - 0.3, frame)
      expect(likeness(stills[i]!, frame), `at ${at} s`).toBeGreaterThan(30)
    })
    // What students see has changed between the two: they stand closer.
    expect(likeness(stills[0]!, stills[1]!)).toBeLessThan(25)
    rmSync(folder, { recursive: true, force: true })
  })
  it('the view grows and moves up to its limits, and comes back', async () => {
    await solve(6)
    await page.mouse.move(...at(0.5, 0.5))
    await page.keyboard.down('Control')
    for (let i = 0; i < 6; i++) await page.mouse.wheel({ deltaY: -900 })
    await page.keyboard.up('Control')
    await page.waitForFunction(
      (w: number) => Math.abs(document.querySelector('[data-part=frame]')!.getBoundingClientRect().width / w - 6) < 0.1,
      {},
      frame.width,
    )
    await page.keyboard.down('Control')
    for (let i = 0; i < 12; i++) await page.mouse.wheel({ deltaY: 900 })
    await page.keyboard.up('Control')
    await page.waitForFunction(
      (w: number) =>
        Math.abs(document.querySelector('[data-part=frame]')!.getBoundingClientRect().width / w - 0.4) < 0.05,
      {},
      frame.width,
    )
    await keys('0')
    await page.waitForFunction(
      (w: number) => Math.abs(document.querySelector('[data-part=frame]')!.getBoundingClientRect().width - w) < 2,
      {},
      frame.width,
    )
  })
  it('held lines are rehearsed, and stay for the take', async () => {
    await keys('h', 'h')
    await page.waitForFunction(
      () =>
        [...document.querySelectorAll('[data-part=held] li')].filter(e => e.textContent?.includes('✓')).length === 2,
    )
    await page.waitForSelector('[data-part=spoken] math mn')
    await page.keyboard.down('Control')
    await keys('z', 'z')
    await page.keyboard.up('Control')
    await page.waitForFunction(
      () => ![...document.querySelectorAll('[data-part=held] li')].some(e => e.textContent?.includes('✓')),
    )
  })
})

describe('in a take', () => {
  it('everything that was held comes by one key, and the guide writes its moves', async () => {
    await record()
    await keys('h', 'h', 'h', 'g', 'n', 'n', 'n')
    await page.waitForFunction(() => document.querySelector('[data-part=said]')?.textContent?.includes('9 − 4 = 5'))
    await keys('Tab', '7')
    const log = await stop()
    expect(log.filter(e => e.held).map(e => e.thing!.kind)).toEqual(['line', 'line', 'guide'])
    expect(log.filter(e => e.type === 'write' && e.guide)).toHaveLength(3)
    expect(log.filter(e => e.type === 'write' && !e.guide)).toHaveLength(1)
  })
  it('ink is straightened, chosen, moved, recoloured, copied, grown and rubbed out; words are marked; students look closer', async () => {
    await solve(6)
    await record()
    await keys('x')
    await drag([0.2, 0.6], [0.5, 0.605])
    await keys('x')
    await drag([0.2, 0.75], [0.25, 0.72], [0.3, 0.78])
    await keys('v')
    await drag([0.15, 0.68], [0.35, 0.68], [0.35, 0.84], [0.15, 0.84], [0.15, 0.7])
    await page.waitForSelector('[data-part=chosen]')
    await keys('ArrowDown', '4')
    await page.keyboard.down('Control')
    await keys('c')
    await page.keyboard.up('Control')
    await keys('Delete')
    await count('[data-part=chosen]', 0)
    await keys('m')
    await drag([0.12, 0.115], [0.3, 0.12])
    await keys('i')
    await drag([0.1, 0.05], [0.6, 0.3])
    await tap(0.8, 0.8)
    await keys('z')
    await drag([0.1, 0.05], [0.4, 0.3])
    await page.waitForSelector('[data-part=solve-board][data-closer=true]')
    await tap(0.2, 0.2)
    await page.waitForSelector('[data-part=solve-board][data-closer=false]')
    await keys('y')
    await drag([0.3, 0.3], [0.5, 0.4])
    await keys('q')
    await page.waitForSelector('[data-part=refer] button')
    await page.click('[data-part=refer] button')
    await see(page, 'Looking at')
    await keys('q')
    await count('[data-part=refer]', 0)
    const log = await stop()
    const shape = log.find(e => e.thing?.kind === 'shape')!
    expect([shape.thing!.shape, shape.instead!.length]).toEqual(['line', 1])
    expect(log.filter(e => e.type === 'alter').length).toBeGreaterThanOrEqual(2)
    expect(log.some(e => e.type === 'alter' && e.role === 'answer')).toBe(true)
    expect(log.filter(e => e.type === 'erase')).toHaveLength(1)
    expect(log.find(e => e.thing?.kind === 'mark')!.thing!.boxes).toHaveLength(1)
    expect(log.filter(e => e.type === 'spot').map(e => e.box !== null)).toEqual([true, false])
    expect(log.filter(e => e.type === 'look').map(e => e.box !== null)).toEqual([true, false])
    expect(log.filter(e => e.type === 'trail')).toHaveLength(1)
    expect(log.filter(e => e.type === 'frame')).toHaveLength(2)
  })
  it('options fall with a reason and one is chosen, by keys alone; a tally takes the numbers it passes', async () => {
    await solve(3)
    await record()
    await keys('o')
    await keys('a', 'c')
    await page.keyboard.down('Shift')
    await keys('B')
    await page.keyboard.up('Shift')
    await page.waitForFunction(() =>
      /A\s*ruled out.*B\s*answer.*C\s*ruled out/s.test(
        document.querySelector('[data-part=tool-options]')!.textContent!,
      ),
    )
    await keys('u')
    const number = (await page.waitForSelector('[data-part=tool-options] input'))!
    for (const [n, x] of [
      ['899', 0.3],
      ['540', 0.45],
    ] as const) {
      await number.click({ count: 3 })
      await page.keyboard.type(n)
      await tap(x, 0.7)
    }
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    const log = await stop()
    expect(log.filter(e => e.thing?.kind === 'option').map(e => e.thing!.state)).toEqual(['out', 'out', 'answer'])
    expect(log.filter(e => e.thing?.kind === 'tally').at(-1)!.thing!.numbers).toEqual(['899', '540'])
  })
  it('without a pointer: a line is typed, words are marked, students go closer, all by arrows and Enter', async () => {
    await solve(6)
    await record()
    await keys('t', 'ArrowRight', 'ArrowDown', 'Enter')
    await page.waitForSelector('[data-part=line-editor] input:focus')
    await page.keyboard.type('T=-37')
    await page.waitForSelector('[data-part=line-preview] path')
    await keys('Enter')
    await page.waitForFunction(
      () => (document.querySelector('[data-part=line-editor] input') as HTMLInputElement | null)?.value === '',
    )
    await keys('Escape')
    await count('[data-part=line-editor]', 0)
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    await keys('z', 'ArrowUp', 'Enter')
    await page.keyboard.down('Shift')
    await keys('ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowDown')
    await page.keyboard.up('Shift')
    await keys('Enter')
    await page.waitForSelector('[data-part=solve-board][data-closer=true]')
    await keys('v', 'Enter', 'Enter')
    const log = await stop()
    expect(log.filter(e => e.thing?.kind === 'line').map(e => e.thing!.source)).toEqual(['T=-37'])
    expect(log.filter(e => e.type === 'look' && e.box)).toHaveLength(1)
  })
  it('with a mouse only: a guide takes the numbers printed on the page, and a button writes its moves', async () => {
    await solve(1)
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    await page.click('[data-part=bench] button:nth-child(5)')
    await page.waitForSelector('[data-part=guide-text]')
    await page.waitForFunction(() => !!document.querySelector('[data-part=guide-text]'))
    const text = () =>
      page.$eval('input[data-part=guide-text], [data-part=guide-text] input', e => (e as HTMLInputElement).value)
    await page.waitForFunction(() => document.querySelector('[data-part=solve-board] canvas[data-page=shown]') !== null)
    for (const [x, y] of [
      [0.49, 0.098],
      [0.159, 0.157],
    ] as const) {
      await tap(x, y)
      await wait(150)
    }
    expect(await text()).toBe('30204 - 18657')
    await tap(0.5, 0.4)
    await count('[data-part=held] li', 1)
    await press(page, 'Type', '[data-part=bench]')
    await tap(0.5, 0.7)
    await press(page, 'Signs')
    const place = () => page.$eval('[data-part=signs]', e => e.getBoundingClientRect().top)
    await page.waitForSelector('[data-part=signs]')
    const before = await place()
    for (const sign of ['√', '1', '8', '0']) await press(page, sign, '[data-part=signs]')
    await press(page, 'One sign on', '[data-part=signs]')
    for (const sign of ['=', '6', '√', '5', '7']) await press(page, sign, '[data-part=signs]')
    await press(page, 'Rub out', '[data-part=signs]')
    expect(await page.$eval('[data-part=line-editor] input', e => (e as HTMLInputElement).value)).toBe('√(180)=6√(5)')
    // What is seen of the line grows and shrinks; the signs stay under the finger.
    await page.waitForSelector('[data-part=line-preview]')
    expect(await place()).toBe(before)
    await press(page, 'Done', '[data-part=line-editor]')
    await count('[data-part=held] li', 2)
  })
  it('a figure is drawn from its measures, and changed by them', async () => {
    await solve(5)
    await record()
    await keys('f')
    await page.waitForSelector('[data-part=figure-text]')
    await tap(0.3, 0.5)
    // It comes when its labels are typeset; the tool that was chosen meanwhile stays in hand.
    await keys('v')
    await untilChosen(0.35, 0.6)
    await tap(0.35, 0.6)
    const field = (await page.waitForSelector('[data-part=figure-text] input, input[data-part=figure-text]'))!
    await field.click({ count: 3 })
    await page.keyboard.type('x 0 to 4, y 0 to 3')
    await keys('Enter')
    // The tool is put down, and the keys are the board's.
    await page.waitForFunction(() => !document.querySelector('[data-part=figure-text]'))
    const log = await stop()
    expect(log.filter(e => e.thing?.kind === 'figure').map(e => e.type)).toEqual(['place', 'change'])
    expect(page.faults).toEqual([])
  })
})

describe('the hand and its keys', () => {
  const ctrl = async (name: string) => {
    await page.keyboard.down('Control')
    await keys(name)
    await page.keyboard.up('Control')
  }
  const inEditor = () =>
    page.$eval('[data-part=line-editor] input', e => {
      const field = e as HTMLInputElement
      return {
        value: field.value,
        end: field.selectionStart === field.value.length,
        focus: e === document.activeElement,
      }
    })

  it('one key takes a line, marks its step and begins the next as a copy; a term is recoloured without a mouse', async () => {
    await solve(4)
    await record()
    await keys('t')
    await tap(0.08, 0.5)
    await page.waitForSelector('[data-part=line-editor] input:focus')
    await page.keyboard.type('so 3x = 12 | :3')
    await ctrl('Enter')
    await count('[data-part=take-steps] li', 2)
    await page.waitForSelector('[data-part=line-editor] input:focus')
    expect(await inEditor()).toEqual({ value: 'so 3x = 12 | :3', end: true, focus: true })
    await page.click('[data-part=line-editor] input', { count: 3 })
    await page.keyboard.type('x = 4')
    await ctrl('4')
    expect((await inEditor()).value).toBe('x = @4(4)')
    // What is typed while the field has lost the focus goes there, and is no key of the take.
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.keyboard.type('s')
    expect((await inEditor()).value).toBe('x = @4(4)s')
    await keys('Backspace', 'Enter')
    await page.waitForFunction(
      () => (document.querySelector('[data-part=line-editor] input') as HTMLInputElement | null)?.value === '',
    )
    await keys('Escape')
    await count('[data-part=line-editor]', 0)
    await page.waitForFunction(() => !document.querySelector('[data-part=bench] button.chosen'))
    const log = await stop()
    expect(log.filter(e => e.thing).map(e => e.thing!.source)).toEqual(['so 3x = 12 | :3', 'x = @4(4)'])
    expect(log.filter(e => e.type === 'step')).toHaveLength(1)
  })
  it('a guide’s kind is read from what is typed; once it is placed the step key is the take’s, in its field with Alt', async () => {
    await solve(5)
    await record()
    await keys('g', 'g')
    await page.waitForSelector('[data-part=guide-text] input:focus')
    await page.keyboard.type('-2 < x <= 3')
    await page.waitForFunction(() =>
      document.querySelector('[aria-label="Kind of guide"]')?.textContent?.includes('Number line'),
    )
    await page.keyboard.down('Alt')
    await keys('Enter')
    await page.keyboard.up('Alt')
    await tap(0.15, 0.5)
    await page.waitForFunction(() => document.activeElement === document.body)
    await keys('n')
    await wait(1200)
    await keys('Space')
    // Words that nothing is known of are named, and stay to be changed.
    await page.click('[data-part=guide-text] input')
    await page.keyboard.type('1 to 5; banana')
    await keys('Enter')
    await page.waitForFunction(() =>
      document.querySelector('[data-part=tool-trouble]')?.textContent?.includes('banana'),
    )
    await keys('Escape')
    await page.waitForFunction(() => !document.querySelector('[data-part=guide-text]'))
    await keys('PageDown', 'h')
    await see(page, 'Nothing is held for this question any more.')
    const log = await stop()
    expect(log.filter(e => e.type === 'step')).toHaveLength(2)
    expect(log.filter(e => e.thing?.kind === 'guide')).toHaveLength(1)
    expect(log.filter(e => e.guide)).toHaveLength(1)
    expect(page.faults).toEqual([])
  })
  it('a held line is duplicated, changed, and dragged to another place', async () => {
    await solve(6)
    const names = () => page.$$eval('[data-part=held] li', all => all.map(e => e.textContent!.trim()))
    const before = await names()
    await keys('t')
    await tap(0.3, 0.7)
    await page.waitForSelector('[data-part=line-editor] input:focus')
    await page.keyboard.type('x = 1')
    await page.keyboard.down('Shift')
    await keys('Enter')
    await page.keyboard.up('Shift')
    await count('[data-part=held] li', before.length + 1)
    const last = `[data-part=held] li:nth-child(${before.length + 1}) button[aria-label^=Change]`
    await page.click(last)
    await press(page, 'Duplicate', '[role=menu]')
    await count('[data-part=held] li', before.length + 2)
    await page.click(last)
    await press(page, 'Edit', '[role=menu]')
    await page.waitForSelector('[data-part=line-editor] input:focus')
    await page.keyboard.type('15 - 52 = -37')
    await page.keyboard.down('Shift')
    await keys('Enter')
    await page.keyboard.up('Shift')
    await see(page, '15 - 52 = -37')
    expect((await names()).slice(-2)).toEqual(['15 - 52 = -37', 'x = 1'])
  })
})
