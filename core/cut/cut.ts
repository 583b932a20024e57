import type { Ledger } from '../folio/model'
import type { Stretch } from '../take/board'
import { keptOf, stepName, stretchOf } from './ledger'

/** A named place in a cut, ms since the cut began. */
export interface Chapter { t: number, title: string }

/** A finished version of a question: which stretches of its take are shown, one after another. */
export class Cut {
  /** Stretches of the take, take ms. */
  readonly kept: readonly Stretch[]
  /** Length of the cut, ms. */
  readonly duration: number

  constructor(readonly ledger: Ledger, readonly takeDuration: number) {
    this.kept = keptOf(ledger, takeDuration)
    this.duration = this.kept.reduce((sum, s) => sum + s.to - s.from, 0)
  }

  /** Take time shown at cut time `t`; past the end, the last moment. */
  toTake(t: number): number {
    let left = Math.max(0, t)
    for (const s of this.kept) {
      if (left < s.to - s.from) return s.from + left
      left -= s.to - s.from
    }
    return this.kept[this.kept.length - 1]?.to ?? 0
  }

  /** Cut time at which take time `t` is shown; inside a struck stretch, the moment it would have begun. */
  fromTake(t: number): number {
    let sum = 0
    for (const s of this.kept) {
      if (t < s.from) break
      sum += Math.min(t, s.to) - s.from
      if (t < s.to) break
    }
    return sum
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

  /** A chapter for each step that stays. */
  chapters(): Chapter[] {
    return this.keptSteps().map(({ step, index, from }) => ({ t: from, title: stepName(step, index) }))
  }

  /** The steps that stay, with their stretch in the cut, ms. */
  keptSteps() {
    return this.ledger.steps.flatMap((step, index) => {
      const s = stretchOf(this.ledger, index, this.takeDuration)
      return step.struck || s.to <= s.from ? [] : [{ step, index, from: this.fromTake(s.from), to: this.fromTake(s.from) + s.to - s.from }]
    })
  }
}
