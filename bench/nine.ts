import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib'
import type { Browser } from 'puppeteer-core'
import { guide, key, lines, solvePaper, takeFound, type Task } from './solving'

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

/** The nine questions as a new user does them. @param shoot is given the picture of every board at its answer */
export async function nineQuestions(
  browser: Browser,
  origin: string,
  shoot?: (i: number, png: Uint8Array) => void,
): Promise<{ preparing: number; each: number[] }> {
  const paper = {
    title: 'Nine questions',
    name: 'nine.pdf',
    bytes: await sheet(),
    tasks: TASKS,
    prepare: takeFound,
  }
  return solvePaper(browser, origin, paper, shoot)
}
