import { JUMP } from './controls'
import { one } from './dom'
import type { QuestionView } from './question'

/** What plays is named on the lock screen, and worked from there and from a headset (Media Session, W3C). */
export function lockScreen(view: QuestionView): void {
  if (!('mediaSession' in navigator)) return
  const { mediaSession } = navigator
  const title = one(view.section, 'h2').textContent!.replace(/\s+/g, ' ').trim()
  mediaSession.metadata = new MediaMetadata({ title, album: document.title })
  const actions: Partial<Record<MediaSessionAction, (details: MediaSessionActionDetails) => void>> = {
    play: () => void view.replay?.play(),
    pause: () => view.replay?.pause(),
    seekbackward: () => view.jump(-JUMP),
    seekforward: () => view.jump(JUMP),
    previoustrack: () => void view.toStep(-1),
    nexttrack: () => void view.toStep(1),
    seekto: ({ seekTime }) => void view.goTo((seekTime ?? 0) * 1000, view.replay?.playing ?? false),
  }
  for (const [action, run] of Object.entries(actions)) mediaSession.setActionHandler(action as MediaSessionAction, run)
}
