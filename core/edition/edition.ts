import { captionsOf } from '../captions/lesson'
import type { Cue } from '../captions/vtt'
import { Cut, type Chapter, type CutTurn } from '../cut/cut'
import { struckOf } from '../cut/ledger'
import type { Box } from '../folio/basics'
import type { Frame, Ledger, Take } from '../folio/model'
import type { Page } from '../folio/page'
import { PortraitPath } from '../scene/portrait'
import { BoardIndex, type Board, type Stretch } from '../take/board'
import type { TakeEvent } from '../take/events'
import { moveLog } from '../take/moved'

/**
 * All that an edition is made from. `events` is the take's settled log as it was recorded, `pages` are the folio's as
 * they are now.
 */
export interface EditionSource {
  take: Pick<Take, 'durationMs' | 'frame' | 'startedAt' | 'gaps' | 'camera'>
  events: readonly TakeEvent[]
  ledger: Ledger
  pages: readonly Page[]
}

/**
 * What is taken out of a take, take ms. Time that is not in the edition, and ink that is not on its board, are two
 * decisions.
 */
export interface Removed {
  time: Stretch[]
  ink: Stretch[]
}

/**
 * A piece of the sound plan: `ms` long from lesson time `at`, it is the take's sound from `from` (take ms) on, or
 * silence.
 */
export interface SoundPiece {
  at: number
  ms: number
  from: number | null
}

/** The frame and the events of a take as they lie on the pages now. */
export interface LaidLog {
  events: readonly TakeEvent[]
  first: Frame
}

/**
 * What a question looks and sounds like now. Lesson time is the time of the edition, ms since it began; take time is
 * that of the take, ms.
 * Its parts are put together when they are first asked for.
 */
export class Edition {
  readonly take: EditionSource['take']
  readonly ledger: Ledger
  readonly removed: Removed
  /** Lesson time ↔ take time. */
  readonly time: Cut
  private laid: LaidLog | null = null
  private seen: BoardIndex | null = null
  private whole: BoardIndex | null = null
  private way: PortraitPath | null = null

  constructor(private readonly source: EditionSource) {
    const { take, ledger } = source
    this.take = take
    this.ledger = ledger
    const struck = struckOf(ledger, take.durationMs)
    this.removed = { time: struck, ink: struck }
    this.time = new Cut(ledger, take.durationMs)
  }

  /** The take's log as it lies on the pages now; chapters, captions and sound do without it. */
  private get log(): LaidLog {
    return (this.laid ??= layLog(this.take, this.source.events, this.source.pages))
  }
  get events(): readonly TakeEvent[] {
    return this.log.events
  }
  /** The frame in which the take begins. */
  get first(): Frame {
    return this.log.first
  }

  /** Length, ms. */
  get duration(): number {
    return this.time.duration
  }
  /** Whether every step of it is struck out. */
  get empty(): boolean {
    return this.time.kept.length === 0
  }

  /** The board as students see it, without the ink that is taken out. */
  get board(): BoardIndex {
    return (this.seen ??= new BoardIndex(this.events, this.removed.ink, this.first))
  }

  /** What students see at a moment. @param t lesson ms; past the end, the last moment */
  boardAt(t: number): Board {
    return this.board.at(this.time.toTake(t))
  }

  /** What the teacher sees at a moment of the take: where it is taken out, as it was recorded. @param t take ms */
  boardInTake(t: number): Board {
    // The very end belongs to the last step.
    if (this.time.holds(Math.min(t, this.take.durationMs - 1))) return this.board.at(t)
    this.whole ??= new BoardIndex(this.events, [], this.first)
    return this.whole.at(t)
  }

  /** Every frame that it shows, the first first, each once. */
  frames(): Frame[] {
    const all = [this.first, ...this.events.flatMap(e => (e.type === 'frame' ? [e.frame] : []))]
    return [...new Map(all.map(f => [JSON.stringify(f), f])).values()]
  }

  /** The way of the camera's picture; null where it is not shown. */
  get portrait(): PortraitPath | null {
    if (!this.ledger.portrait || !this.take.camera) return null
    return (this.way ??= new PortraitPath(this.ledger.portrait, this.first, this.events, this.removed.ink))
  }

  /** Where the camera's picture is shown, take ms: where it is not hidden and has one. */
  get pictured(): Stretch[] {
    return this.portrait ? without({ from: 0, to: this.take.durationMs }, this.take.camera?.gaps ?? []) : []
  }

  /**
   * Where the camera's picture stands at a moment; null where there is none.
   * @param t take ms
   * @param view what students see, in any unit
   */
  portraitAt(t: number, view: Box): Box | null {
    const shown = this.portrait && !this.take.camera?.gaps.some(g => t >= g.from && t < g.to)
    return shown ? this.portrait!.at(t, view) : null
  }

  chapters(): Chapter[] {
    return this.time.chapters()
  }
  captions(): Cue[] {
    return captionsOf(this.time)
  }
  /** The pauses for the student. */
  turns(): CutTurn[] {
    return this.time.turns()
  }

  /** What is heard, piece after piece without a hole between them. While the student is to try there is silence. */
  soundPlan(): SoundPiece[] {
    return this.time.pieces.map(({ at, ms, from, turn }) => ({ at, ms, from: turn ? null : from }))
  }

  /** The losses of sound that students would hear, take ms; those where time is taken out are heard by nobody. */
  soundGaps(): Stretch[] {
    return this.take.gaps.flatMap(gap =>
      this.time.kept
        .filter(s => s.from < gap.to && s.to > gap.from)
        .map(s => ({ from: Math.max(s.from, gap.from), to: Math.min(s.to, gap.to) })),
    )
  }
}

/**
 * The edition of a question: its ledger compiled over its take, as the pages are now. The same source gives the same
 * edition.
 */
export function editionOf(source: EditionSource): Edition {
  return new Edition(source)
}

/** A take's log as it lies on the pages now; the recorded log stays what it is. */
export function layLog(
  take: Pick<Take, 'frame' | 'startedAt'>,
  events: readonly TakeEvent[],
  pages: readonly Page[],
): LaidLog {
  return moveLog(events, take.frame, take.startedAt, pages)
}

/** Length of a question's edition, ms; for this its log is not needed. */
export function editionLength(ledger: Ledger, take: Pick<Take, 'durationMs'>): number {
  return new Cut(ledger, take.durationMs).duration
}

/** A stretch without some pieces of it. */
function without(whole: Stretch, gaps: readonly Stretch[]): Stretch[] {
  let { from } = whole
  const out: Stretch[] = []
  for (const gap of [...gaps, { from: whole.to, to: whole.to }]) {
    if (gap.from > from) out.push({ from, to: gap.from })
    from = Math.max(from, gap.to)
  }
  return out
}
