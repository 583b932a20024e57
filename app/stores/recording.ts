import { newId, Trouble, type Frame, type Question, type Take } from '#core/folio'
import { ledgerOf } from '#core/cut'
import { levelOf } from '#core/sound'
import { TakeRecorder } from '#core/take'
import { askToKeep } from '../data/files'
import { hold, takeLock } from '../data/locks'
import { putTake, takeSink } from '../data/takes'
import { listMicrophones, NO_MICROPHONE, openMicrophone, type Microphone, type MicrophoneChoice } from '../devices/microphone'
import { PENS } from '../devices/pen'
import { settleTake } from '../work/settle'

/** How often what was recorded is written to disk, ms. */
const FLUSH_MS = 250
/** A take does not wait longer than this for what writes itself, ms. */
const LONGEST_WRITING_MS = 8000

function newRehearsal(): TakeRecorder {
  const made = new TakeRecorder({ journal: async () => {}, sound: async () => {} })
  made.start(performance.now())
  return made
}

export type RecordingState = 'rest' | 'counting' | 'running' | 'paused' | 'settling'

/** The take that is being recorded. */
export const useRecording = defineStore('recording', () => {
  const state = ref<RecordingState>('rest')
  const countdown = ref(0)
  const elapsed = ref(0)
  const level = ref(-100)
  const steps = ref<number[]>([])
  const soundLost = ref(false)
  const microphones = ref<MicrophoneChoice[]>([])
  const recorder = shallowRef<TakeRecorder | null>(null)
  /** Goes up with every change of the log, for what has to be drawn anew. */
  const changes = ref(0)
  const settings = useSettings()
  const notices = useNotices()
  const folios = useFolio()
  /** Where the pen is tried and the held lines are rehearsed: a take that nothing stores. */
  const rehearsal = shallowRef(newRehearsal())
  /** What the hand works on: the take, or the rehearsal. */
  const desk = computed(() => recorder.value ?? rehearsal.value)

  let microphone: Microphone | null = null
  let take: Take | null = null
  let timer: ReturnType<typeof setInterval> | undefined
  let unlock: (() => void) | null = null
  let abandon = false

  /** The microphone she chose; without a choice the first real one, else the simulated one. One that is gone stays chosen, so that she is told. */
  const chosen = computed<MicrophoneChoice>(() => {
    const id = settings.remembered.microphone
    if (!id) return microphones.value.find(m => m.id.startsWith('device:')) ?? microphones.value.find(m => m.id === 'sim:voice') ?? NO_MICROPHONE
    return microphones.value.find(m => m.id === id) ?? { id, label: 'The microphone of last time', simulated: id.startsWith('sim:') }
  })
  const active = computed(() => state.value === 'running' || state.value === 'paused' || state.value === 'counting')

  async function findMicrophones() {
    microphones.value = await listMicrophones()
  }

  /** Opens the microphone, counts down and starts. */
  async function start(question: Question, frame: Frame) {
    if (state.value !== 'rest') return
    if (folios.readOnly) return notices.tell(new Trouble('read-only', 'This folio is open in another tab.', 'Nothing was changed.', 'Record in the other tab, or close it and load this one again.'), 'starting the take')
    state.value = 'counting'
    abandon = false
    countdown.value = settings.remembered.countdown
    const id = newId()
    const made = new TakeRecorder(takeSink(id), JSON.parse(JSON.stringify(frame)) as Frame)
    made.onTrouble = trouble => notices.tell(trouble, 'storing the take')
    try {
      if (!microphones.value.length) await findMicrophones()
      if (chosen.value.id !== NO_MICROPHONE.id) {
        microphone = await openMicrophone(chosen.value, (pcm, rate, at) => {
          made.sound(pcm, rate, at)
          level.value = levelOf(pcm)
        })
        microphone.onLost(() => loseSound())
      }
      await countDown()
      if (abandon) return reset()
      take = {
        id, folioId: folios.folio!.id, questionId: question.id, startedAt: new Date().toISOString(), durationMs: 0, state: 'recording', frame,
        microphone: chosen.value.label, pen: PENS.find(p => p.id === settings.remembered.pen)?.label ?? '', gaps: [],
      }
      unlock = await hold(takeLock(id))
      await putTake(JSON.parse(JSON.stringify(take)) as Take)
      void askToKeep()
    }
    catch (error) {
      notices.tell(error, 'starting the take')
      return reset()
    }
    recorder.value = made
    steps.value = []
    soundLost.value = false
    made.start(performance.now())
    state.value = 'running'
    timer = setInterval(tick, FLUSH_MS)
    void findMicrophones()
  }

  async function countDown() {
    while (countdown.value > 0 && !abandon) {
      await new Promise(r => setTimeout(r, 1000))
      countdown.value--
    }
  }

  function tick() {
    elapsed.value = recorder.value?.time(performance.now()) ?? 0
    void recorder.value?.flush()
  }

  function loseSound() {
    if (!active.value) return
    soundLost.value = true
    level.value = -100
    notices.tell(new Trouble('microphone-lost', 'The microphone went away.', 'The take goes on: ink and all sound until now are kept.', 'Plug it in again and stop the take, or finish writing without sound.'), 'recording')
  }

  /** Ends the step so far. */
  function markStep() {
    if (state.value !== 'running') return
    steps.value = [...steps.value, recorder.value!.markStep(performance.now())]
    changes.value++
  }

  /** Goes on in another frame of the question. */
  function goTo(frame: Frame) {
    if (state.value !== 'running') return
    recorder.value!.goTo(JSON.parse(JSON.stringify(frame)) as Frame, performance.now())
    changes.value++
  }

  function pauseOrGoOn() {
    if (state.value === 'running') { recorder.value!.pause(performance.now()); state.value = 'paused' }
    else if (state.value === 'paused') { recorder.value!.resume(performance.now()); state.value = 'running' }
    changes.value++
  }

  /** At rest, what was tried comes first, then what was changed in the question. */
  function undo() {
    if (!recorder.value && !desk.value.undoTarget) return folios.undo()
    desk.value.undo(performance.now())
    changes.value++
  }
  function redo() {
    if (!recorder.value && !desk.value.redoTarget) return folios.redo()
    desk.value.redo(performance.now())
    changes.value++
  }
  const canUndo = computed(() => changes.value >= 0 && (desk.value.undoTarget !== undefined || (!recorder.value && folios.past.length > 0)))
  const canRedo = computed(() => changes.value >= 0 && (desk.value.redoTarget !== undefined || (!recorder.value && folios.future.length > 0)))

  /** Clears what was tried. */
  function clearRehearsal() {
    rehearsal.value = newRehearsal()
    changes.value++
  }

  /** What writes itself is written to its end before a take ends. */
  async function writingDone() {
    const left = state.value === 'running' ? recorder.value!.busyUntil - recorder.value!.time(performance.now()) : 0
    if (left > 0) await new Promise(r => setTimeout(r, Math.min(left, LONGEST_WRITING_MS)))
  }

  /** Ends the take, or a countdown. The take is the question's when this returns. */
  async function stop() {
    if (state.value === 'counting') { abandon = true; return }
    if ((state.value !== 'running' && state.value !== 'paused') || !recorder.value || !take) return
    await writingDone()
    state.value = 'settling'
    clearInterval(timer)
    microphone?.close()
    microphone = null
    try {
      const durationMs = await recorder.value.stop(performance.now())
      const left = recorder.value.unsaved
      if (left.entries || left.chunks) throw new Trouble('storage-full', 'The end of the take could not be stored.', 'It is kept in this tab as long as it stays open.', 'Make room (remove videos or old folios), then press Stop again.')
      const whole = await settleTake({ ...take, durationMs, state: 'whole' })
      await folios.takeDone(whole, ledgerOf(take.id, recorder.value.events, durationMs))
    }
    catch (error) {
      notices.tell(error, 'finishing the take')
      state.value = 'paused'
      return
    }
    reset()
  }

  function reset() {
    clearInterval(timer)
    microphone?.close()
    microphone = null
    unlock?.()
    unlock = null
    take = null
    recorder.value = null
    level.value = -100
    elapsed.value = 0
    state.value = 'rest'
    changes.value++
  }

  return { desk, clearRehearsal, state, countdown, elapsed, level, steps, soundLost, microphones, recorder, changes, chosen, active, findMicrophones, start, stop, goTo, markStep, pauseOrGoOn, undo, redo, canUndo, canRedo }
})
