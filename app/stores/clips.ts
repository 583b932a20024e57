import type { ClipPlace, Question } from '#core/folio'
import { loadCamera, loadSound } from '../data/takes'
import { CLIP_FRAME } from '../work/liveTake'

/** What a clip belongs to: a question, or (null) the whole folio; and where it stands. */
export interface ClipOf {
  question: Question | null
  place: ClipPlace
}

/** Clips of the teacher, before and after a question or the whole folio: recorded, watched, taken away. */
export const useClips = defineStore('clips', () => {
  const store = useFolio()
  const recording = useRecording()
  const notices = useNotices()
  /** The one that is looked at. */
  const chosen = shallowRef<ClipOf | null>(null)
  /** The clip that is watched: its two tracks. */
  const watched = shallowRef<{ takeId: string; track: Blob | null; sound: Blob | null } | null>(null)

  const clipOf = ({ question, place }: ClipOf) =>
    (question ? store.questions.find(q => q.id === question.id)?.clips : store.folio?.clips)?.[place] ?? null
  const takeOf = (of: ClipOf) => store.takes.find(t => t.id === clipOf(of)?.takeId) ?? null

  /** Looks at the clip of a place, or at the place where one can be. */
  async function choose(of: ClipOf) {
    chosen.value = of
    watched.value = null
    const take = takeOf(of)
    if (!take) return
    try {
      const [track, sound] = await Promise.all([loadCamera(take.id), loadSound(take.id)])
      watched.value = { takeId: take.id, track, sound: sound?.blob ?? null }
    } catch (error) {
      notices.tell(error, 'opening the clip')
    }
  }

  async function record() {
    if (!chosen.value) return
    const { question, place } = chosen.value
    watched.value = null
    await recording.start(question, CLIP_FRAME, { kind: 'clip', place })
  }

  /** Ends the clip and shows it. */
  async function stop() {
    if ((await recording.stop()) && chosen.value) await choose(chosen.value)
  }

  function say(said: string) {
    const of = chosen.value,
      clip = of && clipOf(of)
    if (of && clip) store.changeClip(of.question?.id ?? null, of.place, 'write the words of a clip', { ...clip, said })
  }

  /** Takes a clip out of the video; undo brings it back. */
  function remove() {
    const of = chosen.value
    watched.value = null
    if (of) store.changeClip(of.question?.id ?? null, of.place, 'take a clip out', null)
  }

  function close() {
    chosen.value = null
    watched.value = null
  }
  return { chosen, watched, clipOf, takeOf, choose, record, stop, say, remove, close }
})
