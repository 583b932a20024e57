import { editionOf, type Edition } from '#core/edition'
import { questionName, stripsOf, Trouble, type Folio, type Page, type Question, type Take } from '#core/folio'
import { addressOf, clockTime, dateAndTime, shownAt } from '#core/publish'
import type { Handout, HandoutPage, HandoutPlace, HandoutQuestion } from '#core/publish/handout'
import { isLasting, sceneOf } from '#core/scene'
import { decodedDocument } from '../board/pictures'
import { loadDocument } from '../data/folios'
import { readLog } from '../data/takes'
import { placedIn, sourceOf } from './editionSource'
import { scenePageOf } from './lesson'
import { takeOf } from './render'
import { handedPages, sheetOf, wordsOfOpenPage } from './worksheet'

/** How much of the working is on a handout: all, that of the first step, or none. */
export type HandoutInk = 'all' | 'first' | 'none'
export interface HandoutWish {
  /** The question it is for; null for the whole sheet. */
  questionId: string | null
  ink: HandoutInk
  colour: 'colour' | 'grey'
  /** The student page's link; empty where there is none. */
  link: string
  onProgress: (share: number) => void
  signal: AbortSignal
}

/**
 * The handout of a folio, or of one of its questions, as a PDF: pages as they were brought in, ink over them as shapes,
 * steps, answers and codes on the last pages.
 * @param questions those that are recorded
 * @throws Trouble `handout-empty` where no page is handed out; `cancelled`
 */
export async function handoutOf(
  folio: Folio,
  questions: readonly Question[],
  takes: readonly Take[],
  { questionId, ink, colour, link, onProgress, signal }: HandoutWish,
): Promise<Blob> {
  const of = questions.filter(q => questionId === null || q.id === questionId)
  const editions = new Map<string, Edition>()
  for (const q of of) {
    signal.throwIfAborted()
    const source = await sourceOf(takeOf(q, takes), q, q.ledger!, takes, folio.pages, readLog)
    editions.set(q.id, editionOf(source))
  }
  const pages = await pagesFor(folio, of, questionId === null)
  if (!pages.length)
    throw new Trouble(
      'handout-empty',
      'No page would be on this handout.',
      'Nothing was made.',
      'Choose pages for students under Publish, or bring pages in.',
    )
  const { handoutPdf, plainPages } = await import('#core/publish/handout')
  const files = await filesOf(folio, pages, plainPages)
  const made: HandoutPage[] = []
  for (const page of pages) {
    signal.throwIfAborted()
    made.push({
      width: page.width,
      height: page.height,
      under: await underOf(page, folio, files),
      drawings: of.flatMap(q => drawingsOn(page, editions.get(q.id)!, ink)),
    })
    onProgress(made.length / (pages.length + 1))
  }
  const handout: Handout = {
    title: questionId === null ? folio.title : `${folio.title}: ${questionName(of[0]!)}`,
    facts: [folio.course, folio.plan.lesson, folio.author].filter(f => f.trim()),
    pages: made,
    places: (questionId === null ? folio.questions : of).flatMap(q => placeOf(q, pages)),
    questions: of.map(q => listed(q, editions.get(q.id)!, link && `${link}#${addressOf(q)}`, ink)),
    files: files.map(({ bytes, password }) => ({ bytes, password })),
    pictures: await picturesOf(editions),
    colour,
    fonts: await fontsOf(),
  }
  const bytes = await handoutPdf(handout)
  onProgress(1)
  return new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/pdf' })
}

/** Pages that students get, and those on which the questions are worked, in the folio's order. */
async function pagesFor(folio: Folio, questions: readonly Question[], whole: boolean): Promise<Page[]> {
  const own = new Set(questions.flatMap(q => [...q.regions.map(r => r.pageId), ...(q.scratch ? [q.scratch] : [])]))
  const handed = new Set((await handedPages(folio)).flatMap(h => (h.handed ? [h.page.id] : [])))
  return folio.pages.filter(p => (handed.has(p.id) ? whole || own.has(p.id) : own.has(p.id) && p.kind === 'blank'))
}

interface SourceFile {
  documentId: string
  bytes: Uint8Array
  password: string
  plain: boolean[]
}
async function filesOf(
  folio: Folio,
  pages: readonly Page[],
  plainPages: (bytes: Uint8Array, password: string) => Promise<boolean[]>,
): Promise<SourceFile[]> {
  const out: SourceFile[] = []
  for (const page of pages) {
    if (page.kind !== 'pdf' || out.some(f => f.documentId === page.documentId)) continue
    const document = folio.documents.find(d => d.id === page.documentId)
    const blob = document && (await loadDocument(document.id))
    if (!blob) continue
    const bytes = new Uint8Array(await blob.arrayBuffer())
    // A file that the writer cannot read goes out as it is seen.
    const plain = await plainPages(bytes, document.password).catch(() => [])
    out.push({ documentId: document.id, bytes, password: document.password, plain })
  }
  return out
}

/** The page of a file as it is, where nothing is hidden on it; else what is seen of it. */
async function underOf(page: Page, folio: Folio, files: readonly SourceFile[]): Promise<HandoutPage['under']> {
  const file = page.kind === 'pdf' ? files.findIndex(f => f.documentId === page.documentId) : -1
  const words = page.kind === 'pdf' && files[file]?.plain[page.index] ? await wordsOfOpenPage(page, folio) : null
  if (page.kind === 'pdf' && words) return { kind: 'pdf', file, index: page.index, strips: stripsOf(page), words }
  return { kind: 'sheet', sheet: await sheetOf(page, folio) }
}

function drawingsOn(page: Page, edition: Edition, ink: HandoutInk) {
  if (ink === 'none') return []
  const until = ink === 'first' ? (edition.time.steps[0]?.to ?? 0) : Number.POSITIVE_INFINITY
  const board = edition.board.at(until, page.id)
  const view = { x: 0, y: 0, w: page.width, h: page.height }
  return sceneOf(board, { ...scenePageOf(page), kind: page.kind }, view).drawings.filter(isLasting)
}

function placeOf(q: Question, pages: readonly Page[]): HandoutPlace[] {
  const at = (pageId: string, y: number) => ({ page: pages.findIndex(p => p.id === pageId), y: Math.max(0, y - 6) })
  const [region] = q.regions
  if (!region || at(region.pageId, 0).page < 0) return []
  const parts = q.parts.flatMap(p =>
    p.place ? [{ title: `Part ${p.label}`, ...at(p.place.pageId, p.place.box.y) }] : [],
  )
  return [{ title: questionName(q), ...at(region.pageId, region.box.y), parts: parts.filter(p => p.page >= 0) }]
}

/** What stands of a question on the last pages; without working, no answers either. */
function listed(q: Question, edition: Edition, link: string, ink: HandoutInk): HandoutQuestion {
  const answers = [{ part: '', answer: q.answer }, ...q.parts.map(p => ({ part: p.label, answer: p.answer }))]
  const steps = edition.time.steps.map(s => ({ time: clockTime(s.from), title: edition.nameOf(s) }))
  return {
    name:
      shownAt(q, Date.now()).cut === 'full'
        ? questionName(q)
        : `${questionName(q)} (with students from ${dateAndTime(q.release!.fullFrom!)} on)`,
    steps: ink === 'all' ? steps : steps.slice(0, ink === 'first' ? 1 : 0),
    link,
    answers: ink === 'all' ? answers.filter(a => a.answer.trim()) : [],
  }
}

async function picturesOf(editions: ReadonlyMap<string, Edition>): Promise<Handout['pictures']> {
  const out = new Map<string, { kind: 'png'; data: Uint8Array }>()
  for (const edition of editions.values())
    for (const id of placedIn(edition.shown.events)) {
      if (out.has(id)) continue
      const bitmap = await decodedDocument(id)
      const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
      canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
      out.set(id, { kind: 'png', data: new Uint8Array(await (await canvas.convertToBlob()).arrayBuffer()) })
    }
  return out
}

async function fontsOf(): Promise<Handout['fonts']> {
  const read = async (path: string) => {
    const response = await fetch(path)
    if (!response.ok) throw new Error(`${path} cannot be read`)
    return new Uint8Array(await response.arrayBuffer())
  }
  const own = (weight: number) => read(`/fonts/atkinson-hyperlegible-latin-${weight}-normal.woff`)
  const [plain, bold, wide] = await Promise.all([
    own(400),
    own(700),
    read('/pdfjs/standard_fonts/LiberationSans-Regular.ttf'),
  ])
  return { plain, bold, wide }
}
