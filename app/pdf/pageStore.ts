import type { PDFPageProxy } from 'pdfjs-dist'
import type { Box, Folio, Page } from '#core/folio'
import { loadDocument } from '../data/folios'
import type { OpenPdf } from './pdf'

/** Opened PDFs by document; a document is read once, whatever the number of pictures made of it. */
const open = new Map<string, Promise<OpenPdf>>()

/** Loads pdf.js only when a page is first needed. */
export const loadPdfModule = () => import('./pdf')

async function pageProxy(page: Page, folio: Folio): Promise<PDFPageProxy> {
  let opening = open.get(page.documentId)
  if (!opening) {
    opening = openDocument(page, folio)
    open.set(page.documentId, opening)
    opening.catch(() => open.delete(page.documentId))
  }
  return (await opening).proxy.getPage(page.index + 1)
}

async function openDocument(page: Page, folio: Folio): Promise<OpenPdf> {
  const doc = folio.documents.find(d => d.id === page.documentId)
  const blob = await loadDocument(page.documentId)
  const { openPdf } = await loadPdfModule()
  return openPdf(blob ?? new Blob([]), doc?.name ?? 'The page file', async () => null, doc?.password ?? '')
}

/** Makes an opened PDF known, so that it is not read again. */
export function keepOpen(documentId: string, pdf: OpenPdf): void {
  open.set(documentId, Promise.resolve(pdf))
}

/**
 * A picture of part of a page on white ground.
 * @param box in points, may reach over the page's edge; @param scale pixels a point
 */
export async function pictureOfPage(page: Page, folio: Folio, box: Box, scale: number): Promise<HTMLCanvasElement> {
  const proxy = await pageProxy(page, folio)
  const { paintPage } = await loadPdfModule()
  const canvas = document.createElement('canvas')
  await paintPage(proxy, canvas, box, scale)
  return canvas
}
