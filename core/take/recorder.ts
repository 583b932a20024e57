import type { InkTool } from '../ink/stroke'
import { quantise } from '../ink/quantise'
import type { PenRole } from '../ink/roles'
import { asTrouble, type Trouble } from '../folio/trouble'
import { newId, type Frame } from '../folio/model'
import { BoardIndex } from './board'
import { TakeClock } from './clock'
import type { JournalEntry, StrokeEvent, TakeEvent } from './events'
import { History } from './history'
import { SoundTimeline, type SoundChunk } from './soundTimeline'

/** Where a take is made durable. A promise that resolves means: on disk. */
export interface TakeSink {
  journal(seq: number, entries: JournalEntry[]): Promise<void>
  sound(chunks: SoundChunk[]): Promise<void>
}

/** One sample of a pen, in page points; `now` is the machine's monotonic time in ms. */
export interface PenSample { x: number, y: number, pressure: number, now: number }

/**
 * Records one take: puts pen and sound on the take's clock once, at the edge, and writes a journal that loses at most
 * what has not been flushed. Nothing here knows the browser: time, samples and storage are handed in.
 */
export class TakeRecorder {
  readonly board: BoardIndex
  readonly events: TakeEvent[] = []
  /** Called when storing fails; the pieces are kept and tried again at the next flush. */
  onTrouble: (trouble: Trouble) => void = () => {}

  private readonly clock = new TakeClock()
  private readonly history = new History()
  private pendingJournal: JournalEntry[] = []
  private pendingSound: SoundChunk[] = []
  private journalSeq = 0
  private readonly timeline = new SoundTimeline()
  private writing: { stroke: StrokeEvent, last: PenSample } | null = null
  private haltedAt = 0
  private flushing: Promise<void> = Promise.resolve()

  /** @param first the frame in which the take begins */
  constructor(private readonly sink: TakeSink, first?: Frame) {
    this.board = new BoardIndex([], [], first)
  }

  start(now: number): void { this.clock.run(now) }

  /** Take time in whole ms. */
  time(now: number): number { return Math.round(this.clock.at(now)) }

  /** The stroke that is being written, if any. */
  get growing(): StrokeEvent | undefined { return this.writing?.stroke }
  get paused(): boolean { return !this.clock.running }
  get undoTarget(): string | undefined { return this.history.undoTarget }
  get redoTarget(): string | undefined { return this.history.redoTarget }

  pause(now: number): void {
    if (this.paused) return
    this.penUp()
    this.clock.halt(now)
    this.haltedAt = now
  }

  resume(now: number): void {
    if (!this.paused) return
    this.add({ type: 'pause', t: this.time(now), away: Math.max(0, Math.round(now - this.haltedAt)) })
    this.clock.run(now)
  }

  /** Ends the take and makes the rest durable. @returns its length, ms */
  async stop(now: number): Promise<number> {
    this.penUp()
    this.clock.halt(now)
    this.pendingSound.push(...this.timeline.finish())
    await this.flush()
    return this.time(now)
  }

  /** @returns the stroke's id, or null while the take is paused */
  penDown(role: PenRole, tool: InkTool, sample: PenSample): string | null {
    if (this.paused) return null
    const id = newId()
    const stroke: StrokeEvent = { type: 'stroke', t: this.time(sample.now), id, role, tool, points: this.point(sample) }
    this.writing = { stroke, last: sample }
    this.add(stroke)
    return id
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
    if (this.paused || !strokes.length) return
    this.add({ type: 'erase', t: this.time(now), id: newId(), strokes: [...strokes] })
  }

  undo(now: number): void {
    const target = this.undoTarget
    if (target && !this.paused) this.add({ type: 'undo', t: this.time(now), target })
  }

  redo(now: number): void {
    const target = this.redoTarget
    if (target && !this.paused) this.add({ type: 'redo', t: this.time(now), target })
  }

  /** Goes on in another frame. */
  goTo(frame: Frame, now: number): void {
    this.penUp()
    this.add({ type: 'frame', t: this.time(now), frame })
  }

  /** Ends the step so far. @returns its end in take ms */
  markStep(now: number): number {
    const t = this.time(now)
    this.add({ type: 'step', t, id: newId() })
    return t
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

  /** Writes all that is pending; call it at least twice a second. Pieces that fail are kept, in order. */
  flush(): Promise<void> {
    this.flushing = this.flushing.then(() => this.flushNow())
    return this.flushing
  }

  private async flushNow(): Promise<void> {
    const entries = this.pendingJournal
    const chunks = this.pendingSound
    this.pendingJournal = []
    this.pendingSound = []
    try {
      if (entries.length) {
        await this.sink.journal(this.journalSeq, entries)
        this.journalSeq++
        entries.length = 0
      }
      if (chunks.length) await this.sink.sound(chunks)
    }
    catch (error) {
      this.pendingJournal = [...entries, ...this.pendingJournal]
      this.pendingSound = [...chunks, ...this.pendingSound]
      this.onTrouble(asTrouble(error, 'storing the take'))
    }
  }

  /** What is not on disk yet. */
  get unsaved(): { entries: number, chunks: number } {
    return { entries: this.pendingJournal.length, chunks: this.pendingSound.length }
  }

  private add(event: TakeEvent) {
    this.events.push(event)
    this.board.append(event)
    this.history.append(event)
    this.pendingJournal.push(event.type === 'stroke' ? { ...event, points: [...event.points] } : event)
  }

  private point(sample: PenSample): number[] {
    return quantise(sample.x, sample.y, sample.pressure, this.time(sample.now))
  }
}
