import { sleptFor } from '#core/recording'

/** Sound that was captured while the page was busy has come after so long, ms. */
const LATE_SOUND_MS = 60

/** Looks, tick by tick, whether the machine slept while a take runs. */
export class SleepWatch {
  private ticked = { now: performance.now(), wall: Date.now() }
  /** Machine time until which sound was captured, and the longest silence since the last tick, ms. */
  private heard = 0
  private silent = 0
  private moved = 0

  /** Sound was captured from `at` to `end`, machine time. */
  sound(at: number, end: number): void {
    if (this.heard) this.silent = Math.max(this.silent, at - this.heard)
    this.heard = end
  }

  /** The pen moved. */
  wrote(): void {
    this.moved = performance.now()
  }

  /** From here on there is something to watch. */
  begin(): void {
    this.ticked = { now: performance.now(), wall: Date.now() }
    this.silent = 0
  }

  /**
   * Looks at the clocks; sound that was captured meanwhile may still be on its way.
   * @param listening whether a microphone is on; @param onSlept is told since when (machine time) and for how long, ms
   */
  tick(listening: boolean, onSlept: (since: number, ms: number) => void): void {
    const now = performance.now(),
      wall = Date.now(),
      since = this.ticked.now
    const passed = { now: now - since, wall: wall - this.ticked.wall, idle: now - this.moved }
    this.ticked = { now, wall }
    const decide = () => {
      const slept = sleptFor({
        ...passed,
        silent: listening ? Math.max(this.silent, performance.now() - this.heard) : null,
      })
      this.silent = 0
      if (slept) onSlept(since, slept)
    }
    if (listening && sleptFor({ ...passed, silent: Number.POSITIVE_INFINITY })) setTimeout(decide, LATE_SOUND_MS)
    else decide()
  }
}
