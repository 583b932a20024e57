import type { Spot } from '../geometry'

/** Nobody speaks or writes for this long at a natural break, ms. */
const BREAK_MS = 2200
/** The pen rests for this long before it begins at another place, so far away: ms, points. */
const PEN_BREAK_MS = 2500
const NEW_PLACE = 48
/** Steps that mark themselves are at least this long, ms. */
const LEAST_MS = 8000

/**
 * Finds the natural breaks of a take, where a step ends by itself: when something goes on after a silence in which
 * nothing was written.
 */
export class Breaks {
  private last: number
  private marked: number
  private pen: { at: Spot; until: number } | null = null

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

  /**
   * The pen begins to write. Also while a voice goes on steadily, a step ends where the pen has rested and begins at
   * another place.
   * @param at in points of the page
   * @returns whether a step ends here
   */
  writes(now: number, at: Spot): boolean {
    const rested = this.pen !== null && now - this.pen.until >= PEN_BREAK_MS
    const elsewhere = this.pen !== null && Math.hypot(at.x - this.pen.at.x, at.y - this.pen.at.y) >= NEW_PLACE
    const ends = (rested && elsewhere) || now - this.last >= BREAK_MS
    const isStep = ends && now - this.marked >= LEAST_MS
    this.last = now
    if (isStep) this.marked = now
    return isStep
  }
  /** The pen was lifted there. */
  wrote(now: number, at: Spot): void {
    this.pen = { at, until: now }
    this.last = now
  }

  /** A step was marked by hand, or the take went back. */
  mark(now: number): void {
    this.marked = now
    this.last = now
  }
}
