import type { SoundPiece } from '../../core/edition'
import { SOUND_RATE } from '../../core/sound'
import { plannedSound, type OpenSounds } from '../../workers/plannedSound'

/** A take's sound from memory, as a worker reads it from a file. */
export function heldSound(pcm: Float32Array): OpenSounds {
  const BLOCK = 960
  const sink = {
    async *samples(from: number, to: number) {
      for (
        let at = Math.floor((from * SOUND_RATE) / BLOCK) * BLOCK;
        at < Math.min(to * SOUND_RATE, pcm.length);
        at += BLOCK
      ) {
        const block = pcm.subarray(at, at + BLOCK)
        yield {
          timestamp: at / SOUND_RATE,
          numberOfFrames: block.length,
          sampleRate: SOUND_RATE,
          copyTo: (into: Float32Array) => into.set(block),
          close: () => {},
        }
      }
    },
  }
  return { of: async () => sink } as unknown as OpenSounds
}

/** All of a plan's sound as one. */
export async function wholeSound(plan: readonly SoundPiece[], sounds: OpenSounds): Promise<Float32Array> {
  const blocks: Float32Array[] = []
  for await (const block of plannedSound(plan, sounds)) blocks.push(block)
  const out = new Float32Array(blocks.reduce((n, b) => n + b.length, 0))
  let at = 0
  for (const block of blocks) {
    out.set(block, at)
    at += block.length
  }
  return out
}
