import { newId, type Question, type Reply } from '#core/folio'
import type { Lesson } from '#core/lesson'
import type { ReadHandIn } from '#core/publish'
import { explained, openHandIn, stuckPicture } from '../work/handIns'
import { takeOf } from '../work/render'

type Stuck = Extract<ReadHandIn, { kind: 'stuck' }>
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
      recorded = null
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

  /** The step that was asked about, by its id. */
  async function stepAsked(question: Question, handIn: Stuck): Promise<string | undefined> {
    if (!question.ledger) return undefined
    const edition = await proof.editionOfTake(takeOf(question, store.takes), question.ledger)
    return edition.time.steps.findLast(s => s.from <= handIn.stuck.t + 1)?.step.id
  }

  /** Answers a question on the page, in words. */
  async function reply(handIn: Stuck, says: string) {
    const question = store.questions.find(q => q.id === handIn.question.id)
    const stepId = question && (await stepAsked(question, handIn))
    await putAnswer(handIn, { ...(stepId ? { stepId } : {}), says })
  }

  /** The message is answered, and is put away. */
  async function putAnswer(handIn: Stuck, says: Pick<Reply, 'stepId' | 'says'>) {
    const answer = { id: newId(), asked: handIn.stuck.says.trim(), ...says }
    store.changeQuestion(handIn.question.id, 'answer a student', q => {
      q.replies = [...(q.replies ?? []), answer]
    })
    const site = useClassSite()
    const message = site.inbox.find(m => m.read === handIn)
    if (message) await site.putAway(message.id)
    else remove(handIn)
    close()
    notices.say(`Answered. It stands on the page once you publish the changes.`)
  }

  /** What is answered by a step that is being recorded; `known`: steps that were added before. */
  let recorded: { handIn: Stuck; known: ReadonlySet<string> } | null = null
  const addedTo = (id: string) => store.questions.find(q => q.id === id)?.ledger?.steps.filter(s => s.added) ?? []
  /** Records a step that answers it, behind the step that was asked about. */
  async function recordAnswer(handIn: Stuck) {
    const { id } = handIn.question
    const question = store.questions.find(q => q.id === id)
    const stepId = question && (await stepAsked(question, handIn))
    if (!stepId) return
    recorded = { handIn, known: new Set(addedTo(id).map(s => s.id)) }
    close()
    await navigateTo({ path: `/folio/${store.folio!.id}/solve`, query: { q: id, step: stepId, as: 'after' } })
  }
  // Once the step is there, the question is answered by it.
  watch(
    () => store.questions,
    () => {
      if (!recorded) return
      const { handIn, known } = recorded
      const made = addedTo(handIn.question.id).find(s => !known.has(s.id))
      if (!made) return
      recorded = null
      void putAnswer(handIn, { stepId: made.id, says: 'This step is about it.' })
    },
  )

  return { all, shown, open, show, close, remove, reply, recordAnswer }
})
