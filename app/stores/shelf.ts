import { newFolio, Trouble, type Folio, type Reached, type Take } from '#core/folio'
import { listFolios, loadFolio, removeFolio, saveFolio } from '../data/folios'
import { sweepFiles } from '../data/files'
import { folioLock, isLocked, takeLock } from '../data/locks'
import { publicationsOf, publishedFiles } from '../data/publications'
import { isUnfinished, noteFinished, readLog, removeTake, storedDuration, unfinishedTakes } from '../data/takes'
import { ledgerFor, versionsOf, withPortrait } from '#core/cut'
import { clockTime, dateAndTime } from '#core/publish'
import { bringsInk } from '#core/recording'
import { reachedBy } from '#core/video'
import { handOver, openFolioFile, saveFolioFile, FOLIO_ENDING } from '../work/folioFile'
import { giveTake } from '../work/giveTake'
import type { FinishedTake } from '../work/liveTake'
import { settleTake } from '../work/settle'

/** A take that was cut off, as it is offered. */
export interface LostTake {
  take: Take
  folio: Folio
  durationMs: number
}

/** What a take that was cut off belongs to, in words. */
export function ofWhat({ take, folio }: LostTake): string {
  const question = folio.questions.find(q => q.id === take.questionId)
  return [folio.title, question ? `question ${question.number}` : '', take.clip ?? '', take.step ? 'one step' : '']
    .filter(Boolean)
    .join(', ')
}

/** Whether a take is one of its question's, or a clip. */
function isUsed(folio: Folio, takeId: string): boolean {
  const ledgers = folio.questions.flatMap(q => [q.ledger, ...q.shelved])
  const clips = [folio, ...folio.questions].flatMap(of => [of.clips.opening, of.clips.end])
  const steps = ledgers.flatMap(l => l?.steps ?? []).flatMap(versionsOf)
  return (
    [...ledgers, ...clips].some(of => of?.takeId === takeId) ||
    steps.some(v => v.anew?.takeId === takeId || v.voice?.takeId === takeId)
  )
}

/** All folios of this browser, and takes that were cut off. */
export const useShelf = defineStore('shelf', () => {
  const folios = shallowRef<Folio[]>([])
  const unreadable = ref(0)
  /** Of each folio, how far its questions have come. */
  const reached = shallowRef(new Map<string, Reached>())
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
      await sweepFiles(publishedFiles)
    } catch (error) {
      notices.tell(error, 'reading the folios')
    }
    ready.value = true
  }

  async function reload() {
    const found = await listFolios()
    folios.value = found.folios
    unreadable.value = found.unreadable.length
    reached.value = new Map(
      await Promise.all(found.folios.map(async f => [f.id, reachedBy(f, await publicationsOf(f.id))] as const)),
    )
    await findLost()
  }

  async function findLost() {
    const out: LostTake[] = []
    for (const take of await unfinishedTakes()) {
      const found = await lostTake(take).catch(() => null)
      if (found) out.push(found)
    }
    lost.value = out
  }

  /** A take that was cut off; null where it was not. One of a folio that cannot be read is left as it is. */
  async function lostTake(take: Take): Promise<LostTake | null> {
    // In this order: one that is being finished in another tab is finished by the time its lock is free.
    if ((await isLocked(takeLock(take.id))) || !(await isUnfinished(take.id))) return null
    const folio = await loadFolio(take.folioId)
    // Put together, and the folio stored with it: only the note of that was cut off.
    if (folio && isUsed(folio, take.id)) {
      await noteFinished(take)
      return null
    }
    const durationMs = take.state === 'recording' ? await storedDuration(take.id) : take.durationMs
    if (folio && durationMs > 0) return { take, folio, durationMs }
    await removeTake(take.id)
    return null
  }

  /**
   * Keeps a take that was cut off: its sound is put together and its steps become the question's. Not while another tab
   * writes the folio.
   */
  async function keepLost(item: LostTake) {
    const opened = useFolio(),
      here = opened.folio?.id === item.take.folioId
    if (here ? opened.readOnly : await isLocked(folioLock(item.take.folioId))) {
      return notices.tell(
        new Trouble(
          'read-only',
          `${item.folio.title} is open in another tab.`,
          'The take waits; nothing of it is lost.',
          here ? 'Take over here, then keep the take.' : 'Close that tab, then keep the take.',
        ),
        'keeping the take',
      )
    }
    await during('Putting the take together', async () => {
      const take: Take = { ...item.take, state: 'recovered', durationMs: item.durationMs }
      // One that was put together already has its sound.
      const settled = item.take.state === 'recording' ? await settleTake(take) : item.take
      const events = await readLog(take.id)
      const done: FinishedTake = {
        take: settled,
        brought: bringsInk(events, take.after && (await readLog(take.after.takeId).catch(() => []))),
        overWritten: take.after !== undefined,
        ledgerFor: question => {
          const made = take.clip ? null : ledgerFor(take, events, question)
          return made && (take.step ? made : withPortrait(made, settled, camera.portrait))
        },
      }
      if (here) await opened.takeDone(done)
      else await giveTake(done)
      notices.say(`The take is kept: ${ofWhat(item)}.`)
    })
    await reload()
  }

  async function dropLost(item: LostTake) {
    const sure = await notices.ask(
      'Throw this take away?',
      `${clockTime(item.durationMs)} of ${ofWhat(item)} goes. This cannot be taken back; a take that is kept can be left out of the video.`,
      'Throw it away',
    )
    if (sure === null) return
    await during('Throwing the take away', () => removeTake(item.take.id))
    await reload()
  }

  async function create(title: string): Promise<Folio | null> {
    const folio = newFolio(title)
    try {
      await saveFolio(folio)
    } catch (error) {
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
      await during(`Opening ${file.name}`, async signal => {
        if (file.name.toLowerCase().endsWith('.pdf')) {
          throw new Trouble(
            'not-a-folio',
            `${file.name} is a PDF, not a folio file (${FOLIO_ENDING}).`,
            'Nothing was changed.',
            'Make a new folio and bring the PDF in on its Pages screen.',
          )
        }
        last = (await openOne(file, file.name, signal)) ?? last
      })
    }
    await reload()
    return last
  }

  async function openOne(file: Blob, name: string, signal: AbortSignal): Promise<Folio | null> {
    const opened = await openFolioFile(file, name, {
      signal,
      onProgress: v => {
        share.value = v
      },
      decide,
    })
    for (const trouble of opened?.troubles ?? []) notices.tell(trouble, 'opening the file')
    return opened?.folio ?? null
  }

  /** A file that goes on where a folio of the shelf stands: whether it takes its place. */
  async function decide(file: Folio, known: Folio) {
    const answer = await notices.choose(
      'A newer state of a folio that is here',
      `${known.title} here was last changed ${dateAndTime(known.updatedAt)}, the file ${dateAndTime(file.updatedAt)}. Put it in place of the one here (its videos here go, too), or beside it.`,
      'Put it in its place',
      'Put it beside',
    )
    if (answer !== 'accept') return answer === 'other' ? ('beside' as const) : null
    if (!(await isLocked(folioLock(known.id)))) return 'instead' as const
    throw new Trouble(
      'folio-open',
      `${known.title} is open in another tab.`,
      'Nothing was changed.',
      'Close it there, then open the file again.',
    )
  }

  async function openSample() {
    await during('Putting the sample folio on the shelf', async signal => {
      const response = await fetch('/demo/balloon-day.folio')
      if (!response.ok)
        throw new Trouble(
          'sample-missing',
          'The sample folio is not with this copy of the application.',
          'Your own folios are untouched.',
          'Build the application again with npm run build.',
        )
      await openOne(await response.blob(), 'Balloon Day', signal)
      settings.remembered.sampleOffered = true
    })
    await reload()
  }

  /** A file of a published folio lets whoever has it change what students have: she is asked. @returns null for no file */
  async function asHandedOn(folio: Folio): Promise<Folio | null> {
    if (!folio.published) return folio
    const answer = await notices.choose(
      'With its link?',
      'This folio is published. A file with its link lets whoever opens it change what students have: keep that for yourself, and leave the link out of a file that you hand on.',
      'Save it with the link',
      'Leave the link out',
    )
    if (answer === null) return null
    const { published: _, handedOut: __, ...bare } = folio
    return answer === 'accept' ? folio : bare
  }

  async function saveAsFile(known: Folio) {
    const folio = await asHandedOn(known)
    if (!folio) return
    await during(`Saving ${folio.title} as a file`, async signal => {
      const packed = await saveFolioFile(
        folio,
        v => {
          share.value = v
        },
        signal,
      )
      if (packed) handOver(packed.file, packed.name, packed.release)
      else notices.say(`${folio.title} was written to the file that you chose.`)
    })
  }

  async function remove(folio: Folio) {
    const sure = await notices.ask(
      'Remove this folio?',
      `${folio.title} goes from this browser with its pages, takes and videos. This cannot be taken back; a folio saved as a file can be opened again.${
        folio.published?.current ? ' Students keep what stands under its link; only that file can change it then.' : ''
      }`,
      'Remove it',
    )
    if (sure === null) return
    await during('Removing the folio', () => removeFolio(folio.id))
    await reload()
  }

  let abort: AbortController | null = null
  async function during(what: string, work: (signal: AbortSignal) => Promise<void>) {
    busy.value = what
    share.value = null
    abort = new AbortController()
    try {
      await work(abort.signal)
    } catch (error) {
      notices.tell(error, what.toLowerCase())
    }
    busy.value = ''
    share.value = null
    abort = null
  }
  /** Stops what is being opened or saved. */
  const stop = () => abort?.abort()

  return {
    folios,
    reached,
    unreadable,
    lost,
    busy,
    share,
    ready,
    load,
    reload,
    keepLost,
    dropLost,
    create,
    openFiles,
    openSample,
    saveAsFile,
    remove,
    findLost,
    stop,
  }
})
