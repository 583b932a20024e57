import { ledgerOfTake, putInUse, stepAt } from '#core/cut'
import { editionOf, layLog, type Edition } from '#core/edition'
import {
  changed,
  newId,
  type Frame,
  type Ledger,
  type Portrait,
  type Question,
  type Step,
  type Take,
  type Turn,
} from '#core/folio'
import { fileName } from '#core/publish'
import type { Board, TakeEvent } from '#core/take'
import { Lately } from '../data/lately'
import { loadCamera, loadSound, readLog } from '../data/takes'
import { handOver } from '../work/folioFile'
import { pictureOfMoment } from '../work/still'

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
  /** The take's log as it was recorded. */
  const events = shallowRef<TakeEvent[]>([])

  /** While the student is to try: the suggested time, and the seconds that are left of holding still. */
  const holding = shallowRef<{ seconds: number; left: number } | null>(null)
  let waiting = 0

  let audio: HTMLAudioElement | null = null
  let url = ''
  let frame = 0
  const logs = new Lately<Promise<TakeEvent[]>>(8)

  const ledger = computed<Ledger | null>(() => store.questions.find(q => q.id === question.value?.id)?.ledger ?? null)
  const duration = computed(() => take.value?.durationMs ?? 0)
  /** What the question looks and sounds like now. */
  const edition = computed(() =>
    ledger.value && take.value
      ? editionOf({ take: take.value, events: events.value, ledger: ledger.value, pages: store.folio?.pages ?? [] })
      : null,
  )
  const step = computed(() => (ledger.value ? stepAt(ledger.value, time.value) : 0))

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
    return layLog(of, await logOf(of.id), store.folio?.pages ?? [])
  }

  /** What a take would look and sound like with these steps. */
  async function editionOfTake(of: Take, steps: Ledger): Promise<Edition> {
    return editionOf({ take: of, events: await logOf(of.id), ledger: steps, pages: store.folio?.pages ?? [] })
  }

  /** The ledger of a take of a question: in use, laid aside, or as it was recorded. */
  async function ledgerOf(of: Question, other: Take): Promise<Ledger> {
    return (
      [of.ledger, ...of.shelved].find(l => l?.takeId === other.id) ?? ledgerOfTake(other, await logOf(other.id), of)
    )
  }

  /** A take of a question beside others: its edition, and its sound. */
  async function comparable(of: Question, other: Take) {
    const [edition, sound] = await Promise.all([
      ledgerOf(of, other).then(steps => editionOfTake(other, steps)),
      loadSound(other.id),
    ])
    return { edition, sound }
  }

  /** Opens a question's take for playing. */
  async function open(next: Question | null) {
    close()
    question.value = next
    const found = store.takes.find(t => t.id === next?.ledger?.takeId) ?? null
    if (!next || !found) return
    try {
      const [log, sound, track] = await Promise.all([logOf(found.id), loadSound(found.id), loadCamera(found.id)])
      if (question.value !== next) return
      events.value = log
      peaks.value = sound?.peaks ?? new Uint8Array()
      camera.value = track
      take.value = found
      if (sound) {
        url = URL.createObjectURL(sound.blob)
        audio = new Audio(url)
        audio.preload = 'auto'
      }
      ready.value = true
      time.value = edition.value?.time.nextKept(0) ?? 0
    } catch (error) {
      notices.tell(error, 'opening the take')
    }
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

  /** Where the camera's picture stands at a moment, in shares of the frame; null where there is none. */
  function portraitAt(t: number) {
    const box = holding.value || !camera.value ? null : edition.value?.portraitAt(t, { x: 0, y: 0, w: 16, h: 9 })
    return box ? { x: box.x / 16, y: box.y / 9, w: box.w / 16, h: box.h / 9 } : null
  }

  /** Shows the camera's picture otherwise; null hides it. */
  function setPortrait(portrait: Portrait | null) {
    changeLedger(portrait ? 'place your picture' : 'hide your picture', copy => {
      if (portrait) copy.portrait = portrait
      else delete copy.portrait
    })
  }

  /** The board at the moment shown: inside a struck step as it was in the take, else as students see it. */
  const boardAt = (t: number): Board => edition.value?.boardInTake(t) ?? { t, strokes: [], things: [] }

  function seek(t: number) {
    time.value = Math.max(0, Math.min(duration.value, t))
    if (audio) audio.currentTime = time.value / 1000
  }

  async function play() {
    if (!ready.value || !edition.value || playing.value) return
    const { time: map } = edition.value
    const from = map.nextKept(time.value >= duration.value - 50 ? 0 : time.value) ?? map.nextKept(0)
    if (from === null) return
    seek(from)
    playing.value = true
    let last = performance.now()
    if (audio) {
      audio.playbackRate = speed.value
      try {
        await audio.play()
      } catch (error) {
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
    const due = ledger.value?.turns.find(
      x => x.hold > 0 && x.t > time.value && x.t <= t && edition.value?.time.holds(x.t),
    )
    if (due) return holdFor(due)
    const kept = edition.value?.time.nextKept(t) ?? null
    if (kept === null || t >= duration.value || audio?.ended) {
      pause()
      time.value = Math.min(t, duration.value)
    } else if (kept > t + 1) seek(kept)
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

  const toggle = () => (playing.value ? pause() : void play())

  watch(speed, value => {
    if (audio) audio.playbackRate = value
  })

  function editStep(id: string, label: string, edit: (step: Step) => void) {
    if (ledger.value?.steps.some(s => s.id === id))
      changeLedger(label, copy => edit(copy.steps.find(s => s.id === id)!))
  }

  function changeLedger(label: string, edit: (ledger: Ledger) => void) {
    if (!question.value || !ledger.value) return
    store.setLedger(question.value.id, label, changed(ledger.value, edit))
  }

  /** Changes a pause for the student; null takes it away. */
  function editTurn(id: string, change: Partial<Pick<Turn, 'seconds' | 'hold'>> | null) {
    changeLedger(change ? 'change a pause for the student' : 'take a pause for the student away', copy => {
      copy.turns = change
        ? copy.turns.map(t => (t.id === id ? { ...t, ...change } : t))
        : copy.turns.filter(t => t.id !== id)
    })
  }

  /** Asks the student to try at a moment of the take. */
  function addTurn(t: number, seconds: number, hold: number) {
    changeLedger('ask the student to try', copy => {
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
    const made = await ledgerOf(of, other)
    store.changeQuestion(of.id, 'use another take', q => putInUse(q, made))
  }

  async function useTake(other: Take) {
    const of = store.questions.find(q => q.id === question.value?.id)
    if (!of) return
    await putTakeInUse(of, other)
    await open(store.questions.find(q => q.id === question.value?.id) ?? null)
  }

  /** Saves the moment shown as a picture, named by question and lesson time. */
  async function savePicture(frame: Frame) {
    const of = question.value
    if (!store.folio || !of) return
    const at = Math.round(edition.value?.time.fromTake(time.value) ?? 0)
    try {
      handOver(
        await pictureOfMoment(store.folio, frame, boardAt(time.value), 1280),
        `${fileName(`${of.number}-${of.title}`)}-${at}ms.png`,
      )
    } catch (error) {
      notices.tell(error, 'saving the picture')
    }
  }

  const otherTakes = computed(() => (question.value ? store.takesOf(question.value.id) : []))

  return {
    SPEEDS,
    question,
    take,
    peaks,
    time,
    playing,
    speed,
    ready,
    ledger,
    duration,
    edition,
    step,
    otherTakes,
    laidLog,
    editionOfTake,
    comparable,
    open,
    close,
    boardAt,
    camera,
    portraitAt,
    setPortrait,
    seek,
    play,
    pause,
    toggle,
    toStep,
    editStep,
    editTurn,
    addTurn,
    savePicture,
    holding,
    putTakeInUse,
    useTake,
  }
})
