import { seededRandom } from '../core/ink'
import { SoundWatch, type SoundFault } from '../core/sound'

const RATE = 48_000

/** Two sounds at once. */
export const mix = (a: Int16Array, b: Int16Array) =>
  Int16Array.from(a, (s, i) => Math.max(-32768, Math.min(32767, s + (b[i] ?? 0))))

/**
 * Feeds the watch sound as a device gives it, in 10 ms pieces that arrive late by up to `late` ms; `gaps` are left out,
 * or filled with zeros.
 * @returns what was told, and when
 */
export function watched(
  pcm: Int16Array,
  {
    gaps = [],
    zeros = false,
    late = 0,
    wrote = [],
  }: { gaps?: [number, number][]; zeros?: boolean; late?: number; wrote?: number[] },
) {
  const random = seededRandom(7)
  const watch = new SoundWatch(0)
  const told: { fault: SoundFault; at: number }[] = []
  const noise = Int16Array.from({ length: 480 }, () => Math.round((random() - 0.5) * 60))
  for (let t = 0; t + 10 <= (pcm.length / RATE) * 1000; t += 10) {
    const now = t + 10 + random() * late
    const inGap = gaps.some(([a, b]) => t >= a && t < b)
    const piece = mix(pcm.subarray((t * RATE) / 1000, (t * RATE) / 1000 + 480), noise)
    if (!inGap) watch.push(piece, RATE, t, now)
    else if (zeros) watch.push(new Int16Array(480), RATE, t, now)
    if (wrote.some(w => Math.abs(w - t) < 5)) watch.wrote(now)
    if (t % 250 === 0)
      for (const w of watch.warnings(t + 10))
        if (!told.some(x => x.fault === w.fault && t - x.at < 5000)) told.push({ fault: w.fault, at: t })
  }
  return { told, drops: watch.drops }
}

/**
 * How many of `count` drop-outs of 200 to 600 ms in speech are not told within two seconds.
 * @param zeros whether the device gives zeros meanwhile, or nothing
 */
export function dropsMissed(speech: Int16Array, count: number, zeros: boolean): number {
  const random = seededRandom(11)
  const round = Int16Array.from({ length: 20 * RATE }, (_, i) => speech[i % speech.length]!)
  let missed = 0
  for (let n = 0; n < count; n++) {
    const from = 4000 + Math.floor(random() * 1100) * 10
    const { told } = watched(round.subarray(0, (from / 1000 + 3) * RATE), {
      gaps: [[from, from + 200 + Math.floor(random() * 40) * 10]],
      zeros,
      late: 40,
    })
    if (!told.some(w => (w.fault === 'dropped' || w.fault === 'lost') && w.at >= from && w.at <= from + 2000)) missed++
  }
  return missed
}

/**
 * How often something is told that is not so, in so many minutes of speech from a machine whose buffers come late by up
 * to 200 ms.
 */
export function falseAlarms(speech: Int16Array, minutes: number): number {
  let alarms = 0
  for (let i = 0; i < minutes; i++) {
    const minute = Int16Array.from({ length: 60 * RATE }, (_, k) => speech[(k + i * 977_000) % speech.length]!)
    alarms += watched(minute, { late: 90 + (i % 6) * 20 }).told.length
  }
  return alarms
}
