import { ledgerOfTake } from '#core/cut'
import { newId, Trouble, type Frame, type Ledger, type Question, type Take } from '#core/folio'
import { SoundWatch } from '#core/sound'
import { Breaks, TakeRecorder, type TakeEvent } from '#core/take'
import { hold, takeLock } from '../data/locks'
import type { WholeTake } from '#core/publish'
import { putTake, soundChunks, takeSink } from '../data/takes'
import { settleTake } from './settle'
import { soundRunner } from './workers'

/** Where a retake begins: after the first `t` ms of another take, with its events until then and its first frame, as they lie on the pages now. */
export interface RetakeFrom { takeId: string, events: readonly TakeEvent[], first: Frame, t: number }

/** How often what was recorded is written to disk, ms. */
const FLUSH_MS = 250

/** One take while it is recorded: its log, what is known of it, and the watch over its sound. */
export class LiveTake {
  readonly recorder: TakeRecorder
  /** Null until the take runs. */
  watch: SoundWatch | null = null
  breaks: Breaks | null = null
  private take: Take | null = null
  private unlock: (() => void) | null = null
  private flushed = 0
  private readonly id = newId()

  constructor(readonly question: Question, private readonly frame: Frame, readonly from?: RetakeFrom) {
    this.recorder = new TakeRecorder(takeSink(this.id), JSON.parse(JSON.stringify(from?.first ?? frame)) as Frame, from && { events: JSON.parse(JSON.stringify(from.events)) as TakeEvent[], t: from.t })
  }

  /** Stores what is known of the take, and starts its clock. */
  async begin(folioId: string, microphone: string, pen: string): Promise<void> {
    this.take = {
      id: this.id, folioId, questionId: this.question.id, startedAt: new Date().toISOString(), durationMs: 0, state: 'recording',
      frame: this.from?.first ?? this.frame, microphone, pen, gaps: [], ...(this.from ? { after: { takeId: this.from.takeId, t: this.from.t } } : {}),
    }
    this.unlock = await hold(takeLock(this.id))
    await putTake(JSON.parse(JSON.stringify(this.take)) as Take)
    const now = performance.now()
    this.recorder.start(now)
    this.watch = new SoundWatch(now)
    this.breaks = new Breaks(now)
  }

  /** Takes in captured sound. @param at machine time of its first sample, ms */
  sound(pcm: Int16Array, rate: number, at: number): void {
    const now = performance.now()
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
   * Ends the take and puts it together. @returns it, with its ledger
   * @throws Trouble `storage-full`; it can be tried again then
   */
  async finish(): Promise<{ take: Take, ledger: Ledger }> {
    const durationMs = await this.recorder.stop(performance.now())
    const left = this.recorder.unsaved
    if (left.entries || left.chunks) throw new Trouble('storage-full', 'The end of the take could not be stored.', 'It is kept in this tab as long as it stays open.', 'Make room (remove videos or old folios), then press Stop again.')
    const take = await settleTake({ ...this.take!, durationMs, state: 'whole' })
    return { take, ledger: ledgerOfTake(take, this.recorder.events, this.question) }
  }

  /** What there is of the take now, wherever it is kept: for a file of its own while nothing can be stored. */
  async rescue(): Promise<WholeTake> {
    const durationMs = this.recorder.time(performance.now())
    const chunks: { t0: number, rate: number, pcm: Int16Array }[] = []
    for await (const rows of soundChunks(this.id)) chunks.push(...rows.map(r => ({ t0: r.t0, rate: r.rate, pcm: new Int16Array(r.pcm) })))
    chunks.push(...this.recorder.waitingSound)
    const sound = chunks.length ? await soundRunner().run('wav', { durationMs, chunks }) as Blob : null
    return { take: { ...this.take!, durationMs, state: 'recovered' }, events: JSON.parse(JSON.stringify(this.recorder.events)) as TakeEvent[], sound }
  }

  release(): void {
    this.unlock?.()
    this.unlock = null
  }
}
