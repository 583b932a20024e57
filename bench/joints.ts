import { execFileSync } from 'node:child_process'
import type { SoundPiece } from '../core/edition'
import { seededRandom } from '../core/ink'
import { SOUND_RATE } from '../core/sound'
import { heldSound, wholeSound } from '../tests/support/sound'

/**
 * How much larger the largest step from one sample to the next is at any joint than where the same two sounds are faded
 * into each other, dBFS; −∞ where it is nowhere larger.
 */
export function stepsOverFade(pcm: Float32Array, plan: readonly SoundPiece[], out: Float32Array): number {
  const HALF = Math.round(SOUND_RATE * 0.004)
  let worst = 0
  for (const [i, piece] of plan.entries()) {
    const before = plan[i - 1]
    if (!before || piece.from === null || before.from === null) continue
    const at = Math.round((piece.at / 1000) * SOUND_RATE)
    const a = Math.round(((before.from + before.ms) / 1000) * SOUND_RATE)
    const b = Math.round((piece.from / 1000) * SOUND_RATE)
    let own = 0
    let faded = 0
    const mixed = (k: number) => {
      const w = (k + HALF) / (2 * HALF)
      return (pcm[a + k] ?? 0) * (1 - w) + (pcm[b + k] ?? 0) * w
    }
    for (let k = -HALF + 1; k < HALF; k++) {
      own = Math.max(own, Math.abs(out[at + k]! - out[at + k - 1]!))
      faded = Math.max(faded, Math.abs(mixed(k) - mixed(k - 1)))
    }
    worst = Math.max(worst, own - faded)
  }
  return worst > 0 ? 20 * Math.log10(worst) : Number.NEGATIVE_INFINITY
}

/** A hundred joints in a minute of the sample's own speech. @returns as {@link stepsOverFade} */
export async function jointsOverFade(): Promise<number> {
  const file = new URL('../demo/voice/still-to-climb.ogg', import.meta.url).pathname
  const args = ['-v', 'error', '-i', file, '-ac', '1', '-ar', String(SOUND_RATE), '-f', 'f32le', '-']
  const bytes = execFileSync('ffmpeg', args, { maxBuffer: 1 << 28 })
  const pcm = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
  const random = seededRandom(100)
  const most = (pcm.length / SOUND_RATE) * 1000 - 700
  const plan = Array.from(
    { length: 100 },
    (_, i): SoundPiece => ({
      at: i * 600,
      ms: 600,
      take: 't',
      from: Math.round(random() * most),
    }),
  )
  return stepsOverFade(pcm, plan, await wholeSound(plan, heldSound(pcm)))
}
