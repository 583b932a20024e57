import { all, one } from './dom'
import type { QuestionView } from './question'

/**
 * Where the teacher asks for it and the host counts: that a question was played, seen to its end, got or not yet, once
 * each on this page; that a step was gone back to, and at which step she left. Nothing tells who it was.
 */
export function countPlays(view: QuestionView): void {
  if (document.documentElement.dataset.counts !== 'plays' || !/^https?:/.test(location.protocol)) return
  const { question } = view.named
  const told = new Set<string>()
  const post = (value: object) =>
    void fetch('plays', { method: 'POST', body: JSON.stringify({ question, ...value }), keepalive: true }).catch(
      () => {},
    )
  const tell = (value: object) => {
    const name = JSON.stringify(value)
    if (told.has(name)) return
    told.add(name)
    post(value)
  }
  one(view.section, '.play').addEventListener('click', () => tell({}))
  view.onEnded = () => tell({ what: 'ended' })
  view.onGot = how => tell({ what: how === 'got it' ? 'got' : 'not-yet' })
  addEventListener('pagehide', () => {
    const { replay, progress } = view
    if (replay && replay.time > 0 && progress.state === 'begun') tell({ step: replay.step, what: 'left' })
  })
  const seen = new Set<number>()
  all(view.section, '.steps button').forEach((button, step) =>
    button.addEventListener('click', () => {
      // The first time it is looked up; from then on it is repeated.
      if (seen.has(step)) post({ step })
      seen.add(step)
    }),
  )
}
