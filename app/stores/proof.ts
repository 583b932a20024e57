import { Cut, keptOf, ledgerOfTake, stepAt, struckOf, putInUse } from '#core/cut'
import { newId, type Frame, type Ledger, type Portrait, type Question, type Step, type Take, type Turn } from '#core/folio'
import { PortraitPath } from '#core/scene'
import { BoardIndex, moveLog, type Board, type TakeEvent } from '#core/take'
import { Lately } from '../data/lately'
import { loadCamera, loadSound, readLog } from '../data/takes'

/** Speeds of playing offered to the teacher. */
const SPEEDS: number[] = [0.75, 1, 1.25, 1.5, 2]

/** Playing a question back: ink and voice together, from any moment, as students will get it. Times are take ms. */
export const useProof = defineStore('proof', () => {
  const store = useFolio()
  const notices = useNotices()
  const question = shallowRef<Question | null>(null)
  const take = shallowRef<Take | null>(null)
  const peaks = shallowRef<Uint8Array>(new Uint8Array())
  /** The camera's track of the take. */
  const camera = shallowRef<Blob | null>(null)
  const time = ref(0)
  const playing = ref(false)
  const speed = ref<number>(1)
  const ready = ref(false)
  const events = shallowRef<TakeEvent[]>([])
  /** The frame in which the take begins. */
  const first = shallowRef<Frame | undefined>()

  /** While the student is to try: the suggested time, and the seconds that are left of holding still. */
  const holding = shallowRef<{ seconds: number, left: number } | null>(null)
  let waiting = 0

  let audio: HTMLAudioElement | null = null
  let url = ''
  let frame = 0
  const logs = new Lately<Promise<TakeEvent[]>>(8)

  const ledger = computed<Ledger | null>(() => store.questions.find(q => q.id === question.value?.id)?.ledger ?? null)
  const duration = computed(() => take.value?.durationMs ?? 0)
  const cut = computed(() => ledger.value && take.value ? new Cut(ledger.value, duration.value) : null)
  const whole = computed(() => new BoardIndex(events.value, [], first.value))
  const cutBoard = computed(() => new BoardIndex(events.value, ledger.value ? struckOf(ledger.value, duration.value) : [], first.value))
  const step = computed(() => ledger.value ? stepAt(ledger.value, time.value) : 0)

  /** The settled log of a take; read once. */
  function logOf(takeId: string): Promise<TakeEvent[]> {
    let log = logs.get(takeId)
    if (!log) {
      log = readLog(takeId)
      logs.set(takeId, log)
      log.catch(() => logs.delete(takeId))
    }
    return log
  }

  /** A take's log as it lies on the folio's pages now. */
  async function laidLog(of: Take) {
    return moveLog(await logOf(of.id), of.frame, of.startedAt, store.folio?.pages ?? [])
  }

  /** All of a take that is needed to show and to hear it. */
  async function openTake(of: Take) {
    const [log, sound] = await Promise.all([laidLog(of), loadSound(of.id)])
    return { ...log, sound }
  }

  /** Opens a question's take for playing. */
  async function open(next: Question | null) {
    close()
    question.value = next
    const found = store.takes.find(t => t.id === next?.ledger?.takeId) ?? null
    if (!next || !found) return
    try {
      const [{ events: log, first: begin, sound }, track] = await Promise.all([openTake(found), loadCamera(found.id)])
      if (question.value !== next) return
      events.value = log
      first.value = begin
      peaks.value = sound?.peaks ?? new Uint8Array()
      camera.value = track
      take.value = found
      if (sound) {
        url = URL.createObjectURL(sound.blob)
        audio = new Audio(url)
        audio.preload = 'auto'
      }
      ready.value = true
      time.value = cut.value?.nextKept(0) ?? 0
    }
    catch (error) { notices.tell(error, 'opening the take') }
  }

  function close() {
    pause()
    audio?.removeAttribute('src')
    audio = null
    if (url) URL.revokeObjectURL(url)
    url = ''
    take.value = null
    ready.value = false
    time.value = 0
    events.value = []
    camera.value = null
    peaks.value = new Uint8Array()
  }

  const portraitPath = computed(() => ledger.value?.portrait && first.value && camera.value ? new PortraitPath(ledger.value.portrait, first.value, events.value, struckOf(ledger.value, duration.value)) : null)
  /** Where the camera's picture stands at a moment, in shares of the frame; null where there is none. */
  function portraitAt(t: number) {
    const gone = holding.value || take.value?.camera?.gaps.some(g => t >= g.from && t < g.to)
    const box = gone ? null : portraitPath.value?.at(t, { x: 0, y: 0, w: 16, h: 9 })
    return box ? { x: box.x / 16, y: box.y / 9, w: box.w / 16, h: box.h / 9 } : null
  }

  /** Shows the camera's picture otherwise; null hides it. */
  function setPortrait(portrait: Portrait | null) {
    changeLedger(portrait ? 'place your picture' : 'hide your picture', (copy) => {
      if (portrait) copy.portrait = portrait
      else delete copy.portrait
    })
  }

  /** The board at the moment shown: inside a struck step as it was in the take, else as students see it. */
  function boardAt(t: number): Board {
    // The very end belongs to the last step.
    return (cut.value?.holds(Math.min(t, duration.value - 1)) ? cutBoard.value : whole.value).at(t)
  }

  function seek(t: number) {
    time.value = Math.max(0, Math.min(duration.value, t))
    if (audio) audio.currentTime = time.value / 1000
  }

  async function play() {
    if (!ready.value || !cut.value || playing.value) return
    const from = cut.value.nextKept(time.value >= duration.value - 50 ? 0 : time.value) ?? cut.value.nextKept(0)
    if (from === null) return
    seek(from)
    playing.value = true
    let last = performance.now()
    if (audio) {
      audio.playbackRate = speed.value
      try { await audio.play() }
      catch (error) {
        playing.value = false
        return notices.tell(error, 'playing the sound')
      }
    }
    const run = () => {
      if (!playing.value) return
      const now = performance.now()
      if (holding.value) {
        last = now
        frame = requestAnimationFrame(run)
        return
      }
      const t = audio ? audio.currentTime * 1000 : time.value + (now - last) * speed.value
      last = now
      follow(t)
      frame = requestAnimationFrame(run)
    }
    frame = requestAnimationFrame(run)
  }

  /** Leaps over what is struck out, holds still where the student is to try, and stops at the end. */
  function follow(t: number) {
    const due = ledger.value?.turns.find(x => x.hold > 0 && x.t > time.value && x.t <= t && cut.value?.holds(x.t))
    if (due) return holdFor(due)
    const kept = cut.value?.nextKept(t) ?? null
    if (kept === null || t >= duration.value || audio?.ended) {
      pause()
      time.value = Math.min(t, duration.value)
    }
    else if (kept > t + 1) seek(kept)
    else time.value = t
  }

  function holdFor(turn: Turn) {
    audio?.pause()
    time.value = turn.t
    holding.value = { seconds: turn.seconds, left: turn.hold }
    const end = performance.now() + turn.hold * 1000
    const wait = () => {
      if (!holding.value) return
      const left = (end - performance.now()) / 1000
      if (left > 0) {
        holding.value = { seconds: turn.seconds, left }
        waiting = requestAnimationFrame(wait)
        return
      }
      holding.value = null
      if (audio) audio.currentTime = turn.t / 1000
      void audio?.play()
    }
    wait()
  }

  function pause() {
    playing.value = false
    holding.value = null
    cancelAnimationFrame(waiting)
    cancelAnimationFrame(frame)
    audio?.pause()
  }

  const toggle = () => playing.value ? pause() : void play()

  watch(speed, (value) => { if (audio) audio.playbackRate = value })

  function editStep(id: string, label: string, edit: (step: Step) => void) {
    if (ledger.value?.steps.some(s => s.id === id)) changeLedger(label, copy => edit(copy.steps.find(s => s.id === id)!))
  }

  function changeLedger(label: string, edit: (ledger: Ledger) => void) {
    if (!question.value || !ledger.value) return
    const copy = JSON.parse(JSON.stringify(ledger.value)) as Ledger
    edit(copy)
    store.setLedger(question.value.id, label, copy)
  }

  /** Changes a pause for the student; null takes it away. */
  function editTurn(id: string, change: Partial<Pick<Turn, 'seconds' | 'hold'>> | null) {
    changeLedger(change ? 'change a pause for the student' : 'take a pause for the student away', (copy) => {
      copy.turns = change ? copy.turns.map(t => t.id === id ? { ...t, ...change } : t) : copy.turns.filter(t => t.id !== id)
    })
  }

  /** Asks the student to try at a moment of the take. */
  function addTurn(t: number, seconds: number, hold: number) {
    changeLedger('ask the student to try', (copy) => {
      copy.turns.push({ id: newId(), t: Math.round(t), seconds, hold })
      copy.turns.sort((a, b) => a.t - b.t)
    })
  }

  function toStep(by: number) {
    const next = ledger.value?.steps[step.value + by]
    if (next) seek(next.t)
  }

  /** Puts another take of the question in use, with its steps as they were when it last was, or as it was recorded. */
  async function putTakeInUse(of: Question, other: Take) {
    const made = of.shelved.find(l => l.takeId === other.id) ?? ledgerOfTake(other, await logOf(other.id), of)
    store.changeQuestion(of.id, 'use another take', q => putInUse(q, made))
  }

  async function useTake(other: Take) {
    const of = store.questions.find(q => q.id === question.value?.id)
    if (!of) return
    await putTakeInUse(of, other)
    await open(store.questions.find(q => q.id === question.value?.id) ?? null)
  }

  const otherTakes = computed(() => question.value ? store.takesOf(question.value.id) : [])
  const nothingLeft = computed(() => ledger.value !== null && keptOf(ledger.value, duration.value).length === 0)

  return { SPEEDS, question, take, peaks, time, playing, speed, ready, ledger, duration, cut, step, otherTakes, nothingLeft, logOf, laidLog, openTake, open, close, boardAt, camera, portraitAt, setPortrait, seek, play, pause, toggle, toStep, editStep, editTurn, addTurn, holding, putTakeInUse, useTake }
})
