import { Trouble, type Folio, type Page } from '#core/folio'
import type { PageText, TextPiece } from '#core/questions'
import type { Worker as Recogniser } from 'tesseract.js'
import { pictureOfPage } from '../paper/pageStore'

/** Pixels a point at which a scan is read: 200 dots an inch. */
const SCALE = 200 / 72

let recogniser: Promise<Recogniser> | null = null

/** The recogniser with its English data, all from this application's own files; made once. */
async function start(): Promise<Recogniser> {
  const { createWorker, OEM } = await import('tesseract.js')
  return createWorker('eng', OEM.LSTM_ONLY, {
    workerPath: '/ocr/worker.min.js',
    corePath: '/ocr',
    langPath: '/ocr',
    gzip: true,
    workerBlobURL: false,
    cacheMethod: 'none',
  })
}

/**
 * Reads the text of a scanned page or photo by character recognition, in a worker.
 * @returns its words with their places in points; no pieces when nothing was recognised
 * @throws Trouble when the recogniser cannot be started
 */
export async function readScan(page: Page, folio: Folio, signal: AbortSignal): Promise<PageText> {
  recogniser ??= start()
  let worker: Recogniser
  try {
    worker = await recogniser
  } catch (cause) {
    recogniser = null
    throw new Trouble(
      'scan-reader',
      'The reader for scanned pages could not be started.',
      'The pages are in the folio.',
      'Draw the questions by hand, or load this page again and try once more.',
      cause,
    )
  }
  const canvas = await pictureOfPage(page, folio, { x: 0, y: 0, w: page.width, h: page.height }, SCALE)
  if (signal.aborted) return { width: page.width, height: page.height, pieces: [], outlines: [] }
  const stop = () => {
    void worker.terminate()
    recogniser = null
  }
  signal.addEventListener('abort', stop, { once: true })
  const { data } = await worker.recognize(canvas, {}, { text: false, blocks: true })
  signal.removeEventListener('abort', stop)
  const scale = canvas.width / page.width
  const lines = (data.blocks ?? []).flatMap(b => b.paragraphs).flatMap(p => p.lines)
  const pieces = lines.flatMap(line => {
    const size = Math.max(5, (0.95 * (line.bbox.y1 - line.bbox.y0)) / scale)
    const slope = (line.baseline.y1 - line.baseline.y0) / Math.max(1, line.baseline.x1 - line.baseline.x0)
    return line.words
      .filter(w => w.confidence > 30)
      .map(
        (w): TextPiece => ({
          text: w.text,
          x: w.bbox.x0 / scale,
          y: (line.baseline.y0 + slope * (w.bbox.x0 - line.baseline.x0)) / scale,
          w: (w.bbox.x1 - w.bbox.x0) / scale,
          size,
          bold: false,
        }),
      )
  })
  return { width: page.width, height: page.height, pieces, outlines: [] }
}
