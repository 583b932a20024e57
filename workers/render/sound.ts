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

/** A block as the encoder takes it. @param at first sample's place in the video */
export function asSample(pcm: Float32Array, at: number): AudioSample {
  return new AudioSample({
    data: pcm as Float32Array<ArrayBuffer>,
    format: 'f32-planar',
    numberOfChannels: 1,
    sampleRate: SOUND_RATE,
    timestamp: at / SOUND_RATE,
  })
}
