import { align } from '#core/sound'
import { drawnSoundsOf, soundsIn } from './editionSource'
import type { SiteCut } from './package'
import { MOMENTS, momentsOf } from './verifyMoments'
import type { newListenRunner } from './workers'

/** Sound is compared at this rate, Hz, in stretches of so many ms, and may lie so far off, ms. */
const RATE = 8000
const HEARD_MS = 1500
const MOST_OFF = 40
/** How much longer or shorter than the edition it may be, ms. */
const MOST_LONGER = 250

/**
 * Compares the sound of a file, a video or a replay's own, with that of the edition, by correlation.
 * @returns how many stretches were compared, and what is wrong, in words that follow the file's name
 */
export async function soundFaults(
  cut: Pick<SiteCut, 'lesson'>,
  file: Blob,
  runner: ReturnType<typeof newListenRunner>,
): Promise<{ compared: number; faults: string[] }> {
  const { edition } = cut.lesson
  const heard = await new OfflineAudioContext(1, 1, RATE).decodeAudioData(await file.arrayBuffer())
  const off = Math.abs(heard.duration * 1000 - edition.duration)
  if (off > MOST_LONGER) {
    const [is, should] = [heard.duration, edition.duration / 1000].map(Math.round)
    return { compared: 0, faults: [`is ${is} s long; the solution is ${should} s`] }
  }
  const pcm = heard.getChannelData(0)
  await runner.run('open', { sounds: soundsIn(await drawnSoundsOf(edition.ledger)) })
  const faults: string[] = []
  for (const t of momentsOf(cut, MOMENTS)) {
    const from = Math.max(0, Math.min(edition.duration - HEARD_MS, t))
    const to = Math.min(edition.duration, from + HEARD_MS)
    const plan = { plan: edition.soundPlan(), from, to, speed: 1 }
    const wanted = thinned((await runner.run('stretch', plan)) as Float32Array, 48_000 / RATE)
    const at = Math.round((from / 1000) * RATE)
    const found = align(wanted, pcm.subarray(at, at + wanted.length), Math.round((2 * MOST_OFF * RATE) / 1000))
    if (found && (found.alike < 0.6 || Math.abs(found.lag) > (MOST_OFF * RATE) / 1000))
      faults.push(`does not sound as the solution does at ${Math.round(from / 1000)} s`)
  }
  return { compared: MOMENTS, faults }
}

/** Every n-th sample, each the mean of n. */
function thinned(pcm: Float32Array, n: number): Float32Array {
  const out = new Float32Array(Math.floor(pcm.length / n))
  for (let i = 0; i < out.length; i++) {
    let sum = 0
    for (let k = 0; k < n; k++) sum += pcm[i * n + k]!
    out[i] = sum / n
  }
  return out
}
