import { MOST_TAKE_MS, Trouble, type Frame, type Question, type Spot, type Take } from '#core/folio'
import type { SoundWarning } from '#core/sound'
import {
  nextInLife,
  type CameraWarning,
  type Desk,
  type LifeEffect,
  type LifeEvent,
  type LifeState,
  type TakeRecorder,
} from '#core/recording'
import { askToKeep } from '../data/files'
import { PENS } from '../devices/pen'
import { LiveTake, newRehearsal, type HeardStretch, type TakePlan } from '../work/liveTake'
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

/**
 * What is shown of a take's life. `unstored`: it has ended, and its end could not be stored; it is ended again, or
 * saved to a file.
 */
export type RecordingState = 'rest' | 'counting' | 'running' | 'paused' | 'settling' | 'unstored'
const SHOWN: Record<LifeState, RecordingState> = {
  rest: 'rest',
  gettingReady: 'counting',
  leaving: 'counting',
  counting: 'counting',
  running: 'running',
  ending: 'running',
  paused: 'paused',
  full: 'paused',
  settling: 'settling',
  unstored: 'unstored',
}

/** The take that is being recorded. */
export const useRecording = defineStore('recording', () => {
  const life = ref<LifeState>('rest')
  const state = computed(() => SHOWN[life.value])
  const { left: countdown, count, stop: stopCounting } = useCountdown()
  const elapsed = ref(0)
  const steps = ref<number[]>([])
  /** What is wrong with the sound at the moment. */
  const warnings = shallowRef<SoundWarning[]>([])
  const cameraWarning = shallowRef<CameraWarning | null>(null)
  const recorder = shallowRef<TakeRecorder | null>(null)
  /** The desk of the take. */
  const takeDesk = shallowRef<Desk | null>(null)
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
  const kept = computed(() => (changes.value >= 0 ? keptAt(elapsed.value) : 0))
  /** The one step that it is recorded for, by its id; null for a take of the question. */
  const single = ref<string | null>(null)
  /** It is not that step, but one that comes after it. */
  const behind = ref(false)
  /** Whether the take has steps of its own: only then they are marked and gone back, and the student asked. */
  const stepped = computed(
    () => kind.value === 'plain' || (kind.value === 'anew' && !single.value) || kind.value === 'practice',
  )
  /** Whether the board only plays, and is talked over. */
  const played = computed(() => active.value && kind.value === 'voice')
  /** The desk on which what was recorded is mended. */
  const mendDesk = shallowRef<Desk | null>(null)
  /** What the hand works on: the take, what is mended, or the rehearsal. */
  const desk = computed(() => takeDesk.value ?? mendDesk.value ?? rehearsal.value)
  /** Whether what is done stays: in a take, and in mending. */
  const lasting = computed(() => takeDesk.value !== null || mendDesk.value !== null)

  let live: LiveTake | null = null
  let timer: ReturnType<typeof setInterval> | undefined
  /** The sound that is written over. */
  let old: OldSound | null = null
  /** The stretch of it that is heard, where it is not all. */
  let heard: HeardStretch | null = null
  const sleep = new SleepWatch()
  const { microphones, chosen, level, findMicrophones, plugIn, plugInChosen, unplug, isOpen } = useMicrophone(
    (pcm, rate, at, loud) => {
      sleep.sound(at, at + (pcm.length / rate) * 1000)
      if (recorder.value) live?.sound(pcm, rate, at)
      if (loud > VOICE_LEVEL) markAtBreak()
    },
    loseSound,
  )
  const active = computed(
    () =>
      state.value === 'running' || state.value === 'paused' || state.value === 'counting' || state.value === 'unstored',
  )

  /** When the ink ends that is talked over, ms; 0 in any other take. */
  const inkEnds = computed(() => (recorder.value && changes.value >= 0 ? (live?.inkEnds ?? 0) : 0))
  const keptAt = (t: number) => recorder.value?.kept(t) ?? t

  const effects: Record<LifeEffect, () => void> = {
    run,
    halt,
    goOn,
    back,
    endCount: stopCounting,
    quiet,
    handOver,
    release: () => live?.release(),
    reset,
  }
  /** Tells the take what happens. @returns whether it happens */
  function send(event: LifeEvent): boolean {
    const next = nextInLife(life.value, event)
    if (!next) return false
    life.value = next.to
    for (const effect of next.effects) effects[effect]()
    changes.value++
    return true
  }
  const leaving = () => life.value === 'leaving'

  /** Opens the microphone, counts down and starts; a retake plays the moments before it meanwhile. */
  async function start(
    question: Question | null,
    frame: Frame,
    plan: TakePlan = { kind: 'plain' },
    seconds = settings.remembered.countdown,
  ) {
    if (life.value !== 'rest') return
    if (folios.readOnly && plan.kind !== 'practice')
      return notices.tell(
        new Trouble(
          'read-only',
          'This folio is open in another tab.',
          'Nothing was changed.',
          'Take over here, or record in the other tab.',
        ),
        'starting the take',
      )
    send('begin')
    await getReady(question, frame, plan, seconds)
  }

  /** Makes a take ready and starts it, unless it is given up meanwhile. */
  async function getReady(question: Question | null, frame: Frame, plan: TakePlan, seconds: number) {
    const folioId = folios.folio!.id
    const made = new LiveTake(question, frame, plan, plan.kind === 'ink' ? undefined : camera.portrait)
    kind.value = plan.kind
    single.value = ('only' in plan && plan.only) || null
    behind.value = plan.kind === 'anew' && plan.after === true
    made.recorder.onTrouble = trouble => {
      room.value = 'none'
      if (trouble.code !== 'storage-full') notices.tell(trouble, 'storing the take')
    }
    made.recorder.onStored = () => {
      if (room.value === 'none') room.value = 'enough'
    }
    room.value = 'enough'
    live = made
    try {
      if (plan.kind !== 'ink') await plugInChosen()
      if (plan.kind === 'anew' || plan.kind === 'voice' || single.value) show(made)
      elapsed.value = made.recorder.time(performance.now())
      if (plan.kind === 'ink') old = await openSound(plan.heard?.takeId ?? plan.of.take.id)
      heard = plan.kind === 'ink' ? (plan.heard ?? null) : null
      const pictures =
        plan.kind === 'ink'
          ? undefined
          : camera.record({
              height: plan.kind === 'clip' ? CLIP_HEIGHT : PORTRAIT_HEIGHT,
              picture: (p, at) => live?.picture(p, at),
              began: () => live?.cameraOn(),
            })
      await Promise.all([
        count(seconds, leaving),
        pictures,
        plan.kind === 'anew' ? playRunUp(plan.of.take.id, plan.t, leaving) : undefined,
      ])
      if (!leaving()) {
        await made.begin(folioId, chosen.value.label, PENS.find(p => p.id === settings.remembered.pen)?.label ?? '')
        await old?.play(heard?.from ?? 0)
      }
    } catch (error) {
      notices.tell(error, 'starting the take')
      send('fail')
    }
    if (!leaving()) return void send('ready')
    await made.discard()
    send('left')
  }

  function show(made: LiveTake) {
    recorder.value = made.recorder
    takeDesk.value = made.desk
  }

  function run() {
    void askToKeep()
    camera.goOn()
    show(live!)
    warnings.value = lostNow()
    noteSteps()
    sleep.begin()
    timer = setInterval(tick, FLUSH_MS)
    void findMicrophones()
  }

  function tick() {
    const now = performance.now()
    sleep.tick(isOpen(), wake)
    elapsed.value = recorder.value?.time(now) ?? 0
    if (heard && old && old.time() >= heard.to) old.pause()
    cameraWarning.value = camera.lost
      ? { fault: 'camera-lost', since: now }
      : camera.on && state.value === 'running'
        ? (live?.camera?.warnings(now)[0] ?? null)
        : null
    if (state.value === 'running') warnings.value = isOpen() ? (live?.watch?.warnings(now) ?? []) : lostNow()
    if (elapsed.value >= MOST_TAKE_MS - LAST_MS) endOfTake()
    live?.flush()
    void measureRoom(now)
  }

  /** Hands the running take over as a folio file of its own, from memory. */
  async function saveToFile() {
    if (!live) return
    try {
      await handOverTake(folios.folio!, await live.rescue(), camera.portrait)
    } catch (error) {
      notices.tell(error, 'saving the take to a file')
    }
  }

  /** The longest take there can be is reached: it waits to be stopped. */
  function endOfTake() {
    if (send('longest'))
      notices.tell(
        new Trouble(
          'take-long',
          'A take can last four hours at most.',
          'All until now is kept.',
          'Press S to end it; go on with another take.',
        ),
        'recording',
      )
  }

  /** The machine slept: nothing of that time is in the take, which waits. @param since machine time, ms */
  function wake(since: number, ms: number) {
    if (life.value !== 'running') return
    recorder.value!.pause(since)
    send('slept')
    notices.tell(
      new Trouble(
        'slept',
        `The machine slept for ${Math.round(ms / 1000)} s.`,
        'The take waits where it was; all until then is kept.',
        'Press P to go on, or go back a step.',
      ),
      'recording',
    )
  }

  /** Since when the take goes without the microphone that it is to have, machine time, ms; null while it has it. */
  let lostAt: number | null = null
  /** What is said as long as the microphone is lost. */
  const lostNow = (): SoundWarning[] => (lostAt !== null && !isOpen() ? [{ fault: 'lost', since: lostAt }] : [])

  function loseSound() {
    if (!active.value) return
    unplug()
    lostAt ??= performance.now()
    warnings.value = lostNow()
    // What has not begun yet does not begin without its sound.
    if (life.value !== 'gettingReady') return
    send('fail')
    notices.tell(
      new Trouble(
        'microphone-lost',
        'The microphone was lost before the take began.',
        'Nothing was recorded.',
        'Plug it in again, or choose another one under Microphone; then record.',
      ),
      'starting the take',
    )
  }

  /** Opens the microphone anew while the take goes on. */
  async function plugInAgain() {
    try {
      await findMicrophones()
      await plugIn()
      live?.watch?.goOn(performance.now())
      lostAt = null
      warnings.value = []
    } catch (error) {
      notices.tell(error, 'opening the microphone')
    }
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
    if (state.value === 'running' && live?.breaks?.active(performance.now()) && settings.remembered.autoSteps)
      markStep()
  }

  /** The pen goes down at a place of the page: a step may end here by itself. */
  function writes(at: Spot) {
    const now = performance.now()
    if (state.value === 'running' && live?.breaks?.writes(now, at) && settings.remembered.autoSteps) markStep()
  }
  /** Ink was put on the board; the pen was lifted at a place. */
  function wrote(at?: Spot) {
    const now = performance.now()
    sleep.wrote()
    live?.watch?.wrote(now)
    if (at) live?.breaks?.wrote(now, at)
    else markAtBreak()
  }

  /** Asks the student to try here. */
  function yourTurn() {
    if (state.value !== 'running' || !stepped.value) return
    recorder.value!.yourTurn(settings.remembered.turnSeconds, settings.remembered.turnHold, performance.now())
    changes.value++
  }

  /** Goes back a step: ink, frame and steps stand as they stood; counts down, and goes on from there. */
  async function goBack() {
    if (!stepped.value || !send('back')) return
    if (await count(settings.remembered.countdown, () => life.value !== 'counting')) send('counted')
  }
  function back() {
    const now = performance.now()
    recorder.value!.goBack(now)
    recorder.value!.pause(now)
    noteSteps()
  }

  /** Goes on in another frame of the question. */
  function goTo(frame: Frame) {
    if (state.value !== 'running') return
    recorder.value!.goTo(JSON.parse(JSON.stringify(frame)) as Frame, performance.now())
    changes.value++
  }

  function goOn() {
    const now = performance.now()
    if (!heard || !old || old.time() < heard.to) void old?.play()
    recorder.value!.resume(now)
    live?.watch?.goOn(now)
    live?.breaks?.mark(now)
    camera.goOn()
    warnings.value = lostNow()
  }

  function halt() {
    recorder.value!.pause(performance.now())
    old?.pause()
  }

  function pauseOrGoOn() {
    send(life.value === 'paused' ? 'goOn' : 'pause')
  }

  const { undo, redo, canUndo, canRedo } = useTakeUndo(desk, takeDesk, changes)

  /** Clears what was tried. */
  function clearRehearsal() {
    rehearsal.value = newRehearsal()
    changes.value++
  }

  /** What writes itself is written to its end before a take ends. */
  async function writingDone() {
    const left =
      life.value !== 'paused' && life.value !== 'full' && !recorder.value!.sealed ? takeDesk.value!.busyMs : 0
    if (left > 0) await new Promise(r => setTimeout(r, Math.min(left, LONGEST_WRITING_MS)))
  }

  /** Ends the take, or a countdown. The take is the question's when this returns. @returns it, when it is kept */
  async function stop(): Promise<Take | null> {
    if (!send('stop')) return null
    if (life.value === 'ending') {
      await writingDone()
      send('written')
    }
    return life.value === 'settling' ? settle() : null
  }

  /** Microphone and camera come to rest; what is left to do needs neither. */
  function quiet() {
    clearInterval(timer)
    recorder.value!.pause(performance.now())
    old?.pause()
  }

  /** Puts the take together, and makes it the question's. */
  async function settle(): Promise<Take | null> {
    // What the camera's coder still holds is handed on while the clock stands.
    await camera.rest()
    unplug()
    if (kind.value === 'practice') {
      notices.say(live!.practised())
      send('settled')
      return null
    }
    try {
      const done = await live!.finish()
      if (!done) {
        notices.say(
          `${kind.value === 'voice' ? 'Nothing was said' : 'Nothing was written'}: the take in use stays as it is.`,
        )
        send('settled')
        return null
      }
      await folios.takeDone(done)
      send('settled')
      return done.take
    } catch (error) {
      notices.tell(error, 'finishing the take')
      room.value = 'none'
      send('fail')
      return null
    }
  }

  /** Leaves a take whose end cannot be stored. What is stored of it is offered as a take that was cut off. */
  const giveUp = () => {
    send('giveUp')
  }

  /**
   * Ends this take and begins that of the next question, with the microphone as it is; the old one is put together
   * meanwhile.
   * @param arrive goes to the next question's page
   * @returns whether the next one has begun
   */
  async function goOnWith(question: Question, frame: Frame, arrive: () => Promise<void>): Promise<boolean> {
    if (!nextInLife(life.value, 'handOver') || kind.value !== 'plain') return false
    const before = live!
    await writingDone()
    await before.recorder.flush()
    // What waits in memory could not be reached any more from the next question.
    if (room.value === 'none') {
      notices.tell(
        new Trouble(
          'storage-full',
          `The take of question ${before.question!.number} cannot be stored.`,
          'It goes on here, in this tab’s memory.',
          'Save it to a file, or make room; then go on.',
        ),
        'going on',
      )
      return false
    }
    if (live !== before || !send('handOver')) return false
    await arrive()
    if (leaving()) send('left')
    else await getReady(question, frame, { kind: 'plain' }, settings.remembered.nextCountdown)
    return active.value
  }

  /** The take is put together beside the next one. */
  function handOver() {
    const before = live!,
      of = before.question!
    clearInterval(timer)
    live = null
    recorder.value = takeDesk.value = null
    settling.value = [...settling.value, of.id]
    void before
      .finish()
      .then(done => done && folios.takeDone(done, true))
      .catch((error: unknown) => notices.tell(error, `finishing the take of question ${of.number}`))
      .finally(() => {
        before.release()
        settling.value = settling.value.filter(id => id !== of.id)
      })
  }

  function reset() {
    old?.close()
    old = heard = null
    kind.value = 'plain'
    single.value = null
    clearInterval(timer)
    unplug()
    live = null
    recorder.value = takeDesk.value = null
    elapsed.value = 0
    lostAt = null
    warnings.value = []
    cameraWarning.value = null
    void camera.rest()
  }

  return {
    desk,
    takeDesk,
    mendDesk,
    lasting,
    inkEnds,
    keptAt,
    clearRehearsal,
    state,
    countdown,
    elapsed,
    kept,
    single,
    behind,
    stepped,
    played,
    level,
    steps,
    warnings,
    cameraWarning,
    room,
    kind,
    microphones,
    changes,
    settling,
    chosen,
    active,
    findMicrophones,
    start,
    stop,
    giveUp,
    goOnWith,
    goTo,
    goBack,
    markStep,
    yourTurn,
    writes,
    wrote,
    plugInAgain,
    saveToFile,
    pauseOrGoOn,
    undo,
    redo,
    canUndo,
    canRedo,
  }
})
