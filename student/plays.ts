import { all, one } from './dom'
import type { QuestionView } from './question'

/**
 * Where the teacher asks for it and the host counts: that a question was played, once on this page, and that a step was
 * gone back to. Nothing tells who it was.
 */
export function countPlays(view: QuestionView): void {
  if (document.documentElement.dataset.counts !== 'plays' || !/^https?:/.test(location.protocol)) return
  const { question } = view.named
  const tell = (value: object) =>
    void fetch('plays', { method: 'POST', body: JSON.stringify({ question, ...value }), keepalive: true }).catch(
      () => {},
    )
  let told = false
  one(view.section, '.play').addEventListener('click', () => {
    if (!told) tell({})
    told = true
  })
  const seen = new Set<number>()
  all(view.section, '.steps button').forEach((button, step) =>
    button.addEventListener('click', () => {
      // The first time it is looked up; from then on it is repeated.
      if (seen.has(step)) tell({ step })
      seen.add(step)
    }),
  )
}
