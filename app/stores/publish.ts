import { Cut, struckOf } from '#core/cut'
import { questionName, type Question } from '#core/folio'
import { chapterCues, writeVtt } from '#core/captions'
import { BoardIndex } from '#core/take'
import { fileName, isFresh } from '#core/publish'
import { openFile } from '../data/files'
import { removePublication, storePublication, type Publication } from '../data/publications'
import { publishToClassSite } from '../work/classSite'
import { handOver } from '../work/folioFile'
import { packZip, studentFiles } from '../work/package'
import { possibleContainers, renderQuestions, takeOf, type Container, type RenderOptions, type RenderProgress } from '../work/render'
import { pictureOfMoment } from '../work/still'

export interface RenderTask { key: string, label: string, state: 'waiting' | 'running' | 'done' | 'failed', progress: RenderProgress | null }

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
  const link = ref('')
  let abort: AbortController | null = null

  const rendering = computed(() => tasks.value.some(t => t.state === 'running' || t.state === 'waiting'))
  const recorded = computed(() => store.questions.filter(q => q.ledger && store.takes.some(t => t.id === q.ledger!.takeId)))
  /** The folio's videos; `fresh` when neither steps nor pages have been changed since. */
  const videos = computed(() => store.publications.map(p => ({ publication: p, fresh: !!store.folio && isFresh(p, store.folio, questionsOf(p)) }))
    .sort((a, b) => order(a.publication) - order(b.publication)))

  const questionsOf = (p: Publication) => p.questionId === null ? recorded.value : store.questions.filter(q => q.id === p.questionId)
  const order = (p: Publication) => p.questionId === null ? 1e6 : store.questions.findIndex(q => q.id === p.questionId)

  async function findContainers() {
    try {
      containers.value = await possibleContainers()
      if (!containers.value.includes(settings.remembered.container)) settings.remembered.container = containers.value[0] ?? 'webm'
    }
    catch (error) { notices.tell(error, 'asking which videos this browser can make') }
  }

  /** Renders videos one after another: each chosen question, and the whole folio if asked. */
  async function render(questions: readonly Question[], whole: boolean) {
    if (rendering.value || !store.folio) return
    abort = new AbortController()
    const { signal } = abort
    const options: RenderOptions = { container: settings.remembered.container, width: settings.remembered.width, mode: settings.remembered.mode }
    const jobs = [...questions.map(q => ({ key: q.id, label: questionName(q), questions: [q], whole: false })), ...(whole ? [{ key: 'whole', label: 'The whole folio', questions: recorded.value, whole: true }] : [])]
    tasks.value = jobs.map(j => ({ key: j.key, label: j.label, state: 'waiting', progress: null }))
    const finished: Publication[] = []
    for (const [i, job] of jobs.entries()) {
      if (signal.aborted) break
      patch(i, { state: 'running' })
      try {
        const publication = await renderQuestions(store.folio, store.takes, job.questions, job.whole, options, finished, progress => patch(i, { progress }), signal)
        await storePublication(publication)
        finished.push(publication)
        await store.refresh()
        patch(i, { state: 'done' })
      }
      catch (error) {
        patch(i, { state: 'failed' })
        notices.tell(error, `making the video of ${job.label}`)
      }
    }
    if (signal.aborted) tasks.value = tasks.value.filter(t => t.state === 'done')
  }

  function patch(i: number, values: Partial<RenderTask>) {
    tasks.value = tasks.value.map((t, k) => k === i ? { ...t, ...values } : t)
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
    notices.tell({ code: 'video-gone', what: `The video ${p.name} is no longer in this browser.`, safe: 'The take is untouched.', next: 'Render it again.' }, '')
  }

  function downloadText(p: Publication, kind: 'chapters' | 'captions') {
    const text = kind === 'chapters' ? writeVtt(chapterCues(p.chapters, p.durationMs)) : writeVtt(p.captions)
    handOver(new Blob([text], { type: 'text/vtt' }), p.name.replace(/\.\w+$/, `.${kind}.vtt`))
  }

  async function remove(p: Publication) {
    await removePublication(p)
    await store.refresh()
  }

  /** The board at the end of each question, as the picture of its video before it plays. */
  async function posters(): Promise<Map<string, Blob>> {
    const out = new Map<string, Blob>()
    for (const p of store.publications) {
      const question = store.questions.find(q => q.id === p.questionId)
      if (!question?.ledger || out.has(question.id)) continue
      const take = takeOf(question, store.takes)
      const cut = new Cut(question.ledger, take.durationMs)
      const { events, first } = await proof.laidLog(take)
      const board = new BoardIndex(events, struckOf(question.ledger, take.durationMs), first).at(cut.toTake(cut.duration))
      out.set(question.id, await pictureOfMoment(store.folio!, board.frame ?? first, board, 960))
    }
    return out
  }

  async function files() {
    const best = store.questions.flatMap(q => store.publications.filter(p => p.questionId === q.id).sort((a, b) => b.createdAt.localeCompare(a.createdAt)).slice(0, 1))
    return studentFiles(store.folio!, best, await posters())
  }

  async function downloadZip() {
    await during('Packing the student page', async (signal) => {
      const { file, temporary } = await packZip(await files(), (v) => { share.value = v }, signal)
      handOver(file, `${fileName(store.folio!.title, 'folio')}.zip`, temporary)
    })
  }

  async function toClassSite() {
    await during('Handing it to the class site', async (signal) => {
      link.value = await publishToClassSite(store.folio!.title, await files(), (v) => { share.value = v }, signal)
    })
  }

  async function during(what: string, work: (signal: AbortSignal) => Promise<void>) {
    if (working.value) return
    working.value = what
    share.value = null
    abort = new AbortController()
    try { await work(abort.signal) }
    catch (error) { notices.tell(error, what.toLowerCase()) }
    working.value = ''
  }

  return { tasks, containers, working, share, link, rendering, recorded, videos, findContainers, render, cancel, download, downloadText, remove, downloadZip, toClassSite }
})
