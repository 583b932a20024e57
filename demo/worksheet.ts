import fontkit from '@cantoo/fontkit'
import { PDFDocument, rgb, type PDFFont, type PDFPage } from '@cantoo/pdf-lib'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Box } from '../core/folio/model'

/** A4 in points. */
export const SHEET = { width: 595.28, height: 841.89 }

const OPTIONS = ['A   1 km', 'B   5.5 km', 'C   11 km', 'D   20 km']
const MARKS = [3, 3, 1, 3, 4, 2]
/** Answers as a teacher would type them; heights of pressure from the US Standard Atmosphere 1976. */
const ANSWERS = ['11547 m', '14628 m', 'B', 'x = 24', 'a = 3.52 m/s² ± 0.03', '-37 °C']

/** Where each question stands: page index and region in points, origin top left. */
export const PLACES: {
  number: string
  title: string
  page: number
  box: Box
  marks: number
  answer: string
  options?: string[]
}[] = [
  ['1', 'Still to climb'],
  ['2', 'Height after 46 minutes'],
  ['3', 'Half the pressure'],
  ['4', 'Bottles of helium'],
  ['5', 'Lift and weight'],
  ['6', 'Cold at eight kilometres'],
].map(([number, title], i) => ({
  number: number!,
  title: title!,
  page: Math.floor(i / 3),
  box: { x: 40, y: (i < 3 ? 92 : 60) + (i % 3) * 246, w: 411, h: 232 },
  marks: MARKS[i]!,
  answer: ANSWERS[i]!,
  ...(i === 2 ? { options: OPTIONS } : {}),
}))

/** Where an option of question 3 is printed, by its index. */
export function optionBox(i: number): Box {
  const { x, y } = PLACES[2]!.box
  return { x: x + 38 + i * 92, y: y + 56, w: i === 0 ? 40 : 52, h: 13 }
}

const TEXTS: string[][] = [
  [
    "The balloon is planned to burst at 30 204 m. At ten o'clock it is",
    'at 18 657 m. How many metres does it still climb?',
  ],
  ['The balloon rises 318 m in every minute.', 'How high is it after 46 minutes?'],
  ['The air pressure at sea level is 1013 hPa. At about which height', 'is it half of that?'],
  [
    'Two teams fill the balloon from equal bottles. The first uses 4 bottles',
    'and lets 18 litres out again, the second uses 2 bottles and adds',
    '30 litres; both end with the same. Solve  4x - 18 = 2x + 30.',
  ],
  [
    'The balloon with its box has a mass of 1.80 kg. The air lifts it with 24.0 N.',
    'Find the resultant force and the acceleration at the start.',
  ],
  ['The temperature falls by 6.5 °C with every kilometre. On the ground', 'it is 15 °C. How cold is it at 8 km?'],
]
const INK = rgb(0.13, 0.14, 0.18)
const FAINT = rgb(0.78, 0.86, 0.93)

/** The two-page worksheet of the sample folio. Air values: US Standard Atmosphere 1976. */
export async function makeWorksheet(): Promise<Uint8Array> {
  const pdf = await PDFDocument.create()
  pdf.setTitle('Balloon Day: heights, pressure, forces')
  pdf.setCreationDate(new Date('2026-10-01T08:00:00Z'))
  pdf.setModificationDate(new Date('2026-10-01T08:00:00Z'))
  pdf.registerFontkit(fontkit)
  // Its fonts go with it, so that it looks the same on every machine.
  const face = (weight: number) =>
    pdf.embedFont(
      readFileSync(
        createRequire(import.meta.url).resolve(
          `@fontsource/stix-two-text/files/stix-two-text-latin-${weight}-normal.woff`,
        ),
      ),
      { subset: true },
    )
  const serif = await face(400)
  const bold = await face(600)
  const pages = [0, 1].map(() => pdf.addPage([SHEET.width, SHEET.height]))
  header(pages[0]!, serif, bold)
  PLACES.forEach((place, i) => question(pages[place.page]!, i, place.box, serif, bold))
  pages.forEach((page, i) => text(page, `Balloon Day, page ${i + 1} of 2`, 40, 820, serif, 8))
  return pdf.save({ useObjectStreams: false })
}

/** y counts from the top here, as everywhere in the product; PDF counts from the bottom. */
function text(page: PDFPage, words: string, x: number, y: number, font: PDFFont, size: number) {
  page.drawText(words, { x, y: SHEET.height - y, size, font, color: INK })
}

function line(page: PDFPage, x0: number, y0: number, x1: number, y1: number, color = INK, thickness = 0.8) {
  page.drawLine({ start: { x: x0, y: SHEET.height - y0 }, end: { x: x1, y: SHEET.height - y1 }, color, thickness })
}

function header(page: PDFPage, serif: PDFFont, bold: PDFFont) {
  text(page, 'Balloon Day', 40, 52, bold, 22)
  text(page, 'Science club worksheet: heights, pressure, forces', 40, 70, serif, 11)
  text(page, 'Name ______________________', 400, 52, serif, 10)
  line(page, 40, 80, 555, 80)
}

function question(page: PDFPage, index: number, box: Box, serif: PDFFont, bold: PDFFont) {
  const { x, y, w, h } = box
  text(page, `${PLACES[index]!.number}.`, x + 6, y + 20, bold, 12)
  TEXTS[index]!.forEach((words, i) => text(page, words, x + 26, y + 20 + i * 15, serif, 11.5))
  text(page, `(${MARKS[index]} ${MARKS[index] === 1 ? 'mark' : 'marks'})`, x + w + 26, y + 20, serif, 10)
  const top = y + 28 + TEXTS[index]!.length * 15
  if (index === 2) OPTIONS.forEach((o, i) => text(page, o, x + 40 + i * 92, top + 8, serif, 11.5))
  squares(page, x + 6, top + (index === 2 ? 22 : 2), x + w - 6, y + h - 6)
  if (index === 4) forces(page, x + w - 80, top + 66, serif)
}

/** Squared paper for the working, 5 mm. */
function squares(page: PDFPage, x0: number, y0: number, x1: number, y1: number) {
  const every = 14.17
  for (let x = x0; x <= x1 + 0.1; x += every)
    line(page, x, y0, x, y0 + Math.floor((y1 - y0) / every) * every, FAINT, 0.4)
  for (let y = y0; y <= y1 + 0.1; y += every)
    line(page, x0, y, x0 + Math.floor((x1 - x0) / every) * every, y, FAINT, 0.4)
}

function forces(page: PDFPage, x: number, y: number, serif: PDFFont) {
  page.drawCircle({ x, y: SHEET.height - y, size: 27, borderColor: INK, borderWidth: 1, color: rgb(1, 1, 1) })
  page.drawRectangle({
    x: x - 8,
    y: SHEET.height - y - 58,
    width: 16,
    height: 13,
    borderColor: INK,
    borderWidth: 1,
    color: rgb(1, 1, 1),
  })
  line(page, x - 10, y + 25, x - 6, y + 45)
  line(page, x + 10, y + 25, x + 6, y + 45)
  arrow(page, x, y - 27, y - 58)
  arrow(page, x, y + 58, y + 86)
  text(page, '24.0 N', x + 7, y - 44, serif, 10)
  text(page, 'weight', x + 7, y + 80, serif, 10)
}

function arrow(page: PDFPage, x: number, from: number, to: number) {
  const back = to > from ? -6 : 6
  line(page, x, from, x, to, INK, 1.2)
  line(page, x, to, x - 4, to + back, INK, 1.2)
  line(page, x, to, x + 4, to + back, INK, 1.2)
}
