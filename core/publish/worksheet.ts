import { PDFDocument, PDFHexString, PDFName, PDFNumber, type PDFPage, type PDFRef } from '@cantoo/pdf-lib'
import type { TextPiece } from '../questions/model'

/** A picture of a page as it goes into a PDF: a whole JPEG, or rows of RGB samples (8 bit) packed with zlib. */
export type SheetPicture =
  | { kind: 'jpeg'; data: Uint8Array }
  | { kind: 'packed'; data: Uint8Array; width: number; height: number }

/** A page of the worksheet: its size in points, what is seen of it, and the words that stand on it. */
export interface Sheet {
  width: number
  height: number
  picture: SheetPicture
  words: readonly Pick<TextPiece, 'text' | 'x' | 'y' | 'w' | 'size'>[]
}

/** Characters of one font; the code 0 is left alone. */
const CODES = 255
/** Advance of every letter, thousandths of its size. */
const ADVANCE = 500

/**
 * The worksheet as students get it: a PDF made anew from the pictures of its pages, so that nothing of the original
 * files is in it
 * but what is seen. The words lie over the pictures without being drawn (PDF text rendering mode 3, in a Type 3 font
 * without shapes;
 * ISO 32000-1, 9.3.6 and 9.6.5), so that they can be searched, read aloud and copied.
 * @returns the bytes of the PDF, without metadata
 */
export async function worksheetPdf(sheets: readonly Sheet[]): Promise<Uint8Array> {
  const pdf = await PDFDocument.create({ updateMetadata: false })
  const letters = lettersOf(sheets)
  const fonts = fontsOf(pdf, [...letters.keys()])
  for (const sheet of sheets) await addPage(pdf, sheet, letters, fonts)
  return pdf.save({ useObjectStreams: false })
}

/** A page of a handout of which only what is seen goes out, as in the worksheet. */
export function addSheet(pdf: PDFDocument, sheet: Sheet): Promise<PDFPage> {
  const letters = lettersOf([sheet])
  return addPage(pdf, sheet, letters, fontsOf(pdf, [...letters.keys()]))
}

/** Words that can be searched and copied and are not drawn, as content of a page. */
export function wordsOver(pdf: PDFDocument, page: PDFPage, height: number, words: Sheet['words']): string[] {
  const letters = lettersOf([{ words }])
  fontsOf(pdf, [...letters.keys()]).forEach((font, i) => page.node.setFontDictionary(PDFName.of(`W${i}`), font))
  return ['BT 3 Tr', ...words.flatMap(w => wordOf(w, height, letters)), 'ET']
}

type Letters = Map<string, { font: number; code: number }>
function lettersOf(sheets: readonly Pick<Sheet, 'words'>[]): Letters {
  const letters: Letters = new Map()
  for (const sheet of sheets) {
    for (const { text } of sheet.words) {
      for (const letter of text) {
        if (!letters.has(letter))
          letters.set(letter, { font: Math.floor(letters.size / CODES), code: 1 + (letters.size % CODES) })
      }
    }
  }
  return letters
}

async function addPage(pdf: PDFDocument, sheet: Sheet, letters: Letters, fonts: readonly PDFRef[]): Promise<PDFPage> {
  const page = pdf.addPage([sheet.width, sheet.height])
  const { context } = pdf
  const image =
    sheet.picture.kind === 'jpeg'
      ? (await pdf.embedJpg(sheet.picture.data)).ref
      : context.register(
          context.stream(sheet.picture.data, {
            Type: 'XObject',
            Subtype: 'Image',
            Width: sheet.picture.width,
            Height: sheet.picture.height,
            ColorSpace: 'DeviceRGB',
            BitsPerComponent: 8,
            Filter: 'FlateDecode',
          }),
        )
  page.node.setXObject(PDFName.of('Sheet'), image)
  fonts.forEach((font, i) => page.node.setFontDictionary(PDFName.of(`W${i}`), font))
  const drawn = `q ${n(sheet.width)} 0 0 ${n(sheet.height)} 0 0 cm /Sheet Do Q`
  const content = context.flateStream(
    [drawn, 'BT 3 Tr', ...sheet.words.flatMap(w => wordOf(w, sheet.height, letters)), 'ET'].join('\n'),
  )
  page.node.set(PDFName.of('Contents'), context.register(content))
  return page
}

const n = (v: number) => String(Math.round(v * 1000) / 1000)

/** A word at its place, as wide as it is printed. */
function wordOf({ text, x, y, w, size }: Sheet['words'][number], height: number, letters: Letters): string[] {
  const all = [...text]
  if (!all.length || !(size > 0) || !(w > 0)) return []
  const stretch = (100 * w) / ((all.length * size * ADVANCE) / 1000)
  const out = [`${n(stretch)} Tz 1 0 0 1 ${n(x)} ${n(height - y)} Tm`]
  for (let i = 0; i < all.length; ) {
    const { font } = letters.get(all[i]!)!
    let codes = ''
    for (; i < all.length && letters.get(all[i]!)!.font === font; i++)
      codes += letters.get(all[i]!)!.code.toString(16).padStart(2, '0')
    out.push(`/W${font} ${n(size)} Tf <${codes}> Tj`)
  }
  return out
}

/** Fonts whose letters have a width and a meaning, and no shape. */
function fontsOf(pdf: PDFDocument, letters: readonly string[]): PDFRef[] {
  const { context } = pdf
  const empty = context.register(context.stream(`${ADVANCE} 0 d0`))
  return Array.from({ length: Math.ceil(letters.length / CODES) }, (_, font) => {
    const own = letters.slice(font * CODES, (font + 1) * CODES)
    const meaning = own.map(
      (letter, i) => `<${(i + 1).toString(16).padStart(2, '0')}> ${PDFHexString.of(utf16(letter)).toString()}`,
    )
    const blocks: string[] = []
    for (let i = 0; i < meaning.length; i += 100)
      blocks.push(`${Math.min(100, meaning.length - i)} beginbfchar`, ...meaning.slice(i, i + 100), 'endbfchar')
    const map = [
      '/CIDInit /ProcSet findresource begin 12 dict begin begincmap /CMapType 2 def /CMapName /Words def',
      '1 begincodespacerange <00> <FF> endcodespacerange',
      ...blocks,
      'endcmap end end',
    ].join('\n')
    return context.register(
      context.obj({
        Type: 'Font',
        Subtype: 'Type3',
        FontBBox: [0, -200, ADVANCE, 800],
        FontMatrix: [0.001, 0, 0, 0.001, 0, 0],
        CharProcs: { g: empty },
        Resources: {},
        Encoding: { Type: 'Encoding', Differences: [PDFNumber.of(1), ...own.map(() => PDFName.of('g'))] },
        FirstChar: 1,
        LastChar: own.length,
        Widths: own.map(() => PDFNumber.of(ADVANCE)),
        ToUnicode: context.register(context.flateStream(map)),
      }),
    )
  })
}

const utf16 = (letter: string) =>
  Array.from({ length: letter.length }, (_, i) => letter.charCodeAt(i).toString(16).padStart(4, '0')).join('')
