import { MOST_TAKE_MS, Trouble, type Frame, type Question, type Take } from '#core/folio'
import { levelOf, type SoundWarning } from '#core/sound'
import type { CameraWarning, TakeRecorder } from '#core/take'
import { askToKeep } from '../data/files'
import { listMicrophones, NO_MICROPHONE, openMicrophone, type Microphone, type MicrophoneChoice } from '../devices/microphone'
import { PENS } from '../devices/pen'
import { LiveTake, newRehearsal, type TakePlan } from '../work/liveTake'
import { handOverTake } from '../work/folioFile'
import { openSound, playRunUp, type OldSound } from '../work/oldSound'
import { SleepWatch } from '../work/sleepWatch'

/** How often what was recorded is written to disk, ms. */
const FLUSH_MS = 250
/** A take ends so long before it is too long, ms. */
const LAST_MS = 60_000
/** A take does not wait longer than this for what writes itself, ms. */
const LONGEST_WRITING_MS = 8000
/** Height of the camera's picture as it is recorded: in a corner of the frame, and as a clip that fills it, pixels. */
const PORTRAIT_HEIGHT = 360
const CLIP_HEIGHT = 720
/** A voice is louder than this, dBFS. */
const VOICE_LEVEL = -45

/** `unstored`: it has ended, and its end could not be stored; it is ended again, or saved to a file. */
export type RecordingState = 'rest' | 'counting' | 'running' | 'paused' | 'settling' | 'unstored'

/** The take that is being recorded. */
export const useRecording = defineStore('recording', () => {
  const state = ref<RecordingState>('rest')
  const { left: countdown, count, stop: stopCounting } = useCountdown()
  const elapsed = ref(0)
  const level = ref(-100)
  const steps = ref<number[]>([])
  /** What is wrong with the sound at the moment. */
  const warnings = shallowRef<SoundWarning[]>([])
  const cameraWarning = shallowRef<CameraWarning | null>(null)
  const microphones = ref<MicrophoneChoice[]>([])
  const recorder = shallowRef<TakeRecorder | null>(null)
  const kind = ref<TakePlan['kind']>('plain')
  /** Goes up with every change of the log, for what has to be drawn anew. */
  const changes = ref(0)
  const { room, measure: measureRoom } = useStorageRoom()
  /** The question whose take is put together while another one goes on. */
  const settling = ref<string[]>([])
  const settings = useSettings()
  const notices = useNotices()
  const folios = useFolio()
  const camera = useCamera()
  /** Where the pen is tried and the held lines are rehearsed: a take that nothing stores. */
  const rehearsal = shallowRef(newRehearsal())
  /** How long the solution lasts so far, ms: `elapsed` without what was taken back. */
  const kept = computed(() => changes.value >= 0 && recorder.value ? recorder.value.kept(elapsed.value) : elapsed.value)
  /** Whether the take has steps of its own: only then they are marked and gone back, and the student asked. */
  const stepped = computed(() => kind.value === 'plain' || kind.value === 'anew' || kind.value === 'practice')
  /** Whether the board only plays, and is talked over. */
  const played = computed(() => active.value && kind.value === 'voice')
  /** What the hand works on: the take, or the rehearsal. */
  const desk = computed(() => recorder.value ?? rehearsal.value)

  let microphone: Microphone | null = null
  let live: LiveTake | null = null
  let timer: ReturnType<typeof setInterval> | undefined
  let abandon = false
  /** The sound that is written over. */
  let old: OldSound | null = null
  const sleep = new SleepWatch()
  /** The microphone she chose; without a choice the first real one, else the simulated one. One that is gone stays chosen, so that she is told. */
  const chosen = computed<MicrophoneChoice>(() => {
    const id = settings.remembered.microphone
    if (!id) return microphones.value.find(m => m.id.startsWith('device:')) ?? microphones.value.find(m => m.id === 'sim:voice') ?? NO_MICROPHONE
    return microphones.value.find(m => m.id === id) ?? { id, label: 'The microphone of last time', simulated: id.startsWith('sim:') }
  })
  const active = computed(() => state.value === 'running' || state.value === 'paused' || state.value === 'counting' || state.value === 'unstored')

  async function findMicrophones() {
    microphones.value = await listMicrophones()
  }

  /** Opens the microphone, counts down and starts; a retake plays the moments before it meanwhile. */
  async function start(question: Question | null, frame: Frame, plan: TakePlan = { kind: 'plain' }, seconds = settings.remembered.countdown) {
    if (state.value !== 'rest') return
    if (folios.readOnly && plan.kind !== 'practice') return notices.tell(new Trouble('read-only', 'This folio is open in another tab.', 'Nothing was changed.', 'Take over here, or record in the other tab.'), 'starting the take')
    state.value = 'counting'
    abandon = false
    await getReady(question, frame, plan, seconds)
  }

  /** Makes a take ready and starts it, unless it is given up meanwhile. */
  async function getReady(question: Question | null, frame: Frame, plan: TakePlan, seconds: number) {
    const folioId = folios.folio!.id
    const made = new LiveTake(question, frame, plan, plan.kind === 'ink' ? undefined : camera.portrait)
    kind.value = plan.kind
    made.recorder.onTrouble = (trouble) => {
      room.value = 'none'
      if (trouble.code !== 'storage-full') notices.tell(trouble, 'storing the take')
    }
    made.recorder.onStored = () => { if (room.value === 'none') room.value = 'enough' }
    room.value = 'enough'
    live = made
    try {
      if (!microphones.value.length) await findMicrophones()
      if (chosen.value.id !== NO_MICROPHONE.id && !microphone && plan.kind !== 'ink') await plugIn()
      if (plan.kind === 'anew' || plan.kind === 'voice') recorder.value = made.recorder
      elapsed.value = made.recorder.time(performance.now())
      if (plan.kind === 'ink') old = await openSound(plan.of.take.id)
      const pictures = plan.kind === 'ink' ? undefined : camera.record({ height: plan.kind === 'clip' ? CLIP_HEIGHT : PORTRAIT_HEIGHT, picture: (p, at) => live?.picture(p, at), began: () => live?.cameraOn() })
      await Promise.all([count(seconds, () => abandon), pictures, plan.kind === 'anew' ? playRunUp(plan.of.take.id, plan.t, () => abandon) : undefined])
      if (abandon) return reset()
      await made.begin(folioId, chosen.value.label, PENS.find(p => p.id === settings.remembered.pen)?.label ?? '')
      await old?.play(0)
      if (abandon) {
        await made.discard()
        return reset()
      }
      void askToKeep()
      camera.goOn()
    }
    catch (error) {
      notices.tell(error, 'starting the take')
      await made.discard()
      return reset()
    }
    recorder.value = made.recorder
    warnings.value = []
    state.value = 'running'
    noteSteps()
    sleep.begin()
    timer = setInterval(tick, FLUSH_MS)
    void findMicrophones()
  }

  async function plugIn() {
    microphone = await openMicrophone(chosen.value, (pcm, rate, at) => {
      sleep.sound(at, at + (pcm.length / rate) * 1000)
      level.value = levelOf(pcm)
      if (recorder.value) live?.sound(pcm, rate, at)
      if (level.value > VOICE_LEVEL) markAtBreak()
    })
    microphone.onLost(loseSound)
  }

  function tick() {
    const now = performance.now()
    sleep.tick(microphone !== null, (since, ms) => { if (state.value === 'running') wake(since, ms) })
    elapsed.value = recorder.value?.time(now) ?? 0
    cameraWarning.value = camera.lost ? { fault: 'camera-lost', since: now } : camera.on && state.value === 'running' ? live?.camera?.warnings(now)[0] ?? null : null
    if (state.value === 'running' && microphone) warnings.value = live?.watch?.warnings(now) ?? []
    if (elapsed.value >= MOST_TAKE_MS - LAST_MS && state.value === 'running') endOfTake(now)
    live?.flush()
    void measureRoom(now)
  }

  /** Hands the running take over as a folio file of its own, from memory. */
  async function saveToFile() {
    if (!live) return
    try { await handOverTake(folios.folio!, await live.rescue(), camera.portrait) }
    catch (error) { notices.tell(error, 'saving the take to a file') }
  }

  /** The longest take there can be is reached: it waits to be stopped. */
  function endOfTake(now: number) {
    recorder.value!.pause(now)
    old?.pause()
    state.value = 'paused'
    changes.value++
    notices.tell(new Trouble('take-long', 'A take can last four hours at most.', 'All until now is kept.', 'Press S to end it; go on with another take.'), 'recording')
  }

  /** The machine slept: nothing of that time is in the take, which waits. */
  function wake(since: number, ms: number) {
    recorder.value!.pause(since)
    state.value = 'paused'
    changes.value++
    notices.tell(new Trouble('slept', `The machine slept for ${Math.round(ms / 1000)} s.`, 'The take waits where it was; all until then is kept.', 'Press P to go on, or go back a step.'), 'recording')
  }

  function loseSound() {
    if (!active.value) return
    level.value = -100
    microphone?.close()
    microphone = null
    warnings.value = [{ fault: 'lost', since: performance.now() }]
  }

  /** Opens the microphone anew while the take goes on. */
  async function plugInAgain() {
    try {
      await findMicrophones()
      await plugIn()
      live?.watch?.goOn(performance.now())
      warnings.value = []
    }
    catch (error) { notices.tell(error, 'opening the microphone') }
  }

  function noteSteps() {
    steps.value = [...recorder.value!.stepStarts.slice(1)]
    changes.value++
  }

  /** Ends the step so far. */
  function markStep() {
    if (state.value !== 'running' || !stepped.value) return
    recorder.value!.markStep(performance.now())
    live?.breaks?.mark(performance.now())
    noteSteps()
  }

  function markAtBreak() {
    if (state.value === 'running' && live?.breaks?.active(performance.now()) && settings.remembered.autoSteps) markStep()
  }

  /** Ink was put on the board. */
  function wrote() {
    sleep.wrote()
    live?.watch?.wrote(performance.now())
    markAtBreak()
  }

  /** Asks the student to try here. */
  function yourTurn() {
    if (state.value !== 'running' || !stepped.value) return
    recorder.value!.yourTurn(settings.remembered.turnSeconds, settings.remembered.turnHold, performance.now())
    changes.value++
  }

  /** Goes back a step: ink, frame and steps stand as they stood; counts down, and goes on from there. */
  async function goBack() {
    if (!recorder.value || !stepped.value || (state.value !== 'running' && state.value !== 'paused' && !(state.value === 'counting' && timer !== undefined))) return
    const now = performance.now()
    recorder.value.goBack(now)
    noteSteps()
    recorder.value.pause(now)
    state.value = 'counting'
    abandon = false
    if (!await count(settings.remembered.countdown, () => abandon)) return
    resume()
  }

  /** Goes on in another frame of the question. */
  function goTo(frame: Frame) {
    if (state.value !== 'running') return
    recorder.value!.goTo(JSON.parse(JSON.stringify(frame)) as Frame, performance.now())
    changes.value++
  }

  function resume() {
    const now = performance.now()
    void old?.play()
    recorder.value!.resume(now)
    live?.watch?.goOn(now)
    live?.breaks?.mark(now)
    camera.goOn()
    warnings.value = []
    state.value = 'running'
    changes.value++
  }

  function pauseOrGoOn() {
    if (state.value === 'paused' && elapsed.value >= MOST_TAKE_MS - LAST_MS) return
    if (state.value === 'running') {
      recorder.value!.pause(performance.now())
      old?.pause()
      state.value = 'paused'
    }
    else if (state.value === 'paused') resume()
    changes.value++
  }

  const { undo, redo, canUndo, canRedo } = useTakeUndo(desk, recorder, changes)

  /** Clears what was tried. */
  function clearRehearsal() {
    rehearsal.value = newRehearsal()
    changes.value++
  }

  /** What writes itself is written to its end before a take ends. */
  async function writingDone() {
    const left = state.value === 'running' && !recorder.value!.sealed ? recorder.value!.busyUntil - recorder.value!.time(performance.now()) : 0
    if (left > 0) await new Promise(r => setTimeout(r, Math.min(left, LONGEST_WRITING_MS)))
  }

  /** Ends the take, or a countdown. The take is the question's when this returns. @returns it, when it is kept */
  async function stop(): Promise<Take | null> {
    if (state.value === 'counting') {
      leaveCountdown()
      return null
    }
    if ((state.value !== 'running' && state.value !== 'paused' && state.value !== 'unstored') || !live) return null
    const ending = live
    await writingDone()
    // Pressed twice, it ends once.
    if (live !== ending || (state.value as RecordingState) === 'settling') return null
    state.value = 'settling'
    clearInterval(timer)
    // What the camera's coder still holds is handed on while the clock stands.
    recorder.value!.pause(performance.now())
    await camera.rest()
    unplug()
    old?.pause()
    if (kind.value === 'practice') {
      notices.say(live.practised())
      reset()
      return null
    }
    try {
      const done = await ending.finish()
      await folios.takeDone(done.take, done.ledger)
      ending.release()
      reset()
      return done.take
    }
    catch (error) {
      // Microphone and camera are let go, so that it cannot go on: it is ended again, or saved to a file.
      notices.tell(error, 'finishing the take')
      room.value = 'none'
      state.value = 'unstored'
      return null
    }
  }

  /** Leaves a take whose end cannot be stored. What is stored of it is offered as a take that was cut off. */
  function giveUp() {
    if (state.value !== 'unstored') return
    live?.release()
    reset()
  }

  /** A take that has not begun is given up; one that went back waits. */
  function leaveCountdown() {
    abandon = true
    stopCounting()
    if (recorder.value?.events.length && timer !== undefined) state.value = 'paused'
  }

  /**
   * Ends this take and begins that of the next question, with the microphone as it is; the old one is put together meanwhile.
   * @param arrive goes to the next question's page
   * @returns whether the next one has begun
   */
  async function goOnWith(question: Question, frame: Frame, arrive: () => Promise<void>): Promise<boolean> {
    if ((state.value !== 'running' && state.value !== 'paused') || !live || kind.value !== 'plain') return false
    await writingDone()
    const before = live
    await before.recorder.flush()
    // What waits in memory could not be reached any more from the next question.
    if (room.value === 'none') {
      notices.tell(new Trouble('storage-full', `The take of question ${before.question!.number} cannot be stored.`, 'It goes on here, in this tab’s memory.', 'Save it to a file, or make room; then go on.'), 'going on')
      return false
    }
    if (live !== before) return false
    clearInterval(timer)
    timer = undefined
    live = null
    recorder.value = null
    // The next one is being made ready from here on, so that Stop is heeded.
    state.value = 'counting'
    abandon = false
    const of = before.question!
    settling.value = [...settling.value, of.id]
    const settled = before.finish().then(async ({ take, ledger }) => {
      await folios.takeDone(take, ledger)
    }).catch((error: unknown) => notices.tell(error, `finishing the take of question ${of.number}`))
      .finally(() => { before.release(); settling.value = settling.value.filter(id => id !== of.id) })
    await arrive()
    if (abandon) reset()
    else await getReady(question, frame, { kind: 'plain' }, settings.remembered.nextCountdown)
    void settled
    return active.value
  }

  function unplug() {
    microphone?.close()
    microphone = null
    level.value = -100
  }

  function reset() {
    old?.close()
    old = null
    kind.value = 'plain'
    clearInterval(timer)
    timer = undefined
    unplug()
    live = null
    recorder.value = null
    elapsed.value = 0
    warnings.value = []
    cameraWarning.value = null
    void camera.rest()
    state.value = 'rest'
    changes.value++
  }

  return {
    desk, clearRehearsal, state, countdown, elapsed, kept, stepped, played, level, steps, warnings, cameraWarning, room, kind, microphones, recorder, changes, settling, chosen, active,
    findMicrophones, start, stop, giveUp, goOnWith, goTo, goBack, markStep, yourTurn, wrote, plugInAgain, saveToFile, pauseOrGoOn, undo, redo, canUndo, canRedo,
  }
})
