import { keep, kept } from './kept'

export type QuestionState = 'unseen' | 'begun' | 'done'

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
  /** Seen to its end; the last second of a lesson is often silence. */
  get state(): QuestionState {
    return this.farthest <= 0 ? 'unseen' : this.farthest >= this.duration - LAST_SECOND ? 'done' : 'begun'
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
const LAST_SECOND = 1000
