import { loadSound } from '../data/takes'

/** So much of the old sound is played before a retake begins, ms. */
const RUN_UP_MS = 3000

/**
 * Plays the moments before a retake, up to where it begins; at once over where there is no sound.
 * @param t where it begins, ms; @param given asked whether it was given up
 */
export async function playRunUp(takeId: string, t: number, given: () => boolean): Promise<void> {
  if (t <= 0) return
  const sound = await openSound(takeId)
  if (!sound) return
  try {
    await sound.play(Math.max(0, t - RUN_UP_MS))
    while (!given() && !sound.ended() && sound.time() < t) await new Promise(r => setTimeout(r, 20))
  } finally {
    sound.close()
  }
}

/** The sound of a take, to be played while something is recorded to it. Times in take ms. */
export interface OldSound {
  play(from?: number): Promise<void>
  pause(): void
  time(): number
  ended(): boolean
  close(): void
}

/** @returns null where the take has no sound */
export async function openSound(takeId: string): Promise<OldSound | null> {
  const stored = await loadSound(takeId)
  if (!stored) return null
  const url = URL.createObjectURL(stored.blob)
  const audio = new Audio(url)
  return {
    async play(from) {
      if (from !== undefined) audio.currentTime = from / 1000
      await audio.play()
    },
    pause: () => audio.pause(),
    time: () => audio.currentTime * 1000,
    ended: () => audio.ended,
    close() {
      audio.pause()
      URL.revokeObjectURL(url)
    },
  }
}
