import { newId } from '#core/folio'
import type { Lesson } from '#core/lesson'
import type { ReadHandIn } from '#core/publish'
import { explained, openHandIn, stuckPicture } from '../work/handIns'
import { takeOf } from '../work/render'

/** What of a hand-in is looked at: a picture of the board with her ink, or what is played. */
export type ShownHandIn = { of: ReadHandIn; release: () => void } & (
  | { kind: 'picture'; url: string }
  | { kind: 'replay'; lesson: Lesson; sound: ArrayBuffer | null }
)

/** Files that students handed in, opened beside their questions. */
export const useHandIns = defineStore('handIns', () => {
  const store = useFolio()
  const proof = useProof()
  const notices = useNotices()
  const all = shallowRef<ReadHandIn[]>([])
  const shown = shallowRef<ShownHandIn | null>(null)

  watch(
    () => store.folio?.id,
    () => {
      close()
      all.value = []
    },
  )

  /** Opens files; each that cannot be read has its word, the others are opened. */
  async function open(files: readonly File[]) {
    const opened: ReadHandIn[] = []
    for (const file of files) {
      try {
        if (store.folio) opened.push(await openHandIn(file, store.folio))
      } catch (error) {
        notices.tell(error, `opening ${file.name}`)
      }
    }
    const names = new Set(opened.map(h => h.name))
    all.value = [...all.value.filter(h => !names.has(h.name)), ...opened]
    if (opened.length === 1) await show(opened[0]!)
  }

  async function show(handIn: ReadHandIn) {
    const { folio } = store
    if (!folio) return
    close()
    try {
      if (handIn.kind === 'explanation') {
        const { lesson, release } = await explained(folio, handIn.lesson)
        shown.value = { of: handIn, kind: 'replay', lesson, sound: handIn.sound?.data.slice().buffer ?? null, release }
        return
      }
      const question = store.questions.find(q => q.id === handIn.question.id)!
      const edition = await proof.editionOfTake(takeOf(question, store.takes), question.ledger!)
      const url = URL.createObjectURL(await stuckPicture(folio, edition, handIn))
      shown.value = { of: handIn, kind: 'picture', url, release: () => URL.revokeObjectURL(url) }
    } catch (error) {
      notices.tell(error, `opening ${handIn.name}`)
    }
  }
  function close() {
    shown.value?.release()
    shown.value = null
  }
  function remove(handIn: ReadHandIn) {
    all.value = all.value.filter(h => h !== handIn)
  }

  /** Answers a question on the page; the message is answered then, and is put away. */
  async function reply(handIn: Extract<ReadHandIn, { kind: 'stuck' }>, says: string) {
    const question = store.questions.find(q => q.id === handIn.question.id)
    if (!question?.ledger) return
    const edition = await proof.editionOfTake(takeOf(question, store.takes), question.ledger)
    const stepId = edition.time.steps.findLast(s => s.from <= handIn.stuck.t + 1)?.step.id
    const answer = { id: newId(), ...(stepId ? { stepId } : {}), asked: handIn.stuck.says.trim(), says }
    store.changeQuestion(question.id, 'answer a student', q => {
      q.replies = [...(q.replies ?? []), answer]
    })
    const site = useClassSite()
    const message = site.inbox.find(m => m.read === handIn)
    if (message) await site.putAway(message.id)
    else remove(handIn)
    close()
    notices.say(`Answered. It stands on the page once you publish the changes.`)
  }

  return { all, shown, open, show, close, remove, reply }
})
