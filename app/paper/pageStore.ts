import type { PDFPageProxy } from 'pdfjs-dist'
import { pictureSize, stripsOf, type Box, type Folio, type Frame, type Page } from '#core/folio'
import { printOfDrawn, type Print } from '#core/lesson'
import type { PageText } from '#core/questions'
import { loadDocument } from '../data/folios'
import { Lately } from '../data/lately'
import { paintBlank, paintPatch } from './blank'
import { fitScale } from './fit'
import { paintNotice } from './notice'
import { paintReference } from './reference'
import type { OpenPdf } from './pdf'

/**
 * Opened PDFs and decoded pictures by document; each is read once, whatever the number of pictures made of it. Those
 * used least recently
 * are let go of: an opened PDF holds its fonts and pictures, a photo of 12 megapixels takes 48 MB.
 */
const open = new Lately<Promise<OpenPdf>>(4, pdf => {
  void pdf.then(
    p => p.close(),
    () => {},
  )
})
/** The same files with letters as shapes. */
const shaped = new Lately<Promise<OpenPdf>>(2, pdf => {
  void pdf.then(
    p => p.close(),
    () => {},
  )
})
const bitmaps = new Lately<Promise<ImageBitmap>>(6, bitmap => {
  void bitmap.then(
    b => b.close(),
    () => {},
  )
})

/** Loads pdf.js only when a page is first needed. */
export const loadPdfModule = () => import('./pdf')

/** Has all that opens a PDF at hand before the first page asks for it. */
export const warmUpPdf = () =>
  loadPdfModule().then(
    m => m.warmUp(),
    () => {},
  )

/** Work on an opened file; it is not let go of meanwhile. */
async function withPage<T>(
  page: Extract<Page, { kind: 'pdf' }>,
  folio: Folio,
  work: (proxy: PDFPageProxy, pdf: OpenPdf) => Promise<T>,
  letters: 'fonts' | 'shapes' = 'fonts',
): Promise<T> {
  const held = letters === 'fonts' ? open : shaped
  // It is in use before it is put beside the others: else it might be the one that is let go of.
  held.use(page.documentId)
  let opening = held.get(page.documentId)
  if (!opening) {
    opening = openDocument(page.documentId, folio, letters)
    held.set(page.documentId, opening)
    opening.catch(() => held.delete(page.documentId))
  }
  try {
    const pdf = await opening
    return await work(await pdf.proxy.getPage(page.index + 1), pdf)
  } finally {
    held.free(page.documentId)
  }
}

async function openDocument(documentId: string, folio: Folio, letters: 'fonts' | 'shapes'): Promise<OpenPdf> {
  const doc = folio.documents.find(d => d.id === documentId)
  const blob = await loadDocument(documentId)
  const { openPdf } = await loadPdfModule()
  const name = doc?.name ?? 'The page file'
  return openPdf(blob ?? new Blob([]), name, async () => null, doc?.password ?? '', letters)
}

/**
 * What is printed in a frame as shapes; null where it is not all shapes: a photo, a scan, paper that was added, a page of
 * which something is covered, a problem from elsewhere that is kept in sight.
 */
export async function printOfFrame(folio: Folio, frame: Frame): Promise<Print | null> {
  const page = folio.pages.find(p => p.id === frame.pageId)
  if (page?.kind !== 'pdf' || page.spaces.length || page.patches.length || frame.inset) return null
  const { box } = frame
  const { readPrint } = await loadPdfModule()
  const drawn = await withPage(page, folio, proxy => readPrint(proxy, box, page.turns), 'shapes')
  return drawn && printOfDrawn(drawn, box.w, box.h)
}

/** Makes an opened PDF known, so that it is not read again. */
export function keepOpen(documentId: string, pdf: OpenPdf): void {
  open.set(documentId, Promise.resolve(pdf))
}

/** Work on a decoded picture; it is not let go of meanwhile. */
async function withBitmap<T>(documentId: string, work: (bitmap: ImageBitmap) => T): Promise<T> {
  bitmaps.use(documentId)
  try {
    return work(await bitmapOf(documentId))
  } finally {
    bitmaps.free(documentId)
  }
}

function bitmapOf(documentId: string): Promise<ImageBitmap> {
  let decoding = bitmaps.get(documentId)
  if (!decoding) {
    decoding = loadDocument(documentId).then(blob =>
      createImageBitmap(blob ?? new Blob([]), { imageOrientation: 'from-image' }),
    )
    bitmaps.set(documentId, decoding)
    decoding.catch(() => bitmaps.delete(documentId))
  }
  return decoding
}

/** Text and small outlines of a PDF page as it lies, for the finder; null for a page of another kind. */
export async function textOfPage(page: Page, folio: Folio): Promise<PageText | null> {
  if (page.kind !== 'pdf') return null
  const { readText } = await loadPdfModule()
  return withPage(page, folio, proxy => readText(proxy, page.turns))
}

/** Text of a PDF page for a reader who sees it: none where the file holds layers that are not shown. */
export async function seenTextOfPage(page: Page, folio: Folio): Promise<PageText | null> {
  if (page.kind !== 'pdf') return null
  const { readText, hidesLayers } = await loadPdfModule()
  return withPage(page, folio, async (proxy, pdf) =>
    (await hidesLayers(pdf.proxy, proxy)) ? null : readText(proxy, page.turns),
  )
}

/**
 * A picture of part of a page on its own ground, with its added room and its patches.
 * @param box in points, may reach over the page's edge; @param scale pixels a point
 */
export async function pictureOfPage(page: Page, folio: Folio, box: Box, scale: number): Promise<HTMLCanvasElement> {
  const canvas = document.createElement('canvas')
  if (page.kind === 'pdf' && !page.spaces.length && !page.patches.length) {
    await paintPdf(page, folio, canvas, box, scale)
    return canvas
  }
  const fit = fitScale(box, scale)
  canvas.width = Math.max(1, Math.round(box.w * fit))
  canvas.height = Math.max(1, Math.round(box.h * fit))
  const context = canvas.getContext('2d')!
  context.setTransform(fit, 0, 0, fit, -box.x * fit, -box.y * fit)
  if (page.kind === 'blank') paintBlank(context, page, { x: 0, y: 0, w: page.width, h: page.height })
  else if (page.kind === 'notice') paintNotice(context, page, folio)
  else if (page.kind === 'reference') paintReference(context, page)
  else {
    paintBlank(
      context,
      { paper: page.spaces.length ? 'squared' : 'plain', dark: false },
      { x: 0, y: 0, w: page.width, h: page.height },
    )
    const { width } = pictureSize(page)
    for (const strip of stripsOf(page)) {
      const top = Math.max(strip.y, box.y),
        bottom = Math.min(strip.y + strip.h, box.y + box.h)
      if (bottom <= top) continue
      const from = { x: 0, y: strip.from + top - strip.y, w: width, h: bottom - top }
      context.drawImage(await pieceOf(page, folio, from, fit), 0, top, width, bottom - top)
    }
  }
  for (const patch of page.patches) paintPatch(context, patch)
  return canvas
}

/**
 * What is seen through a frame, or of a larger part of its page, with the problem that is kept in sight.
 * @param box what part of the page, points; the frame itself when left out
 */
export async function pictureOfFrame(
  folio: Folio,
  frame: Frame,
  scale: number,
  box = frame.box,
): Promise<HTMLCanvasElement> {
  const page = folio.pages.find(p => p.id === frame.pageId)
  if (!page) throw new Error('the page is gone')
  const canvas = await pictureOfPage(page, folio, box, scale)
  const from = frame.inset && folio.pages.find(p => p.id === frame.inset!.pageId)
  if (!frame.inset || !from) return canvas
  const fit = canvas.width / box.w,
    { inset } = frame
  const piece = await pictureOfPage(from, folio, inset.from, (inset.box.w * fit) / inset.from.w)
  const context = canvas.getContext('2d')!
  context.setTransform(fit, 0, 0, fit, -box.x * fit, -box.y * fit)
  context.drawImage(piece, inset.box.x, inset.box.y, inset.box.w, inset.box.h)
  context.strokeStyle = '#8f897b'
  context.lineWidth = 0.75
  context.strokeRect(inset.box.x, inset.box.y, inset.box.w, inset.box.h)
  return canvas
}

async function paintPdf(
  page: Extract<Page, { kind: 'pdf' }>,
  folio: Folio,
  canvas: HTMLCanvasElement,
  box: Box,
  scale: number,
) {
  const { paintPage } = await loadPdfModule()
  await withPage(page, folio, proxy => paintPage(proxy, canvas, box, scale, page.turns))
}

/** A piece of a page's own picture, turned as the page is. @param from in points of the picture */
async function pieceOf(
  page: Extract<Page, { kind: 'pdf' | 'image' }>,
  folio: Folio,
  from: Box,
  scale: number,
): Promise<HTMLCanvasElement> {
  const canvas = document.createElement('canvas')
  if (page.kind === 'pdf') {
    await paintPdf(page, folio, canvas, from, scale)
    return canvas
  }
  const { width, height } = pictureSize(page)
  canvas.width = Math.max(1, Math.round(from.w * scale))
  canvas.height = Math.max(1, Math.round(from.h * scale))
  const context = canvas.getContext('2d')!
  context.imageSmoothingQuality = 'high'
  context.setTransform(scale, 0, 0, scale, -from.x * scale, -from.y * scale)
  context.translate(width / 2, height / 2)
  context.rotate((page.turns * Math.PI) / 2)
  const [w, h] = page.turns % 2 ? [height, width] : [width, height]
  await withBitmap(page.documentId, bitmap => context.drawImage(bitmap, -w / 2, -h / 2, w, h))
  return canvas
}
