import { captionsOf } from '../captions/lesson'
import type { Cue } from '../captions/vtt'
import { Cut, nameOfStep, type Chapter, type CutStep, type CutTurn } from '../cut/cut'
import type { Box, Frame } from '../folio/basics'
import type { Ledger, Mend, Take } from '../folio/model'
import type { Page } from '../folio/page'
import { PortraitPath } from '../scene/portrait'
import { BoardIndex, type Board } from '../recording/board'
import { kindOf, type TakeEvent } from '../recording/events'
import { moveLog } from '../recording/reflow'
import { without, type Stretch } from '../recording/stretches'
import { compile, type Compiled, type LaidLog, type LessonLog } from './compile'
import { shownOf, type Shown } from './shown'
import { stepContent, type StepContent } from './stepContent'

/** A take with its settled log, as it was recorded. */
export interface TakeLog {
  take: Pick<Take, 'durationMs' | 'frame' | 'startedAt' | 'gaps' | 'camera'>
  events: readonly TakeEvent[]
}

/**
 * All that an edition is made from: the ledger's own take, those of steps that were recorded anew, by their ids, and
 * the folio's pages as they are now.
 */
export interface EditionSource extends TakeLog {
  ledger: Ledger
  pages: readonly Page[]
  others?: Readonly<Record<string, TakeLog>>
  /** Where somebody speaks in each take, take ms, by the takes' ids; as far as their sound was listened to. */
  speech?: Readonly<Record<string, readonly Stretch[]>>
  /** What a step is called, where it is not named by the teacher alone. */
  namer?: (edition: Edition, step: CutStep) => string
  /** The parts of the question that its steps belong to, by their places in its order; none where it has none. */
  parter?: (edition: Edition) => ReadonlyMap<number, string>
}

/** What of an edition is a chapter. */
export type ChapterBy = 'step' | 'part'

/**
 * A piece of the sound plan: `ms` long from lesson time `at`, it is a take's sound from `from` (take ms) on, or
 * silence.
 */
export interface SoundPiece {
  at: number
  ms: number
  take: string
  from: number | null
}

/**
 * What a question looks and sounds like now. Lesson time is the time of the edition, ms since it began; take time is
 * that of a take, ms.
 * Its parts are put together when they are first asked for.
 */
export class Edition {
  readonly take: EditionSource['take']
  readonly ledger: Ledger
  /** Lesson time ↔ take time. */
  readonly time: Cut
  private logs: ReadonlyMap<string, LaidLog> | null = null
  private mends: readonly Mend[] | null = null
  private lessonLog: LessonLog | null = null
  private seen: BoardIndex | null = null
  private whole: BoardIndex | null = null
  private way: PortraitPath | null = null
  private seenBeside: readonly Stretch[] | null = null
  private parted: ReadonlyMap<number, string> | null = null
  private readonly called = new Map<number, string>()

  /** @param before the edition as it was before a change: what has stayed is taken from it */
  constructor(
    private readonly source: EditionSource,
    before?: Edition,
  ) {
    this.take = source.take
    this.ledger = source.ledger
    this.time = new Cut(source.ledger, source.take.durationMs)
    if (!before || before.source.pages !== source.pages) return
    const ids = (of: EditionSource) => [of.ledger.takeId, ...Object.keys(of.others ?? {})].join()
    const same =
      ids(before.source) === ids(source) &&
      before.source.events === source.events &&
      Object.entries(source.others ?? {}).every(([id, log]) => before.source.others?.[id]?.events === log.events)
    if (same) this.logs = before.logs
    if (same && before.ledger.mends === source.ledger.mends) this.mends = before.mends
    this.lessonLog = same && before.lessonLog ? compile(this.time, this.laid, this.laidMends, before.lessonLog) : null
  }

  /** The logs of its takes as they lie on the pages now. */
  private get laid(): ReadonlyMap<string, LaidLog> {
    if (this.logs) return this.logs
    const { ledger, others = {}, pages, take, events } = this.source
    const logs = new Map([[ledger.takeId, layLog(take, events, pages)]])
    for (const [id, other] of Object.entries(others)) logs.set(id, layLog(other.take, other.events, pages))
    return (this.logs = logs)
  }
  private get laidMends(): readonly Mend[] {
    const { ledger, pages, events, take } = this.source
    /** The pages as they were when a mend was made. */
    const then = (made: string) => pages.map(p => ({ ...p, spaces: p.spaces.filter(s => s.at <= made) }))
    return (this.mends ??= (ledger.mends ?? []).map(m => ({
      ...m,
      events: moveLog(m.events, take.frame, m.made, pages, () => layLog(take, events, then(m.made)).events).events,
    })))
  }
  /** The take's log as it lies on the pages now. */
  private get recorded(): LaidLog {
    return this.laid.get(this.ledger.takeId)!
  }

  /** The log on lesson time; chapters, captions and sound do without it. */
  private get compiled(): LessonLog {
    return (this.lessonLog ??= compile(this.time, this.laid, this.laidMends))
  }
  /** On lesson time. */
  get events(): readonly TakeEvent[] {
    const { events, always } = this.compiled.all
    return (this.flat ??= [...events, ...always])
  }
  private flat: readonly TakeEvent[] | null = null
  /** All of the log, what was mended by itself. */
  get log(): Compiled {
    return this.compiled.all
  }
  /** The log without what nobody sees: all that goes to students is made from it. */
  get shown(): Shown {
    return (this.out ??= shownOf(this.log, this.duration))
  }
  private out: Shown | null = null
  /** The frame in which it begins. */
  get first(): Frame {
    return this.compiled.first
  }

  /** Length, ms. */
  get duration(): number {
    return this.time.duration
  }
  /** Whether nothing of it is left. */
  get empty(): boolean {
    return this.time.duration <= 0
  }

  /** The board as students see it, on lesson time. */
  get board(): BoardIndex {
    return (this.seen ??= BoardIndex.of(this.compiled, this.first))
  }

  /** What students see at a moment. @param t lesson ms; past the end, the last moment */
  boardAt(t: number): Board {
    // What stands there at once where the end was struck comes at the very end.
    return this.board.at(t >= this.duration ? Infinity : t)
  }

  /**
   * The take's log until a moment, without the ink that is out: what stood on the board there, for a step that is
   * recorded anew. @param t take ms
   */
  before(t: number): LaidLog {
    const gone = this.time.segments.filter(s => s.out === 'ink goes' && s.take === this.ledger.takeId)
    const { events, first } = this.recorded
    return {
      first,
      events: events.filter(
        e => e.t < t && (kindOf(e).survivesRemoval || !gone.some(s => e.t >= s.from && e.t < s.to)),
      ),
    }
  }

  /** The board as it was recorded, whatever is out or mended. @param t take ms */
  boardInTake(t: number): Board {
    this.whole ??= new BoardIndex(this.recorded.events, this.recorded.first)
    return this.whole.at(t)
  }

  /** Every frame that it shows, the first first, each once; what passes while nothing is shown is none. */
  frames(): Frame[] {
    const { first, events } = this.shown
    const all = [first, ...events.flatMap(e => (e.type === 'frame' ? [e.frame] : []))]
    return [...new Map(all.map(f => [JSON.stringify(f), f])).values()]
  }

  /** The way of the camera's picture; null where it is not shown. */
  get portrait(): PortraitPath | null {
    const takes = [this.take, ...Object.values(this.source.others ?? {}).map(o => o.take)]
    if (!this.ledger.portrait || !takes.some(t => t.camera)) return null
    return (this.way ??= new PortraitPath(this.ledger.portrait, this.first, this.events))
  }

  /** Where the camera's picture is shown, lesson ms: where it is not hidden, has one, and nobody is asked to try. */
  get pictured(): readonly Stretch[] {
    return (this.seenBeside ??= this.whereBeside())
  }
  private whereBeside(): Stretch[] {
    if (!this.portrait) return []
    return this.time.pieces.flatMap(({ at, ms, from, take, speed, turn, sound }) => {
      const { camera } = take === this.ledger.takeId ? this.take : (this.source.others?.[take]?.take ?? {})
      // Lips that say something else are not shown.
      if (turn || !camera || (sound && sound.take !== take)) return []
      return without({ from, to: from + ms * speed }, camera.gaps).map(s => ({
        from: at + (s.from - from) / speed,
        to: at + (s.to - from) / speed,
      }))
    })
  }

  /**
   * Where the camera's picture stands at a moment; null where there is none.
   * @param t lesson ms
   * @param view what students see, in any unit
   */
  portraitAt(t: number, view: Box): Box | null {
    const shown = this.portrait && this.pictured.some(s => t >= s.from && t < s.to)
    return shown ? this.portrait!.at(t, view) : null
  }

  /** What a step of it is called. */
  nameOf(step: CutStep): string {
    const known = this.called.get(step.place)
    if (known !== undefined) return known
    const name = this.source.namer?.(this, step) ?? nameOfStep(step)
    this.called.set(step.place, name)
    return name
  }
  /**
   * What comes to the board in a stretch of it, lesson ms, and stands there when that is over, as it stands there then:
   * what is said of a step in words.
   */
  contentIn({ from, to }: Stretch): StepContent {
    return stepContent(this.shown, from, to)
  }
  /** The parts of the question that its steps belong to, by their places in its order; empty where it has none. */
  get parts(): ReadonlyMap<number, string> {
    return (this.parted ??= this.source.parter?.(this) ?? new Map())
  }
  /** A chapter for each step, or, where it has parts, for each of them. */
  chapters(by: ChapterBy = 'step'): Chapter[] {
    const all = this.time.steps.map((s): Chapter => {
      const part = this.parts.get(s.place)
      return { t: s.from, title: this.nameOf(s), ...(part ? { part } : {}) }
    })
    if (by === 'step' || !all.some(c => c.part)) return all
    return all
      .filter((c, i) => i === 0 || c.part !== all[i - 1]!.part)
      .map(({ t, title, part }) => ({ t, title: part ? `Part ${part}` : title, ...(part ? { part } : {}) }))
  }
  captions(): Cue[] {
    return captionsOf(this.time, s => this.nameOf(s), this.spoken())
  }
  /** Where somebody is heard to speak, lesson ms, ascending; empty where that is not known. */
  spoken(): Stretch[] {
    const { speech } = this.source
    if (!speech) return []
    return this.soundPlan().flatMap(({ at, ms, take, from }) =>
      from === null
        ? []
        : (speech[take] ?? [])
            .filter(s => s.to > from && s.from < from + ms)
            .map(s => ({ from: at + Math.max(0, s.from - from), to: at + Math.min(ms, s.to - from) })),
    )
  }
  /** The pauses for the student. */
  turns(): CutTurn[] {
    return this.time.turns()
  }

  /**
   * What is heard, piece after piece without a hole between them. While the student is to try, and where writing goes
   * by faster, there is silence.
   */
  soundPlan(): SoundPiece[] {
    return this.time.pieces.map(({ at, ms, take, sound }) => ({
      at,
      ms,
      take: sound?.take ?? take,
      from: sound?.from ?? null,
    }))
  }

  /** The losses of sound that students would hear, take ms; those where time is taken out are heard by nobody. */
  soundGaps(): Stretch[] {
    const { heard } = this.time
    return this.take.gaps.flatMap(gap =>
      heard
        .filter(s => s.from < gap.to && s.to > gap.from)
        .map(s => ({ from: Math.max(s.from, gap.from), to: Math.min(s.to, gap.to) })),
    )
  }
}

/**
 * The edition of a question: its ledger compiled over its take, as the pages are now. The same source gives the same
 * edition.
 * @param before the edition as it was before a change, where there was one: it is put together sooner then
 */
export function editionOf(source: EditionSource, before?: Edition): Edition {
  return new Edition(source, before)
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
