import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib'
import { writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, ElementHandle } from 'puppeteer-core'
import { openPage, press } from '../tests/support/browser'

/** What is done for one question: keys and taps count, what is typed is writing. */
type Deed = { key: string } | { tap: [x: number, y: number] } | { type: string } | { moves: number }
interface Task {
  print: string[]
  deeds: Deed[]
}
const key = (k: string): Deed => ({ key: k })
const type = (text: string): Deed => ({ type: text })
/** A guide by keys: its tool, its field, what is typed, where it has room, and so many moves. */
const guide = (text: string, moves: number): Deed[] => [
  key('g'),
  key('g'),
  type(text),
  key('Enter'),
  { moves },
  key('Escape'),
]
/** Lines by keys and one tap. */
const lines = (at: [number, number], ...all: string[]): Deed[] => [
  key('t'),
  { tap: at },
  ...all.flatMap(text => [type(text), key('Enter')]),
  key('Escape'),
]

/** Nine questions of a mathematics sheet. */
const TASKS: readonly Task[] = [
  {
    print: ['A field has room for 8000 people. 2347 tickets are sold.', 'How many are left?'],
    deeds: [...guide('8000 - 2347', 5), key('Space'), ...lines([0.5, 0.55], 'There are 5653 tickets left.')],
  },
  {
    print: ['Ana and Ben share 40 balloons in the ratio 3 : 5.', 'How many does each of them get?'],
    deeds: [...guide('Ana 3, Ben 5; total 40', 5), key('Space')],
  },
  {
    print: ['863 people go by bus, 14 in each.', 'How many buses are full, and how many people are left?'],
    deeds: [
      ...guide('863 : 14 with remainder', 8),
      key('Space'),
      ...lines([0.5, 0.6], '61 buses are full, 9 people are left.'),
    ],
  },
  {
    print: ['Work out 2/3 + 3/4.'],
    deeds: [...guide('2/3 + 3/4', 4), key('Space')],
  },
  {
    print: ['Solve (x + 1)/2 = (x - 3)/4.'],
    deeds: [...guide('(x + 1)/2 = (x - 3)/4', 3), key('Space'), ...lines([0.55, 0.5], 'so x = @4(-5)')],
  },
  {
    print: ['Expand (x + 2)(x - 3).'],
    deeds: [...guide('(x + 2)(x - 3)', 6), key('Space')],
  },
  {
    print: ['Write the root of 72 as simply as you can.'],
    deeds: lines([0.1, 0.4], '√72 = √(36 × 2)', '= √36 × √2', '= @4(6√2)'),
  },
  {
    print: ['Solve 5 - 2x < 9, and show it on a number line.'],
    deeds: [...guide('5 - 2x < 9', 3), key('Space'), ...guide('x > -2', 1)],
  },
  {
    print: ['Which is the largest?', 'A   0.35        B   1/3        C   0.305        D   3/10'],
    deeds: [key('o'), key('b'), key('c'), key('d'), key('shift+a'), key('Space')],
  },
]

/** The sheet: three questions a page, with room below each. */
async function sheet(): Promise<Uint8Array> {
  const pdf = await PDFDocument.create()
  const font = await pdf.embedFont(StandardFonts.TimesRoman),
    bold = await pdf.embedFont(StandardFonts.TimesRomanBold)
  const pages = [0, 1, 2].map(() => pdf.addPage([595, 842]))
  TASKS.forEach(({ print }, i) => {
    const page = pages[Math.floor(i / 3)]!
    const y = 842 - 60 - 250 * (i % 3)
    page.drawText(`${i + 1}.`, { x: 60, y, size: 12, font: bold })
    print.forEach((text, k) =>
      text
        .split(/\s{3,}(?=[A-D]\s)/)
        .forEach((piece, n) => page.drawText(piece, { x: 84 + 105 * n, y: y - 18 * k, size: 12, font })),
    )
  })
  return pdf.save()
}

/**
 * The nine questions as a new user does them, from the empty shelf: brought in, found, taken, solved in one go.
 * @param shoot is given the picture of every board at the moment of its answer
 * @returns actions of preparing, and of each question, beside writing and talking
 */
export async function nineQuestions(
  browser: Browser,
  origin: string,
  shoot?: (i: number, png: Uint8Array) => void,
): Promise<{ preparing: number; each: number[] }> {
  const page = await openPage(browser, origin)
  const wait = (ms: number) => new Promise(r => setTimeout(r, ms))
  const chord = async (keys: string) => {
    const [name, ...held] = keys.split('+').reverse() as [string, ...string[]]
    for (const h of held) await page.keyboard.down(h === 'shift' ? 'Shift' : 'Control')
    await page.keyboard.press(name as 'Enter')
    for (const h of held) await page.keyboard.up(h === 'shift' ? 'Shift' : 'Control')
  }
  await page.goto(origin)
  await page.evaluate(() =>
    localStorage.setItem(
      'orthograph-settings',
      JSON.stringify({ microphone: 'none', countdown: 0, sampleOffered: true }),
    ),
  )
  await page.goto(origin)
  const path = join(tmpdir(), `orthograph-nine-${process.pid}.pdf`)
  writeFileSync(path, await sheet())
  await page.waitForSelector('#new-title')
  await page.type('#new-title', 'Nine questions')
  await press(page, 'Begin with its pages')
  const file = (await page.waitForSelector(
    'input[aria-label="PDF files and pictures"]',
  )) as ElementHandle<HTMLInputElement>
  await file.uploadFile(path)
  await page.waitForSelector('[data-part=proposal]')
  await page.keyboard.press('a')
  await page.waitForFunction(() => !document.querySelector('[data-part=proposal]'))
  await press(page, 'Solve', 'aside')
  await page.waitForSelector('[data-part=solve-board] canvas[data-page=shown]')
  // The name, the file, taking the questions, going on to Solve.
  const preparing = 5
  const each: number[] = []
  for (const [i, task] of TASKS.entries()) {
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
        await chord(deed.key)
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
  const faults = page.faults
  if (faults.length) throw new Error(faults.join('\n'))
  await page.close()
  return { preparing, each }
}
