import type { Cut, Segment } from '../cut/cut'
import type { Mend } from '../folio/model'
import type { Frame } from '../folio/basics'
import { POINT_SIZE, type Stroke } from '../ink/stroke'
import type { TakeEvent } from '../take/events'
import { isSeen, meaningOf } from '../take/meaning'

/** A take's log as it lies on the pages now, and the frame in which it begins. */
export interface LaidLog {
  events: readonly TakeEvent[]
  first: Frame
}

/** What an edition shows: one log on lesson time, ms since it began, whatever takes it came from. */
export interface Compiled {
  events: TakeEvent[]
  first: Frame
}

/** An event that does something to what was there before, whenever it comes in the log. */
type Later = Extract<TakeEvent, { type: 'alter' | 'change' | 'erase' | 'split' }>
const isLater = (event: TakeEvent): event is Later =>
  event.type === 'alter' || event.type === 'change' || event.type === 'erase' || event.type === 'split'

/**
 * Puts the logs of takes on lesson time: what is out goes or stands there at once, steps come in their order, and what
 * was mended always was so.
 * @param logs of every take that the cut shows, by its id, as they lie on the pages now
 * @param mends laid on the pages as well
 */
export function compile(cut: Cut, logs: ReadonlyMap<string, LaidLog>, mends: readonly Mend[] = []): Compiled {
  const all = mends.flatMap(m => m.events)
  const added = all.filter(e => !isLater(e)).sort((a, b) => a.t - b.t)
  const own = logs.get(cut.ledger.takeId)
  const withAdded = own && added.length ? { ...own, events: merged(own.events, added) } : own
  const compiler = new Compiler(cut, id => (id === cut.ledger.takeId ? withAdded : logs.get(id)))
  compiler.run()
  return { events: [...compiler.events, ...always(all.filter(isLater), compiler.events)], first: compiler.first! }
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

/**
 * What was mended, from the moment at which its targets appear: an operation for each of them. One whose target is out
 * of the edition waits until that is back.
 */
function always(mends: readonly Later[], events: readonly TakeEvent[]): TakeEvent[] {
  if (!mends.length) return []
  const appears = new Map<string, number>()
  for (const event of events) {
    if (event.type === 'stroke' || event.type === 'place') appears.set(event.id, event.t)
    if (event.type === 'write') for (const s of event.strokes) appears.set(s.id, event.t)
  }
  // A copy of a step has names of its own for what is in it.
  const named = (target: string) => [...appears.keys()].filter(id => id === target || id.startsWith(`${target}~c`))
  const copies = [...appears.keys()].some(id => id.includes('~c'))
  const all = (target: string) => (copies ? named(target) : appears.has(target) ? [target] : [])
  return mends.flatMap(event =>
    meaningOf(event)
      .refers(event)
      .flatMap(target =>
        all(target).map((name, i): TakeEvent => {
          const at = { ...event, t: appears.get(name)!, id: `${event.id}~${target}~${i}` }
          switch (at.type) {
            case 'alter':
              return { ...at, targets: [name] }
            case 'erase':
              return { ...at, strokes: [name] }
            case 'change':
              return { ...at, target: name }
            case 'split':
              return { ...at, strokes: at.strokes.filter(s => s.id === target).map(s => ({ ...s, id: name })) }
            default:
              return at satisfies never
          }
        }),
      ),
  )
}

/** Samples that were moved in time for the last edition; what lies before a change is at the same time in the next. */
const shifted = new WeakMap<readonly number[], { shift: number; points: number[] }>()
function shiftedBy(points: number[], shift: number): number[] {
  const known = shifted.get(points)
  if (known?.shift === shift) return known.points
  const out = points.slice()
  for (let k = POINT_SIZE - 1; k < out.length; k += POINT_SIZE) out[k] = out[k]! + shift
  shifted.set(points, { shift, points: out })
  return out
}

/** The index of the first event at or after `t`. */
function firstAt(events: readonly TakeEvent[], t: number): number {
  let low = 0
  let high = events.length
  while (low < high) {
    const mid = (low + high) >> 1
    if (events[mid]!.t < t) low = mid + 1
    else high = mid
  }
  return low
}

class Compiler {
  readonly events: TakeEvent[] = []
  first: Frame | null = null
  /** The frame that students see at the end of what is there so far. */
  private frame: Frame | null = null
  private readonly natural: boolean
  private readonly lastShown: number
  /** What was made in copies of steps. */
  private readonly copied = new Set<string>()

  constructor(
    private readonly cut: Cut,
    private readonly log: (take: string) => LaidLog | undefined,
  ) {
    this.lastShown = cut.segments.findLastIndex(s => !s.out)
    this.natural = !cut.ledger.order && cut.segments.every(s => s.take === cut.ledger.takeId)
  }

  run(): void {
    const { segments } = this.cut
    const ends = new Map<string, number>()
    for (const s of segments) ends.set(s.take, Math.max(s.to, ends.get(s.take) ?? 0))
    segments.forEach((segment, i) => {
      const log = this.log(segment.take)
      if (!log) return
      const before = segments[i - 1]
      if (!before || before.take !== segment.take || before.to !== segment.from) this.enter(segment, log)
      // What comes after the end of a take's clock belongs to its last stretch.
      const end = segment.to < ends.get(segment.take)! ? segment.to : Infinity
      for (let k = firstAt(log.events, segment.from); k < log.events.length; k++) {
        const event = log.events[k]!
        if (event.t >= end) break
        this.add(event, i)
      }
    })
    this.first ??= this.log(this.cut.ledger.takeId)?.first ?? { pageId: '', box: { x: 0, y: 0, w: 16, h: 9 } }
  }

  /** Goes to another place of a take: its frame there, and the whole of it. */
  private enter(segment: Segment, log: LaidLog) {
    let frame = log.first
    for (const event of log.events) {
      if (event.t >= segment.from && segment.from > 0) break
      if (event.type === 'frame' && event.t < segment.from) frame = event.frame
    }
    if (!this.first) this.first = this.frame = frame
    else {
      if (frame !== this.frame) this.events.push({ type: 'frame', t: segment.at, frame })
      else this.events.push({ type: 'look', t: segment.at, box: null, over: 0 })
      this.events.push({ type: 'spot', t: segment.at, box: null })
      this.frame = frame
    }
  }

  private add(event: TakeEvent, i: number) {
    const segment = this.cut.segments[i]!
    const meaning = meaningOf(event)
    // Where the end is out, students never get there.
    if (segment.out === 'ink goes' && i > this.lastShown) return
    if (segment.out && !meaning.stays && (segment.out === 'ink goes' || isSeen(event))) return
    if (event.type === 'back' && !this.natural) return
    const made = this.named(this.timed(event, i), segment.copy)
    if (made.type === 'frame') this.frame = made.frame
    this.events.push(made)
  }

  /** Lesson time of a moment of a take that comes after the beginning of a segment, however far after. */
  private lesson(i: number, t: number): number {
    const { segments } = this.cut
    let s = segments[i]!
    for (let k = i; t >= s.to; ) {
      const next = segments[++k]
      if (!next || next.take !== s.take || next.from !== s.to) return s.out ? s.at : s.at + (s.to - s.from) / s.speed
      s = next
    }
    return s.out ? s.at : s.at + (t - s.from) / s.speed
  }

  /** The event on lesson time, with all that goes on after it. */
  private timed(event: TakeEvent, i: number): TakeEvent {
    const t = this.lesson(i, event.t)
    switch (event.type) {
      case 'stroke':
      case 'trail':
        return { ...event, t, points: this.points(event.points, i) }
      case 'write':
        return { ...event, t, strokes: event.strokes.map(s => ({ ...s, points: this.points(s.points, i) })) }
      case 'place':
      case 'look':
        return { ...event, t, over: this.lesson(i, event.t + event.over) - t }
      case 'back':
        return { ...event, t, to: this.wentBackTo(event.to) }
      case 'change':
      case 'alter':
      case 'split':
      case 'erase':
      case 'undo':
      case 'redo':
      case 'spot':
      case 'frame':
      case 'step':
      case 'pause':
      case 'turn':
        return { ...event, t }
      default:
        return event satisfies never
    }
  }

  /** Samples on lesson time; as they are where they need not move. */
  private points(points: number[], i: number): number[] {
    const s = this.cut.segments[i]!
    const last = points[points.length - 1] ?? 0
    const shift = s.at - s.from
    if (!s.out && s.speed === 1 && last < s.to) return shift === 0 ? points : shiftedBy(points, shift)
    const out = points.slice()
    for (let k = POINT_SIZE - 1; k < out.length; k += POINT_SIZE) out[k] = this.lesson(i, out[k]!)
    return out
  }

  /** Where a going back leads on lesson time: never quite to the beginning, where there was nothing. */
  private wentBackTo(to: number): number {
    return to === 0 ? 0 : Math.max(1e-6, this.cut.fromTake(to))
  }

  /** A copy of a step has names of its own for what is made in it. */
  private named(event: TakeEvent, copy: number): TakeEvent {
    if (!copy) return event
    const renamed = (id: string) => `${id}~c${copy}`
    const own = (id: string) => (this.copied.has(renamed(id)) ? renamed(id) : id)
    const made = 'id' in event ? { ...event, id: renamed(event.id) } : event
    if ('id' in made) this.copied.add(made.id)
    switch (made.type) {
      case 'write':
        made.strokes.forEach((s: Stroke) => this.copied.add(renamed(s.id)))
        return { ...made, strokes: made.strokes.map((s: Stroke) => ({ ...s, id: renamed(s.id) })) }
      case 'change':
      case 'undo':
      case 'redo':
        return { ...made, target: own(made.target) }
      case 'alter':
        return { ...made, targets: made.targets.map(own) }
      case 'erase':
        return { ...made, strokes: made.strokes.map(own) }
      case 'split':
        return { ...made, strokes: made.strokes.map(s => ({ ...s, id: own(s.id) })) }
      default:
        return made
    }
  }
}
