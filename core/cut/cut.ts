import type { Ledger, Turn } from '../folio/model'
import type { Stretch } from '../take/board'
import { keptOf, stepName, stretchOf } from './ledger'

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
 * A piece of a cut: `ms` long from cut time `at`. It shows the take from `from` on; or, where the student is asked to
 * try, holds still there.
 */
export interface Piece {
  at: number
  ms: number
  from: number
  turn?: Turn
}

/**
 * A finished version of a question: which stretches of its take are shown, one after another, and where it holds still.
 */
export class Cut {
  /** Stretches of the take, take ms. */
  readonly kept: readonly Stretch[]
  readonly pieces: readonly Piece[]
  /** Length of the cut, ms. */
  readonly duration: number

  constructor(
    readonly ledger: Ledger,
    readonly takeDuration: number,
  ) {
    this.kept = keptOf(ledger, takeDuration)
    this.pieces = piecesOf(this.kept, ledger.turns)
    this.duration = this.pieces.reduce((sum, p) => sum + p.ms, 0)
  }

  /** Take time shown at cut time `t`; past the end, the last moment. */
  toTake(t: number): number {
    const piece = this.pieces.find(p => t < p.at + p.ms)
    if (!piece) return this.kept[this.kept.length - 1]?.to ?? 0
    return piece.turn ? piece.from : piece.from + Math.max(0, t) - piece.at
  }

  /**
   * Cut time at which take time `t` is shown, before any holding still there; inside a struck stretch, the moment it
   * would have begun.
   */
  fromTake(t: number): number {
    for (const piece of this.pieces) {
      if (piece.turn ? t <= piece.from : t < piece.from) return piece.at
      if (!piece.turn && t < piece.from + piece.ms) return piece.at + t - piece.from
    }
    return this.duration
  }

  /** Whether take time `t` is in the cut. */
  holds(t: number): boolean {
    return this.kept.some(s => t >= s.from && t < s.to)
  }

  /** The first moment at or after take time `t` that is in the cut, or null after the last. */
  nextKept(t: number): number | null {
    for (const s of this.kept) if (t < s.to) return Math.max(t, s.from)
    return null
  }

  /** The pause for the student that cut time `t` lies in, and how much of it has passed, 0…1. */
  turnAt(t: number): { turn: Turn; share: number } | null {
    const piece = this.pieces.find(p => p.turn && t >= p.at && t < p.at + p.ms)
    return piece?.turn ? { turn: piece.turn, share: (t - piece.at) / piece.ms } : null
  }

  /** The pauses for the student that stay, with their cut times, ms. */
  turns(): CutTurn[] {
    return this.ledger.turns
      .filter(turn => this.holds(turn.t))
      .map(turn => ({ t: this.fromTake(turn.t), to: this.fromTake(turn.t) + turn.hold * 1000, seconds: turn.seconds }))
  }

  /** A chapter for each step that stays. */
  chapters(): Chapter[] {
    return this.keptSteps().map(({ step, index, from }) => ({ t: from, title: stepName(step, index) }))
  }

  /** The steps that stay, with their stretch in the cut, ms. */
  keptSteps() {
    return this.ledger.steps.flatMap((step, index) => {
      const s = stretchOf(this.ledger, index, this.takeDuration)
      return step.struck || s.to <= s.from
        ? []
        : [{ step, index, from: this.fromTake(s.from), to: this.fromTake(s.to) }]
    })
  }
}

/** All of a recording as it is, without steps: a clip of the teacher. @param durationMs its length */
export function wholeCut(durationMs: number): Cut {
  return new Cut({ takeId: '', steps: [{ id: '', t: 0, title: '', words: '', struck: false }], turns: [] }, durationMs)
}

function piecesOf(kept: readonly Stretch[], turns: readonly Turn[]): Piece[] {
  const pieces: Piece[] = []
  let at = 0
  const add = (ms: number, from: number, turn?: Turn) => {
    if (ms <= 0) return
    pieces.push({ at, ms, from, ...(turn ? { turn } : {}) })
    at += ms
  }
  for (const stretch of kept) {
    let from = stretch.from
    for (const turn of turns
      .filter(t => t.hold > 0 && t.t >= stretch.from && t.t < stretch.to)
      .sort((a, b) => a.t - b.t)) {
      add(turn.t - from, from)
      add(turn.hold * 1000, turn.t, turn)
      from = turn.t
    }
    add(stretch.to - from, from)
  }
  return pieces
}
