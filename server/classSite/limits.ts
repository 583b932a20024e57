const MB = 1024 ** 2

/**
 * Bounds on what the class site takes, so that nobody can fill the disk or keep the machine busy. Bytes and
 * milliseconds.
 */
export interface SiteLimits {
  /** Publications kept at once, and begun within a minute. */
  publications: number
  begunAMinute: number
  /** Class pages kept at once. */
  courses: number
  /** Contents of one publication, and pieces of them sent to one within a minute. */
  files: number
  sentAMinute: number
  /** One content, and all of a publication. */
  fileBytes: number
  totalBytes: number
  /** An upload that stands still so long is ended. */
  idleMs: number
  /** What was sent and belongs to no version is swept when nothing has come for so long. */
  unusedMs: number
  /** Versions that can be brought back. */
  versions: number
  /** What only an earlier version has is there for so long after a new one, for who is in the middle of it. */
  earlierMs: number
  /** Messages kept for a publication, taken within a minute, and bytes of one. */
  messages: number
  messagesAMinute: number
  messageBytes: number
  /** Explanations with a voice among them, and bytes of one. */
  explanations: number
  explanationBytes: number
}

export const LIMITS: SiteLimits = {
  publications: 2000,
  begunAMinute: 20,
  courses: 200,
  files: 10_000,
  sentAMinute: 6000,
  fileBytes: 2048 * MB,
  totalBytes: 8192 * MB,
  idleMs: 60_000,
  unusedMs: 24 * 3_600_000,
  versions: 50,
  earlierMs: 12 * 3_600_000,
  messages: 1000,
  messagesAMinute: 60,
  messageBytes: 0.5 * MB,
  explanations: 60,
  explanationBytes: 4 * MB,
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

/** One {@link Rate} for each publication; those that were not asked for lately are forgotten. */
export class Rates {
  private readonly by = new Map<string, Rate>()

  constructor(
    private readonly most: number,
    private readonly now: () => number,
  ) {}

  take(id: string): number {
    const rate = this.by.get(id) ?? new Rate(this.most, this.now)
    this.by.delete(id)
    this.by.set(id, rate)
    if (this.by.size > 5000) this.by.delete(this.by.keys().next().value!)
    return rate.take()
  }
}
