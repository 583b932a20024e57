import { PEAKS_PER_SECOND } from './peaks'

/** A peak is a voice's from this level on, on the scale of peaks (about −42 dBFS), and so many times the room's own. */
const LEAST = 22
const OVER_ROOM = 1.8
/** A breath between two words is no pause, and so much before and after a word belongs to it, ms. */
const BREATH_MS = 220
const AROUND_MS = 90

/**
 * Where somebody speaks, from the drawn sound of a take: what is clearly louder than the room, with the short breaths
 * in it.
 * @param peaks loudest samples of each 1/40 s, 0…255 on a square-root scale
 * @returns stretches in ms, ascending
 */
export function speechOf(peaks: Uint8Array): { from: number; to: number }[] {
  const sorted = Uint8Array.from(peaks).sort()
  const room = sorted[Math.floor(sorted.length * 0.15)] ?? 0
  const least = Math.max(LEAST, room * OVER_ROOM)
  const ms = 1000 / PEAKS_PER_SECOND
  const out: { from: number; to: number }[] = []
  peaks.forEach((p, i) => {
    if (p < least) return
    const from = Math.max(0, i * ms - AROUND_MS),
      to = Math.min(peaks.length * ms, (i + 1) * ms + AROUND_MS)
    const last = out[out.length - 1]
    if (last && from - last.to < BREATH_MS) last.to = to
    else out.push({ from, to })
  })
  return out
}
