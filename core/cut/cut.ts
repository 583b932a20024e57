import type { Ledger, Step, Turn } from '../folio/model'
import type { Stretch } from '../recording/stretches'
import { inOrder, stepName, stretchOf } from './ledger'
import { follows, indexAt, Maker } from './maker'

/** A named place in a cut, ms since the cut began; the part of the question that it belongs to, where it has parts. */
export interface Chapter {
  t: number
  title: string
  part?: string
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
  /** Whether its own sound is not what is heard over it. */
  voiced: boolean
}

/**
 * A piece of a cut: `ms` long from cut time `at`. It shows a take from `from` on, `speed` times as fast; or, where the
 * student is asked to try, holds still there. `sound`: what is heard, from that moment of a take on, as fast as it was
 * spoken; null for silence.
 */
export interface Piece {
  at: number
  ms: number
  take: string
  from: number
  speed: number
  sound: { take: string; from: number } | null
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
      made.add(step, stretchOf(ledger, index, takeDuration), copy)
      if (made.at > from) made.steps.push({ step, index, place, from, to: made.at })
    }
    this.segments = made.segments
    this.pieces = made.pieces
    this.steps = made.steps
    this.duration = made.at
  }

  /** Stretches of the ledger's own take that are shown with their own sound, take ms, ascending, joined where they touch. */
  get kept(): readonly Stretch[] {
    return joined(this.segments.filter(s => !s.out && !s.voiced && s.take === this.ledger.takeId))
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

  /** Stretches of the ledger's own take that are heard, take ms, ascending, joined where they touch. */
  get heard(): readonly Stretch[] {
    const own = this.ledger.takeId
    return joined(
      this.pieces.flatMap(({ sound, ms }) => (sound?.take === own ? [{ from: sound.from, to: sound.from + ms }] : [])),
    )
  }

  /**
   * The moment of a take that is at cut time `t`: that which is heard, else that which is shown; past the end, the last.
   */
  momentAt(t: number): { take: string; t: number } | null {
    const piece = this.pieceAt(t)
    if (!piece) return null
    const since = piece.turn ? 0 : Math.min(Math.max(0, t - piece.at), piece.ms)
    return piece.sound
      ? { take: piece.sound.take, t: piece.sound.from + since }
      : { take: piece.take, t: piece.from + since * piece.speed }
  }

  /**
   * Cut time at which take time `t` is shown or heard, before any holding still there; where it is out, the moment it
   * would have begun.
   */
  fromTake(t: number, take = this.ledger.takeId): number {
    let next: Segment | null = null
    const hold = take === this.ledger.takeId ? this.pieces.find(p => p.turn?.t === t) : undefined
    if (hold) return hold.at
    for (const s of this.segments) {
      if (s.take !== take) continue
      if (t >= s.from && t < s.to) return s.out ? s.at : s.at + (t - s.from) / s.speed
      if (s.from > t && (!next || s.from < next.from)) next = s
    }
    return this.hears(t, take) ?? next?.at ?? this.duration
  }

  /** Cut time at which take time `t` is heard over what another take shows, or another moment of it; null where not. */
  private hears(t: number, take: string): number | null {
    const over = (p: Piece) => p.sound?.take === take && t >= p.sound.from && t < p.sound.from + (p.turn ? 1 : p.ms)
    const piece = this.pieces.find(over)
    return piece ? piece.at + (piece.turn ? 0 : t - piece.sound!.from) : null
  }

  /** Whether take time `t` is in the cut. */
  holds(t: number, take = this.ledger.takeId): boolean {
    return this.segments.some(s => !s.out && s.take === take && t >= s.from && t < s.to) || this.hears(t, take) !== null
  }

  /** The pause for the student that cut time `t` lies in, and how much of it has passed, 0…1. */
  turnAt(t: number): { turn: Turn; share: number } | null {
    const piece = this.pieceAt(t)
    return piece?.turn && t < piece.at + piece.ms ? { turn: piece.turn, share: (t - piece.at) / piece.ms } : null
  }

  /** The pauses for the student that stay, with their cut times, ms; one in a step that is copied comes each time. */
  turns(): CutTurn[] {
    const holds = this.pieces.flatMap(({ turn, at, ms }) =>
      turn ? [{ t: at, to: at + ms, seconds: turn.seconds }] : [],
    )
    const passing = this.ledger.turns.filter(t => t.hold === 0).flatMap(turn => this.passing(turn))
    return [...holds, ...passing].sort((a, b) => a.t - b.t)
  }

  /** Where a pause comes that does not hold the video still. */
  private passing({ t, seconds }: Turn): CutTurn[] {
    const shown = this.segments.filter(s => !s.out && s.take === this.ledger.takeId && t >= s.from && t < s.to)
    const places = shown.map(s => s.at + (t - s.from) / s.speed)
    if (!places.length && this.holds(t)) places.push(this.fromTake(t))
    return places.map(at => ({ t: at, to: at, seconds }))
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

/** All of a recording as it is, without steps: a clip of the teacher. @param durationMs its length */
export function wholeCut(durationMs: number): Cut {
  return new Cut({ takeId: '', steps: [{ id: '', t: 0, title: '', words: '', struck: false }], turns: [] }, durationMs)
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
