import { frameOf, newId, nextNumber, stageOf, Trouble, type Box, type Folio, type Ledger, type Question, type SourceDocument, type Stage, type Take } from '#core/folio'
import { folioLock, hold } from '../data/locks'
import { loadFolio, saveFolio, saveFolioWithDocuments } from '../data/folios'
import { publicationsOf, type Publication } from '../data/publications'
import { takesOfFolio } from '../data/takes'
import { keepOpen, loadPdfModule } from '../pdf/pageStore'
import { madeFrom } from '../work/render'

/** How many changes can be taken back. */
const MOST_UNDO = 200

/**
 * The folio that is open: its document, what can be undone in it, and what belongs to it. Every change is stored at once;
 * while another tab has the folio open, it can only be read here.
 */
export const useFolio = defineStore('folio', () => {
  const folio = shallowRef<Folio | null>(null)
  const takes = shallowRef<Take[]>([])
  const publications = shallowRef<Publication[]>([])
  const readOnly = ref(false)
  const saving = ref<'saved' | 'saving' | 'failed'>('saved')
  const past = shallowRef<{ label: string, folio: Folio }[]>([])
  const future = shallowRef<{ label: string, folio: Folio }[]>([])
  const importing = ref<{ name: string, done: number, total: number } | null>(null)
  const notices = useNotices()
  let release: (() => void) | null = null
  let writes: Promise<void> = Promise.resolve()

  const questions = computed(() => folio.value?.questions ?? [])
  const stages = computed(() => new Map<string, Stage>(questions.value.map(q => [q.id, stageOf(q, publishedIds.value)])))
  const publishedIds = computed(() => new Set(publications.value.filter((p) => {
    const question = questions.value.find(q => q.id === p.questionId)
    return question && p.made === madeFrom([question])
  }).map(p => p.questionId!)))

  /** Opens a folio. @returns false when it is not in this browser */
  async function open(id: string): Promise<boolean> {
    if (folio.value?.id === id) return true
    close()
    const found = await loadFolio(id)
    if (!found) return false
    release = await hold(folioLock(id))
    readOnly.value = release === null
    await refresh(id)
    folio.value = found
    return true
  }

  /** Reads takes and publications again. */
  async function refresh(id = folio.value?.id) {
    if (!id) return
    takes.value = await takesOfFolio(id)
    publications.value = await publicationsOf(id)
  }

  function close() {
    release?.()
    release = null
    folio.value = null
    takes.value = []
    publications.value = []
    past.value = []
    future.value = []
    readOnly.value = false
  }

  /** Changes the folio, remembers how it was, and stores it. */
  function change(label: string, edit: (draft: Folio) => void) {
    if (!folio.value || readOnly.value) return
    const before = folio.value
    const draft = JSON.parse(JSON.stringify(before)) as Folio
    edit(draft)
    draft.updatedAt = new Date().toISOString()
    past.value = [...past.value.slice(1 - MOST_UNDO), { label, folio: before }]
    future.value = []
    put(draft)
  }

  function put(next: Folio) {
    folio.value = next
    saving.value = 'saving'
    writes = writes.then(() => saveFolio(next)).then(
      () => { saving.value = folio.value === next ? 'saved' : saving.value },
      (error) => { saving.value = 'failed'; notices.tell(error, 'saving the folio') },
    )
  }

  function step(from: typeof past, to: typeof future) {
    const last = from.value[from.value.length - 1]
    if (!last || !folio.value || readOnly.value) return
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, { label: last.label, folio: folio.value }]
    // What was recorded meanwhile is not part of what is taken back.
    put({ ...last.folio, documents: folio.value.documents, updatedAt: new Date().toISOString() })
  }
  const undo = () => step(past, future)
  const redo = () => step(future, past)

  function changeQuestion(id: string, label: string, edit: (question: Question) => void) {
    change(label, (draft) => { const q = draft.questions.find(x => x.id === id); if (q) edit(q) })
  }

  /** Brings in PDF files one after another; one that fails does not keep the others out. */
  async function bringIn(files: readonly File[]) {
    for (const [i, file] of files.entries()) {
      importing.value = { name: file.name, done: i, total: files.length }
      try { await bringInPdf(file) }
      catch (error) { notices.tell(error, `bringing in ${file.name}`) }
    }
    importing.value = null
  }

  async function bringInPdf(file: File) {
    if (readOnly.value) throw readOnlyTrouble()
    const { openPdf } = await loadPdfModule()
    const pdf = await openPdf(file, file.name, (name, again) => notices.ask(
      again ? 'That password does not open it' : 'This file is locked', `${name} asks for a password before its pages can be shown.`, 'Open it', true))
    const documentId = newId()
    const doc: SourceDocument = { id: documentId, name: file.name.slice(0, 255), mime: 'application/pdf', bytes: file.size, pageCount: pdf.sizes.length, password: pdf.password }
    const next: Folio = JSON.parse(JSON.stringify(folio.value)) as Folio
    next.documents.push(doc)
    next.pages.push(...pdf.sizes.map((size, index) => ({ id: newId(), kind: 'pdf' as const, documentId, index, ...size })))
    next.updatedAt = new Date().toISOString()
    await saveFolioWithDocuments(next, new Map([[documentId, file]]))
    keepOpen(documentId, pdf)
    past.value = [...past.value, { label: `bring in ${file.name}`, folio: folio.value! }]
    future.value = []
    folio.value = next
  }

  /** Adds a question with one region. @returns its id */
  function addQuestion(pageId: string, box: Box): string {
    const id = newId()
    change('add a question', (draft) => {
      draft.questions.push({ id, number: nextNumber(draft.questions), title: '', regions: [{ id: newId(), pageId, box }], ledger: null, proofed: false })
      sortByPlace(draft)
    })
    return id
  }

  function removeQuestion(id: string) {
    change('remove the question', (draft) => { draft.questions = draft.questions.filter(q => q.id !== id) })
  }

  function setLedger(questionId: string, label: string, ledger: Ledger) {
    changeQuestion(questionId, label, (q) => { q.ledger = ledger; q.proofed = false })
  }

  /** Makes a new take the question's; an undo puts the earlier one back in use, and both stay. */
  async function takeDone(take: Take, ledger: Ledger) {
    takes.value = [...takes.value.filter(t => t.id !== take.id), take]
    changeQuestion(take.questionId, 'record a take', (q) => { q.ledger = ledger; q.proofed = false })
    await writes
  }

  const frame = (question: Question) => folio.value ? frameOf(question, folio.value.pages) : null

  return {
    folio, takes, publications, readOnly, saving, past, future, importing, questions, stages, publishedIds,
    open, refresh, close, change, changeQuestion, undo, redo, bringIn, addQuestion, removeQuestion, setLedger, takeDone, frame,
  }
})

/** Questions stand in the order of their first regions: by page, then down, then across. */
function sortByPlace(draft: Folio) {
  const place = (q: Question) => {
    const r = q.regions[0]
    return r ? draft.pages.findIndex(p => p.id === r.pageId) * 1e6 + Math.round(r.box.y / 40) * 1e3 + r.box.x : 1e12
  }
  draft.questions.sort((a, b) => place(a) - place(b))
}

function readOnlyTrouble() {
  return new Trouble('read-only', 'This folio is open in another tab.', 'Nothing was changed.', 'Go on in the other tab, or close it and load this one again.')
}
