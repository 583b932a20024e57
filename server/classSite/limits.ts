const MB = 1024 ** 2

/**
 * Bounds on what the class site takes, so that nobody can fill the disk or keep the machine busy. Bytes and
 * milliseconds.
 */
export interface SiteLimits {
  /** Publications kept at once, and begun within a minute. */
  publications: number
  begunAMinute: number
  /** Files of one publication, and pieces of files sent to one within a minute. */
  files: number
  sentAMinute: number
  /** One file, and all of a publication. */
  fileBytes: number
  totalBytes: number
  /** An upload that stands still so long is ended. */
  idleMs: number
  /** A publication that was never opened is swept when nothing has come for so long. */
  unopenedMs: number
}

export const LIMITS: SiteLimits = {
  publications: 2000,
  begunAMinute: 20,
  files: 3000,
  sentAMinute: 6000,
  fileBytes: 2048 * MB,
  totalBytes: 8192 * MB,
  idleMs: 60_000,
  unopenedMs: 24 * 3_600_000,
}

/** Counts what happens within a minute. */
export class Rate {
  private times: number[] = []

  constructor(
    private readonly most: number,
    private readonly now: () => number,
  ) {}

  /** Notes one more. @returns seconds to wait when there were too many, else 0 */
  take(): number {
    const now = this.now()
    this.times = this.times.filter(t => now - t < 60_000)
    if (this.times.length >= this.most) return Math.max(1, Math.ceil((60_000 - (now - this.times[0]!)) / 1000))
    this.times.push(now)
    return 0
  }
}
