import { stateAfter, type QuestionState } from './follow'
import { keep, kept } from './kept'

/** How far she is with a question: the farthest moment that she has seen, ms. */
export class Progress {
  private farthest: number
  private stored: number

  constructor(
    private readonly question: string,
    private readonly duration: number,
  ) {
    this.stored = this.farthest = Number(kept(`seen ${question}`)) || 0
  }

  get reached(): number {
    return this.farthest
  }
  get state(): QuestionState {
    return stateAfter(this.farthest, this.duration)
  }
  /** @returns whether it is farther than before */
  reach(t: number): boolean {
    if (t <= this.farthest) return false
    this.farthest = t
    return true
  }
  /** Kept when it pauses and when the page goes, not with each picture. */
  store(): void {
    if (this.stored !== this.farthest) keep(`seen ${this.question}`, String(Math.round(this.farthest)))
    this.stored = this.farthest
  }
}
