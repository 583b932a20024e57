import { newFolio, putClip, Trouble, type Folio, type Ledger, type Take } from '#core/folio'
import { listFolios, loadFolio, removeFolio, saveFolio } from '../data/folios'
import { sweepFiles } from '../data/files'
import { folioLock, isHeld, takeLock } from '../data/locks'
import { publicationsOf, publishedFiles } from '../data/publications'
import { readLog, removeTake, storedDuration, unfinishedTakes } from '../data/takes'
import { ledgerOfTake, putInUse, withPortrait } from '#core/cut'
import { clockTime, publishedQuestions } from '#core/publish'
import { handOver, openFolioFile, saveFolioFile, FOLIO_ENDING } from '../work/folioFile'
import { settleTake } from '../work/settle'

/** A take that was cut off, as it is offered. */
export interface LostTake { take: Take, folio: Folio, durationMs: number }

/** What a take that was cut off belongs to, in words. */
export function ofWhat({ take, folio }: LostTake): string {
  const question = folio.questions.find(q => q.id === take.questionId)
  return [folio.title, question ? `question ${question.number}` : '', take.clip ?? ''].filter(Boolean).join(', ')
}

/** All folios of this browser, and takes that were cut off. */
export const useShelf = defineStore('shelf', () => {
  const folios = shallowRef<Folio[]>([])
  const unreadable = ref(0)
  /** Of each folio, the questions that are published. */
  const published = shallowRef(new Map<string, Set<string>>())
  const lost = shallowRef<LostTake[]>([])
  const busy = ref('')
  const share = ref<number | null>(null)
  const ready = ref(false)
  const notices = useNotices()
  const settings = useSettings()
  const camera = useCamera()

  /** Reads the shelf; the first time in demo mode, the sample folio is put on it. */
  async function load(demo: boolean) {
    try {
      await reload()
      if (demo && !settings.remembered.sampleOffered && !folios.value.length) await openSample()
      await sweepFiles(await publishedFiles())
    }
    catch (error) { notices.tell(error, 'reading the folios') }
    ready.value = true
  }

  async function reload() {
    const found = await listFolios()
    folios.value = found.folios
    unreadable.value = found.unreadable.length
    published.value = new Map(await Promise.all(found.folios.map(async f => [f.id, publishedQuestions(f, await publicationsOf(f.id))] as const)))
    await findLost()
  }

  async function findLost() {
    const out: LostTake[] = []
    for (const take of await unfinishedTakes()) {
      if (await isHeld(takeLock(take.id))) continue
      const folio = await loadFolio(take.folioId)
      const durationMs = await storedDuration(take.id)
      if (folio && durationMs > 0) out.push({ take, folio, durationMs })
      else await removeTake(take.id)
    }
    lost.value = out
  }

  /** Keeps a take that was cut off: its sound is put together and its steps become the question's. Not while another tab writes the folio. */
  async function keepLost(item: LostTake) {
    const opened = useFolio(), here = opened.folio?.id === item.take.folioId
    if (here ? opened.readOnly : await isHeld(folioLock(item.take.folioId))) {
      return notices.tell(new Trouble('read-only', `${item.folio.title} is open in another tab.`, 'The take waits; nothing of it is lost.', here ? 'Take over here, then keep the take.' : 'Close that tab, then keep the take.'), 'keeping the take')
    }
    await during('Putting the take together', async () => {
      const take: Take = { ...item.take, state: 'recovered', durationMs: item.durationMs }
      const settled = await settleTake(take)
      const ledger = take.clip ? null : withPortrait(ledgerOfTake(take, await readLog(take.id), item.folio.questions.find(q => q.id === take.questionId)), settled, camera.portrait)
      if (here) await opened.takeDone(settled, ledger)
      else await giveTake(take, ledger)
      notices.say(`The take is kept: ${ofWhat(item)}.`)
    })
    await reload()
  }

  /** Makes a take that of its question, or a clip that of its place, in a folio that is not open here. */
  async function giveTake(take: Take, ledger: Ledger | null) {
    const folio = await loadFolio(take.folioId)
    if (!folio) return
    const question = folio.questions.find(q => q.id === take.questionId)
    if (take.clip) putClip(folio, take)
    else if (question && ledger) putInUse(question, ledger)
    else return
    await saveFolio({ ...folio, updatedAt: new Date().toISOString() })
  }

  async function dropLost(item: LostTake) {
    const sure = await notices.ask('Throw this take away?', `${clockTime(item.durationMs)} of ${ofWhat(item)} goes. This cannot be taken back; a take that is kept can be left out of the video.`, 'Throw it away')
    if (sure === null) return
    await during('Throwing the take away', () => removeTake(item.take.id))
    await reload()
  }

  async function create(title: string): Promise<Folio | null> {
    const folio = newFolio(title)
    try { await saveFolio(folio) }
    catch (error) {
      notices.tell(error, 'making the folio')
      return null
    }
    await reload()
    return folio
  }

  /** Opens folio files one after another. @returns the last one opened */
  async function openFiles(files: readonly File[]): Promise<Folio | null> {
    let last: Folio | null = null
    for (const file of files) {
      await during(`Opening ${file.name}`, async () => {
        if (file.name.toLowerCase().endsWith('.pdf')) {
          throw new Trouble('not-a-folio', `${file.name} is a PDF, not a folio file (${FOLIO_ENDING}).`, 'Nothing was changed.', 'Make a new folio and bring the PDF in on its Pages screen.')
        }
        last = await openFolioFile(file, file.name)
      })
    }
    await reload()
    return last
  }

  async function openSample() {
    await during('Putting the sample folio on the shelf', async () => {
      const response = await fetch('/demo/balloon-day.folio')
      if (!response.ok) throw new Trouble('sample-missing', 'The sample folio is not with this copy of the application.', 'Your own folios are untouched.', 'Build the application again with npm run build.')
      await openFolioFile(await response.blob(), 'Balloon Day')
      settings.remembered.sampleOffered = true
    })
    await reload()
  }

  async function saveAsFile(folio: Folio) {
    await during(`Saving ${folio.title} as a file`, async () => {
      const { file, name } = await saveFolioFile(folio, (v) => { share.value = v })
      handOver(file, name)
    })
  }

  async function remove(folio: Folio) {
    const sure = await notices.ask('Remove this folio?', `${folio.title} goes from this browser with its pages, takes and videos. This cannot be taken back; a folio saved as a file can be opened again.`, 'Remove it')
    if (sure === null) return
    await during('Removing the folio', () => removeFolio(folio.id))
    await reload()
  }

  async function during(what: string, work: () => Promise<void>) {
    busy.value = what
    share.value = null
    try { await work() }
    catch (error) { notices.tell(error, what.toLowerCase()) }
    busy.value = ''
    share.value = null
  }

  return { folios, published, unreadable, lost, busy, share, ready, load, reload, keepLost, dropLost, create, openFiles, openSample, saveAsFile, remove, findLost }
})
