import type { Cut, Segment } from '../cut/cut'
import type { Mend } from '../folio/model'
import type { Frame } from '../folio/basics'
import { POINT_SIZE } from '../ink/stroke'
import { inkOf, kindOf, type TakeEvent, type TimeMap } from '../recording/events'
import { undoneIn } from './undone'

/** A take's log as it lies on the pages now, and the frame in which it begins. */
export interface LaidLog {
  events: readonly TakeEvent[]
  first: Frame
}

/** What an edition shows: one log on lesson time, ms since it began, whatever takes it came from. */
export interface Compiled {
  events: readonly TakeEvent[]
  /** What was mended, with the times at which what it is done to appears; it is done after all the others. */
  always: readonly TakeEvent[]
  /** Moments at which much comes or goes at once, and does so softly. */
  eased: readonly number[]
  first: Frame
}

/**
 * Puts the logs of takes on lesson time: what is out goes or stands there at once, steps come in their order, and what
 * was mended always was so. It is put together as far as it is asked for.
 * @param logs of every take that the cut shows, by its id, as they lie on the pages now
 * @param mends laid on the pages as well
 * @param before what was compiled last: what lies before the first difference is taken from there
 */
export function compile(
  cut: Cut,
  logs: ReadonlyMap<string, LaidLog>,
  mends: readonly Mend[] = [],
  before?: LessonLog,
): LessonLog {
  return new LessonLog(cut, logs, mends, before)
}

/** Two logs in the order of their times. */
function merged(a: readonly TakeEvent[], b: readonly TakeEvent[]): TakeEvent[] {
  const out: TakeEvent[] = []
  let k = 0
  for (const event of a) {
    while (k < b.length && b[k]!.t < event.t) out.push(b[k++]!)
    out.push(event)
  }
  return [...out, ...b.slice(k)]
}

/** A mend of one target as it always was so. @param n tells its operations apart, where copies have it as well */
function alwaysSo(event: TakeEvent, target: string, name: string, t: number, n: number): TakeEvent {
  const kind = kindOf(event)
  const one = kind.restrict(event, item => item === target)!
  return { ...kind.mapIds(one, { brought: id => `${id}~${target}~${n}`, referred: () => name }), t }
}

/** So many strokes that come or go at once can be followed at a glance. */
const A_GLANCE = 4

/** Whether an event is, takes back or brings back one of some operations. */
function belongsTo(event: TakeEvent, operations: ReadonlySet<string>): boolean {
  if ('id' in event) return operations.has(event.id)
  return kindOf(event)
    .refs(event)
    .some(id => operations.has(id))
}

const sameIds = (a: ReadonlySet<string>, b: ReadonlySet<string>) => a.size === b.size && [...a].every(id => b.has(id))

/** A frame of no page, where there is no take at all. */
const NOWHERE: Frame = { pageId: '', box: { x: 0, y: 0, w: 16, h: 9 } }

const alike = (a: Segment, b: Segment) =>
  a.take === b.take &&
  a.from === b.from &&
  a.to === b.to &&
  a.at === b.at &&
  a.speed === b.speed &&
  a.out === b.out &&
  a.copy === 0 &&
  b.copy === 0

/** Samples that go by as fast as they were written, at another time. */
function shiftedBy(points: readonly number[], shift: number): number[] {
  const out = points.slice()
  for (let k = POINT_SIZE - 1; k < out.length; k += POINT_SIZE) out[k] = out[k]! + shift
  return out
}

/** The index of the first event at or after `t`. */
export function firstAt(events: readonly TakeEvent[], t: number): number {
  let low = 0
  let high = events.length
  while (low < high) {
    const mid = (low + high) >> 1
    if (events[mid]!.t < t) low = mid + 1
    else high = mid
  }
  return low
}

/** What stood when a segment was done: how much of the log there was, and the frame. */
interface Milestone {
  events: number
  always: number
  eased: number
  jumps: number
  frame: Frame | null
  /** The last segment that something in it or before it goes on in. */
  farthest: number
}

/** The log of an edition on lesson time, put together segment by segment, as far as it is asked for. */
export class LessonLog {
  private readonly events: TakeEvent[] = []
  /** What was mended, from the moments at which its targets appear: an operation for each of them. */
  private readonly always: TakeEvent[] = []
  private readonly eased: number[] = []
  /** How much has come or gone at once since something was last shown. */
  private jumps = 0
  private begin: Frame | null = null
  /** The frame that students see at the end of what is there so far. */
  private frame: Frame | null = null
  private readonly natural: boolean
  private readonly lastShown: number
  private readonly logs: ReadonlyMap<string, LaidLog>
  private readonly added: readonly TakeEvent[]
  /** What was mended, by what it does something to; one whose target is out of the edition waits until that is back. */
  private readonly mended = new Map<string, TakeEvent[]>()
  /** What was made in copies of steps. */
  private readonly copied = new Set<string>()
  /** What was taken back: to students it never happened. */
  private readonly undone: ReadonlySet<string>
  private readonly ends = new Map<string, number>()
  private readonly done: Milestone[] = []
  private farthest = 0
  private whole: Compiled | null = null

  constructor(
    private readonly cut: Cut,
    private readonly given: ReadonlyMap<string, LaidLog>,
    private readonly mends: readonly Mend[],
    before?: LessonLog,
  ) {
    const all = mends.flatMap(m => m.events)
    this.added = all.filter(e => !kindOf(e).retroactive).sort((a, b) => a.t - b.t)
    const own = given.get(cut.ledger.takeId)
    this.logs =
      own && this.added.length
        ? new Map(given).set(cut.ledger.takeId, { ...own, events: merged(own.events, this.added) })
        : given
    for (const event of all.filter(e => kindOf(e).retroactive))
      for (const target of kindOf(event).refs(event))
        this.mended.set(target, [...(this.mended.get(target) ?? []), event])
    this.lastShown = cut.segments.findLastIndex(s => !s.out)
    this.natural = !cut.ledger.order && cut.segments.every(s => s.take === cut.ledger.takeId)
    for (const s of cut.segments) this.ends.set(s.take, Math.max(s.to, this.ends.get(s.take) ?? 0))
    this.undone = undoneIn(cut.segments, this.lastShown, given)
    if (before) this.goOnFrom(before)
  }

  /** The frame in which it begins. */
  get first(): Frame {
    while (!this.begin && this.done.length < this.cut.segments.length) this.next()
    return this.begin ?? this.logs.get(this.cut.ledger.takeId)?.first ?? NOWHERE
  }

  /** All of it: what was mended comes last, as it is done to what is there by then. */
  get all(): Compiled {
    return (this.whole ??= { first: this.first, ...this.until(Infinity) })
  }

  /** What there is of it until lesson time `t`, and maybe more; both lists only grow. */
  until(t: number): Pick<Compiled, 'events' | 'always' | 'eased'> {
    const { segments } = this.cut
    while (this.done.length < segments.length && segments[this.done.length]!.at <= t) this.next()
    const { events, always, eased } = this
    return { events, always, eased }
  }

  /** Takes what lies before the first difference from what was compiled last. */
  private goOnFrom(before: LessonLog) {
    const same =
      before.natural === this.natural &&
      before.mends === this.mends &&
      sameIds(before.undone, this.undone) &&
      before.cut.ledger.joints === this.cut.ledger.joints &&
      [...this.given].every(([id, log]) => before.given.get(id)?.events === log.events) &&
      [...this.ends].every(([id, end]) => before.ends.get(id) === end)
    if (!same) return
    const { segments } = this.cut
    const most = Math.min(before.done.length, segments.length, this.lastShown + 1, before.lastShown + 1)
    let n = 0
    while (n < most && alike(segments[n]!, before.cut.segments[n]!)) n++
    while (n > 0 && before.done[n - 1]!.farthest >= n) n--
    const last = before.done[n - 1]
    if (!last) return
    for (let k = 0; k < last.events; k++) this.events.push(before.events[k]!)
    for (let k = 0; k < last.always; k++) this.always.push(before.always[k]!)
    for (let k = 0; k < last.eased; k++) this.eased.push(before.eased[k]!)
    this.jumps = last.jumps
    for (let k = 0; k < n; k++) this.done.push(before.done[k]!)
    this.begin = before.begin
    this.frame = last.frame
    this.farthest = last.farthest
  }

  /** Puts the next segment behind what is there. */
  private next() {
    const { segments } = this.cut
    const i = this.done.length
    const segment = segments[i]!
    const log = this.logs.get(segment.take)
    if (log) {
      const before = segments[i - 1]
      if (!before || before.take !== segment.take || before.to !== segment.from) this.enter(segment, log)
      // What comes after the end of a take's clock belongs to its last stretch.
      const end = segment.to < this.ends.get(segment.take)! ? segment.to : Infinity
      const times = this.timesOf(i)
      for (let k = firstAt(log.events, segment.from); k < log.events.length; k++) {
        const event = log.events[k]!
        if (event.t >= end) break
        this.add(event, i, times)
      }
    }
    if (!segment.out) this.jumps = 0
    const { frame, farthest, jumps } = this
    const { length: eased } = this.eased
    this.done.push({ events: this.events.length, always: this.always.length, eased, jumps, frame, farthest })
  }

  /** What comes or goes while no time passes; more than a glance can follow does so softly. */
  private jump(event: TakeEvent, at: number) {
    if (!this.done.length || this.cut.ledger.joints === 'stand') return
    const kind = kindOf(event)
    this.jumps += inkOf(event).length + (kind.retroactive ? kind.refs(event).length : 0)
    if (this.jumps >= A_GLANCE && this.eased[this.eased.length - 1] !== at) this.eased.push(at)
  }

  /** Goes to another place of a take: its frame there, and the whole of it. */
  private enter(segment: Segment, log: LaidLog) {
    let frame = log.first
    for (const event of log.events) {
      if (event.t >= segment.from && segment.from > 0) break
      if (event.type === 'frame' && event.t < segment.from) frame = event.frame
    }
    if (!this.begin) this.begin = this.frame = frame
    else {
      if (JSON.stringify(frame) !== JSON.stringify(this.frame))
        this.events.push({ type: 'frame', t: segment.at, frame })
      else this.events.push({ type: 'look', t: segment.at, box: null, over: 0 })
      this.events.push({ type: 'spot', t: segment.at, box: null })
      this.frame = frame
    }
  }

  private add(event: TakeEvent, i: number, times: TimeMap) {
    const segment = this.cut.segments[i]!
    const kind = kindOf(event)
    // Where the end is out, students never get there.
    if (segment.out === 'ink goes' && i > this.lastShown) return
    if (segment.out && !kind.survivesRemoval && (segment.out === 'ink goes' || kind.lifetime === 'ephemeral')) return
    if (event.type === 'back' && !this.natural) return
    if (this.undone.size && belongsTo(event, this.undone)) return
    const made = this.named(kind.mapTimes(event, times), segment.copy)
    if (made.type === 'frame') this.frame = made.frame
    this.events.push(made)
    if (segment.out) this.jump(event, segment.at)
    if (this.mended.size) this.mend(made)
  }

  /** What appears with an event is mended at once. */
  private mend(event: TakeEvent) {
    for (const name of kindOf(event).brings(event)) {
      // A copy of a step has names of its own for what is in it.
      const [target, copy] = name.split('~c') as [string, string?]
      for (const mend of this.mended.get(target) ?? [])
        this.always.push(alwaysSo(mend, target, name, event.t, Number(copy ?? 0)))
    }
  }

  /** Lesson time of a moment of a take that comes after the beginning of a segment, however far after. */
  private lesson(i: number, t: number): number {
    const { segments } = this.cut
    let s = segments[i]!
    for (let k = i; t >= s.to; ) {
      const next = segments[++k]
      this.farthest = Math.max(this.farthest, k)
      if (!next || next.take !== s.take || next.from !== s.to) return s.out ? s.at : s.at + (s.to - s.from) / s.speed
      s = next
    }
    return s.out ? s.at : s.at + (t - s.from) / s.speed
  }

  /** Lesson time for what begins in a segment, with all that goes on after it. */
  private timesOf(i: number): TimeMap {
    return {
      moment: t => this.lesson(i, t),
      samples: points => this.points(points, i),
      rewound: to => this.wentBackTo(to),
    }
  }

  /** Where the end is out with its ink, the moment of the take at which ink that is being written there ends. */
  private endOf(i: number): number {
    const { segments } = this.cut
    for (let k = i; ; k++) {
      const next = segments[k + 1]
      if (next?.take !== segments[k]!.take || next.from !== segments[k]!.to) return Infinity
      this.farthest = Math.max(this.farthest, k + 1)
      if (k + 1 > this.lastShown && next.out === 'ink goes') return next.from
    }
  }

  /** Samples on lesson time; as they are where they need not move. */
  private points(points: number[], i: number): number[] {
    const s = this.cut.segments[i]!
    const last = points[points.length - 1] ?? 0
    const shift = s.at - s.from
    if (!s.out && s.speed === 1 && last < s.to) return shift === 0 ? points : shiftedBy(points, shift)
    const end = last < s.to ? Infinity : this.endOf(i)
    const out: number[] = []
    for (let k = 0; k < points.length && points[k + POINT_SIZE - 1]! < end; k += POINT_SIZE)
      out.push(points[k]!, points[k + 1]!, points[k + 2]!, this.lesson(i, points[k + POINT_SIZE - 1]!))
    return out
  }

  /** Where a going back leads on lesson time: never quite to the beginning, where there was nothing. */
  private wentBackTo(to: number): number {
    return to === 0 ? 0 : Math.max(1e-6, this.cut.fromTake(to))
  }

  /** A copy of a step has names of its own for what is made in it. */
  private named(event: TakeEvent, copy: number): TakeEvent {
    if (!copy) return event
    const copied = (id: string) => `${id}~c${copy}`
    return kindOf(event).mapIds(event, {
      brought: id => {
        this.copied.add(copied(id))
        return copied(id)
      },
      referred: id => (this.copied.has(copied(id)) ? copied(id) : id),
    })
  }
}
