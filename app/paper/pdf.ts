import * as pdfjs from 'pdfjs-dist'
import type { PDFDocumentProxy, PDFPageProxy, RenderTask } from 'pdfjs-dist'
import workerUrl from 'pdfjs-dist/build/pdf.worker.min.mjs?url'
import { Trouble, type Box } from '#core/folio'
import { isBoldName, outlinesOf, piecesOf, type PageText, type PdfTextItem } from '#core/questions'
import type { Drawn } from '#core/lesson'
import { fitScale } from './fit'
import { recorded } from './recorder'

pdfjs.GlobalWorkerOptions.workerSrc = workerUrl

/** Most pages a folio takes from one file. */
export const MOST_PAGES = 300
/** Largest file, bytes. */
export const MOST_BYTES = 160 * 1024 ** 2
/** How long a file may take to open, ms: one made to go round in circles never opens. */
const PATIENCE = 60_000
/** How long a worker may take to end by itself, ms: one that goes round in circles never does. */
const GOODBYE = 1000
/** Files of up to this size are read at once, bytes. */
const WHOLE = 20 * 1024 ** 2
/** How much of a larger file is read at a time, bytes. */
const CHUNK = 1024 ** 2

export interface OpenPdf {
  proxy: PDFDocumentProxy
  sizes: { width: number; height: number }[]
  /** Lets go of it and of its worker. */ close(): void
}

/** A worker that is started before a file needs it: starting one takes longer than opening most files. */
let spare: pdfjs.PDFWorker | null = null
export function warmUp(): void {
  spare ??= new pdfjs.PDFWorker()
}
function takeWorker(): pdfjs.PDFWorker {
  const worker = spare && !spare.destroyed ? spare : new pdfjs.PDFWorker()
  spare = null
  return worker
}

/** Asks the teacher for a password; null when she gives up. `again` after a wrong one. */
export type AskPassword = (fileName: string, again: boolean) => Promise<string | null>

const LOCAL = {
  cMapUrl: '/pdfjs/cmaps/',
  cMapPacked: true,
  standardFontDataUrl: '/pdfjs/standard_fonts/',
  wasmUrl: '/pdfjs/wasm/',
  iccUrl: '/pdfjs/iccs/',
  useSystemFonts: false,
}

/** What is told to be safe when a file cannot be brought in. */
const SAFE = 'Nothing in the folio was changed.'

/**
 * Opens a PDF and measures its pages (points).
 * @param letters what its letters are painted with
 * @returns also the password that opened it, if one was needed
 * @throws Trouble that names the file: empty, not a PDF, cut short, locked, too long
 */
export async function openPdf(
  file: Blob,
  name: string,
  ask: AskPassword,
  known = '',
  letters: 'fonts' | 'shapes' = 'fonts',
): Promise<OpenPdf & { password: string }> {
  await checkFile(file, name)
  let password = known
  const source =
    file.size <= WHOLE
      ? { data: new Uint8Array(await file.arrayBuffer()) }
      : {
          range: new BlobRange(file, () => close()),
          rangeChunkSize: CHUNK,
          disableAutoFetch: true,
          disableStream: true,
        }
  const worker = takeWorker()
  const task = pdfjs.getDocument({
    ...source,
    ...LOCAL,
    worker,
    password: known || undefined,
    disableFontFace: letters === 'shapes',
    isEvalSupported: false,
    enableXfa: false,
    stopAtErrors: false,
  })
  const close = () => {
    void Promise.race([task.destroy(), new Promise(r => setTimeout(r, GOODBYE))])
      .catch(() => {})
      .finally(() => worker.destroy())
  }
  let asking = false
  task.onPassword = (give: (password: string | Error) => void, reason: number) => {
    asking = true
    void ask(name, reason === pdfjs.PasswordResponses.INCORRECT_PASSWORD).then(answer => {
      password = answer ?? ''
      give(answer ?? new Error('given up'))
    })
  }
  let proxy: PDFDocumentProxy
  let timer: ReturnType<typeof setTimeout> | undefined
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => {
      if (!asking) reject(new Error('it does not open'))
    }, PATIENCE)
  })
  try {
    proxy = await Promise.race([task.promise, late])
  } catch (cause) {
    close()
    if (cause instanceof Error && (cause.name === 'PasswordException' || cause.message === 'given up')) {
      throw new Trouble(
        'pdf-locked',
        `${name} is locked with a password.`,
        SAFE,
        'Bring it in again with the password, or export it without one.',
        cause,
      )
    }
    throw new Trouble(
      'pdf-damaged',
      `${name} cannot be read: it is damaged or was cut short.`,
      SAFE,
      'Export or download it again, then bring it in.',
      cause,
    )
  } finally {
    clearTimeout(timer)
  }
  try {
    return { proxy, sizes: await sizesOf(proxy, name), password, close }
  } catch (error) {
    close()
    throw error
  }
}

/** Sizes of all pages, points. @throws Trouble `pdf-too-long`, `pdf-damaged` */
async function sizesOf(proxy: PDFDocumentProxy, name: string): Promise<OpenPdf['sizes']> {
  if (proxy.numPages > MOST_PAGES) {
    throw new Trouble(
      'pdf-too-long',
      `${name} has ${proxy.numPages} pages; a folio takes up to ${MOST_PAGES} from one file.`,
      SAFE,
      'Print or export only the pages you need to a new PDF.',
    )
  }
  const sizes = []
  for (let i = 1; i <= proxy.numPages; i++) {
    try {
      const { width, height } = (await proxy.getPage(i)).getViewport({ scale: 1 })
      sizes.push({ width: round(width), height: round(height) })
    } catch (cause) {
      throw new Trouble(
        'pdf-damaged',
        `Page ${i} of ${name} cannot be read.`,
        SAFE,
        'Export or download the file again, then bring it in.',
        cause,
      )
    }
  }
  return sizes
}

/** What can be said of a file before it is opened. @throws Trouble `pdf-empty`, `pdf-not`, `pdf-too-large` */
async function checkFile(file: Blob, name: string): Promise<void> {
  if (file.size === 0)
    throw new Trouble(
      'pdf-empty',
      `${name} is empty (0 bytes).`,
      SAFE,
      'Export or download it again, then bring it in.',
    )
  const head = new Uint8Array(await file.slice(0, 1024).arrayBuffer())
  const kind = looksLike(head)
  if (kind !== 'pdf') {
    throw new Trouble(
      'pdf-not',
      `${name} is not a PDF${kind ? `; it is ${kind} with another ending` : ''}.`,
      SAFE,
      'Print or export it as a PDF, then bring that in.',
    )
  }
  if (file.size > MOST_BYTES) {
    throw new Trouble(
      'pdf-too-large',
      `${name} has ${Math.round(file.size / 1024 ** 2)} MB; a folio takes files of up to 150 MB.`,
      SAFE,
      'Print or export only the pages you need to a new PDF.',
    )
  }
}

const round = (v: number) => Math.max(1, Math.round(v * 100) / 100)

/** What the first bytes say a file is; '' when unknown. */
function looksLike(head: Uint8Array): string {
  const text = String.fromCharCode(...head)
  if (text.includes('%PDF-')) return 'pdf'
  if (head[0] === 0x89 && text.startsWith('PNG', 1)) return 'a PNG picture'
  if (head[0] === 0xff && head[1] === 0xd8) return 'a JPEG picture'
  if (text.startsWith('GIF8')) return 'a GIF picture'
  if (text.startsWith('RIFF') && text.startsWith('WEBP', 8)) return 'a WebP picture'
  if (text.startsWith('PK')) return 'a zip or office file'
  return ''
}

/** Reads a file piece by piece, so that 150 MB of it need not be in memory. */
class BlobRange extends pdfjs.PDFDataRangeTransport {
  constructor(
    private readonly blob: Blob,
    private readonly onFail: () => void,
  ) {
    super(blob.size, null)
  }

  override requestDataRange(begin: number, end: number) {
    void this.blob
      .slice(begin, end)
      .arrayBuffer()
      .then(data => this.onDataRange(begin, new Uint8Array(data)), this.onFail)
  }
}

/**
 * Paints part of a page into a canvas.
 * @param box in points of the page as it lies; @param scale pixels a point; @param turns quarter turns clockwise beside
 * the file's own
 */
export async function paintPage(
  page: PDFPageProxy,
  canvas: HTMLCanvasElement,
  box: Box,
  scale: number,
  turns = 0,
  onTask?: (task: RenderTask) => void,
): Promise<void> {
  const fit = fitScale(box, scale)
  canvas.width = Math.max(1, Math.round(box.w * fit))
  canvas.height = Math.max(1, Math.round(box.h * fit))
  const viewport = page.getViewport({
    scale: fit,
    rotation: (page.rotate + turns * 90) % 360,
    offsetX: -box.x * fit,
    offsetY: -box.y * fit,
  })
  await paintedAlsoUnseen(() => {
    const task = page.render({ canvas, viewport, background: '#ffffff', annotationMode: pdfjs.AnnotationMode.DISABLE })
    onTask?.(task)
    return task
  })
}

/**
 * Paints to the end also in a tab that is not in front. pdf.js paints a little in each animation frame, and of those a
 * tab has none while it
 * is not seen: there it goes on without them. Painting that is under way when the tab goes is begun again.
 */
async function paintedAlsoUnseen(begin: () => RenderTask): Promise<void> {
  for (;;) {
    const task = begin(),
      seen = !document.hidden
    // The library has this switch for printing, and no way to reach it but this one; tests/e2e/safety.test.ts notices
    // when it is gone.
    if (!seen)
      (
        task as unknown as { _internalRenderTask: { _useRequestAnimationFrame: boolean } }
      )._internalRenderTask._useRequestAnimationFrame = false
    let left = false
    const leave = () => {
      left = document.hidden
      if (left) task.cancel()
    }
    if (seen) document.addEventListener('visibilitychange', leave)
    try {
      return await task.promise
    } catch (error) {
      if (!left) throw error
    } finally {
      document.removeEventListener('visibilitychange', leave)
    }
  }
}

/**
 * What is printed in a part of a page, as shapes; null where something there is none, as a picture is.
 * @param page of a file that was opened with its letters as shapes
 */
export function readPrint(page: PDFPageProxy, box: Box, turns = 0): Promise<Drawn[] | null> {
  return recorded(async (canvasContext, scale) => {
    const viewport = page.getViewport({
      scale,
      rotation: (page.rotate + turns * 90) % 360,
      offsetX: -box.x * scale,
      offsetY: -box.y * scale,
    })
    await paintedAlsoUnseen(() =>
      page.render({
        canvas: null,
        canvasContext,
        viewport,
        background: '#ffffff',
        annotationMode: pdfjs.AnnotationMode.DISABLE,
      }),
    )
  })
}

/** Whether some of a page's content belongs to a layer that is not shown (optional content, ISO 32000-1, 8.11). */
export async function hidesLayers(document: PDFDocumentProxy, page: PDFPageProxy): Promise<boolean> {
  const layers = await document.getOptionalContentConfig({ intent: 'display' })
  const { fnArray, argsArray } = await page.getOperatorList({ annotationMode: pdfjs.AnnotationMode.DISABLE })
  return fnArray.some((fn, i) => {
    const [tag, group] = (argsArray[i] as [string, unknown] | null) ?? []
    return fn === pdfjs.OPS.beginMarkedContentProps && tag === 'OC' && !layers.isVisible(group)
  })
}

/** Positioned text of a page and the small outlines on it, points from the top left. @param turns quarter turns clockwise */
export async function readText(page: PDFPageProxy, turns = 0): Promise<PageText> {
  const view = page.getViewport({ scale: 1, rotation: (page.rotate + turns * 90) % 360 })
  const content = await page.getTextContent()
  const drawing = await page.getOperatorList({ annotationMode: pdfjs.AnnotationMode.DISABLE })
  const bold = (font: string) =>
    page.commonObjs.has(font) && isBoldName((page.commonObjs.get(font) as { name?: string }).name ?? '')
  return {
    width: view.width,
    height: view.height,
    pieces: piecesOf(
      content.items.filter((t): t is typeof t & PdfTextItem => 'str' in t),
      view.transform,
      bold,
    ),
    outlines: outlinesOf(drawing.fnArray, drawing.argsArray, pdfjs.OPS, view.transform),
  }
}
