import type { Frame } from '../folio/basics'
import { kindOf, type TakeEvent } from '../recording/events'
import { BoardIndex, isThing, type BoardIndexItem } from '../recording/board'
import { POINT_SIZE } from '../ink/stroke'
import type { Ink, ItemState, Placed } from '../recording/operation'
import { backsResolved } from './backs'
import type { Compiled } from './compile'

type FrameEvent = Extract<TakeEvent, { type: 'frame' }>

/** What is done to a stroke or thing of the log on its way out: it stays as it is, or stands there as what is seen of it. */
type Plan = 'as it is' | readonly ItemState<Ink | Placed>[]

/** What an edition shows, and nothing that it does not; what was mended is as it was mended. */
export interface Shown extends Compiled {
  /** The board of this log. */
  index: BoardIndex
}

/**
 * The log of an edition with what is seen in it, and nothing else: what was never on a board that students see, as it
 * was mended, erased or changed before any time passed, or lies on a page that is not shown, is not in it, nor is what
 * was left of it in words or samples.
 * @param log of the whole edition
 * @param duration of the edition, ms
 */
export function shownOf(log: Compiled, duration: number): Shown {
  const resolved = backsResolved(log.events, log.first)
  const { always } = log
  const index = BoardIndex.of({ until: () => ({ events: resolved, always, eased: [] }) }, log.first)
  const views = new Views(index, duration)
  const plans = new Plans(index, views, duration)
  const kept = resolved.flatMap(event => plans.kept(event))
  const made = new Set(kept.flatMap(e => ('id' in e ? [e.id] : [])))
  const counting = kept.filter(e => (e.type !== 'undo' && e.type !== 'redo') || made.has(e.target))
  const { events, first } = views.framed(counting, log.first)
  const out = {
    events,
    always: [],
    eased: log.eased,
    first,
  }
  return { ...out, index: BoardIndex.of({ until: () => out }, first) }
}

/** Which pages are in front when, ms. */
class Views {
  private readonly spans: { frame: Frame; from: number; to: number }[]

  constructor(index: BoardIndex, duration: number) {
    const frames = index.frameChanges()
    // At its very end an edition shows what comes last, whatever time that has.
    this.spans = frames.map(({ t, frame }, i) => ({
      frame,
      from: t,
      to: frames[i + 1]?.t ?? Math.max(duration, t) + 1,
    }))
  }

  /** Whether a page is in front for any time between two moments, or, without a page, any is. */
  shows(pageId: string | undefined, from = -Infinity, to = Infinity): boolean {
    return this.spans.some(
      s => (pageId === undefined || s.frame.pageId === pageId) && Math.min(s.to, to) > Math.max(s.from, from),
    )
  }

  private shown(pageId: string): Frame | undefined {
    return this.spans.find(s => s.frame.pageId === pageId && s.to > s.from)?.frame
  }

  /** Events without the frames that nobody sees; one that tells on which page ink lies is one that is seen elsewhere. */
  framed(events: readonly TakeEvent[], first: Frame): { events: TakeEvent[]; first: Frame } {
    const brings = (e: TakeEvent) => kindOf(e).brings(e).length > 0
    const out: TakeEvent[] = []
    let begin = first
    for (let i = -1; i < events.length; i++) {
      const event = events[i]
      if (event && event.type !== 'frame') {
        out.push(event)
        continue
      }
      const t = event?.t ?? 0
      const next = events.findIndex((e, k) => k > i && e.type === 'frame')
      const passes = next < 0 || events[next]!.t > t
      const frame = event?.frame ?? first
      const needed = passes || events.slice(i + 1, next).some(brings)
      const seen = passes ? frame : (this.shown(frame.pageId) ?? null)
      if (event && needed && seen) out.push({ ...event, frame: seen })
      if (event) continue
      // Without ink on it, a first frame that passes at once is that which is seen then.
      const then = events.findLast((e): e is FrameEvent => e.type === 'frame' && e.t <= t)
      begin = (needed && seen) || (then?.frame ?? first)
    }
    return { events: out, first: begin }
  }
}

/** What becomes of each stroke and thing, and so of each event. */
class Plans {
  private readonly known = new Map<string, Plan>()

  constructor(
    private readonly index: BoardIndex,
    private readonly views: Views,
    private readonly duration: number,
  ) {}

  private of(id: string): Plan {
    const known = this.known.get(id)
    if (known) return known
    const item = this.index.item(id)
    const plan = item ? this.planOf(item) : []
    this.known.set(id, plan)
    return plan
  }
  private stays(id: string): boolean {
    return this.of(id) === 'as it is'
  }

  private planOf(item: BoardIndexItem): Plan {
    const all: ItemState<Ink | Placed>[] = item.history()
    const seen = all.filter(({ from, value }, i) => {
      if (value === null) return true
      const next = all[i + 1]?.from
      if (next === undefined) return this.views.shows(item.pageId)
      return from < this.duration && this.views.shows(item.pageId, from, next)
    })
    if (!seen.some(s => s.value)) return []
    if (item.isMended) return seen
    return isThing(item) ? wordsSeen(item, seen) : samplesSeen(item, seen)
  }

  /** An event with what stays of it: none, itself, or what stands in its place. */
  kept(event: TakeEvent): TakeEvent[] {
    const kind = kindOf(event)
    const rest = kind.restrict(event, id => this.stays(id))
    return [
      ...(rest ? [rest] : this.replacedBy(event)),
      ...kind.brings(event).flatMap(id => (this.stays(id) ? [] : this.anew(id, event.t))),
    ]
  }

  /** What an event that does not stay took the place of: it goes all the same. */
  private replacedBy(event: TakeEvent): TakeEvent[] {
    if (!('id' in event)) return []
    const strokes = kindOf(event)
      .refs(event)
      .filter(id => this.stays(id))
    return strokes.length ? [{ type: 'erase', t: event.t, id: event.id, strokes }] : []
  }

  /** What is seen of an item, from the moments on from which it is. @param t when the event came that brought it, ms */
  private anew(id: string, t: number): TakeEvent[] {
    const item = this.index.item(id)
    const over = item && isThing(item) ? item.over : null
    return statesOf(id, this.of(id)).flatMap(({ from, to, name, value }, i): TakeEvent[] => {
      if (over !== null) {
        const drawn = i === 0 && from <= t ? over : 0
        const { thing } = value as Placed
        return [{ type: 'place', t: from, id: name, thing, over: drawn }, ...off(name, to, [{ id: name }])]
      }
      const pieces = (value as Ink).strokes.map((s, k) => ({ ...s, id: k ? `${name}.${k}` : name }))
      return [{ type: 'write', t: Math.max(t, from), id: name, strokes: pieces }, ...off(name, to, pieces)]
    })
  }
}

/** Takes off what stood there until a moment. */
const off = (name: string, to: number | undefined, items: readonly { id: string }[]): TakeEvent[] =>
  to === undefined ? [] : [{ type: 'erase', t: to, id: `${name}-off`, strokes: items.map(i => i.id) }]

/** What is seen of an item, each with a name of its own, from when and until when, ms. */
function statesOf(id: string, plan: Plan) {
  if (plan === 'as it is') return []
  let n = 0
  return plan.flatMap(({ from, value }, i) =>
    value ? [{ from, to: plan[i + 1]?.from, value, name: n++ ? `${id}~${n}` : id }] : [],
  )
}

/** A thing stays as it is where all that it ever said is seen. */
function wordsSeen(item: BoardIndexItem, seen: readonly ItemState<Ink | Placed>[]): Plan {
  const sources = new Set(seen.flatMap(s => (s.value ? [(s.value as Placed).source] : [])))
  return item.sources.every(id => sources.has(id)) ? 'as it is' : seen
}

/** A stroke stays as it is where all of its samples are seen at some moment. */
function samplesSeen(item: BoardIndexItem, seen: readonly ItemState<Ink | Placed>[]): Plan {
  const count = (value: Ink) => value.strokes.reduce((n, s) => n + s.points.length / POINT_SIZE, 0)
  const most = Math.max(...seen.map(s => (s.value ? count(s.value as Ink) : 0)))
  return most >= count(item.original as Ink) ? 'as it is' : seen
}
