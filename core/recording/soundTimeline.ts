/** A recorded piece of sound, placed: `t0` is the take time (ms, fractional) of its first sample. */
export interface SoundChunk {
  seq: number
  t0: number
  rate: number
  pcm: Int16Array
}

/** Sound is given out in pieces of about this length, ms. */
const CHUNK_MS = 250
/**
 * How far ahead is looked before it is decided that sound was lost, ms: a late buffer is followed by one in time, a
 * lost one is not.
 */
const LOOK_AHEAD_MS = 200
/** A lasting step of this size is a loss; less is a clock that wavers. ms */
const LOSS_MS = 15
/** At the very end there is nothing to look ahead to: only a step of this size is a loss there. ms */
const LOSS_AT_END_MS = 60
/** How fast a drifting clock is followed, ms for each piece. */
const FOLLOW_MS = 1

interface Buffer {
  pcm: Int16Array
  at: number
  samples: number
}

/**
 * Turns captured buffers, whose times are as late as the machine was busy, into pieces with steady times. Samples are
 * counted within a run, and the run is laid where its most punctual buffers say; a lasting step of their times means
 * that buffers were lost, and begins a new piece there.
 */
export class SoundTimeline {
  private held: Buffer[] = []
  private heldSamples = 0
  private samples = 0
  private rate = 0
  private offset: number | null = null
  private seq = 0

  /**
   * @param pcm mono samples; @param rate Hz; @param at take time of the first sample by its capture time, ms
   * @returns pieces that are settled by now
   */
  push(pcm: Int16Array, rate: number, at: number): SoundChunk[] {
    const out = rate === this.rate ? [] : this.finish()
    if (rate !== this.rate) {
      this.rate = rate
      this.samples = 0
      this.offset = null
    }
    this.held.push({ pcm: pcm.slice(), at, samples: this.samples })
    this.samples += pcm.length
    this.heldSamples += pcm.length
    if (this.ms(this.heldSamples) >= CHUNK_MS + LOOK_AHEAD_MS) out.push(...this.give(LOOK_AHEAD_MS))
    return out
  }

  /** What is still held, at the end or at a pause. */
  finish(): SoundChunk[] {
    return this.give(0)
  }

  private give(keepMs: number): SoundChunk[] {
    if (!this.held.length) return []
    // The most punctual time of each buffer and all after it: lateness is gone, lost sound still shows.
    const truest = this.held.map(b => b.at - this.ms(b.samples))
    for (let i = truest.length - 2; i >= 0; i--) truest[i] = Math.min(truest[i]!, truest[i + 1]!)
    this.offset ??= truest[0]!
    const end = this.samples - (keepMs / 1000) * this.rate
    const out: SoundChunk[] = []
    let run: Buffer[] = []
    const close = () => {
      if (run.length) out.push(this.chunkOf(run, this.offset!))
      run = []
    }
    let given = 0
    for (const [i, buffer] of this.held.entries()) {
      if (buffer.samples + buffer.pcm.length > end) break
      const step = truest[i]! - this.offset
      const ahead = this.ms(this.samples - buffer.samples - buffer.pcm.length)
      if (Math.abs(step) > (ahead >= LOOK_AHEAD_MS ? LOSS_MS : LOSS_AT_END_MS)) {
        close()
        this.offset = truest[i]!
      }
      run.push(buffer)
      given++
    }
    close()
    const last = truest[Math.max(0, given - 1)]! - this.offset
    this.offset += Math.max(-FOLLOW_MS, Math.min(FOLLOW_MS, last))
    this.held = this.held.slice(given)
    this.heldSamples = this.held.reduce((sum, b) => sum + b.pcm.length, 0)
    return out
  }

  private chunkOf(run: readonly Buffer[], offset: number): SoundChunk {
    const pcm = new Int16Array(run.reduce((sum, b) => sum + b.pcm.length, 0))
    let at = 0
    for (const b of run) {
      pcm.set(b.pcm, at)
      at += b.pcm.length
    }
    return { seq: this.seq++, t0: Math.max(0, offset + this.ms(run[0]!.samples)), rate: this.rate, pcm }
  }

  private ms(samples: number): number {
    return (samples / this.rate) * 1000
  }
}
