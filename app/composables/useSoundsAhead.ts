import type { Ledger, Question } from '#core/folio'
import { editionOf } from '#core/edition'
import { readLog } from '~/data/takes'
import { sourceOf } from '~/work/editionSource'
import { lessonSoundOf, SoundMakers } from '~/work/lessonSound'

/** What is heard on student pages is made once she has done nothing for so long, ms; on Publish at once. */
const IDLE_MS = 20_000
const SOON_MS = 1000

/**
 * Makes the sounds of the student page ahead, one at a time and only while nothing else is asked of the machine, so that
 * publishing need not wait for them.
 * @param wanted questions, the first first
 * @param soon whether they will be asked for any moment
 * @param busy whether the machine is needed for something else
 */
export function useSoundsAhead(wanted: () => readonly Question[], soon: () => boolean, busy: () => boolean) {
  const store = useFolio()
  const { idle } = useIdle(IDLE_MS)
  const { idle: paused } = useIdle(SOON_MS)
  const done = new WeakSet<Ledger>()
  let running: AbortController | null = null

  async function make({ signal }: AbortController) {
    const makers = new SoundMakers(1)
    try {
      for (const question of wanted()) {
        const { folio, takes } = store
        const ledger = question.ledger
        const take = takes.find(t => t.id === ledger?.takeId)
        if (!folio || !ledger || !take || done.has(ledger)) continue
        const edition = editionOf(await sourceOf(take, question, ledger, takes, folio.pages, readLog))
        signal.throwIfAborted()
        if (edition.duration > 0) await lessonSoundOf(folio, question, edition, makers, signal)
        done.add(ledger)
      }
    } catch {
      // What could not be made ahead is made, or told, when it is asked for.
    } finally {
      makers.close()
    }
  }
  function stop() {
    running?.abort()
    running = null
  }
  watch([() => (soon() ? paused.value : idle.value), busy, wanted], ([rests, asked]) => {
    if (asked || !rests) return asked ? stop() : undefined
    if (running) return
    const own = (running = new AbortController())
    void make(own).finally(() => {
      if (running === own) running = null
    })
  })
  onBeforeUnmount(stop)
}
