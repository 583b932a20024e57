import { PDFDocument, StandardFonts, type PDFPage } from '@cantoo/pdf-lib'
import type { Browser, Page } from 'puppeteer-core'
import { openPage, press } from '../tests/support/browser'
import { guide, key, lines, takeFound, type Paper, type Task } from './solving'

const PHYSICS: readonly Task[] = [
  {
    print: [
      'A balloon of mass 1.2 kg is held by a string. The air pushes it upwards with 15.0 N.',
      '(a)  Calculate its weight. Use g = 9.8 N/kg.   [2 marks]',
      '(b)  Calculate the force in the string.   [2 marks]',
    ],
    deeds: [
      ...lines([0.1, 0.5], 'W = m g', '= 1.2 kg × 9.8 N kg^-1', '= @4(11.8 N)'),
      key('Space'),
      ...lines([0.55, 0.5], 'F = 15.0 N - 11.8 N = @4(3.2 N)'),
    ],
  },
  {
    print: [
      'The balloon rises 240 m in 80 s.',
      '(a)  Calculate its speed.   [2 marks]',
      '(b)  How long does it take for 900 m at this speed?   [2 marks]',
    ],
    deeds: [
      ...lines([0.1, 0.5], 'v = s/t = (240 m)/(80 s)', '= @4(3.0 m s^-1)'),
      key('Space'),
      ...lines([0.55, 0.5], 't = (900 m)/(3.0 m s^-1) = @4(300 s)'),
    ],
  },
  {
    print: ['The heater takes 2.0 A at 12 V.', '(a)  Calculate its resistance.   [2 marks]'],
    deeds: lines([0.1, 0.5], 'R = U/I = (12 V)/(2.0 A)', '= @4(6.0 Ω)'),
  },
]

const CHEMISTRY: readonly Task[] = [
  {
    print: ['Which gas fills the balloon?', 'A   oxygen        B   helium        C   chlorine        D   argon'],
    deeds: [key('o'), key('a'), key('c'), key('d'), key('shift+b')],
  },
  {
    print: ['Which of these is an acid?', 'A   NaOH        B   NaCl        C   HCl        D   NH3'],
    deeds: [key('o'), key('a'), key('b'), key('d'), key('shift+c')],
  },
  {
    print: ['Which equation is balanced?', 'A   one        B   two        C   three        D   four'],
    deeds: [key('o'), key('a'), key('b'), key('c'), key('shift+d')],
  },
  {
    print: ['How many moles are 36 g of water?', 'A   0.5        B   1        C   2        D   18'],
    deeds: [
      ...lines([0.1, 0.5], 'n = m/M = (36 g)/(18 g mol^-1) = @4(2 mol)'),
      key('o'),
      key('a'),
      key('b'),
      key('d'),
      key('shift+c'),
    ],
  },
]

async function pdf(make: (pages: (n: number) => PDFPage[], print: Print) => void): Promise<Uint8Array> {
  const doc = await PDFDocument.create()
  const font = await doc.embedFont(StandardFonts.TimesRoman),
    bold = await doc.embedFont(StandardFonts.TimesRomanBold)
  make(
    n => Array.from({ length: n }, () => doc.addPage([595, 842])),
    (page, number, lines, y) => {
      page.drawText(number, { x: 60, y, size: 12, font: bold })
      lines.forEach((text, k) =>
        text
          .split(/\s{3,}(?=[A-D]\s|\[)/)
          .forEach((piece, n) =>
            page.drawText(piece, { x: piece.startsWith('[') ? 470 : 84 + 105 * n, y: y - 24 * k, size: 12, font }),
          ),
      )
    },
  )
  return doc.save()
}
type Print = (page: PDFPage, number: string, lines: readonly string[], y: number) => void

/** A cover, and a question on each of three pages. */
const physics = async (): Promise<Paper> => ({
  title: 'Balloon physics',
  name: 'physics.pdf',
  bytes: await pdf((pages, print) => {
    const [cover, ...rest] = pages(4)
    print(cover!, 'Balloon Day: forces, motion, current', [], 700)
    print(cover!, 'Instructions', ['1. Answer all questions.', '2. Show your working.', '3. Time: 30 minutes.'], 640)
    PHYSICS.forEach((task, i) => print(rest[i]!, `${i + 1}.`, task.print, 780))
  }),
  tasks: PHYSICS,
  prepare: takeFound,
})

const chemistry = async (): Promise<Paper> => ({
  title: 'Gas and water',
  name: 'chemistry.pdf',
  bytes: await pdf((pages, print) => {
    const all = pages(2)
    CHEMISTRY.forEach((task, i) => print(all[Math.floor(i / 2)]!, `${i + 1}.`, task.print, 780 - 300 * (i % 2)))
  }),
  tasks: CHEMISTRY,
  prepare: takeFound,
})

/** A sheet on a table, photographed a little askew. */
async function photographed(browser: Browser, origin: string): Promise<Uint8Array> {
  const page = await openPage(browser, origin)
  await page.goto(origin)
  const bytes = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(2000, 2700),
      context = canvas.getContext('2d')!
    context.fillStyle = '#5b4630'
    context.fillRect(0, 0, 2000, 2700)
    context.translate(1000, 1350)
    context.rotate(0.05)
    context.fillStyle = '#efece4'
    context.fillRect(-840, -1188, 1680, 2376)
    context.fillStyle = '#222'
    context.font = '44px serif'
    context.fillText('1.   Simplify the root of 72.', -700, -950)
    return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg' })).arrayBuffer())]
  })
  await page.close()
  return new Uint8Array(bytes)
}

const photo = async (browser: Browser, origin: string): Promise<Paper> => ({
  title: 'From the exercise book',
  name: 'page.jpg',
  bytes: await photographed(browser, origin),
  tasks: [
    {
      print: [],
      deeds: [...lines([0.1, 0.4], '√72 = √(36 × 2)', '= @4(6√2)'), key('Space'), ...guide('tree 72', 4)],
    },
  ],
  async prepare(page) {
    await press(page, 'Straighten the photo')
    await page.waitForFunction(
      () =>
        document.querySelector('[data-part=photo] polygon') &&
        !document.body.textContent!.includes('Looking for the sheet'),
      { timeout: 60_000 },
    )
    await press(page, 'Straighten it')
    await page.waitForFunction(() => !document.querySelector('[data-part=photo]'), { timeout: 60_000 })
    return 2 + (await drawQuestion(page))
  },
})

/** Draws a rectangle round the question: one gesture. */
async function drawQuestion(page: Page): Promise<number> {
  const sheet = (await (await page.waitForSelector('[data-part=page]'))!.boundingBox())!
  const at = (x: number, y: number) => [sheet.x + sheet.width * x, sheet.y + sheet.height * y] as const
  await page.mouse.move(...at(0.06, 0.05))
  await page.mouse.down()
  await page.mouse.move(...at(0.5, 0.2), { steps: 5 })
  await page.mouse.move(...at(0.94, 0.4), { steps: 5 })
  await page.mouse.up()
  await page.waitForSelector('[data-part=question-row]')
  return 1
}

/** The other papers as a new user does them, one after another: a physics paper, a sheet of options, a photo. */
export const threePapers = [physics, chemistry, photo] as const
