import { cutTo, MOST_NAME_BYTES, newId, Page, Trouble, type Folio, type SourceDocument } from '#core/folio'
import { propose, type FoundPaper, type PageText } from '#core/questions'
import { mimeOf, readImage } from '../paper/images'
import { keepOpen, loadPdfModule, textOfPage } from '../paper/pageStore'
import { filesRunner, questionsRunner } from './workers'

/** What a file adds to a folio: its document, its bytes and its pages. */
export interface Brought {
  document: SourceDocument
  blob: Blob
  pages: Page[]
}

/** Reads a file of any kind that can be a page. @throws Trouble that names the file */
export async function readSource(
  file: File,
  ask: (name: string, again: boolean) => Promise<string | null>,
): Promise<Brought> {
  const mime = file.size ? await mimeOf(file) : null
  const id = newId()
  if (mime && mime !== 'application/pdf') {
    const image = await readImage(file, file.name || 'The picture', mime)
    const document: SourceDocument = {
      id,
      name: cutTo(file.name || 'Picture', MOST_NAME_BYTES),
      mime: image.mime,
      bytes: image.blob.size,
      pageCount: 1,
      password: '',
    }
    return {
      document,
      blob: image.blob,
      pages: [Page.parse({ id: newId(), kind: 'image', documentId: id, ...image.page })],
    }
  }
  const { openPdf } = await loadPdfModule()
  const swells = mime ? ((await filesRunner().run('swells', { file, mime })) as string | null) : null
  if (swells)
    throw new Trouble(
      'file-swells',
      `${file.name} cannot be brought in: ${swells}.`,
      'Nothing in the folio was changed.',
      'Print or export only the pages you need to a new PDF, with smaller pictures.',
    )
  const pdf = await openPdf(file, file.name, ask)
  keepOpen(id, pdf)
  const document: SourceDocument = {
    id,
    name: cutTo(file.name, MOST_NAME_BYTES),
    mime: 'application/pdf',
    bytes: file.size,
    pageCount: pdf.sizes.length,
    password: pdf.password,
  }
  return {
    document,
    blob: file,
    pages: pdf.sizes.map((size, index) => Page.parse({ id: newId(), kind: 'pdf', documentId: id, index, ...size })),
  }
}

/** What was found on some pages, and what it was found in. */
export interface FoundOnPages {
  pages: Page[]
  texts: PageText[]
  paper: FoundPaper
  withoutText: Page[]
}

/**
 * Finds the questions of some pages of a folio. Text is read page by page, the finding is done in a worker.
 * @param readScan reads the text of a page that has none, or null when that is not wanted
 * @throws Trouble, also `cancelled`
 */
export async function findOn(
  pages: readonly Page[],
  folio: Folio,
  signal: AbortSignal,
  onPage: (done: number) => void,
  readScan: ((page: Page) => Promise<PageText | null>) | null,
): Promise<FoundOnPages> {
  const found: FoundOnPages = {
    pages: [],
    texts: [],
    paper: { questions: [], instructions: [], leftOut: [] },
    withoutText: [],
  }
  for (const [i, page] of pages.entries()) {
    if (signal.aborted)
      throw new Trouble(
        'cancelled',
        'Stopped as you asked.',
        'The pages are in the folio; no question was added.',
        'Find the questions again whenever you like.',
      )
    let text = await textOfPage(page, folio)
    if (!text?.pieces.some(p => p.text.trim())) {
      const scan = page.kind === 'pdf' || page.kind === 'image'
      const read = scan && readScan ? await readScan(page) : null
      if (read?.pieces.length) text = read
      else if (scan) found.withoutText.push(page)
    }
    if (text?.pieces.length) {
      found.pages.push(page)
      found.texts.push(text)
    }
    onPage(i + 1)
  }
  if (found.texts.length) found.paper = (await questionsRunner().run('find', found.texts, { signal })) as FoundPaper
  return found
}

/** Puts what was found into a folio. @returns how many questions there were */
export function putFound(folio: Folio, found: FoundOnPages): number {
  propose(folio, found.pages, found.paper, found.texts)
  return found.paper.questions.length
}
