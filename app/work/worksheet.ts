import { Trouble, type Folio, type Page } from '#core/folio'
import { blankText, keyPages, wordsOf, wordsSeen, type PageText } from '#core/questions'
import type { Sheet, SheetPicture } from '#core/publish/worksheet'
import { pictureOfPage, seenTextOfPage, textOfPage } from '../paper/pageStore'
import { GLANCE, pixelsOf } from '../paper/seenWords'

/** Pixels a point at which pages are handed out: 200 dots an inch. */
const SCALE = 200 / 72
/** A page that takes more than this as it is is handed out as a JPEG, bytes. */
const MOST_PACKED = 1_500_000

/** Whether students get a page, and why. */
export interface HandedPage {
  page: Page
  handed: boolean
  why: 'chosen' | 'page' | 'answers'
}

/** The pages that students may get as the worksheet. */
export const pagesBroughtIn = (folio: Folio): Page[] =>
  folio.pages.filter(p => (p.kind === 'pdf' || p.kind === 'image') && !p.sheet)

/**
 * Which pages students get as the worksheet: what was brought in and stands in Pages. Pages with the paper's own
 * answers
 * and the teacher's own sheets (references, paper to work on) stay, unless she chose otherwise.
 */
export async function handedPages(folio: Folio): Promise<HandedPage[]> {
  const own = pagesBroughtIn(folio)
  const texts: PageText[] = []
  for (const page of own)
    texts.push((await textOfPage(page, folio).catch(() => null)) ?? blankText(page.width, page.height))
  const answers = keyPages(texts)
  return own.map(
    (page, i): HandedPage =>
      page.handed !== undefined
        ? { page, handed: page.handed, why: 'chosen' }
        : { page, handed: !answers.has(i), why: answers.has(i) ? 'answers' : 'page' },
  )
}

/**
 * The worksheet as a PDF of its own, page by page as it is seen in Pages; null when no page is handed out.
 * @throws Trouble when a page cannot be drawn; `cancelled`
 */
export async function worksheetOf(folio: Folio, signal: AbortSignal): Promise<Blob | null> {
  const known = made.get(folio.pages)
  if (known) return known.sheet
  const sheet = await newWorksheet(folio, signal)
  made.set(folio.pages, { sheet })
  return sheet
}
/** The worksheet as it was made last, while the pages are the same. */
const made = new WeakMap<Folio['pages'], { sheet: Blob | null }>()

async function newWorksheet(folio: Folio, signal: AbortSignal): Promise<Blob | null> {
  const sheets: Sheet[] = []
  for (const { page, handed } of await handedPages(folio)) {
    if (!handed) continue
    signal.throwIfAborted()
    try {
      sheets.push(await sheetOf(page, folio))
    } catch (cause) {
      throw new Trouble(
        'page-unseen',
        `Page ${folio.pages.indexOf(page) + 1} cannot be drawn, so students would not get it.`,
        'Nothing was published.',
        'Look at it on the Pages screen, or leave it out of the worksheet below.',
        cause,
      )
    }
  }
  if (!sheets.length) return null
  const { worksheetPdf } = await import('#core/publish/worksheet')
  return new Blob([(await worksheetPdf(sheets)) as Uint8Array<ArrayBuffer>], { type: 'application/pdf' })
}

/**
 * The words of a page of a file on which nothing is hidden, so that it can go out as it is with all that is in it; null
 * for another.
 */
export async function wordsOfOpenPage(page: Page, folio: Folio): Promise<Sheet['words'] | null> {
  if (page.kind !== 'pdf' || page.patches.length || page.turns) return null
  const text = await seenTextOfPage(page, folio)
  if (!text) return null
  const whole = { x: 0, y: 0, w: page.width, h: page.height }
  const seen = wordsSeen(text, page, { box: whole, pixels: pixelsOf(await pictureOfPage(page, folio, whole, GLANCE)) })
  return seen.length === wordsOf(text.pieces).length ? seen : null
}

/** A page as it is seen, with the words that can be seen on it. */
export async function sheetOf(page: Page, folio: Folio): Promise<Sheet> {
  const whole = { x: 0, y: 0, w: page.width, h: page.height }
  const canvas = await pictureOfPage(page, folio, whole, SCALE)
  const pixels = pixelsOf(canvas)
  return {
    width: page.width,
    height: page.height,
    picture: await pictureOf(page, canvas, pixels),
    words: wordsSeen(await seenTextOfPage(page, folio), page, { box: whole, pixels }),
  }
}

async function pictureOf(
  page: Page,
  canvas: HTMLCanvasElement,
  { data, width, height }: ImageData,
): Promise<SheetPicture> {
  if (page.kind !== 'image') {
    const rgb = new Uint8Array(width * height * 3)
    for (let from = 0, to = 0; from < data.length; from += 4) {
      rgb[to++] = data[from]!
      rgb[to++] = data[from + 1]!
      rgb[to++] = data[from + 2]!
    }
    const packed = await new Response(
      new Blob([rgb]).stream().pipeThrough(new CompressionStream('deflate')),
    ).arrayBuffer()
    if (packed.byteLength <= MOST_PACKED) return { kind: 'packed', data: new Uint8Array(packed), width, height }
  }
  const jpeg = await new Promise<Blob>((done, fail) =>
    canvas.toBlob(b => (b ? done(b) : fail(new Error('no picture'))), 'image/jpeg', 0.88),
  )
  return { kind: 'jpeg', data: new Uint8Array(await jpeg.arrayBuffer()) }
}
