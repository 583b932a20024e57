import { hearingFindings, HearingTest, levelOf, type Finding } from '#core/sound'
import { isAnswered, marksOf, type Question } from '#core/folio'
import { linesOfRoom } from '../board/places'
import { storageRoom } from '../data/files'
import { NO_MICROPHONE, openMicrophone } from '../devices/microphone'

/** Lines of working that a mark usually takes. */
const LINES_A_MARK = 1.5
/** How long the microphone is listened to, s. */
const LISTEN_S = 5
/** Sound and ink of a minute take about this much while they are recorded, bytes. */
const BYTES_A_MINUTE = 6_500_000
const CAMERA_BYTES_A_MINUTE = 6_000_000

/**
 * The check before a take: microphone, room to store, frame, held lines, answer. It runs by itself, and gives way to
 * the take.
 */
export const useCheck = defineStore('check', () => {
  const recording = useRecording()
  const folios = useFolio()
  const camera = useCamera()
  const bench = useBench()
  /** What the microphone gave; null before it was listened to. */
  const heard = shallowRef<Finding[] | null>(null)
  const listening = ref(false)
  /** The level meanwhile, dBFS. */
  const level = ref(-100)
  const room = shallowRef<Finding | null>(null)
  let turn = 0

  /** Whether the browser would let the microphone be opened without asking. */
  async function allowed(): Promise<boolean> {
    if (recording.chosen.simulated) return true
    const state = await navigator.permissions?.query({ name: 'microphone' as PermissionName }).then(
      p => p.state,
      () => 'prompt',
    )
    return state === 'granted'
  }

  /** Listens for five seconds. @param asked by her: the browser may ask, too */
  async function listen(asked = false) {
    const own = ++turn
    heard.value = null
    listening.value = false
    const { chosen } = recording
    if (recording.state !== 'rest' || chosen.id === NO_MICROPHONE.id || (!asked && !(await allowed())) || own !== turn)
      return
    const test = new HearingTest()
    listening.value = true
    try {
      const microphone = await openMicrophone(chosen, (pcm, rate) => {
        test.push(pcm, rate)
        level.value = levelOf(pcm)
      })
      const end = performance.now() + LISTEN_S * 1000 + 500
      while (own === turn && recording.state === 'rest' && test.seconds < LISTEN_S && performance.now() < end)
        await new Promise(r => setTimeout(r, 50))
      microphone.close()
      if (own === turn && recording.state === 'rest') heard.value = hearingFindings(test.result())
    } catch (error) {
      const { message, next } = error as { message: string; next?: string }
      if (own === turn)
        heard.value = [{ id: 'refused', state: 'fails', says: message, mend: next ?? 'Choose another one.' }]
    }
    if (own === turn) listening.value = false
  }

  async function measureRoom() {
    const storage = await storageRoom()
    const free = storage && Math.max(0, storage.quota - storage.usage)
    const minutes = folios.questions.reduce((sum, q) => sum + (q.ledger ? 0 : (q.minutes ?? 3)), 3)
    const aMinute = BYTES_A_MINUTE + (camera.on ? CAMERA_BYTES_A_MINUTE : 0)
    room.value =
      free === null || free > minutes * aMinute * 2
        ? { id: 'room', state: 'holds', says: 'There is room for what is planned.', mend: '' }
        : {
            id: 'room',
            state: 'warns',
            says: `There is room for about ${Math.max(0, Math.floor(free / aMinute / 2))} minutes only.`,
            mend: 'Save old folios as files and remove them, or remove videos under Publish.',
          }
  }

  /** What is to be said of a question itself. */
  function ofQuestion(question: Question): Finding[] {
    const found: Finding[] = []
    const add = (id: string, state: Finding['state'], says: string, mend = '') => {
      found.push({ id, state, says, mend })
    }
    const frames = folios.frames(question)
    add(
      'frame',
      frames.length ? 'holds' : 'fails',
      frames.length > 1 ? `${frames.length} frames.` : frames.length ? 'It has its frame.' : 'It has no frame.',
      frames.length ? '' : 'Draw one on the Pages screen.',
    )
    const lines = linesOfRoom(bench.frameBox, bench.words)
    const wanted = Math.max(
      question.held.filter(h => h.thing.kind === 'line').length,
      Math.round((marksOf(question) ?? 1) * LINES_A_MARK),
    )
    if (frames.length && bench.question?.id === question.id)
      add(
        'lines',
        lines * frames.length >= wanted ? 'holds' : 'warns',
        `Room for about ${lines * frames.length} ${lines * frames.length === 1 ? 'line' : 'lines'} of working.`,
        lines * frames.length >= wanted
          ? ''
          : `About ${wanted} are likely. Make room on the Pages screen (R), or attach a scratch page.`,
      )
    const pages = new Set(frames.map(f => f.pageId))
    const astray = question.held.filter(h => !pages.has(h.pageId))
    if (astray.length)
      add('held', 'warns', `${astray[0]!.name} is held on another page.`, 'Take it away, or place it here.')
    else if (question.held.length)
      add(
        'held',
        'holds',
        `${question.held.length} held ${question.held.length === 1 ? 'line' : 'lines'}, first ${question.held[0]!.name}.`,
      )
    const answered = isAnswered(question)
    add(
      'answer',
      answered ? 'holds' : 'warns',
      answered ? 'Its answer is in the key.' : 'Its answer is not in the key.',
      answered ? '' : 'Type it on the Pages screen, so that the solution can be checked.',
    )
    return found
  }

  watch(
    () => recording.chosen.id,
    () => {
      void listen()
    },
  )
  watch(
    () => camera.on,
    () => {
      void measureRoom()
    },
  )
  return { heard, listening, level, room, listen, measureRoom, ofQuestion }
})
