/** What passed between two looks at the clocks, ms. */
export interface Passed {
  /** By the monotonic clock, and by the wall clock (which may be set meanwhile). */
  now: number
  wall: number
  /**
   * Longest silence of the microphone in it: between two pieces of sound as they were captured; null without a
   * microphone.
   */
  silent: number | null
  /** Since the pen last moved. */
  idle: number
}

/** No look for so long: the machine may have slept. */
const ASLEEP_MS = 5000
/** A microphone that goes on is never silent for so long; one that was asleep is, however its clock counts. */
const SILENT_MS = 300
/** Who writes is not asleep. */
const IDLE_MS = 1000

/**
 * Whether the machine slept. Clocks alone do not tell: where the monotonic clock stands still in a sleep, a sleep looks
 * like a wall clock that
 * was set, and a browser that is very busy looks like a sleep. A microphone that went on, or a pen, was awake all the
 * time.
 * @returns for how long, ms; 0 when it did not
 */
export function sleptFor({ now, wall, silent, idle }: Passed): number {
  const gap = Math.max(now, wall)
  if (gap <= ASLEEP_MS) return 0
  if (silent !== null) return silent >= (now > ASLEEP_MS ? now / 2 : SILENT_MS) ? gap : 0
  return idle > IDLE_MS ? gap : 0
}
