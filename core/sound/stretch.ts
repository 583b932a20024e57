/** Grains of 30 ms at 48 kHz, of which half lies over the next; each is looked for within 8 ms of its place. */
const GRAIN = 1440
const HOP = GRAIN / 2
const REACH = 384
/** Every so many samples count when grains are compared. */
const STRIDE = 6

/**
 * Sound that goes by faster or slower at the same pitch: grains are laid over each other where they fit best (waveform
 * similarity overlap-add, Verhelst and Roelands 1993). It begins with the first and ends with the last sample, so that
 * pieces made one by one follow each other without a click.
 * @param pcm samples at 48 kHz
 * @param speed times as fast, more than 0
 * @returns `pcm.length / speed` samples
 * @example stretched(new Float32Array(48_000), 2).length // 24_000
 */
export function stretched(pcm: Float32Array, speed: number): Float32Array<ArrayBuffer> {
  const length = Math.round(pcm.length / speed)
  if (speed === 1 || pcm.length < 2 * GRAIN || length < 2 * GRAIN) return resampled(pcm, length)
  const out = new Float32Array(length)
  let before = { at: 0, from: 0, end: 0 }
  for (let k = 0; before.end < length; k++) {
    const last = k * HOP >= length - GRAIN
    const at = last ? length - GRAIN : k * HOP
    const from =
      k === 0 ? 0 : last ? pcm.length - GRAIN : best(pcm, Math.round(at * speed), before.from + at - before.at)
    const over = before.end - at
    for (let i = 0; i < GRAIN; i++) {
      // What lies over the grain before fades in as that fades out.
      const share = i < over ? 0.5 - 0.5 * Math.cos((Math.PI * i) / over) : 1
      out[at + i] = out[at + i]! * (1 - share) + pcm[from + i]! * share
    }
    before = { at, from, end: at + GRAIN }
  }
  return out
}

/** The place near `wish` from which the sound goes on most like it does from `natural`. */
function best(pcm: Float32Array, wish: number, natural: number): number {
  const most = pcm.length - GRAIN
  const goal = Math.min(natural, most)
  let found = Math.max(0, Math.min(most, wish))
  let highest = -Infinity
  for (let at = Math.max(0, wish - REACH); at <= Math.min(most, wish + REACH); at += 4) {
    let dot = 0
    let own = 1e-9
    for (let i = 0; i < HOP; i += STRIDE) {
      const b = pcm[at + i]!
      dot += pcm[goal + i]! * b
      own += b * b
    }
    const like = dot / Math.sqrt(own)
    if (like > highest) {
      highest = like
      found = at
    }
  }
  return found
}

/** So little sound that nobody hears its pitch. */
function resampled(pcm: Float32Array, length: number): Float32Array<ArrayBuffer> {
  if (length === pcm.length) return new Float32Array(pcm)
  return Float32Array.from({ length }, (_, i) => pcm[Math.min(pcm.length - 1, Math.round((i * pcm.length) / length))]!)
}
