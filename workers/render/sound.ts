import { AudioSample } from 'mediabunny'
import { editionOf } from '../../core/edition'
import { SOUND_RATE } from '../../core/sound/place'
import { clipSound, OpenSounds, plannedSound } from '../plannedSound'
import type { ClipPiece, RenderPiece } from './job'

/** The sound of pieces that follow one another. */
export async function* soundOf(pieces: readonly (RenderPiece | ClipPiece)[]): AsyncGenerator<Float32Array> {
  for (const piece of pieces)
    yield* 'clip' in piece
      ? clipSound(piece.duration, piece.sound)
      : plannedSound(editionOf(piece.source).soundPlan(), new OpenSounds(piece.sounds))
}

/** A sound that begins so many samples earlier and is as long: what a coder is late by. */
export async function* earlier(sound: AsyncGenerator<Float32Array>, by: number): AsyncGenerator<Float32Array> {
  let left = by
  for await (const block of sound) {
    const cut = Math.min(left, block.length)
    left -= cut
    if (cut < block.length) yield block.subarray(cut)
  }
  if (by) yield new Float32Array(by)
}

/** A block as the encoder takes it. @param at first sample's place in the video */
export function asSample(pcm: Float32Array, at: number, rate: number = SOUND_RATE): AudioSample {
  return new AudioSample({
    data: pcm as Float32Array<ArrayBuffer>,
    format: 'f32-planar',
    numberOfChannels: 1,
    sampleRate: rate,
    timestamp: at / rate,
  })
}
