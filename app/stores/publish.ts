import { sectionsOf } from '#core/edition/proofing'
import { questionName, type ArchiveFile, type Folio, type Question } from '#core/folio'
import { chapterCues, writeVtt } from '#core/captions'
import { fileName } from '#core/publish'
import { isSoundless } from '#core/sound'
import { isFresh } from '#core/video'
import { openFile } from '../data/files'
import { removePublication, storePublication, type Publication } from '../data/publications'
import { drawnSoundsOf } from '../work/editionSource'
import { handOver, pack } from '../work/folioFile'
import { forgetMade, studentPreview, studentSite, type PageOptions, type StudentSite } from '../work/package'
import { faultTrouble, verifySite, type SiteReport } from '../work/verify'
import {
  possibleContainers,
  renderQuestions,
  takeOf,
  type Container,
  type RenderOptions,
  type RenderProgress,
} from '../work/render'
import { handedPages, pagesBroughtIn, type HandedPage } from '../work/worksheet'

export interface RenderTask {
  key: string
  label: string
  state: 'waiting' | 'running' | 'done' | 'failed'
  progress: RenderProgress | null
}

/** Rendering videos and handing them to students. */
export const usePublish = defineStore('publish', () => {
  const store = useFolio()
  const proof = useProof()
  const notices = useNotices()
  const settings = useSettings()
  const tasks = ref<RenderTask[]>([])
  const containers = ref<Container[]>([])
  const working = ref('')
  const share = ref<number | null>(null)
  let abort: AbortController | null = null

  const rendering = computed(() => tasks.value.some(t => t.state === 'running' || t.state === 'waiting'))
  const recorded = computed(() =>
    store.questions.filter(q => q.ledger && store.takes.some(t => t.id === q.ledger!.takeId)),
  )
  /** The folio's videos; `fresh` when neither steps nor pages have been changed since. */
  const videos = computed(() =>
    store.publications
      .map(p => ({ publication: p, fresh: !!store.folio && isFresh(p, store.folio, questionsOf(p)) }))
      .sort((a, b) => order(a.publication) - order(b.publication)),
  )

  const questionsOf = (p: Publication) =>
    p.questionId === null ? recorded.value : store.questions.filter(q => q.id === p.questionId)
  const order = (p: Publication) =>
    p.questionId === null ? 1e6 : store.questions.findIndex(q => q.id === p.questionId)

  async function findContainers() {
    try {
      containers.value = await possibleContainers()
      if (!containers.value.includes(settings.remembered.container))
        settings.remembered.container = containers.value[0] ?? 'webm'
    } catch (error) {
      notices.tell(error, 'asking which videos this browser can make')
    }
  }

  /** The parts of a question that can be videos of their own; fewer than two where there is nothing to tell apart. */
  async function partsOf(question: Question) {
    const sections = sectionsOf(await proof.editionOfTake(takeOf(question, store.takes), question.ledger!))
    return sections.length > 1 ? sections : []
  }

  /** A question's edition, and whether nothing is heard in it. */
  async function looked(question: Question) {
    const edition = await proof.editionOfTake(takeOf(question, store.takes), question.ledger!)
    const drawn = Object.entries(await drawnSoundsOf(question.ledger!)).map(([id, { peaks }]) => [id, peaks] as const)
    return { edition, soundless: isSoundless(edition.soundPlan(), Object.fromEntries(drawn)) }
  }

  interface RenderWish {
    key: string
    label: string
    questions: readonly Question[]
    whole?: boolean
    only?: RenderOptions['only']
  }
  /** The videos that are asked for: each question, its parts if she wants them, and the whole folio. */
  async function wishes(questions: readonly Question[], whole: boolean): Promise<RenderWish[]> {
    const out: RenderWish[] = []
    for (const q of questions) {
      out.push({ key: q.id, label: questionName(q), questions: [q] })
      if (!settings.remembered.videosByPart) continue
      for (const only of await partsOf(q))
        out.push({
          key: `${q.id} ${only.part} ${only.from}`,
          label: `${questionName(q)}, part ${only.part}`,
          questions: [q],
          only,
        })
    }
    if (whole) out.push({ key: 'whole', label: 'The whole folio', questions: recorded.value, whole: true })
    return out
  }

  /** Renders videos one after another: each chosen question, and the whole folio if asked. */
  async function render(questions: readonly Question[], whole: boolean) {
    if (rendering.value || !store.folio) return
    abort = new AbortController()
    const { signal } = abort
    const options: RenderOptions = {
      container: settings.remembered.container,
      width: settings.remembered.width,
      mode: settings.remembered.mode,
      chapters: settings.remembered.chaptersByPart ? 'part' : 'step',
    }
    const jobs = await wishes(questions, whole).catch((error: unknown) => {
      notices.tell(error, 'finding what is to be rendered')
      return []
    })
    tasks.value = jobs.map(j => ({ key: j.key, label: j.label, state: 'waiting', progress: null }))
    const finished: Publication[] = []
    for (const [i, job] of jobs.entries()) {
      if (signal.aborted) break
      patch(i, { state: 'running' })
      try {
        finished.push(
          await renderQuestions(
            store.folio,
            store.takes,
            job.questions,
            job.whole ?? false,
            { ...options, ...(job.only ? { only: job.only } : {}) },
            finished,
            storePublication,
            progress => patch(i, { progress }),
            signal,
          ),
        )
        await store.refresh()
        patch(i, { state: 'done' })
      } catch (error) {
        patch(i, { state: 'failed' })
        notices.tell(error, `making the video of ${job.label}`)
      }
    }
    if (signal.aborted) tasks.value = tasks.value.filter(t => t.state === 'done')
  }

  function patch(i: number, values: Partial<RenderTask>) {
    tasks.value = tasks.value.map((t, k) => (k === i ? { ...t, ...values } : t))
  }

  function cancel() {
    abort?.abort()
  }

  async function download(p: Publication) {
    const file = await openFile(p.file)
    if (file) handOver(file, p.name)
    else await gone(p)
  }

  /** The video file is no longer there: the browser cleared it. */
  async function gone(p: Publication) {
    await removePublication(p)
    await store.refresh()
    notices.tell(
      {
        code: 'video-gone',
        what: `The video ${p.name} is no longer in this browser.`,
        safe: 'The take is untouched.',
        next: 'Render it again.',
      },
      '',
    )
  }

  const textOf = (p: Publication, kind: 'chapters' | 'captions') => ({
    path: p.name.replace(/\.\w+$/, `.${kind}.vtt`),
    data: writeVtt(kind === 'chapters' ? chapterCues(p.chapters, p.durationMs) : p.captions),
  })
  function downloadText(p: Publication, kind: 'chapters' | 'captions') {
    const { path, data } = textOf(p, kind)
    handOver(new Blob([data], { type: 'text/vtt' }), path)
  }

  /** All videos that still say what the folio says, with their chapters and captions, as one file. */
  async function downloadVideos() {
    const { folio } = store
    if (!folio || working.value) return
    await during('Packing the videos', async signal => {
      const files: ArchiveFile[] = []
      for (const { publication: p, fresh } of videos.value) {
        if (!fresh) continue
        const data = await openFile(p.file)
        if (!data) return gone(p)
        // Two of one name stand beside each other: MP4 and WebM differ in it, an older one of the same kind does not.
        if (files.some(f => f.path === p.name)) continue
        files.push({ path: p.name, data, store: true }, textOf(p, 'chapters'), textOf(p, 'captions'))
      }
      const { file, release } = await pack(files, setShare, signal)
      handOver(file, `${fileName(folio.title, 'folio')}-videos.zip`, release)
    })
  }

  async function remove(p: Publication) {
    await removePublication(p)
    await store.refresh()
  }

  /** The newest video of each question that still says what the folio says. */
  const freshVideos = () =>
    videos.value
      .filter(v => v.fresh && v.publication.questionId !== null && !v.publication.part)
      .map(v => v.publication)
      .sort((x, y) => y.createdAt.localeCompare(x.createdAt))

  /** What the student page is made with now: the videos that there are. */
  const pageOptions = (signal: AbortSignal) => ({
    videos: freshVideos(),
    onProgress: (v: number) => {
      share.value = v
    },
    signal,
  })
  /** The student page, with replays of all recorded questions. @param at where it goes */
  const pageFiles = (folio: Folio, signal: AbortSignal, at: Pick<PageOptions, 'host' | 'link'>) =>
    studentSite(folio, recorded.value, store.takes, { ...pageOptions(signal), ...at })

  /** The page as a student sees it, while it is looked at. */
  const preview = shallowRef<Awaited<ReturnType<typeof studentPreview>> | null>(null)
  async function lookAsStudent() {
    const { folio } = store
    if (!folio || working.value) return
    await during('Making the student page', async signal => {
      closePreview()
      preview.value = await studentPreview(folio, recorded.value, store.takes, pageOptions(signal))
    })
  }
  function closePreview() {
    preview.value?.release()
    preview.value = null
  }

  /** What the last check of what goes out found. */
  const report = shallowRef<SiteReport | null>(null)
  /** Opens what goes out again and checks it. @throws Trouble `check-failed`, `cancelled` */
  async function check(
    site: StudentSite,
    files: ReadonlyMap<string, Blob>,
    folio: Folio,
    signal: AbortSignal,
    known?: Set<string>,
  ) {
    doing('Checking what goes out')
    report.value = await verifySite(site, files, folio, { onProgress: setShare, signal, ...(known ? { known } : {}) })
    if (!report.value.faults.length) return
    // What was kept may be what is wrong; the next time it is made anew.
    await forgetMade(folio)
    throw faultTrouble(report.value)
  }

  /** Pages of the worksheet, and whether students get them; read when the screen is opened. */
  const pages = shallowRef<HandedPage[]>([])
  async function findPages() {
    const folio = store.folio
    if (!folio) return
    // They stand there at once, so that nothing below moves away from under a pointer when they have been read.
    const known = new Map(pages.value.map(p => [p.page.id, p]))
    pages.value = pagesBroughtIn(folio).map(page => {
      const { handed = page.handed ?? true, why = 'page' as const } = known.get(page.id) ?? {}
      return { page, handed, why }
    })
    const found = await handedPages(folio)
    if (store.folio === folio) pages.value = found
  }
  function hand(pageId: string, handed: boolean) {
    store.change(handed ? 'give a page to students' : 'keep a page from students', draft => {
      const page = draft.pages.find(p => p.id === pageId)
      if (page) page.handed = handed
    })
  }

  /** Says what is being done now, of what has begun. */
  function doing(what: string) {
    working.value = what
    share.value = null
  }
  function setShare(v: number) {
    share.value = v
  }
  async function during(what: string, work: (signal: AbortSignal) => Promise<void>) {
    if (working.value) return
    doing(what)
    report.value = null
    const own = (abort = new AbortController())
    try {
      await work(own.signal)
    } catch (error) {
      if (!own.signal.aborted) notices.tell(error, what.toLowerCase())
    }
    working.value = ''
  }

  return {
    tasks,
    containers,
    working,
    share,
    rendering,
    recorded,
    videos,
    findContainers,
    looked,
    render,
    cancel,
    download,
    downloadText,
    downloadVideos,
    remove,
    preview,
    lookAsStudent,
    closePreview,
    pageFiles,
    freshVideos,
    during,
    setShare,
    doing,
    report,
    check,
    pages,
    findPages,
    hand,
  }
})
