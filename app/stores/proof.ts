import { Cut, keptOf, ledgerOf, stepAt, struckOf } from '#core/cut'
import type { Frame, Ledger, Question, Step, Take } from '#core/folio'
import { BoardIndex, moveLog, type Board, type TakeEvent } from '#core/take'
import { loadSound, readLog } from '../data/takes'

/** Speeds of playing offered to the teacher. */
const SPEEDS: number[] = [0.75, 1, 1.25, 1.5, 2]

/** Playing a question back: ink and voice together, from any moment, as students will get it. Times are take ms. */
export const useProof = defineStore('proof', () => {
  const store = useFolio()
  const notices = useNotices()
  const question = shallowRef<Question | null>(null)
  const take = shallowRef<Take | null>(null)
  const peaks = shallowRef<Uint8Array>(new Uint8Array())
  const time = ref(0)
  const playing = ref(false)
  const speed = ref<number>(1)
  const ready = ref(false)
  const events = shallowRef<TakeEvent[]>([])
  /** The frame in which the take begins. */
  const first = shallowRef<Frame | undefined>()

  let audio: HTMLAudioElement | null = null
  let url = ''
  let frame = 0
  const logs = new Map<string, Promise<TakeEvent[]>>()

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

  /** Opens a question's take for playing. */
  async function open(next: Question | null) {
    close()
    question.value = next
    const found = store.takes.find(t => t.id === next?.ledger?.takeId) ?? null
    if (!next || !found) return
    try {
      const [log, sound] = await Promise.all([laidLog(found), loadSound(found.id)])
      if (question.value !== next) return
      events.value = log.events
      first.value = log.first
      peaks.value = sound?.peaks ?? new Uint8Array()
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
    peaks.value = new Uint8Array()
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
      const t = audio ? audio.currentTime * 1000 : time.value + (now - last) * speed.value
      last = now
      follow(t)
      frame = requestAnimationFrame(run)
    }
    frame = requestAnimationFrame(run)
  }

  /** Leaps over what is struck out, and stops at the end. */
  function follow(t: number) {
    const kept = cut.value?.nextKept(t) ?? null
    if (kept === null || t >= duration.value || audio?.ended) {
      pause()
      time.value = Math.min(t, duration.value)
    }
    else if (kept > t + 1) seek(kept)
    else time.value = t
  }

  function pause() {
    playing.value = false
    cancelAnimationFrame(frame)
    audio?.pause()
  }

  const toggle = () => playing.value ? pause() : void play()

  watch(speed, (value) => { if (audio) audio.playbackRate = value })

  function editStep(id: string, label: string, edit: (step: Step) => void) {
    if (!question.value || !ledger.value) return
    const copy = JSON.parse(JSON.stringify(ledger.value)) as Ledger
    const found = copy.steps.find(s => s.id === id)
    if (!found) return
    edit(found)
    store.setLedger(question.value.id, label, copy)
  }

  function toStep(by: number) {
    const next = ledger.value?.steps[step.value + by]
    if (next) seek(next.t)
  }

  /** Puts another take of the question in use, with steps as it was recorded. */
  async function useTake(other: Take) {
    if (!question.value) return
    store.setLedger(question.value.id, 'use another take', ledgerOf(other.id, await logOf(other.id), other.durationMs))
    await open(store.questions.find(q => q.id === question.value?.id) ?? null)
  }

  const otherTakes = computed(() => store.takes.filter(t => t.questionId === question.value?.id && t.state !== 'recording').sort((a, b) => a.startedAt.localeCompare(b.startedAt)))
  const nothingLeft = computed(() => ledger.value !== null && keptOf(ledger.value, duration.value).length === 0)

  return { SPEEDS, question, take, peaks, time, playing, speed, ready, ledger, duration, cut, step, otherTakes, nothingLeft, logOf, laidLog, open, close, boardAt, seek, play, pause, toggle, toStep, editStep, useTake }
})
