import type { InkTool, Stroke } from '../ink/stroke'
import { quantise } from '../ink/quantise'
import type { PenRole } from '../ink/roles'
import { asTrouble, type Trouble } from '../folio/trouble'
import { newId, type Frame } from '../folio/model'
import type { Thing } from '../folio/thing'
import type { Matrix } from '../ink/alter'
import { BoardIndex } from './board'
import { TakeClock } from './clock'
import { endOf, kindOf, type EphemeralDraft, type StrokeEvent, type TakeEvent } from './events'
import type { JournalEntry } from './journal'
import { History } from './history'
import { PictureTrack, type CodedPicture, type Picture } from './pictures'
import { SoundTimeline, type SoundChunk } from './soundTimeline'

/** Going back again this soon after it was done takes the step before, too, ms of the take. */
const AGAIN_MS = 2500

type TrailEvent = Extract<TakeEvent, { type: 'trail' }>

/** Where a take is made durable. A promise that resolves means: on disk. */
export interface TakeSink {
  journal(seq: number, entries: JournalEntry[]): Promise<void>
  sound(chunks: SoundChunk[]): Promise<void>
  pictures(seq: number, pictures: Picture[]): Promise<void>
}

/** One sample of a pen, in page points; `now` is the machine's monotonic time in ms. */
export interface PenSample {
  x: number
  y: number
  pressure: number
  now: number
}

/**
 * Records one take: puts pen and sound on the take's clock once, at the edge, and writes a journal that loses at most
 * what has not been flushed. Nothing here knows the browser: time, samples and storage are handed in.
 */
export class TakeRecorder {
  readonly board: BoardIndex
  readonly events: TakeEvent[] = []
  /** Called when storing fails; the pieces are kept and tried again at the next flush. */
  onTrouble: (trouble: Trouble) => void = () => {}

  /** Called when all that waited has been stored. */
  onStored: () => void = () => {}

  private readonly clock: TakeClock
  private readonly history = new History()
  private pendingJournal: JournalEntry[] = []
  private pendingSound: SoundChunk[] = []
  private pendingPictures: Picture[] = []
  private journalSeq = 0
  private picturesSeq = 0
  private readonly timeline = new SoundTimeline()
  private readonly track: PictureTrack
  private writing: { stroke: StrokeEvent | TrailEvent; last: PenSample } | null = null
  private haltedAt = 0
  private ends = 0
  /** Where the steps so far begin, take ms; what was taken back is not among them. */
  private starts = [0]
  /** What was taken back, take ms, ascending. */
  private gone: { from: number; to: number }[] = []
  /** The latest step mark or going back, and whether the last boundary was a going back. */
  private boundary = { t: 0, back: false }
  private flushing: Promise<void> = Promise.resolve()

  /**
   * @param first the frame in which the take begins
   * @param before a retake goes on after these events of another take, at `t` ms: its board stands as it stood there.
   * With `sealed` they are
   * all there is, also those that are still to come: only sound is recorded
   */
  constructor(
    private readonly sink: TakeSink,
    first?: Frame,
    private readonly before: { events: readonly TakeEvent[]; t: number; sealed?: boolean } = { events: [], t: 0 },
  ) {
    this.board = new BoardIndex([], first)
    this.clock = new TakeClock(before.t)
    this.track = new PictureTrack(this.clock)
    for (const event of before.events) {
      this.add(event)
      if (event.type === 'step') this.boundAt(event.t)
      if (event.type === 'back') this.boundBack(event.to, event.t)
    }
    if (before.t > this.starts[this.starts.length - 1]!) this.boundAt(before.t)
    this.boundary.back = false
  }

  start(now: number): void {
    this.clock.run(now)
  }

  /** Where the steps that count begin, take ms. */
  get stepStarts(): readonly number[] {
    return this.starts
  }

  /** Take time in whole ms. */
  time(now: number): number {
    return Math.round(this.clock.at(now))
  }

  /**
   * How long the solution lasts that was recorded until take time `t`, ms: without what was taken back. A board that
   * only plays has all of it.
   */
  kept(t: number): number {
    return this.sealed ? t : this.gone.reduce((rest, { from, to }) => rest - Math.max(0, Math.min(t, to) - from), t)
  }

  /** The stroke that is being written, if any. */
  get growing(): StrokeEvent | undefined {
    return this.writing?.stroke.type === 'stroke' ? this.writing.stroke : undefined
  }
  get paused(): boolean {
    return !this.clock.running
  }
  /** Whether nothing can be done to the board now. */
  private get still(): boolean {
    return this.paused || this.before.sealed === true
  }
  /** Whether the board is that of another take, and only sound is recorded. */
  get sealed(): boolean {
    return this.before.sealed === true
  }
  get undoTarget(): string | undefined {
    return this.history.undoTarget
  }
  get redoTarget(): string | undefined {
    return this.history.redoTarget
  }

  pause(now: number): void {
    if (this.paused) return
    this.penUp()
    this.clock.halt(now)
    this.haltedAt = now
  }

  resume(now: number): void {
    if (!this.paused) return
    if (!this.sealed) this.add({ type: 'pause', t: this.time(now), away: Math.max(0, Math.round(now - this.haltedAt)) })
    this.clock.run(now)
  }

  /** Ends the take and makes the rest durable. @returns its length, ms */
  async stop(now: number): Promise<number> {
    this.penUp()
    this.clock.halt(now)
    await this.flush()
    return this.time(now)
  }

  /** @returns the stroke's id, or null while the take is paused */
  penDown(role: PenRole, tool: InkTool, sample: PenSample, size = 1): string | null {
    return this.begin(sample, (id, t, points) => ({
      type: 'stroke',
      t,
      id,
      role,
      tool,
      ...(size === 1 ? {} : { size }),
      points,
    }))
  }

  /** A pointer that leaves a trail; it goes on and ends like a stroke. */
  trailDown(sample: PenSample): string | null {
    return this.begin(sample, (id, t, points) => ({ type: 'trail', t, id, points }))
  }

  private begin(
    sample: PenSample,
    make: (id: string, t: number, points: number[]) => StrokeEvent | TrailEvent,
  ): string | null {
    if (this.still || ![sample.x, sample.y].every(Number.isFinite)) return null
    const first = { ...sample, pressure: Number.isFinite(sample.pressure) ? sample.pressure : 0.5 }
    const stroke = make(newId(), this.time(sample.now), this.point(first))
    this.writing = { stroke, last: first }
    this.add(stroke)
    return stroke.id
  }

  /** Further samples of the stroke being written. */
  penMove(samples: readonly PenSample[]): void {
    if (!this.writing) return
    const points: number[] = []
    for (const sample of samples) {
      const last = this.writing.last
      if (sample.x === last.x && sample.y === last.y && sample.pressure === last.pressure) continue
      if (![sample.x, sample.y, sample.pressure].every(Number.isFinite)) continue
      points.push(...this.point(sample))
      this.writing.last = sample
    }
    if (!points.length) return
    const more = { type: 'more' as const, id: this.writing.stroke.id, points }
    this.writing.stroke.points.push(...points)
    this.board.extend(more)
    this.pendingJournal.push(more)
  }

  penUp(): void {
    this.writing = null
  }

  /** Takes strokes off the board, as one operation for undo. */
  erase(strokes: readonly string[], now: number): void {
    if (this.still || !strokes.length) return
    this.add({ type: 'erase', t: this.time(now), id: newId(), strokes: [...strokes] })
  }

  /**
   * Puts a thing on the board.
   * @param over ms in which it is drawn; `held`: the held line it is; `instead`: what it takes the place of.
   * @returns its id, or null while paused
   */
  place(thing: Thing, now: number, over = 0, of: { held?: string; instead?: string[] } = {}): string | null {
    if (this.still) return null
    const id = newId()
    this.add({ type: 'place', t: this.time(now), id, thing, over: Math.round(over), ...of })
    return id
  }

  /** Makes a thing another. */
  change(target: string, thing: Thing, now: number): void {
    if (!this.still) this.add({ type: 'change', t: this.time(now), id: newId(), target, thing })
  }

  /** Moves, grows or recolours strokes and things, as one operation. */
  alter(targets: readonly string[], now: number, how: { matrix?: Matrix; role?: PenRole }): void {
    if (this.still || !targets.length) return
    this.add({
      type: 'alter',
      t: this.time(now),
      id: newId(),
      targets: [...targets],
      ...(how.matrix ? { matrix: [...how.matrix] } : {}),
      ...(how.role ? { role: how.role } : {}),
    })
  }

  /** Leaves only ranges of samples of strokes, as one operation. */
  cut(strokes: readonly { id: string; keep: [number, number][] }[], now: number): void {
    if (!this.still && strokes.length)
      this.add({ type: 'split', t: this.time(now), id: newId(), strokes: strokes.map(s => ({ ...s })) })
  }

  /**
   * Writes ink for the teacher from now on: the strokes' own times count from 0. One operation for undo.
   * @returns its id, or null while paused
   */
  write(strokes: readonly Stroke[], now: number, of?: { guide: string; move: number }): string | null {
    if (this.still || !strokes.length) return null
    const t = this.time(now),
      id = newId()
    this.add({
      type: 'write',
      t,
      id,
      strokes: strokes.map(s => ({
        ...s,
        id: newId(),
        points: s.points.map((n, i) => (i % 4 === 3 ? Math.round(n) + t : n)),
      })),
      ...of,
    })
    return id
  }

  /** Shows students something for a while. */
  show(what: EphemeralDraft, now: number): void {
    if (!this.still) this.add({ ...what, t: this.time(now) })
  }

  /** When everything that draws itself will be done, take ms. */
  get busyUntil(): number {
    return this.ends
  }

  undo(now: number): void {
    const target = this.undoTarget
    if (target && !this.still) this.add({ type: 'undo', t: this.time(now), target })
  }

  redo(now: number): void {
    const target = this.redoTarget
    if (target && !this.still) this.add({ type: 'redo', t: this.time(now), target })
  }

  /** Goes on in another frame. */
  goTo(frame: Frame, now: number): void {
    if (this.sealed) return
    this.penUp()
    this.add({ type: 'frame', t: this.time(now), frame })
  }

  /** Ends the step so far. @returns its end in take ms */
  markStep(now: number): number {
    const t = Math.max(this.time(now), (this.events[this.events.length - 1]?.t ?? -1) + 1)
    this.add({ type: 'step', t, id: newId() })
    this.boundAt(t)
    return t
  }

  /** Asks the student to try, for a suggested time; the video holds still for `hold` s. */
  yourTurn(seconds: number, hold: number, now: number): void {
    if (!this.still) this.add({ type: 'turn', t: this.time(now), id: newId(), seconds, hold })
  }

  /**
   * Goes back to the last step mark; soon again, to the one before. Ink, frame and steps stand as they stood there;
   * what came since stays in
   * the take. @returns the moment that is gone back to, take ms
   */
  goBack(now: number): number {
    this.penUp()
    const t = Math.max(this.time(now), (this.events[this.events.length - 1]?.t ?? -1) + 1)
    if (this.boundary.back && t - this.boundary.t < AGAIN_MS && this.starts.length > 1) this.starts.pop()
    const to = this.starts[this.starts.length - 1]!
    this.add({ type: 'back', t, to })
    this.boundBack(to, t)
    this.ends = t
    return to
  }

  private boundAt(t: number) {
    this.starts.push(t)
    this.boundary = { t, back: false }
  }

  /** The step that began at `to` begins anew at `t`. */
  private boundBack(to: number, t: number) {
    this.starts = [...this.starts.filter(s => s < to), t]
    this.gone = [...this.gone.filter(g => g.from < to), { from: to, to: t }]
    this.boundary = { t, back: true }
  }

  /**
   * Takes in captured sound; what was captured outside the running take is left out.
   * @param pcm mono samples; @param rate Hz; @param capturedAt machine time (ms) of the first sample
   */
  sound(pcm: Int16Array, rate: number, capturedAt: number): void {
    const end = capturedAt + (pcm.length / rate) * 1000
    for (const piece of this.clock.runningPieces(capturedAt, end)) {
      const a = Math.round(((piece.from - capturedAt) / 1000) * rate)
      const b = Math.min(pcm.length, Math.round(((piece.to - capturedAt) / 1000) * rate))
      if (b > a) this.pendingSound.push(...this.timeline.push(pcm.subarray(a, b), rate, piece.at))
    }
  }

  /**
   * Takes in a coded picture of the camera. After a pause they are left out until a key picture.
   * @param capturedAt machine time, ms
   */
  picture(picture: CodedPicture, capturedAt: number): void {
    const placed = this.track.push(picture, capturedAt)
    if (placed) this.pendingPictures.push(placed)
  }

  /** Writes all that is pending; call it at least twice a second. Pieces that fail are kept, in order. */
  flush(): Promise<void> {
    this.flushing = this.flushing.then(() => this.flushNow())
    return this.flushing
  }

  private async flushNow(): Promise<void> {
    // Nothing follows a pause that the last pieces would have to wait for.
    if (this.paused) this.pendingSound.push(...this.timeline.finish())
    const entries = this.pendingJournal
    const chunks = this.pendingSound
    const pictures = this.pendingPictures
    this.pendingJournal = []
    this.pendingSound = []
    this.pendingPictures = []
    try {
      if (entries.length) {
        await this.sink.journal(this.journalSeq, entries)
        this.journalSeq++
        entries.length = 0
      }
      if (chunks.length) await this.sink.sound(chunks)
      chunks.length = 0
      if (pictures.length) await this.sink.pictures(this.picturesSeq++, pictures)
      this.onStored()
    } catch (error) {
      this.pendingJournal = [...entries, ...this.pendingJournal]
      this.pendingSound = [...chunks, ...this.pendingSound]
      this.pendingPictures = [...pictures, ...this.pendingPictures]
      this.onTrouble(asTrouble(error, 'storing the take'))
    }
  }

  /** Sound that is not on disk yet, in order. */
  get waitingSound(): readonly SoundChunk[] {
    return this.pendingSound
  }

  /** Pictures of the camera that are not on disk yet, in order. */
  get waitingPictures(): readonly Picture[] {
    return this.pendingPictures
  }

  /** What is not on disk yet. */
  get unsaved(): { entries: number; chunks: number; pictures: number } {
    return {
      entries: this.pendingJournal.length,
      chunks: this.pendingSound.length,
      pictures: this.pendingPictures.length,
    }
  }

  /** Takes over what comes later in another log, before the take ends. @param events in the order of their times */
  goOnAs(events: readonly TakeEvent[]): void {
    this.penUp()
    for (const event of events) this.add(structuredClone(event) as TakeEvent)
  }

  private add(event: TakeEvent) {
    // Nothing shares its moment with a boundary, so that it is clear on which side it lies.
    if (event.t <= this.boundary.t && this.boundary.t > 0) event.t = this.boundary.t + 1
    // What the pen writes grows sample by sample; other content is drawn by itself until its end.
    if (kindOf(event).lifetime === 'content' && !('points' in event)) this.ends = Math.max(this.ends, endOf(event))
    this.events.push(event)
    this.board.append(event)
    this.history.append(event)
    this.pendingJournal.push('points' in event ? { ...event, points: [...event.points] } : event)
  }

  private point(sample: PenSample): number[] {
    return quantise(sample.x, sample.y, sample.pressure, this.time(sample.now))
  }
}
