import type { Gap } from '../folio/model'
import { Resampler } from './resample'

/** A recorded piece of sound: `t0` is the take time (ms, fractional) of its first sample. */
export interface PlacedChunk {
  t0: number
  rate: number
  pcm: Int16Array
}

/** Everything after recording runs at this rate, Hz. */
export const SOUND_RATE = 48_000
/** More missing than this is a gap and is reported; less is a wavering clock. ms */
const GAP_MS = 20
/** Silence at the start and at the end that is nothing to report, ms. */
const EDGE_MS = 400
/** An error of position below this is left alone, so that sound from a steady clock passes unchanged. ms */
const DEADBAND_MS = 1.5
/** How much a wavering clock may be corrected; beyond it a listener would hear the pitch. */
const MAX_STRETCH = 0.004

/**
 * Lays recorded pieces on the take's clock by their capture times, not by counting samples: what was lost becomes
 * silence and is reported, and a clock that drifts is followed by resampling, so that sound stays with the ink however
 * long the take is.
 *
 * `push` each piece in order, then `finish`; each returns mono samples at {@link SOUND_RATE}, which joined together
 * begin
 * at take time 0.
 */
export class SoundPlacer {
  readonly gaps: Gap[] = []
  private written = 0
  private resampler = new Resampler()
  private rate = 0
  private readonly limit: number

  /** @param durationMs length of the take; nothing is given out beyond it */
  constructor(durationMs: number) {
    this.limit = Math.round((durationMs / 1000) * SOUND_RATE)
  }

  /** @returns samples to append */
  push(chunk: PlacedChunk): Int16Array[] {
    // What lies beyond the take is no part of it, and nothing is missing there.
    if (this.written >= this.limit) return []
    const out: Int16Array[] = []
    const target = (chunk.t0 / 1000) * SOUND_RATE
    let off = target - this.written
    if (chunk.rate !== this.rate || Math.abs(off) > ms(GAP_MS)) {
      out.push(this.flushTail())
      off = target - this.written
      this.rate = chunk.rate
      if (off > 0) out.push(this.silence(Math.round(off)))
    }
    let pcm = chunk.pcm
    if (off < -ms(GAP_MS)) pcm = pcm.subarray(Math.min(pcm.length, Math.round((-off * chunk.rate) / SOUND_RATE)))
    const plain = SOUND_RATE / chunk.rate
    const expected = pcm.length * plain
    // Catch up within this piece, but never by more than an ear forgives.
    const pull =
      Math.abs(off) > ms(DEADBAND_MS) && Math.abs(off) <= ms(GAP_MS)
        ? clampAbs(off / Math.max(1, expected), MAX_STRETCH)
        : 0
    out.push(this.count(this.resampler.push(pcm, plain * (1 + pull))))
    return out.filter(o => o.length)
  }

  /** Fills up to the take's length. */
  finish(): Int16Array[] {
    const out = [this.flushTail()]
    const left = this.limit - this.written
    if (left > 0) out.push(left > ms(EDGE_MS) ? this.silence(left) : this.count(new Int16Array(left)))
    return out.filter(o => o.length)
  }

  private flushTail(): Int16Array {
    const tail = this.count(this.resampler.flush())
    this.resampler = new Resampler()
    return tail
  }

  private silence(samples: number): Int16Array {
    const from = Math.round((this.written / SOUND_RATE) * 1000)
    // The first sound of a device comes a moment after the take begins, and the last one a moment before its end: no
    // loss.
    if (samples > ms(from === 0 ? EDGE_MS : GAP_MS))
      this.gaps.push({ from, to: Math.round(((this.written + samples) / SOUND_RATE) * 1000) })
    return this.count(new Int16Array(samples))
  }

  private count(pcm: Int16Array): Int16Array {
    const kept = pcm.subarray(0, Math.max(0, Math.min(pcm.length, this.limit - this.written)))
    this.written += kept.length
    return kept
  }
}

const ms = (n: number) => (n / 1000) * SOUND_RATE
const clampAbs = (v: number, most: number) => Math.min(most, Math.max(-most, v))
