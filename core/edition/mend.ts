import { newId } from '../folio/known'
import type { Mend } from '../folio/model'
import type { Thing } from '../folio/thing'
import { boxOfSamples } from '../geometry'
import { layGuide, writeMove } from '../guides'
import type { Matrix } from '../ink/alter'
import { quantise } from '../ink/quantise'
import { seededRandom } from '../ink/hand'
import type { PenRole } from '../ink/roles'
import { POINT_SIZE, type InkTool, type Stroke } from '../ink/stroke'
import type { Board } from '../recording/board'
import type { Desk } from '../recording/desk'
import { endOf, type StrokeEvent, type TakeEvent } from '../recording/events'
import type { PenSample } from '../recording/recorder'
import type { Edition } from './edition'

/** Where mending happens: a moment of the edition, and of the take that it shows; ms. */
export interface MendPlace {
  edition: Edition
  lesson: number
  take: number
}

/** What happens to what was mended. */
export interface MendKeeper {
  /** @param ends where what was added has written itself, ms after the moment of the mend */
  keep(mend: Mend, ends: number): void
  undo(): void
  redo(): void
  readonly canUndo: boolean
  readonly canRedo: boolean
}

/** A name that a copy of a step gave is that of what was copied. */
const original = (id: string) => id.replace(/~.*$/, '')

/**
 * A desk over what was recorded: what is done there is a mend. What it adds writes itself at the moment that is shown;
 * what it moves, changes or takes off was so from when that appeared. Its clock is the hand's own.
 */
export class MendDesk implements Desk {
  readonly sealed = false
  readonly busyMs = 0
  private writing: { stroke: StrokeEvent; began: number } | null = null
  /** Strokes whose place, time and pace the next one takes. */
  rewriting: readonly string[] = []
  /** What was written anew last, and the middle of what it took the place of. */
  private last: { stroke: StrokeEvent; at: { x: number; y: number } } | null = null

  constructor(
    private readonly place_: () => MendPlace,
    private readonly keeper: MendKeeper,
  ) {}

  /** The board stands still at the moment that is mended. */
  get board(): Desk['board'] {
    const { edition, lesson } = this.place_()
    const { board } = edition
    const at = (_: number, pageId?: string) => board.at(lesson >= edition.duration ? Infinity : lesson, pageId)
    return {
      at,
      last: (pageId?: string) => at(0, pageId),
      frameAt: () => board.frameAt(lesson),
      movesOf: guide => this.movesOf(guide).length,
      isRevealed: held => board.isRevealed(held),
    }
  }
  get events(): readonly TakeEvent[] {
    return this.place_().edition.events
  }
  get growing(): StrokeEvent | undefined {
    return this.writing?.stroke
  }
  get canUndo(): boolean {
    return this.keeper.canUndo
  }
  get canRedo(): boolean {
    return this.keeper.canRedo
  }

  now(pageId?: string): Board {
    const board = this.board.last(pageId)
    const stroke = this.writing?.stroke
    if (!stroke) return board
    const growing = { stroke, count: stroke.points.length / POINT_SIZE, of: stroke.id, n: Number.MAX_SAFE_INTEGER }
    return { ...board, strokes: [...board.strokes, growing] }
  }

  penDown(role: PenRole, tool: InkTool, sample: PenSample, size = 1): string {
    const t = Math.round(this.place_().take)
    const id = newId()
    const points = quantise(sample.x, sample.y, sample.pressure, t)
    this.writing = {
      stroke: { type: 'stroke', t, id, role, tool, ...(size === 1 ? {} : { size }), points },
      began: sample.now,
    }
    return id
  }
  /** A trail is only seen while one speaks. */
  trailDown(): null {
    return null
  }
  penMove(samples: readonly PenSample[]): void {
    if (!this.writing) return
    const { stroke, began } = this.writing
    for (const s of samples)
      stroke.points.push(...quantise(s.x, s.y, s.pressure, Math.round(stroke.t + Math.max(0, s.now - began))))
  }
  penUp(): void {
    const stroke = this.writing?.stroke
    this.writing = null
    if (!stroke) return
    const old = this.old(stroke)
    this.rewriting = []
    if (old) {
      this.last = { stroke, at: middleOf(old.points) }
      this.writeOver(stroke, old)
    } else this.keep('write', [stroke])
  }
  private writeOver(stroke: StrokeEvent, old: StrokeEvent & { ids: string[] }) {
    this.keep('write anew', [this.erasing([...old.ids]), { ...retimed(stroke, old), t: old.points[3]! } as StrokeEvent])
  }

  /** Whether something was written anew that can be written elsewhere as well. */
  get canRepeat(): boolean {
    return this.last !== null
  }
  /**
   * What was written anew last, here as well: a wrong digit that was carried on. It takes the place, the time and the
   * pace of other ink. @returns whether there was any
   */
  alsoHere(targets: readonly string[]): boolean {
    this.rewriting = targets
    const old = this.last && this.old({ ...this.last.stroke, id: newId() })
    this.rewriting = []
    if (!old || !this.last) return false
    const { stroke, at } = this.last
    const to = middleOf(old.points)
    const by = [to.x - at.x, to.y - at.y]
    const points = stroke.points.map((n, i) =>
      i % POINT_SIZE < 2 ? Math.round((n + by[i % POINT_SIZE]!) * 100) / 100 : n,
    )
    this.writeOver({ ...stroke, id: newId(), points }, old)
    return true
  }

  place(thing: Thing, over = 0, of: { held?: string; instead?: string[] } = {}): string {
    const id = newId()
    const t = this.moment
    const gone = of.instead?.length ? [this.erasing(of.instead)] : []
    this.keep('add', [
      { type: 'place', t, id, thing, over: Math.round(over), ...(of.held ? { held: of.held } : {}) },
      ...gone,
    ])
    return id
  }
  /** A guide with other numbers writes its moves anew, each in the time of the old one. */
  change(target: string, thing: Thing): void {
    const id = original(target)
    this.keep('change', [
      { type: 'change', t: this.moment, id: newId(), target: id, thing },
      ...(thing.kind === 'guide' ? this.movesAnew(id, thing) : []),
    ])
  }
  alter(targets: readonly string[], { matrix, role }: { matrix?: Matrix; role?: PenRole }): void {
    if (!targets.length) return
    this.keep(matrix ? 'move' : 'recolour', [
      {
        type: 'alter',
        t: this.moment,
        id: newId(),
        targets: [...new Set(targets.map(original))],
        ...(matrix ? { matrix: [...matrix] } : {}),
        ...(role ? { role } : {}),
      },
    ])
  }
  cut(strokes: readonly { id: string; keep: [number, number][] }[]): void {
    if (strokes.length)
      this.keep('rub out', [
        { type: 'split', t: this.moment, id: newId(), strokes: strokes.map(s => ({ ...s, id: original(s.id) })) },
      ])
  }
  erase(targets: readonly string[]): void {
    if (targets.length) this.keep('remove', [this.erasing(targets)])
  }
  write(strokes: readonly Stroke[], of?: { guide: string; move: number }): string | null {
    if (!strokes.length) return null
    const id = newId()
    this.keep('write', [written(id, this.moment, strokes, of)])
    return id
  }
  /** Where students look is not mended. */
  show(): void {}
  undo(): void {
    this.keeper.undo()
  }
  redo(): void {
    this.keeper.redo()
  }

  private get moment(): number {
    return Math.round(this.place_().take)
  }
  private erasing(targets: readonly string[]): TakeEvent {
    return { type: 'erase', t: this.moment, id: newId(), strokes: [...new Set(targets.map(original))] }
  }
  private keep(name: string, events: TakeEvent[]) {
    const ends = Math.max(0, ...events.map(e => endOf(e) - e.t))
    this.keeper.keep({ id: newId(), made: new Date().toISOString(), name, events }, ends)
  }

  /** The strokes that are written anew, as one, on their take's time; null where none are. */
  private old(stroke: StrokeEvent): (StrokeEvent & { ids: string[] }) | null {
    if (!this.rewriting.length) return null
    const { edition } = this.place_()
    const wanted = new Set(this.rewriting)
    const strokes = this.board.last().strokes.filter(s => wanted.has(s.of))
    const points = strokes.flatMap(s => s.stroke.points)
    if (!points.length) return null
    const ontoTake = points.map((n, i) => (i % POINT_SIZE === 3 ? Math.round(edition.time.toTake(n)) : n))
    return { ...stroke, ids: strokes.map(s => s.of), points: ontoTake }
  }

  /** The moves of a guide that are written by the moment shown. */
  private movesOf(guide: string) {
    const { edition, lesson } = this.place_()
    return edition.events.flatMap(e => (e.type === 'write' && e.guide === guide && e.t <= lesson ? [e] : []))
  }

  private movesAnew(guide: string, thing: Extract<Thing, { kind: 'guide' }>): TakeEvent[] {
    const all = this.place_().edition.events.flatMap(e => (e.type === 'write' && e.guide === guide ? [e] : []))
    const { moves } = layGuide(thing.spec)
    const old = all.flatMap(e => e.strokes.map(s => original(s.id)))
    const anew = all.flatMap((e): TakeEvent[] => {
      const move = moves[e.move ?? -1]
      if (!move) return []
      const { strokes } = writeMove(move, thing.at, thing.cell, seededRandom((e.move ?? 0) * 31 + 7), newId)
      const t = Math.round(this.place_().edition.time.toTake(e.t))
      return strokes.length ? [written(newId(), t, strokes, { guide, move: e.move ?? 0 })] : []
    })
    return old.length ? [{ type: 'erase', t: this.moment, id: newId(), strokes: old }, ...anew] : anew
  }
}

/** Strokes that write themselves from `t` on; their own times count from 0. */
function written(
  id: string,
  t: number,
  strokes: readonly Stroke[],
  of?: { guide: string; move: number },
): Extract<TakeEvent, { type: 'write' }> {
  return {
    type: 'write',
    t,
    id,
    strokes: strokes.map(s => ({
      ...s,
      id: newId(),
      points: s.points.map((n, i) => (i % POINT_SIZE === POINT_SIZE - 1 ? Math.round(n) + t : n)),
    })),
    ...of,
  }
}

/**
 * A stroke written anew in the time and pace of an old one: each of its samples comes when as much of the old one's
 * length was there.
 */
export function retimed(stroke: Stroke, old: Stroke): Stroke {
  const along = shares(old.points)
  const own = shares(stroke.points)
  let k = 0
  const points = stroke.points.slice()
  own.forEach((share, i) => {
    while (k < along.length - 1 && along[k + 1]! < share) k++
    const a = along[k]!,
      b = along[Math.min(k + 1, along.length - 1)]!
    const ta = old.points[k * POINT_SIZE + 3]!,
      tb = old.points[Math.min(k + 1, along.length - 1) * POINT_SIZE + 3]!
    points[i * POINT_SIZE + 3] = Math.round(ta + (b > a ? ((share - a) / (b - a)) * (tb - ta) : 0))
  })
  return { ...stroke, points }
}

function middleOf(points: readonly number[]): { x: number; y: number } {
  const { x, y, w, h } = boxOfSamples(points, POINT_SIZE)
  return { x: x + w / 2, y: y + h / 2 }
}

/** How much of a stroke's length is there at each of its samples, 0…1. */
function shares(points: readonly number[]): number[] {
  const out = [0]
  for (let i = POINT_SIZE; i < points.length; i += POINT_SIZE)
    out.push(
      out[out.length - 1]! +
        Math.hypot(points[i]! - points[i - POINT_SIZE]!, points[i + 1]! - points[i - POINT_SIZE + 1]!),
    )
  const whole = out[out.length - 1]! || 1
  return out.map(n => n / whole)
}
