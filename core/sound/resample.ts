/** Samples on each side of the interpolated one. */
const TAPS = 8

/**
 * Changes the rate of a stream of mono samples by windowed-sinc interpolation (Hann window, 8 samples a side). The
 * ratio
 * may change from piece to piece without a click. A ratio of exactly 1 passes samples through unchanged.
 */
export class Resampler {
  private held: Float32Array = new Float32Array(TAPS)
  /** Position of the next output in `held`, in input samples. */
  private at = TAPS
  private last = 1

  /**
   * @param pcm the next input samples
   * @param ratio output samples for each input sample
   * @returns the output that can be made so far; the last {@link TAPS} input samples wait for their neighbours
   */
  push(pcm: Int16Array, ratio: number): Int16Array {
    const input = new Float32Array(this.held.length + pcm.length)
    input.set(this.held)
    input.set(pcm, this.held.length)
    const step = 1 / ratio
    this.last = ratio
    const end = input.length - TAPS
    const out = new Int16Array(Math.max(0, Math.ceil((end - this.at) / step)))
    // Above the lower of both rates there must be nothing left to fold back.
    const cutoff = ratio >= 0.99 ? 1 : Math.ceil(ratio * 64) / 64
    const weights = weightsFor(cutoff)
    let n = 0
    let at = this.at
    for (; at < end && n < out.length; n++, at += step) {
      const centre = Math.floor(at)
      const frac = at - centre
      out[n] =
        cutoff === 1 && frac < 1e-6
          ? input[centre]!
          : weighted(input, centre + 1 - TAPS, weights, Math.round(frac * PHASES) * 2 * TAPS)
    }
    this.at = at
    const from = Math.max(0, Math.floor(this.at) - TAPS)
    this.held = input.slice(from)
    this.at -= from
    return out.subarray(0, n)
  }

  /** What is left, as if silence followed. */
  flush(): Int16Array {
    return this.push(new Int16Array(TAPS), this.last)
  }
}

/** Places between two samples for which weights are kept. */
const PHASES = 512
const tables = new Map<number, Float32Array>()

/**
 * Weights of the 16 neighbours for each phase, each set adding up to one.
 * @param cutoff share of the band that is kept
 */
function weightsFor(cutoff: number): Float32Array {
  let table = tables.get(cutoff)
  if (table) return table
  table = new Float32Array((PHASES + 1) * 2 * TAPS)
  for (let phase = 0; phase <= PHASES; phase++) {
    let sum = 0
    for (let k = 0; k < 2 * TAPS; k++) {
      const d = k + 1 - TAPS - phase / PHASES
      const x = Math.PI * d * cutoff
      const w = (Math.abs(x) < 1e-9 ? 1 : Math.sin(x) / x) * (0.5 + 0.5 * Math.cos((Math.PI * d) / (TAPS + 1)))
      table[phase * 2 * TAPS + k] = w
      sum += w
    }
    for (let k = 0; k < 2 * TAPS; k++) table[phase * 2 * TAPS + k]! /= sum
  }
  tables.set(cutoff, table)
  return table
}

/**
 * Sum of 16 samples from `first`, weighted from `base`, held within 16 bits; four sums at a time keep the processor
 * busy.
 */
function weighted(input: Float32Array, first: number, weights: Float32Array, base: number): number {
  let a = 0,
    b = 0,
    c = 0,
    d = 0
  for (let k = 0; k < 2 * TAPS; k += 4) {
    a += weights[base + k]! * input[first + k]!
    b += weights[base + k + 1]! * input[first + k + 1]!
    c += weights[base + k + 2]! * input[first + k + 2]!
    d += weights[base + k + 3]! * input[first + k + 3]!
  }
  const sum = Math.round(a + b + c + d)
  return sum > 32767 ? 32767 : sum < -32768 ? -32768 : sum
}
