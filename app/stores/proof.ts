import {
  heardIn,
  inOrder,
  ledgerOfTake,
  mendsIn,
  putInUse,
  stepName,
  stretchOf,
  takesIn,
  withReadableVersions,
} from '#core/cut'
import { editionOf, layLog, type Edition } from '#core/edition'
import { namerOf, parterOf, stepStart } from '#core/edition/proofing'
import {
  changed,
  type Frame,
  type Ledger,
  type Portrait,
  type Question,
  type Step,
  type StepTake,
  type Take,
} from '#core/folio'
import { dateAndTime, fileName } from '#core/publish'
import { isSoundless, speechOf } from '#core/sound'
import type { Board, Stretch, TakeEvent } from '#core/recording'
import { Lately } from '../data/lately'
import { loadCamera, readLog } from '../data/takes'
import { EditionPlayer } from '../work/editionPlayer'
import { drawnSoundsOf, soundsIn, sourceOf } from '../work/editionSource'
import { handOver } from '../work/folioFile'
import type { TakePlan } from '../work/liveTake'
import { pictureOfMoment } from '../work/still'

/** Speeds of playing offered to the teacher. */
const SPEEDS: number[] = [0.5, 0.75, 1, 1.25, 1.5, 2, 3]

/** What a take of one step begins with. */
type StepPlan = Extract<TakePlan, { of: unknown }>

/** A moment of a take: where the edition is made from. */
export interface Moment {
  take: string
  /** take ms */
  t: number
}

/**
 * Playing a question as students get it: its edition, from 0 to its end. Times are lesson ms, but for what is looked at
 * where it is out of the edition.
 */
export const useProof = defineStore('proof', () => {
  const store = useFolio()
  const notices = useNotices()
  const question = shallowRef<Question | null>(null)
  const take = shallowRef<Take | null>(null)
  /** Drawn sound, by take. */
  const peaksOf = shallowRef<Readonly<Record<string, Uint8Array>>>({})
  /** The camera's tracks, by take. */
  const cameras = shallowRef<Readonly<Record<string, Blob>>>({})
  const time = ref(0)
  /** A moment that is looked at where it is out of the edition. */
  const aside = shallowRef<Moment | null>(null)
  const playing = ref(false)
  const speed = ref<number>(1)
  const ready = ref(false)
  /** The logs of the takes it is made from, as they were recorded. */
  const logs = shallowRef<Readonly<Record<string, TakeEvent[]>>>({})
  let player: EditionPlayer | null = null
  let frame = 0
  const known = new Lately<Promise<TakeEvent[]>>(8)

  const ledger = computed<Ledger | null>(() => store.questions.find(q => q.id === question.value?.id)?.ledger ?? null)
  /** Length of the take, ms. */
  const takeDuration = computed(() => take.value?.durationMs ?? 0)
  const peaks = computed(() => peaksOf.value[take.value?.id ?? ''] ?? new Uint8Array())
  /** Where somebody speaks in the take, take ms. */
  const speech = computed(() => speechOf(peaks.value))
  /** What the question looks and sounds like now. */
  const edition = shallowRef<Edition | null>(null)
  const duration = computed(() => edition.value?.duration ?? 0)
  /** Whether nothing is heard in it. */
  const soundless = computed(
    () => edition.value !== null && ready.value && isSoundless(edition.value.soundPlan(), peaksOf.value),
  )
  /** The rows of the ledger, in the order of the edition. */
  const rows = computed(() =>
    ledger.value
      ? inOrder(ledger.value).map(step => {
          const index = ledger.value!.steps.indexOf(step)
          const own = { takeId: ledger.value!.takeId, ...stretchOf(ledger.value!, index, takeDuration.value) }
          const { takeId, from, to } = heardIn(step, own)
          return { step, index, take: takeId, stretch: { from, to } }
        })
      : [],
  )
  /** The moment of a take that is heard, or shown in silence. */
  const moment = computed<Moment>(
    () => aside.value ?? edition.value?.time.momentAt(time.value) ?? { take: take.value?.id ?? '', t: 0 },
  )
  /** The row that is shown. */
  const row = computed(() => {
    const { take: of, t } = moment.value
    if (aside.value)
      return Math.max(
        0,
        rows.value.findIndex(r => r.take === of && t >= r.stretch.from && t < r.stretch.to),
      )
    const steps = edition.value?.time.steps ?? []
    return (steps.findLast(s => s.from <= time.value) ?? steps[0])?.place ?? 0
  })
  /** While the student is to try: the suggested time, and the seconds that are left of holding still. */
  const holding = computed(() => {
    const turn = aside.value ? null : (edition.value?.time.turnAt(time.value) ?? null)
    return turn && playing.value ? { seconds: turn.turn.seconds, left: turn.turn.hold * (1 - turn.share) } : null
  })

  /** The settled log of a take; read once. */
  function logOf(takeId: string): Promise<TakeEvent[]> {
    let log = known.get(takeId)
    if (!log) {
      log = readLog(takeId)
      known.set(takeId, log)
      log.catch(() => known.delete(takeId))
    }
    return log
  }

  /** A take's log as it lies on the folio's pages now. */
  async function laidLog(of: Take) {
    return layLog(of, await logOf(of.id), store.folio?.pages ?? [])
  }

  /** What a take would look and sound like with these steps. */
  async function editionOfTake(of: Take, steps: Ledger): Promise<Edition> {
    const asked = store.questions.find(q => q.id === of.questionId) ?? { parts: [] }
    return editionOf(await sourceOf(of, asked, steps, store.takes, store.folio?.pages ?? [], logOf))
  }

  /** The ledger of a take of a question: in use, laid aside, or as it was recorded. */
  async function ledgerOf(of: Question, other: Take): Promise<Ledger> {
    return (
      [of.ledger, ...of.shelved].find(l => l?.takeId === other.id) ?? ledgerOfTake(other, await logOf(other.id), of)
    )
  }

  /**
   * A take of a question beside others: its edition, and what plays it; who asked closes that.
   * @param alone a ledger that shows a part of it only
   */
  async function comparable(of: Question, other: Take, alone?: Ledger) {
    const steps = alone ?? (await ledgerOf(of, other))
    const [made, sounds] = await Promise.all([editionOfTake(other, steps), drawnSoundsOf(steps)])
    const player = new EditionPlayer(soundsIn(sounds))
    player.load(made.soundPlan(), made.duration)
    const drawn = Object.fromEntries(Object.entries(sounds).map(([id, { peaks }]) => [id, peaks]))
    return { edition: made, player, soundless: isSoundless(made.soundPlan(), drawn) }
  }

  /**
   * Tells which mends are of what is about to be recorded anew: the new ink has none of them.
   * @param stretch of the ledger's take
   */
  async function tellMends(of: Take, steps: Ledger, stretch: Stretch) {
    const gone = mendsIn(steps, await logOf(of.id), stretch)
    if (!gone.length) return
    const names = [...new Set(gone.map(m => m.name).filter(Boolean))].join(', ')
    notices.say(
      `${gone.length === 1 ? 'One correction' : `${gone.length} corrections`}${names ? ` (${names})` : ''} of what you record anew will not be in it. They stay with what was recorded first.`,
    )
  }
  /** Before a take goes on from a moment of another one. */
  const tellMendsFrom = (of: Take, asked: Question, t: number) =>
    asked.ledger ? tellMends(of, asked.ledger, { from: t, to: Infinity }) : undefined

  /** What a take of one step begins with; null where there is nothing to begin from. */
  async function planForStep(of: Take, asked: Question, stepId: string, as: StepTake): Promise<StepPlan | null> {
    const ledger = asked.ledger
    const index = ledger?.steps.findIndex(s => s.id === stepId) ?? -1
    if (!ledger || index < 0) return null
    if (as === 'anew' || as === 'ink') await tellMends(of, ledger, stretchOf(ledger, index, of.durationMs))
    const begun = stepStart(await sourceOf(of, asked, ledger, store.takes, store.folio?.pages ?? [], logOf), stepId, as)
    if (!begun) return null
    const { t, heard, events, first } = begun
    const laid = { take: of, events, first }
    if (as === 'voice') return { kind: as, of: laid, ledger, only: stepId }
    if (as === 'ink') return { kind: as, of: laid, ledger, t: t!, only: stepId, heard: heard! }
    return { kind: 'anew', of: laid, t: t!, only: stepId, ...(as === 'after' ? { after: true } : {}) }
  }

  /** Opens a question's edition for playing. */
  async function open(next: Question | null) {
    close()
    question.value = next
    const found = store.takes.find(t => t.id === next?.ledger?.takeId) ?? null
    if (!next || !found) return
    try {
      await readTakes(found)
      if (question.value !== next) return
      take.value = found
      compile()
      ready.value = edition.value !== null
      time.value = 0
    } catch (error) {
      notices.tell(error, 'opening the take')
      if (await offerReadable(next)) await open(store.questions.find(q => q.id === next.id) ?? null)
    }
  }

  /**
   * Where the log of a take cannot be read, what can be of the question is offered; what cannot stays as it is.
   * @returns whether she took it
   */
  async function offerReadable(of: Question): Promise<boolean> {
    const ledger = of.ledger!
    const isRead = (id: string) =>
      logOf(id).then(
        () => store.takes.some(t => t.id === id),
        () => false,
      )
    const unreadable = new Set<string>()
    for (const id of takesIn(ledger)) if (!(await isRead(id))) unreadable.add(id)
    if (!unreadable.size || store.readOnly) return false
    if (!unreadable.has(ledger.takeId)) {
      const steps = ledger.steps.flatMap((s, i) =>
        [s.anew, s.voice].some(x => x && unreadable.has(x.takeId)) ? [stepName(s, i)] : [],
      )
      const text = `What was recorded once more of ${steps.join(', ')} cannot be read. It stays where it is; an earlier version can be shown instead.`
      if ((await notices.ask('A version cannot be read', text, 'Show the last one that can')) === null) return false
      store.setLedger(of.id, 'show a version that can be read', withReadableVersions(ledger, unreadable))
      return true
    }
    for (const other of store.takesOf(of.id).toReversed()) {
      if (unreadable.has(other.id) || !(await isRead(other.id))) continue
      const text = `The take in use cannot be read. It stays where it is; the take of ${dateAndTime(other.startedAt)} can be used instead.`
      if ((await notices.ask('This take cannot be read', text, 'Use that one')) === null) return false
      await putTakeInUse(of, other)
      return true
    }
    return false
  }

  /** Reads all takes that the ledger is about. */
  async function readTakes(of: Take) {
    const next = question.value
    const steps = store.questions.find(q => q.id === next?.id)?.ledger
    if (!steps) return
    const source = await sourceOf(of, { parts: [] }, steps, store.takes, [], logOf)
    const read = Object.fromEntries([
      [of.id, source.events] as const,
      ...Object.entries(source.others ?? {}).map(([id, o]) => [id, o.events] as const),
    ]) as Record<string, TakeEvent[]>
    const [sounds, tracks] = await Promise.all([
      drawnSoundsOf(steps),
      Promise.all(Object.keys(read).map(async id => [id, await loadCamera(id)] as const)),
    ])
    if (question.value !== next) return
    logs.value = read
    peaksOf.value = Object.fromEntries(Object.keys(read).map(id => [id, sounds[id]?.peaks ?? new Uint8Array()]))
    cameras.value = Object.fromEntries(tracks.flatMap(([id, track]) => (track ? [[id, track]] : [])))
    player?.close()
    player = new EditionPlayer(soundsIn(sounds))
  }

  /** The edition that a ledger of the take in use makes; null while what it needs has not been read. */
  function editionWith(steps: Ledger): Edition | null {
    const { value: of } = take
    const events = logs.value[of?.id ?? '']
    if (!of || !events) return null
    const others = Object.fromEntries(
      store.takes.flatMap(t =>
        t.id !== of.id && logs.value[t.id] ? [[t.id, { take: t, events: logs.value[t.id]! }]] : [],
      ),
    )
    const asked = store.questions.find(q => q.id === question.value?.id) ?? { parts: [] }
    const pages = store.folio?.pages ?? []
    return editionOf(
      { take: of, events, ledger: steps, pages, others, namer: namerOf(asked), parter: parterOf(asked) },
      edition.value ?? undefined,
    )
  }

  /** Puts the edition together anew; what is playing goes on from the same moment of its take. */
  function compile() {
    const now = ledger.value && editionWith(ledger.value)
    if (!now) return
    const before = edition.value && { ...moment.value }
    edition.value = now
    player?.load(now.soundPlan(), now.duration)
    // What is looked at where it is out stays there as long as it is out.
    if (aside.value && !now.time.holds(aside.value.t, aside.value.take)) return
    if (before) goTo(before, true)
  }
  watch(
    [ledger, () => store.folio?.pages],
    () => {
      const { value: of } = take
      if (!of || ledger.value?.takeId !== of.id) return
      if (takesIn(ledger.value).every(id => logs.value[id])) return compile()
      readTakes(of)
        .then(compile)
        .catch((error: unknown) => notices.tell(error, 'putting the question together'))
    },
    // What is mended is on the board at once.
    { flush: 'sync' },
  )

  function close() {
    pause()
    player?.close()
    player = null
    take.value = null
    edition.value = null
    aside.value = null
    ready.value = false
    time.value = 0
    logs.value = {}
    cameras.value = {}
    peaksOf.value = {}
  }

  /** The take that is shown, and the moment of it, whatever is heard. */
  const seen = computed<Moment>(
    () =>
      aside.value ?? {
        take: edition.value?.time.pieceAt(time.value)?.take ?? '',
        t: edition.value?.time.toTake(time.value) ?? 0,
      },
  )
  /** The camera's track that is shown; null where there is none. */
  const camera = computed(() => cameras.value[seen.value.take] ?? null)
  /** Whether the camera was on in any of the takes. */
  const filmed = computed(() => Object.keys(cameras.value).length > 0)

  /** Where the camera's picture stands at the moment shown, in shares of the frame; null where there is none. */
  function portraitNow() {
    const none = holding.value || aside.value || !camera.value
    const box = none ? null : edition.value?.portraitAt(time.value, { x: 0, y: 0, w: 16, h: 9 })
    return box ? { x: box.x / 16, y: box.y / 9, w: box.w / 16, h: box.h / 9 } : null
  }

  /** Shows the camera's picture otherwise; null hides it. */
  function setPortrait(portrait: Portrait | null) {
    changeLedger(portrait ? 'place your picture' : 'hide your picture', copy => {
      if (portrait) copy.portrait = portrait
      else delete copy.portrait
    })
  }

  /** The board at the moment shown: where it is out of the edition as it was in the take, else as students see it. */
  const board = computed<Board>(
    () =>
      (aside.value ? edition.value?.boardInTake(aside.value.t) : edition.value?.boardAt(time.value)) ?? {
        t: 0,
        strokes: [],
        things: [],
      },
  )

  /** Goes to a lesson time. */
  function seek(t: number) {
    aside.value = null
    time.value = Math.max(0, Math.min(duration.value, t))
    if (playing.value) void start()
  }

  /** Goes to a moment of a take; where it is out of the edition, that is looked at. @param quietly what plays goes on */
  function goTo(to: Moment, quietly = false) {
    const map = edition.value?.time
    if (!map) return
    if (map.holds(to.t, to.take)) {
      aside.value = null
      time.value = map.fromTake(to.t, to.take)
    } else if (quietly || to.take !== take.value?.id) {
      aside.value = null
      time.value = Math.min(map.fromTake(to.t, to.take), duration.value)
    } else {
      pause()
      aside.value = to
    }
    if (playing.value) void start()
  }

  async function play() {
    if (!ready.value || !edition.value || playing.value || edition.value.empty) return
    if (aside.value) seek(edition.value.time.fromTake(aside.value.t))
    if (time.value >= duration.value - 50) time.value = 0
    playing.value = true
    await start()
  }

  /** Lets the player begin at the moment shown. */
  async function start() {
    try {
      await player?.play(time.value, speed.value)
    } catch (error) {
      playing.value = false
      return notices.tell(error, 'playing the sound')
    }
    cancelAnimationFrame(frame)
    const run = () => {
      if (!playing.value) return
      if (player?.playing) time.value = player.time
      if (time.value >= duration.value) return pause()
      frame = requestAnimationFrame(run)
    }
    frame = requestAnimationFrame(run)
  }

  function pause() {
    playing.value = false
    cancelAnimationFrame(frame)
    player?.pause()
  }

  const toggle = () => (playing.value ? pause() : void play())

  watch(speed, () => {
    if (playing.value) void start()
  })

  /** Goes to the next place at which the edition leaps, or the one before. */
  function toJoint(by: 1 | -1) {
    const joints = edition.value?.time.joints() ?? []
    const next = by > 0 ? joints.find(t => t > time.value + 1) : joints.findLast(t => t < time.value - 1)
    if (next !== undefined) seek(next)
  }

  /** Plays across the nearest joint: from two seconds before it. */
  function playJoint() {
    const joints = edition.value?.time.joints() ?? []
    const near = joints.reduce((a, b) => (Math.abs(b - time.value) < Math.abs(a - time.value) ? b : a), joints[0] ?? -1)
    if (near < 0) return
    seek(near - 2000)
    void play()
  }

  function changeLedger(label: string, edit: (ledger: Ledger) => void) {
    if (!question.value || !ledger.value) return
    store.setLedger(question.value.id, label, changed(ledger.value, edit))
  }

  function editStep(id: string, label: string, edit: (step: Step) => void) {
    if (ledger.value?.steps.some(s => s.id === id))
      changeLedger(label, copy => edit(copy.steps.find(s => s.id === id)!))
  }

  /** Goes up or down by rows of the ledger. */
  function toRow(by: number) {
    const next = rows.value[row.value + by]
    if (next) showRow(row.value + by)
  }
  /** Goes to where a row begins. @param place in the order of the edition */
  function showRow(place: number) {
    const shown = edition.value?.time.steps.find(s => s.place === place)
    const of = rows.value[place]
    if (shown) seek(shown.from)
    else if (of) goTo({ take: of.take, t: of.stretch.from })
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
    try {
      handOver(
        await pictureOfMoment(store.folio, frame, board.value, 1280),
        `${fileName(`${of.number}-${of.title}`)}-${Math.round(time.value)}ms.png`,
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
    peaksOf,
    speech,
    logs,
    time,
    aside,
    moment,
    seen,
    playing,
    speed,
    ready,
    ledger,
    rows,
    row,
    duration,
    soundless,
    takeDuration,
    edition,
    editionWith,
    otherTakes,
    laidLog,
    editionOfTake,
    comparable,
    planForStep,
    tellMendsFrom,
    open,
    close,
    board,
    camera,
    filmed,
    portraitNow,
    setPortrait,
    seek,
    goTo,
    play,
    pause,
    toggle,
    toRow,
    showRow,
    toJoint,
    playJoint,
    changeLedger,
    editStep,
    savePicture,
    holding,
    putTakeInUse,
    useTake,
  }
})
