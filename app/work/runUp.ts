import { loadSound } from '../data/takes'

/** So much of the old sound is played before a retake begins, ms. */
const RUN_UP_MS = 3000

/**
 * Plays the moments before a retake, up to where it begins; at once over where there is no sound.
 * @param t where it begins, ms; @param given asked whether it was given up
 */
export async function playRunUp(takeId: string, t: number, given: () => boolean): Promise<void> {
  const sound = await loadSound(takeId)
  if (!sound || t <= 0) return
  const url = URL.createObjectURL(sound.blob)
  const audio = new Audio(url)
  try {
    audio.currentTime = Math.max(0, t - RUN_UP_MS) / 1000
    await audio.play()
    while (!given() && !audio.ended && audio.currentTime * 1000 < t) await new Promise(r => setTimeout(r, 20))
  }
  finally {
    audio.pause()
    URL.revokeObjectURL(url)
  }
}
