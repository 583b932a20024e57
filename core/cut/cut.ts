import type { Ledger, Pace, Step, Strike, Turn } from '../folio/model'
import type { Stretch } from '../take/board'
import { inOrder, stepName, stretchOf } from './ledger'

/** A named place in a cut, ms since the cut began. */
export interface Chapter {
  t: number
  title: string
}

/**
 * A pause for the student in a cut: from `t` to `to` (cut ms) the video holds still; `seconds` is the suggested time.
 */
export interface CutTurn {
  t: number
  to: number
  seconds: number
}

/**
 * A stretch of a take on its way into a cut: it begins at cut time `at`, and goes by `speed` times as fast as it was
 * recorded. Where it is out, it has no length; what was written in it goes, or stands there at once.
 */
export interface Segment extends Stretch {
  take: string
  at: number
  speed: number
  /** Null where it is in the cut. */
  out: 'ink goes' | 'ink stays' | null
  /** How often its step has come before in this cut. */
  copy: number
}

/**
 * A piece of a cut: `ms` long from cut time `at`. It shows a take from `from` on, `speed` times as fast; or, where the
 * student is asked to try, holds still there.
 */
export interface Piece {
  at: number
  ms: number
  take: string
  from: number
  speed: number
  turn?: Turn
}

/** A step in a cut, and where it lies there, cut ms. */
export interface CutStep {
  step: Step
  /** Its place in the ledger. */
  index: number
  /** Its place in the order of the edition, with those that are out. */
  place: number
  from: number
  to: number
}

/** What a step of a cut is called. */
export type NameOf = (step: CutStep) => string
export const nameOfStep: NameOf = ({ step, index }) => stepName(step, index)

/**
 * A finished version of a question: which stretches of its takes are shown, one after another, how fast, and where it
 * holds still. Cut times are ms since it began, take times ms of the take they are of.
 */
export class Cut {
  /** All of the takes that it is made from, in its order, with what is out. */
  readonly segments: readonly Segment[]
  readonly pieces: readonly Piece[]
  readonly steps: readonly CutStep[]
  /** Length of the cut, ms. */
  readonly duration: number

  constructor(
    readonly ledger: Ledger,
    readonly takeDuration: number,
  ) {
    const made = new Maker(ledger)
    const times = new Map<string, number>()
    for (const [place, step] of inOrder(ledger).entries()) {
      const index = ledger.steps.indexOf(step)
      const copy = times.get(step.id) ?? 0
      times.set(step.id, copy + 1)
      const from = made.at
      made.add(step, step.anew ?? stretchOf(ledger, index, takeDuration), copy)
      if (made.at > from) made.steps.push({ step, index, place, from, to: made.at })
    }
    this.segments = made.segments
    this.pieces = made.pieces
    this.steps = made.steps
    this.duration = made.at
  }

  /** Stretches of the ledger's own take that are shown, take ms, ascending, joined where they touch. */
  get kept(): readonly Stretch[] {
    return joined(this.segments.filter(s => !s.out && s.take === this.ledger.takeId))
  }

  /** The piece shown at cut time `t`; past the end, the last. */
  pieceAt(t: number): Piece | undefined {
    return this.pieces[indexAt(this.pieces, t, p => p.at)]
  }

  /** Take time shown at cut time `t`, of the take that is shown there; past the end, the last moment. */
  toTake(t: number): number {
    const piece = this.pieceAt(t)
    if (!piece) return 0
    return piece.turn ? piece.from : piece.from + Math.min(Math.max(0, t - piece.at), piece.ms) * piece.speed
  }

  /**
   * Cut time at which take time `t` is shown, before any holding still there; where it is out, the moment it would have
   * begun.
   */
  fromTake(t: number, take = this.ledger.takeId): number {
    let next: Segment | null = null
    for (const s of this.segments) {
      if (s.take !== take) continue
      if (t >= s.from && t < s.to) {
        const hold = s.out ? null : this.pieces.find(p => p.turn && p.take === take && p.from === t && p.at < s.at)
        return hold?.at ?? (s.out ? s.at : s.at + (t - s.from) / s.speed)
      }
      if (s.from > t && (!next || s.from < next.from)) next = s
    }
    return next?.at ?? this.duration
  }

  /** Whether take time `t` is in the cut. */
  holds(t: number, take = this.ledger.takeId): boolean {
    return this.segments.some(s => !s.out && s.take === take && t >= s.from && t < s.to)
  }

  /** The pause for the student that cut time `t` lies in, and how much of it has passed, 0…1. */
  turnAt(t: number): { turn: Turn; share: number } | null {
    const piece = this.pieceAt(t)
    return piece?.turn && t < piece.at + piece.ms ? { turn: piece.turn, share: (t - piece.at) / piece.ms } : null
  }

  /** The pauses for the student that stay, with their cut times, ms. */
  turns(): CutTurn[] {
    return this.ledger.turns
      .filter(turn => this.holds(turn.t))
      .map(turn => ({ t: this.fromTake(turn.t), to: this.fromTake(turn.t) + turn.hold * 1000, seconds: turn.seconds }))
  }

  /** A chapter for each step that stays. */
  chapters(nameOf: NameOf = nameOfStep): Chapter[] {
    return this.steps.map(s => ({ t: s.from, title: nameOf(s) }))
  }

  /** Cut times, ascending, at which it leaps: where something was taken out, moved or goes by faster. */
  joints(): number[] {
    return this.pieces.flatMap((p, i) => {
      const before = this.pieces[i - 1]
      return before && !p.turn && !before.turn && !follows(before, p) ? [p.at] : []
    })
  }
}

const follows = (a: Piece, b: Pick<Piece, 'take' | 'from' | 'speed'>) =>
  a.take === b.take && a.speed === b.speed && Math.abs(a.from + a.ms * a.speed - b.from) < 1e-6

/** Puts the stretches of steps one behind another. */
class Maker {
  readonly segments: Segment[] = []
  readonly pieces: Piece[] = []
  readonly steps: CutStep[] = []
  at = 0

  private readonly strikes: ReadonlyMap<Step, Strike[]>
  private readonly paces: ReadonlyMap<Step, Pace[]>

  constructor(private readonly ledger: Ledger) {
    this.strikes = byStep(ledger, ledger.strikes ?? [])
    this.paces = byStep(ledger, ledger.paces ?? [])
  }

  add(step: Step, stretch: Stretch & { takeId?: string }, copy: number) {
    const take = stretch.takeId ?? this.ledger.takeId
    const own = take === this.ledger.takeId
    const edges = new Set([stretch.from, stretch.to])
    const inside = (t: number) => t > stretch.from && t < stretch.to && edges.add(t)
    const strikes = (own && this.strikes.get(step)) || []
    const paces = (own && this.paces.get(step)) || []
    for (const s of [...strikes, ...paces]) [s.from, s.to].forEach(inside)
    const turns = own ? this.ledger.turns.filter(t => t.hold > 0 && t.t >= stretch.from && t.t < stretch.to) : []
    turns.forEach(t => inside(t.t))
    const cuts = [...edges].sort((a, b) => a - b)
    cuts.slice(0, -1).forEach((a, i) => {
      const covers = (s: Stretch) => s.from <= a && s.to >= cuts[i + 1]!
      const strike = strikes.filter(covers)
      const out = step.struck
        ? step.inkStays
          ? 'ink stays'
          : 'ink goes'
        : strike.length
          ? strike.every(s => s.inkStays)
            ? 'ink stays'
            : 'ink goes'
          : null
      if (!out) for (const turn of turns) if (turn.t === a) this.hold(turn, take)
      // Whole milliseconds of the cut, however fast it goes by.
      const long = cuts[i + 1]! - a
      const fast = Math.max(1, ...paces.filter(covers).map(p => p.speed))
      const speed = out || fast === 1 ? 1 : long / Math.max(1, Math.round(long / fast))
      this.segment({ take, from: a, to: cuts[i + 1]!, at: this.at, speed, out, copy })
    })
  }

  private hold(turn: Turn, take: string) {
    this.pieces.push({ at: this.at, ms: turn.hold * 1000, take, from: turn.t, speed: 1, turn })
    this.at += turn.hold * 1000
  }

  private segment(segment: Segment) {
    this.segments.push(segment)
    if (segment.out) return
    const { take, from, speed } = segment
    const ms = (segment.to - from) / speed
    const last = this.pieces[this.pieces.length - 1]
    if (last && !last.turn && follows(last, segment)) last.ms += ms
    else this.pieces.push({ at: this.at, ms, take, from, speed })
    this.at += ms
  }
}

/** All of a recording as it is, without steps: a clip of the teacher. @param durationMs its length */
export function wholeCut(durationMs: number): Cut {
  return new Cut({ takeId: '', steps: [{ id: '', t: 0, title: '', words: '', struck: false }], turns: [] }, durationMs)
}

/** The steps that stretches lie over, with those. */
function byStep<S extends Stretch>({ steps }: Ledger, stretches: readonly S[]): Map<Step, S[]> {
  const out = new Map<Step, S[]>()
  for (const s of stretches) {
    if (s.from >= s.to) continue
    for (let i = indexAt(steps, s.from, x => x.t); i < steps.length && steps[i]!.t < s.to; i++) {
      const here = out.get(steps[i]!)
      if (here) here.push(s)
      else out.set(steps[i]!, [s])
    }
  }
  return out
}

/** The index of the last one that begins at or before `t`; 0 before the first. */
function indexAt<T>(all: readonly T[], t: number, beginOf: (one: T) => number): number {
  let low = 0
  let high = all.length - 1
  while (low < high) {
    const mid = (low + high + 1) >> 1
    if (beginOf(all[mid]!) <= t) low = mid
    else high = mid - 1
  }
  return low
}

function joined(stretches: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = []
  for (const { from, to } of [...stretches].sort((a, b) => a.from - b.from)) {
    const last = out[out.length - 1]
    if (last && from <= last.to) last.to = Math.max(last.to, to)
    else out.push({ from, to })
  }
  return out
}
