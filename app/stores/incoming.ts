import { changed, newId, Page, readKeyText, Trouble, type Folio, type KeyList, type SourceDocument } from '#core/folio'
import { blankText, keyLines, type PageText } from '#core/questions'
import { sectionOf } from '#core/sheets'
import { saveFolioWithDocuments } from '../data/folios'
import { textOfPage } from '../paper/pageStore'
import { referenceSize } from '../paper/reference'
import { findOn, putFound, readSource, type Brought } from '../work/bringIn'
import { readScan } from '../work/scan'
import { readOnlyTrouble } from './folio'

/** Files of up to so many pages are searched for questions at once; in a longer one the pages to search are chosen. */
const MOST_SEARCHED = 40

/** What comes into the open folio from outside: pages, pictures, reference sheets, and what is found on them. */
export const useIncoming = defineStore('incoming', () => {
  const folios = useFolio()
  const notices = useNotices()
  const importing = ref<{ what: string; done: number; total: number } | null>(null)
  /** The page that came last, for the view to go to. */
  const shown = ref<string | null>(null)
  /** What the last search brought, until something else is done. */
  const lastSearch = ref<{ found: number; withoutText: string[]; pages: number; scanned: boolean } | null>(null)

  /**
   * Brings in PDFs and pictures one after another, and looks for questions in short ones; a file that fails does not
   * keep the others out.
   */
  async function bringIn(files: readonly File[]) {
    const brought: Page[] = []
    for (const [i, file] of files.entries()) {
      importing.value = { what: `Reading ${file.name}`, done: i, total: files.length }
      try {
        if (folios.readOnly) throw readOnlyTrouble()
        const source = await readSource(file, (name, again) =>
          notices.ask(
            again ? 'That password does not open it' : 'This file is locked',
            `${name} asks for a password before its pages can be shown.`,
            'Open it',
            'Password',
          ),
        )
        await addSource(source, `bring in ${file.name}`)
        brought.push(...source.pages)
        shown.value = source.pages[0]?.id ?? null
      } catch (error) {
        notices.tell(error, `bringing in ${file.name}`)
      }
    }
    importing.value = null
    if (brought.length && brought.length <= MOST_SEARCHED)
      await findQuestions(
        brought.map(p => p.id),
        false,
      )
  }

  /**
   * Stores a document with its pages and adds them to the folio's end, as one change. What was changed while the file
   * was written stays.
   */
  async function addSource(source: Brought, label: string) {
    if (!folios.folio) return
    const add = (to: Folio) => {
      to.documents.push(source.document)
      to.pages.push(...source.pages)
    }
    const next = changed(folios.folio, add)
    await saveFolioWithDocuments(next, new Map([[source.document.id, source.blob]]))
    folios.change(label, add)
  }

  /** Takes a picture into the folio's documents, without a page of its own. @throws Trouble that names the file */
  async function addPicture(file: File): Promise<{ id: string; width: number; height: number }> {
    if (folios.readOnly) throw readOnlyTrouble()
    const { document, blob, pages } = await readSource(file, async () => null)
    const page = pages[0]!
    if (page.kind !== 'image')
      throw new Trouble(
        'not-a-picture',
        `${file.name} is not a picture.`,
        'Nothing in the folio was changed.',
        'Choose a PNG, JPEG or WebP picture.',
      )
    await addSource({ document, blob, pages: [] }, `add ${file.name}`)
    return { id: document.id, width: page.width, height: page.height }
  }

  /** Gives a picture's page another picture; what it was made from stays stored. */
  async function replacePicture(
    pageId: string,
    label: string,
    document: SourceDocument,
    blob: Blob,
    size: { width: number; height: number },
    made: object,
  ) {
    if (!folios.folio || folios.readOnly) return
    await saveFolioWithDocuments(
      { ...folios.folio, documents: [...folios.folio.documents, document] },
      new Map([[document.id, blob]]),
    )
    folios.folio = { ...folios.folio, documents: [...folios.folio.documents, document] }
    folios.change(label, draft => {
      const i = draft.pages.findIndex(p => p.id === pageId)
      draft.pages[i] = Page.parse({ ...draft.pages[i], ...size, ...made, documentId: document.id, turns: 0 })
    })
  }

  let search: AbortController | null = null
  /**
   * Proposes the questions of some pages. One change, so that one undo takes it back.
   * @param scans whether pages without text are read by character recognition, which takes seconds a page
   */
  async function findQuestions(pageIds: readonly string[], scans: boolean) {
    if (!folios.folio || folios.readOnly || search) return
    const pages = folios.folio.pages.filter(p => pageIds.includes(p.id) && !p.sheet)
    search = new AbortController()
    importing.value = { what: 'Looking for questions', done: 0, total: pages.length }
    try {
      const read = scans ? (page: Page) => readScan(page, folios.folio!, search!.signal) : null
      const found = await findOn(
        pages,
        folios.folio,
        search.signal,
        done => {
          importing.value = { what: 'Looking for questions', done, total: pages.length }
        },
        read,
      )
      lastSearch.value = {
        found: found.paper.questions.length,
        withoutText: found.withoutText.map(p => p.id),
        pages: pages.length,
        scanned: scans,
      }
      if (found.paper.questions.length)
        folios.change('find the questions', draft => {
          putFound(draft, found)
        })
    } catch (error) {
      notices.tell(error, 'looking for questions')
    }
    importing.value = null
    search = null
  }
  /** The answer key that stands on the folio's own pages, or null when there is none. */
  async function keyFromPages(): Promise<KeyList | null> {
    if (!folios.folio) return null
    const texts: PageText[] = []
    for (const page of folios.folio.pages)
      texts.push((await textOfPage(page, folios.folio)) ?? blankText(page.width, page.height))
    const lines = keyLines(texts)
    return lines.length ? readKeyText(lines.join('\n')) : null
  }
  /** Puts a table of the reference sheets into the folio as a page at its end. @returns the page's id */
  function addReference(sheetId: string, sectionId: string): string {
    const section = sectionOf(sheetId, sectionId)!
    const id = newId()
    folios.change('put a reference sheet in', draft =>
      draft.pages.push(
        Page.parse({ id, kind: 'reference', sheetId, sectionId, sheet: section.title, ...referenceSize(section) }),
      ),
    )
    return id
  }
  const stopSearch = () => search?.abort()

  return {
    importing,
    shown,
    lastSearch,
    bringIn,
    addPicture,
    replacePicture,
    findQuestions,
    stopSearch,
    keyFromPages,
    addReference,
  }
})
