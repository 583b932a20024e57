import { ledgerOfTake, newSteps, withPortrait, withStepAnew } from '#core/cut'
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
  Breaks,
  CameraWatch,
  keyPictureSize,
  logDuration,
  restOf,
  pictureGaps,
  TakeDesk,
  TakeRecorder,
  type CodedPicture,
  type Desk,
  type Picture,
  type TakeEvent,
  type TakeSink,
} from '#core/take'
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

/**
 * What a take begins with. `anew`: a retake goes on after the first `t` ms of another take, or takes the place of `only`
 * one step of it. `voice`: its ink plays, and
 * is talked over. `ink`: its
 * sound plays, and is written over. `practice`: nothing of it is kept. `clip`: the teacher alone, of a question or of
 * the whole folio.
 */
export type TakePlan =
  | { kind: 'plain' }
  | { kind: 'anew'; of: LaidTake; t: number; only?: string }
  | { kind: 'voice' | 'ink'; of: LaidTake; ledger: Ledger }
  | { kind: 'practice' }
  | { kind: 'clip'; place: ClipPlace }

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
    return this.plan.kind === 'anew' || this.plan.kind === 'voice' ? this.plan.of.first : this.frame
  }
  /** The take whose sound is its beginning, or all of it. */
  private get after(): Take['after'] {
    if (this.plan.kind === 'anew') return { takeId: this.plan.of.take.id, t: this.plan.t }
    return this.plan.kind === 'ink' ? { takeId: this.plan.of.take.id, t: this.plan.of.take.durationMs } : undefined
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
   * Ends the take and puts it together. @returns it, with its ledger; a clip has none
   * @throws Trouble `storage-full`; it can be tried again then
   */
  async finish(): Promise<{ take: Take; ledger: Ledger | null } | null> {
    if (this.isEmpty) {
      await this.recorder.stop(performance.now())
      await removeTake(this.id)
      return null
    }
    // What was written over only as far as here goes on as it was.
    if (this.plan.kind === 'ink')
      this.recorder.goOnAs(restOf(this.plan.of.events, this.recorder.time(performance.now())))
    const stopped = await this.recorder.stop(performance.now())
    const left = this.recorder.unsaved
    if (left.entries || left.chunks || left.pictures)
      throw new Trouble(
        'storage-full',
        'The end of the take could not be stored.',
        'It is kept in this tab as long as it stays open.',
        'Make room (remove videos or old folios), then press Stop again.',
      )
    // Ink that was talked over stays whole, also where the talk was shorter.
    const durationMs =
      this.plan.kind === 'voice'
        ? Math.max(stopped, logDuration(this.recorder.events))
        : this.plan.kind === 'ink'
          ? Math.max(stopped, this.plan.of.take.durationMs)
          : stopped
    const take = await settleTake({ ...this.take!, durationMs, state: 'whole' })
    if (this.plan.kind === 'clip') return { take, ledger: null }
    const { plan } = this
    if (plan.kind === 'anew' && plan.only && this.question?.ledger)
      return {
        take,
        ledger: withStepAnew(this.question.ledger, plan.only, { takeId: take.id, from: plan.t, to: durationMs }),
      }
    const ledger =
      this.plan.kind === 'voice' || this.plan.kind === 'ink'
        ? newSteps(this.plan.ledger, take)
        : ledgerOfTake(take, this.recorder.events, this.question ?? undefined)
    return { take, ledger: withPortrait(ledger, take, this.portrait) }
  }

  /** Whether ink was talked over without a sound, or sound written over without ink: there is nothing to put in use. */
  private get isEmpty(): boolean {
    if (this.plan.kind === 'voice') return !this.heard
    return this.plan.kind === 'ink' && this.recorder.events.every(e => ['frame', 'pause', 'step'].includes(e.type))
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
  if (plan.kind === 'anew') return { events: copyOf(plan.of.events.filter(e => e.t <= plan.t)), t: plan.t }
  if (plan.kind === 'clip') return { events: [], t: 0, sealed: true }
  return plan.kind === 'voice' ? { events: copyOf([...plan.of.events]), t: 0, sealed: true } : undefined
}

const copyOf = <T>(value: T) => JSON.parse(JSON.stringify(value)) as T
