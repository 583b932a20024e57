import { onPage, Trouble, type Folio, type Page } from '#core/folio'
import { blankText, keyPages, wordsOf, type PageText } from '#core/questions'
import type { Sheet, SheetPicture } from '#core/publish/worksheet'
import { pictureOfPage, seenTextOfPage, textOfPage } from '../paper/pageStore'

/** Pixels a point at which pages are handed out: 200 dots an inch. */
const SCALE = 200 / 72
/** A page that takes more than this as it is is handed out as a JPEG, bytes. */
const MOST_PACKED = 1_500_000
/** How much darker than the lightest spot around it letters are at least, of 255; anything less cannot be seen. */
const SEEN = 40

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

/** Pixels a point at which it is looked at whether all of a page's words are seen. */
const GLANCE = 1.5

/**
 * The words of a page of a file on which nothing is hidden, so that it can go out as it is with all that is in it; null
 * for another.
 */
export async function wordsOfOpenPage(page: Page, folio: Folio): Promise<Sheet['words'] | null> {
  if (page.kind !== 'pdf' || page.patches.length || page.turns) return null
  const text = await seenTextOfPage(page, folio)
  if (!text) return null
  const canvas = await pictureOfPage(page, folio, { x: 0, y: 0, w: page.width, h: page.height }, GLANCE)
  const pixels = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
  const seen = seenWords(text, page, pixels)
  return seen.length === wordsOf(text.pieces).length ? seen : null
}

/** A page as it is seen, with the words that can be seen on it. */
export async function sheetOf(page: Page, folio: Folio): Promise<Sheet> {
  const canvas = await pictureOfPage(page, folio, { x: 0, y: 0, w: page.width, h: page.height }, SCALE)
  const pixels = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
  return {
    width: page.width,
    height: page.height,
    picture: await pictureOf(page, canvas, pixels),
    words: seenWords(await seenTextOfPage(page, folio), page, pixels),
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

/**
 * The words of a page that can be seen: not those under a patch, nor those that are painted over or have the paper's
 * colour.
 */
function seenWords(text: PageText | null, page: Page, pixels: ImageData): Sheet['words'] {
  const scale = pixels.width / page.width
  const words = wordsOf(text?.pieces ?? []).map(w => ({
    text: w.text,
    x: w.x,
    y: onPage(page, w.y),
    w: w.w,
    size: w.size,
  }))
  const covered = (w: Sheet['words'][number]) =>
    page.patches.some(
      ({ box }) => w.x + w.w > box.x && w.x < box.x + box.w && w.y > box.y && w.y - 0.7 * w.size < box.y + box.h,
    )
  const patched = page.patches.flatMap(({ text: lines, box, size }) =>
    lines.split('\n').map((line, i) => ({
      text: line,
      x: box.x + 1,
      y: box.y + (i + 1) * size,
      w: Math.max(1, Math.min(box.w, 0.5 * size * line.length)),
      size,
    })),
  )
  return [...words.filter(w => !covered(w) && isSeen(w, pixels, scale)), ...patched.filter(w => w.text)]
}

function isSeen({ x, y, w, size }: Sheet['words'][number], { data, width, height }: ImageData, scale: number): boolean {
  let low = 255,
    high = 0
  const clamp = (v: number, most: number) => Math.max(0, Math.min(most - 1, Math.round(v * scale)))
  for (let py = clamp(y - 0.75 * size, height); py <= clamp(y + 0.1 * size, height); py++) {
    for (let px = clamp(x, width); px <= clamp(x + w, width); px++) {
      const green = data[4 * (py * width + px) + 1]!
      low = Math.min(low, green)
      high = Math.max(high, green)
      if (high - low > SEEN) return true
    }
  }
  return false
}
