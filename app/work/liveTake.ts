import { ledgerFor, newSteps, withPortrait } from '#core/cut'
import {
  newId,
  Trouble,
  type ClipPlace,
  type Frame,
  type Ledger,
  type Portrait,
  type Question,
  type Take,
} from '#core/folio'
import { clockTime, type WholeTake } from '#core/publish'
import { SoundWatch } from '#core/sound'
import {
  bringsInk,
  Breaks,
  CameraWatch,
  keyPictureSize,
  kindOf,
  logDuration,
  restOf,
  storable,
  pictureGaps,
  TakeDesk,
  TakeRecorder,
  type CodedPicture,
  type Desk,
  type Picture,
  type TakeEvent,
  type TakeSink,
} from '#core/recording'
import { acquire, takeLock } from '../data/locks'
import { cameraPictures, putTake, removeTake, soundChunks, takeSink } from '../data/takes'
import { settleTake } from './settle'
import { soundRunner, trackRunner } from './workers'

/** A take as it lies on the pages now. */
export interface LaidTake {
  take: Take
  events: readonly TakeEvent[]
  first: Frame
}

/** A stretch of the sound of a take that is heard while it is written over, take ms. */
export interface HeardStretch {
  takeId: string
  from: number
  to: number
}

/**
 * What a take begins with. `anew`: a retake goes on after the first `t` ms of another take. `voice`: its ink plays, and
 * is talked over. `ink`: its sound plays, and is written over. With `only`, all of that is for one step, by its id:
 * `of` is then the board before it (for its voice, its ink by itself), and `heard` what is written over; `after`: what is
 * recorded comes after that step, as one of its own. `practice`:
 * nothing of it is kept. `clip`: the teacher alone, of a question or of the whole folio.
 */
export type TakePlan =
  | { kind: 'plain' }
  | { kind: 'anew'; of: LaidTake; t: number; only?: string; after?: boolean }
  | { kind: 'voice'; of: LaidTake; ledger: Ledger; only?: string }
  | { kind: 'ink'; of: LaidTake; ledger: Ledger; only?: string; t?: number; heard?: HeardStretch }
  | { kind: 'practice' }
  | { kind: 'clip'; place: ClipPlace }

/** A take that was put together. */
export interface FinishedTake {
  take: Take
  /** Whether anything was written in it that stays. */
  brought: boolean
  /** It was made from the take in use. */
  overWritten: boolean
  /** The ledger of its question with it, as that question is when it is asked; null for a clip. */
  ledgerFor(question: Question | undefined): Ledger | null
}

/** How often what was recorded is written to disk, ms. */
const FLUSH_MS = 250
const NOWHERE: TakeSink = { journal: async () => {}, sound: async () => {}, pictures: async () => {} }
const clock = () => performance.now()
/** A desk that nothing stores: where the pen is tried and held lines are rehearsed. */
export function newRehearsal(): Desk {
  const made = new TakeRecorder(NOWHERE)
  made.start(clock())
  return new TakeDesk(made, clock)
}

/** A clip has no page: its frame is the camera's picture. */
export const CLIP_FRAME: Frame = { pageId: 'camera', box: { x: 0, y: 0, w: 16, h: 9 } }

/** One take while it is recorded: its log, what is known of it, and the watch over its sound. */
export class LiveTake {
  readonly recorder: TakeRecorder
  /** What the hand works on while it runs. */
  readonly desk: Desk
  /** Null until the take runs. */
  watch: SoundWatch | null = null
  breaks: Breaks | null = null
  camera: CameraWatch | null = null
  private take: Take | null = null
  private unlock: (() => void) | null = null
  private flushed = 0
  /** Whether any sound came. */
  private heard = false
  private readonly id = newId()

  /** @param question null for a clip of the whole folio; @param portrait how the camera's picture will be shown */
  constructor(
    readonly question: Question | null,
    private readonly frame: Frame,
    readonly plan: TakePlan,
    private readonly portrait?: Portrait,
  ) {
    this.recorder = new TakeRecorder(
      plan.kind === 'practice' ? NOWHERE : takeSink(this.id),
      copyOf(this.first),
      beforeOf(plan),
    )
    this.desk = new TakeDesk(this.recorder, clock)
  }

  private get first(): Frame {
    const { plan } = this
    return plan.kind === 'anew' || plan.kind === 'voice' || (plan.kind === 'ink' && plan.only)
      ? plan.of.first
      : this.frame
  }
  /** The take whose sound is its beginning, or all of it. */
  private get after(): Take['after'] {
    if (this.plan.kind === 'anew') return { takeId: this.plan.of.take.id, t: this.plan.t }
    if (this.plan.kind !== 'ink') return undefined
    return { takeId: this.plan.of.take.id, t: this.plan.t ?? this.plan.of.take.durationMs }
  }
  /** The step that it is recorded for, where it is for one alone. */
  private get step(): Take['step'] {
    const { plan } = this
    if ((plan.kind !== 'anew' && plan.kind !== 'voice' && plan.kind !== 'ink') || !plan.only) return undefined
    return { id: plan.only, as: plan.kind === 'anew' && plan.after ? 'after' : plan.kind }
  }

  /** Stores what is known of the take, and starts its clock. */
  async begin(folioId: string, microphone: string, pen: string): Promise<void> {
    const { after } = this
    this.take = {
      id: this.id,
      folioId,
      questionId: this.question?.id ?? folioId,
      startedAt: new Date().toISOString(),
      durationMs: 0,
      state: 'recording',
      frame: this.first,
      microphone,
      pen,
      gaps: [],
      ...(after ? { after } : {}),
      ...(this.step ? { step: this.step } : {}),
      ...(this.plan.kind === 'clip' ? { clip: this.plan.place } : {}),
    }
    if (this.plan.kind !== 'practice') {
      this.unlock = await acquire(takeLock(this.id))
      await putTake(copyOf(this.take))
    }
    const now = performance.now()
    this.recorder.start(now)
    this.watch = new SoundWatch(now)
    this.breaks = new Breaks(now)
    this.cameraOn()
  }

  /** Takes in a coded picture of the camera. @param at machine time, ms; its `light` is 0…255 */
  picture(picture: CodedPicture & { light: number }, at: number): void {
    this.camera?.push(picture.light, performance.now())
    this.recorder.picture(picture, at)
  }

  /** Pictures of the camera are about to come. */
  cameraOn(): void {
    this.camera = new CameraWatch(performance.now())
  }

  /** Takes in captured sound. @param at machine time of its first sample, ms */
  sound(pcm: Int16Array, rate: number, at: number): void {
    const now = performance.now()
    this.heard ||= pcm.length > 0
    this.recorder.sound(pcm, rate, at)
    if (!this.recorder.paused) this.watch?.push(pcm, rate, at, now)
    // A tab in the background has slow timers, but sound goes on coming.
    if (now - this.flushed > FLUSH_MS) this.flush()
  }

  flush(): void {
    this.flushed = performance.now()
    void this.recorder.flush()
  }

  /**
   * Ends the take and puts it together. @returns it, with what becomes of its question; null where there is nothing in it
   * @throws Trouble `storage-full`; it can be tried again then
   */
  async finish(): Promise<FinishedTake | null> {
    if (this.isEmpty) {
      await this.recorder.stop(performance.now())
      await removeTake(this.id)
      return null
    }
    // What was written over only as far as here goes on as it was.
    if (this.plan.kind === 'ink' && !this.step)
      this.recorder.goOnAs(restOf(this.plan.of.events, this.recorder.time(performance.now())))
    const stopped = await this.recorder.stop(performance.now())
    const left = this.recorder.unsaved
    if (left.entries || left.chunks || left.pictures)
      throw new Trouble(
        'storage-full',
        'The end of the take could not be stored.',
        'It is kept in this tab as long as it stays open.',
        'Make room (remove videos or old folios), then press Store it.',
      )
    const take = await settleTake({ ...this.take!, durationMs: this.lengthOf(stopped), state: 'whole' })
    const { plan, portrait } = this
    const events = this.recorder.events
    return {
      take,
      brought: bringsInk(events, plan.kind === 'anew' || plan.kind === 'ink' ? plan.of.events : []),
      overWritten: plan.kind !== 'plain',
      ledgerFor: question => {
        if (plan.kind === 'clip') return null
        if ((plan.kind === 'voice' || plan.kind === 'ink') && !plan.only) {
          // What was done to its steps meanwhile is done to these.
          const now = [question?.ledger, plan.ledger].find(l => l?.takeId === plan.ledger.takeId)!
          return withPortrait(newSteps(now, take, plan.kind === 'voice'), take, portrait)
        }
        const ledger = ledgerFor(take, events, question)
        return this.step ? ledger : withPortrait(ledger, take, portrait)
      },
    }
  }

  /** Ink that was talked over stays whole, also where the talk was shorter; for one step, it goes by in that time. */
  private lengthOf(stopped: number): number {
    const { plan } = this
    if (this.step) return stopped
    if (plan.kind === 'voice') return Math.max(stopped, logDuration(this.recorder.events))
    return plan.kind === 'ink' ? Math.max(stopped, plan.of.take.durationMs) : stopped
  }

  /** Whether ink was talked over without a sound, or sound written over without ink: there is nothing to put in use. */
  private get isEmpty(): boolean {
    if (this.plan.kind === 'voice') return !this.heard
    if (this.plan.kind !== 'ink') return false
    const { t = -1 } = this.plan
    return this.recorder.events.every(e => e.t <= t || kindOf(e).lifetime === 'control')
  }
  /** When the ink ends that is talked over, take ms; 0 in any other take. */
  get inkEnds(): number {
    return this.plan.kind === 'voice' ? logDuration(this.plan.of.events) : 0
  }

  /** What there is of the take now, wherever it is kept: for a file of its own while nothing can be stored. */
  async rescue(): Promise<WholeTake> {
    const durationMs = this.recorder.time(performance.now())
    const chunks: { t0: number; rate: number; pcm: Int16Array }[] = []
    for await (const rows of soundChunks(this.id))
      chunks.push(...rows.map(r => ({ t0: r.t0, rate: r.rate, pcm: new Int16Array(r.pcm) })))
    chunks.push(...this.recorder.waitingSound)
    const pictures: Picture[] = []
    for await (const some of cameraPictures(this.id)) pictures.push(...some)
    pictures.push(...this.recorder.waitingPictures)
    const camera = pictures.length ? ((await trackRunner().run('memory', { durationMs, pictures })) as Blob) : null
    const sound = chunks.length ? ((await soundRunner().run('wav', { durationMs, chunks })) as Blob) : null
    const size = pictures[0] && keyPictureSize(pictures[0].data)
    const known = size
      ? {
          camera: {
            ...size,
            gaps: pictureGaps(
              pictures.map(p => p.t),
              durationMs,
            ),
          },
        }
      : {}
    return {
      take: { ...this.take!, durationMs, state: 'recovered', ...known },
      events: copyOf([...this.recorder.events]),
      sound,
      camera,
    }
  }

  /** What a practice was, in a sentence. */
  practised(): string {
    const many = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`
    const back = this.recorder.events.filter(e => e.type === 'back').length
    return `You practised for ${clockTime(this.recorder.time(performance.now()))}: ${many(this.recorder.stepStarts.length, 'step', 'steps')}, gone back ${many(back, 'time', 'times')}, ${many(this.watch?.drops.length ?? 0, 'loss', 'losses')} of sound. Nothing of it was kept.`
  }

  /** Lets go of a take that was given up before anything was recorded, and of what was stored of it. */
  async discard(): Promise<void> {
    if (this.take && this.plan.kind !== 'practice') await removeTake(this.id).catch(() => {})
    this.release()
  }

  release(): void {
    this.unlock?.()
    this.unlock = null
  }
}

function beforeOf(plan: TakePlan): { events: TakeEvent[]; t: number; sealed?: boolean } | undefined {
  const t = plan.kind === 'anew' || plan.kind === 'ink' ? plan.t : undefined
  if ((plan.kind === 'anew' || plan.kind === 'ink') && t !== undefined)
    return { events: storable(plan.of.events.filter(e => e.t <= t)), t }
  if (plan.kind === 'clip') return { events: [], t: 0, sealed: true }
  return plan.kind === 'voice' ? { events: storable(plan.of.events), t: 0, sealed: true } : undefined
}

const copyOf = <T>(value: T) => JSON.parse(JSON.stringify(value)) as T
