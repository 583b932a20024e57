/**
 * The one clock of a take: monotonic milliseconds since it began, standing still while it is paused.
 * It turns times of the machine's monotonic clock (`performance.now()`, ms) into take times, also for what arrives
 * late.
 */
export class TakeClock {
  /** Running spans: machine time [on, off) ↔ take time from `at`. */
  private readonly spans: { on: number; off: number; at: number }[] = []

  /** @param from take time at which it begins, ms */
  constructor(private readonly from = 0) {}

  /** Starts or goes on at machine time `now`. */
  run(now: number): void {
    if (this.running) return
    const last = this.spans[this.spans.length - 1]
    this.spans.push({ on: now, off: Number.POSITIVE_INFINITY, at: last ? last.at + (last.off - last.on) : this.from })
  }

  /** Stands still from machine time `now`. */
  halt(now: number): void {
    const last = this.spans[this.spans.length - 1]
    if (last && this.running) last.off = Math.max(now, last.on)
  }

  get running(): boolean {
    return this.spans[this.spans.length - 1]?.off === Number.POSITIVE_INFINITY
  }

  /** Take time (ms, fractional) of a machine time; times inside a pause are the moment of the pause. */
  at(now: number): number {
    for (let i = this.spans.length - 1; i >= 0; i--) {
      const span = this.spans[i]!
      if (now >= span.on) return span.at + Math.min(now, span.off) - span.on
    }
    return this.from
  }

  /** The pieces of machine time [from, to) during which the take ran, each with its take time. */
  runningPieces(from: number, to: number): { from: number; to: number; at: number }[] {
    return this.spans
      .map(s => ({ from: Math.max(from, s.on), to: Math.min(to, s.off), at: s.at + Math.max(from, s.on) - s.on }))
      .filter(p => p.to > p.from)
  }
}

/** A leap of a device's clock by this much is a new beginning, ms. */
const REBASED_MS = 500

/**
 * Learns how a device's clock lies against the machine's from pairs of both. What arrives can only be late, never
 * early,
 * so the smallest difference of the last `windowMs` is the truest; the window lets a drifting clock be followed.
 */
export class ClockOffset {
  private readonly lows: { at: number; offset: number }[] = []
  private last = { device: Number.NEGATIVE_INFINITY, machine: Number.NEGATIVE_INFINITY }

  constructor(private readonly windowMs = 20_000) {}

  /**
   * @param device the device's time, ms;
   * @param machine when it arrived, ms of the machine's clock.
   * @returns the machine time of `device`
   */
  place(device: number, machine: number): number {
    const offset = machine - device
    // Some devices begin to count anew a moment after they start. That shows in their own times, which then go back, or
    // run ahead of the machine's; arriving late, even by seconds, is no sign of it.
    const passed = device - this.last.device
    if (passed < -REBASED_MS || passed - (machine - this.last.machine) > REBASED_MS) this.lows.length = 0
    this.last = { device, machine }
    while (this.lows.length && this.lows[this.lows.length - 1]!.offset >= offset) this.lows.pop()
    this.lows.push({ at: machine, offset })
    while (this.lows.length > 1 && this.lows[0]!.at < machine - this.windowMs) this.lows.shift()
    return device + this.lows[0]!.offset
  }
}
