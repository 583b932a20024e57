/** What a simulated microphone does wrong on purpose. */
export type MicrophoneFault = 'unplugged' | 'silent' | 'clipping' | 'hum' | 'drops' | 'drifting'

/**
 * When it is pulled out, ms; how often a piece is lost, and how long that lasts, ms; how much its clock is too fast.
 */
export const UNPLUG_AFTER_MS = 2000
export const DROP_EVERY_MS = 3000
export const DROP_MS = 400
export const DRIFT = 200e-6

const MAINS_HZ = 50

/**
 * A piece of a voice as a faulty device gives it; null where it gives nothing.
 * @param pcm the good piece; @param at its device time, ms; @param rate Hz
 */
export function spoiled(fault: MicrophoneFault | null, pcm: Int16Array, at: number, rate: number): Int16Array | null {
  switch (fault) {
    case 'silent':
      return new Int16Array(pcm.length)
    case 'clipping':
      return pcm.map(s => Math.max(-32768, Math.min(32767, s * 12)))
    case 'hum':
      return pcm.map((s, i) => {
        const phase = 2 * Math.PI * MAINS_HZ * (at / 1000 + i / rate)
        return Math.max(-32768, Math.min(32767, s + Math.round(900 * Math.sin(phase) + 350 * Math.sin(2 * phase))))
      })
    case 'drops':
      return at % DROP_EVERY_MS >= DROP_EVERY_MS - DROP_MS ? null : pcm
    case 'unplugged':
    case 'drifting':
    case null:
      return pcm
  }
}
