/** Positioned text of a PDF file under Node, for the finder without the interface. */
import { readFile } from 'node:fs/promises'
import {
  findQuestions,
  isBoldName,
  outlinesOf,
  piecesOf,
  type FoundPaper,
  type PageText,
  type PdfTextItem,
} from '../core/questions'

// pdf.js is written for engines newer than the Node that we support.
if (!('withResolvers' in Promise)) {
  Object.defineProperty(Promise, 'withResolvers', {
    value: <T>() => {
      let resolve!: (value: T | PromiseLike<T>) => void, reject!: (reason?: unknown) => void
      const promise = new Promise<T>((a, b) => {
        resolve = a
        reject = b
      })
      return { promise, resolve, reject }
    },
  })
}

const data = (folder: string) => new URL(`../node_modules/pdfjs-dist/${folder}/`, import.meta.url).pathname

/** Text and small outlines of every page. @throws when the file is no PDF or is locked */
export async function pageTexts(file: string): Promise<PageText[]> {
  const pdfjs = await import('pdfjs-dist/legacy/build/pdf.mjs')
  const task = pdfjs.getDocument({
    data: new Uint8Array(await readFile(file)),
    cMapUrl: data('cmaps'),
    cMapPacked: true,
    standardFontDataUrl: data('standard_fonts'),
    isEvalSupported: false,
    enableXfa: false,
    disableFontFace: true,
    verbosity: 0,
  })
  const proxy = await task.promise
  try {
    const pages: PageText[] = []
    for (let i = 1; i <= proxy.numPages; i++) {
      const page = await proxy.getPage(i)
      const view = page.getViewport({ scale: 1 })
      const content = await page.getTextContent()
      const drawing = await page
        .getOperatorList()
        .catch(() => ({ fnArray: [] as number[], argsArray: [] as unknown[] }))
      const bold = (font: string) => {
        try {
          return isBoldName((page.commonObjs.get(font) as { name?: string }).name ?? '')
        } catch {
          return false
        }
      }
      pages.push({
        width: view.width,
        height: view.height,
        pieces: piecesOf(
          content.items.filter((t): t is typeof t & PdfTextItem => 'str' in t),
          view.transform,
          bold,
        ),
        outlines: outlinesOf(drawing.fnArray, drawing.argsArray, pdfjs.OPS, view.transform),
      })
      page.cleanup()
    }
    return pages
  } finally {
    await task.destroy()
  }
}

/** One file's object for the command line: pages count from 1, boxes in points from the top left. */
export function asJson(file: string, paper: FoundPaper) {
  return {
    file,
    questions: paper.questions.map(q => ({
      label: q.label,
      page: (q.places[0]?.page ?? 0) + 1,
      box: q.places[0]?.box ?? null,
      marks: q.marks,
      parts: q.parts.map(p => ({ label: p.label, marks: p.marks })),
      options: q.options.map(o => o.label),
      confidence: q.confidence,
    })),
  }
}

export async function questionsOf(file: string) {
  return asJson(file, findQuestions(await pageTexts(file)))
}
