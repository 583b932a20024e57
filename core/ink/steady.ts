/**
 * Steadies an unsteady hand while it writes: the 1 € filter (Casiez, Roussel and Vogel, CHI 2012). Slow movement is
 * smoothed, fast movement is
 * followed at once, so that no lag can be seen.
 */
export class Steady {
  private last: { x: number; y: number; now: number; vx: number; vy: number } | null = null

  /** @param strength 0 leaves the hand as it is, 1 steadies most */
  constructor(private readonly strength: number) {}

  /** The next sample (points or pixels; `now` in ms), steadied. */
  next<S extends { x: number; y: number; now: number }>(sample: S): S {
    const { last } = this
    if (!last || this.strength <= 0) {
      this.last = { x: sample.x, y: sample.y, now: sample.now, vx: 0, vy: 0 }
      return sample
    }
    const dt = Math.max(1, sample.now - last.now) / 1000
    const speedShare = share(6, dt)
    const vx = last.vx + speedShare * ((sample.x - last.x) / dt - last.vx),
      vy = last.vy + speedShare * ((sample.y - last.y) / dt - last.vy)
    const cutoff = 1.2 / this.strength + 0.16 * Math.hypot(vx, vy)
    const a = share(cutoff, dt)
    const x = last.x + a * (sample.x - last.x),
      y = last.y + a * (sample.y - last.y)
    this.last = { x, y, now: sample.now, vx, vy }
    return { ...sample, x, y }
  }
}

/** How much of a new value is taken by a low pass of a cutoff (Hz) after `dt` seconds. */
function share(cutoff: number, dt: number): number {
  const r = 2 * Math.PI * cutoff * dt
  return r / (r + 1)
}
