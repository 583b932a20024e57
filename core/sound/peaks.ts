/** Peaks a second in the drawn sound. */
export const PEAKS_PER_SECOND = 40

/**
 * The loudest sample of each 1/40 s, as 0…255 on a square-root scale so that quiet speech still shows.
 */
export class Peaks {
  private readonly values: number[] = []
  private most = 0
  private seen = 0

  constructor(private readonly rate: number) {}

  push(pcm: Int16Array): void {
    const size = this.rate / PEAKS_PER_SECOND
    for (const sample of pcm) {
      const level = Math.abs(sample)
      if (level > this.most) this.most = level
      if (++this.seen >= size) this.close()
    }
  }

  finish(): Uint8Array<ArrayBuffer> {
    if (this.seen) this.close()
    return Uint8Array.from(this.values)
  }

  private close() {
    this.values.push(Math.round(Math.sqrt(Math.min(1, this.most / 32768)) * 255))
    this.most = 0
    this.seen = 0
  }
}

/** A drawn sound in which nothing is louder than this, 0…255, holds none: about −84 dBFS. */
const NOTHING = 2

/**
 * Whether nothing is heard of a sound plan: the microphone was off, or was lost before anything came.
 * @param plan what is heard, piece after piece: `ms` long, from a take's moment on; null for silence
 * @param peaksOf drawn sounds by take
 */
export function isSoundless(
  plan: readonly { ms: number; take: string; from: number | null }[],
  peaksOf: Readonly<Record<string, Uint8Array>>,
): boolean {
  const at = (ms: number) => Math.floor((ms * PEAKS_PER_SECOND) / 1000)
  return plan.every(({ ms, take, from }) => {
    if (from === null) return true
    const peaks = peaksOf[take] ?? new Uint8Array()
    return peaks.subarray(at(from), at(from + ms) + 1).every(p => p <= NOTHING)
  })
}

/** Level of a block of samples in dBFS (root mean square; −100 for silence). */
export function levelOf(pcm: Int16Array): number {
  let sum = 0
  for (const s of pcm) sum += (s / 32768) ** 2
  return pcm.length ? Math.max(-100, 10 * Math.log10(sum / pcm.length + 1e-10)) : -100
}
