import { writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, ElementHandle, Page } from 'puppeteer-core'
import { openPage, press } from '../tests/support/browser'

/** What is done for one question: keys and taps count, what is typed is writing. */
export type Deed = { key: string } | { tap: [x: number, y: number] } | { type: string } | { moves: number }
export interface Task {
  /** What is printed of the question, line by line. */
  print: string[]
  deeds: Deed[]
}
export const key = (k: string): Deed => ({ key: k })
export const type = (text: string): Deed => ({ type: text })
/** A guide by keys: its tool, its field, what is typed, where it has room, and so many moves. */
export const guide = (text: string, moves: number): Deed[] => [
  key('g'),
  key('g'),
  type(text),
  key('Enter'),
  { moves },
  key('Escape'),
]
/** Lines by keys and one tap. */
export const lines = (at: [number, number], ...all: string[]): Deed[] => [
  key('t'),
  { tap: at },
  ...all.flatMap(text => [type(text), key('Enter')]),
  key('Escape'),
]

/** A paper as a new user gets it, and what she does with it. */
export interface Paper {
  title: string
  /** Its file. */
  name: string
  bytes: Uint8Array
  tasks: readonly Task[]
  /** From the page that has come to the questions that are taken. @returns how many actions it took */
  prepare(page: Page): Promise<number>
}

const wait = (ms: number) => new Promise(r => setTimeout(r, ms))

async function chord(page: Page, keys: string) {
  const [name, ...held] = keys.split('+').reverse() as [string, ...string[]]
  const held_ = held.map(h => ({ shift: 'Shift', alt: 'Alt', ctrl: 'Control' })[h] as 'Shift')
  for (const h of held_) await page.keyboard.down(h)
  await page.keyboard.press(name as 'Enter')
  for (const h of held_) await page.keyboard.up(h)
}

/** Takes the questions that were found: one key. */
export async function takeFound(page: Page): Promise<number> {
  await page.waitForSelector('[data-part=proposal]')
  await page.keyboard.press('a')
  await page.waitForFunction(() => !document.querySelector('[data-part=proposal]'))
  return 1
}

/**
 * A paper as a new user does it, from the empty shelf: brought in, found, taken, solved in one go.
 * @param shoot is given the picture of every board at the moment of its answer
 * @returns actions of preparing, and of each question, beside writing and talking
 */
export async function solvePaper(
  browser: Browser,
  origin: string,
  paper: Paper,
  shoot?: (i: number, png: Uint8Array) => void,
): Promise<{ preparing: number; each: number[] }> {
  const page = await openPage(browser, origin)
  await page.goto(origin)
  await page.evaluate(() =>
    localStorage.setItem(
      'orthograph-settings',
      JSON.stringify({ microphone: 'none', countdown: 0, sampleOffered: true }),
    ),
  )
  await page.goto(origin)
  const path = join(tmpdir(), `orthograph-${process.pid}-${paper.name}`)
  writeFileSync(path, paper.bytes)
  await page.waitForSelector('#new-title')
  await page.type('#new-title', paper.title)
  await press(page, 'Begin with its pages')
  const file = (await page.waitForSelector(
    'input[aria-label="PDF files and pictures"]',
  )) as ElementHandle<HTMLInputElement>
  await file.uploadFile(path)
  // The name, its button, the file; going on to Solve.
  const preparing = 4 + (await paper.prepare(page))
  await press(page, 'Solve', 'aside')
  await page.waitForSelector('[data-part=solve-board] canvas[data-page=shown]')
  const each: number[] = []
  for (const [i, task] of paper.tasks.entries()) {
    let count = 1
    if (i === 0) await page.keyboard.press('r')
    else {
      const before = page.url()
      await page.keyboard.press('PageDown')
      // What writes itself is written to its end first.
      await page.waitForFunction((url: string) => location.href !== url, { timeout: 30_000 }, before)
    }
    await page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
    await page.waitForSelector('[data-part=solve-board] canvas[data-page=shown]')
    await wait(700)
    const frame = (await (await page.waitForSelector('[data-part=frame]'))!.boundingBox())!
    for (const deed of task.deeds) {
      if ('type' in deed) await page.keyboard.type(deed.type)
      else if ('tap' in deed) {
        await page.mouse.click(frame.x + frame.width * deed.tap[0], frame.y + frame.height * deed.tap[1])
        count++
      } else if ('moves' in deed) {
        for (let n = 0; n < deed.moves; n++) {
          await page.keyboard.press('n')
          count++
          await wait(120)
        }
        // A hand takes about as long.
        await wait(1000 + 900 * deed.moves)
      } else {
        await chord(page, deed.key)
        count++
      }
      await wait(250)
    }
    await wait(600)
    each.push(count)
    shoot?.(i, await (await page.$('[data-part=solve-board]'))!.screenshot())
  }
  await page.keyboard.press('s')
  await page.waitForSelector('[data-part=proof-board]', { timeout: 60_000 })
  const { faults } = page
  if (faults.length) throw new Error(faults.join('\n'))
  await page.close()
  return { preparing, each }
}
