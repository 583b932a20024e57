/** Nobody speaks or writes for this long at a natural break, ms. */
const BREAK_MS = 2200
/** Steps that mark themselves are at least this long, ms. */
const LEAST_MS = 8000

/**
 * Finds the natural breaks of a take, where a step ends by itself: when something goes on after a silence in which
 * nothing was written.
 */
export class Breaks {
  private last: number
  private marked: number

  /** @param now when the take begins; all times are the machine's, ms */
  constructor(now: number) {
    this.last = now
    this.marked = now
  }

  /** Something is said or written. @returns whether a step ends here */
  active(now: number): boolean {
    const ends = now - this.last >= BREAK_MS && now - this.marked >= LEAST_MS
    this.last = now
    if (ends) this.marked = now
    return ends
  }

  /** A step was marked by hand, or the take went back. */
  mark(now: number): void {
    this.marked = now
    this.last = now
  }
}
