import { newId, Trouble, type Reply } from '#core/folio'
import type { Lesson } from '#core/lesson'
import { dateAndTime, handedNow, shownAt, type ReadHandIn } from '#core/publish'
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
  const recording = useRecording()
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

  /** The question that a hand-in is about, as it is now; it may be gone. */
  const questionOf = (handIn: ReadHandIn) => store.questions.find(q => q.id === handIn.question.id)

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
      const edition = await editionAsked(handIn)
      if (!edition) throw gone(handIn)
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

  /** The edition of the question that was asked about; undefined where it is gone, or no longer recorded. */
  async function editionAsked(handIn: Stuck) {
    const question = questionOf(handIn)
    return question?.ledger && (await proof.editionOfTake(takeOf(question, store.takes), question.ledger))
  }

  /** The step that was asked about, by its id. */
  const stepAsked = async (handIn: Stuck) =>
    (await editionAsked(handIn))?.time.steps.findLast(s => s.from <= handIn.stuck.t + 1)?.step.id

  /** Names a message, so that its answer is found again: where it was undone, the message is open again. */
  const messageOf = (handIn: ReadHandIn): string => {
    const message = useClassSite().inbox.find(m => m.read === handIn)
    return (message ? `site ${message.id}` : `file ${handIn.name}`).slice(0, 300)
  }
  /** What a message was answered with; undefined while it is open. */
  const answerOf = (handIn: ReadHandIn): Reply | undefined =>
    questionOf(handIn)?.replies?.find(r => r.message === messageOf(handIn))

  /** When the student who asked can see an answer, in words. */
  function seenWhen(handIn: ReadHandIn, { stepId }: Reply): string {
    const question = questionOf(handIn)
    const { current } = useClassSite()
    const [now] = question && store.folio ? handedNow([question], store.folio) : []
    const out = current?.of.find(h => h.questionId === question?.id)
    if (!question || !now || out?.release !== now.release || out.made !== now.made)
      return 'students see it once you publish the changes'
    const { cut, next } = shownAt(question, Date.now())
    const isThere = cut === 'full' || (cut === 'hint' && (!stepId || question.release?.hint?.includes(stepId)))
    return isThere ? 'answered on the page' : `students see it from ${dateAndTime(next ?? Date.now())} on`
  }

  /** Answers on the page, in words: a question at its step, an explanation beside the question. */
  async function reply(handIn: ReadHandIn, says: string) {
    const stepId = handIn.kind === 'stuck' ? await stepAsked(handIn) : undefined
    putAnswer(handIn, { ...(stepId ? { stepId } : {}), says })
  }

  /** The message is answered; it stays in the list of those that are. */
  function putAnswer(handIn: ReadHandIn, says: Pick<Reply, 'stepId' | 'says'>) {
    if (!questionOf(handIn)) return notices.tell(gone(handIn), 'answering a student')
    const asked = handIn.kind === 'stuck' ? handIn.stuck.says.trim() : 'An explanation that was handed in'
    const answer: Reply = { id: newId(), asked, ...says, message: messageOf(handIn) }
    store.changeQuestion(handIn.question.id, 'answer a student', q => {
      q.replies = [...(q.replies ?? []), answer]
    })
    close()
    notices.say(`Answered: ${seenWhen(handIn, answer)}.`)
  }

  /** What is answered by a step that is being recorded; `known`: steps that were added before. */
  let recorded: { handIn: Stuck; known: ReadonlySet<string> } | null = null
  const addedFor = (handIn: Stuck) => questionOf(handIn)?.ledger?.steps.filter(s => s.added) ?? []
  /** Records a step that answers it, behind the step that was asked about. */
  async function recordAnswer(handIn: Stuck) {
    const stepId = await stepAsked(handIn)
    if (!stepId) return
    recorded = { handIn, known: new Set(addedFor(handIn).map(s => s.id)) }
    close()
    const query = { q: handIn.question.id, step: stepId, as: 'after' }
    await navigateTo({ path: `/folio/${store.folio!.id}/solve`, query })
  }
  // Once the step is there, the question is answered by it.
  watch(
    () => store.questions,
    () => {
      if (!recorded) return
      const { handIn, known } = recorded
      const made = addedFor(handIn).find(s => !known.has(s.id))
      if (!made) return
      recorded = null
      putAnswer(handIn, { stepId: made.id, says: 'This step is about it.' })
    },
  )
  // A take that was given up answers nothing; what is recorded later is another matter.
  watch(
    () => recording.state,
    (state, before) => {
      if (state === 'rest' && before !== 'rest') recorded = null
    },
  )

  return { all, shown, open, show, close, remove, reply, recordAnswer, answerOf, seenWhen }
})

const gone = ({ name }: ReadHandIn) =>
  new Trouble(
    'question-gone',
    `The question that ${name} is about is no longer in the folio.`,
    'What was written is kept.',
    'Take back what removed the question, or put the message away.',
  )
