import { all, one } from './dom'
import type {} from './aids'
import { explain } from './explain'
import { copy } from './files'
import { Front } from './front'
import { forget, kept } from './kept'
import { keys } from './keys'
import { lockScreen } from './lockScreen'
import { keptByIds, look, mine } from './mine'
import { countPlays } from './plays'
import { QuestionView } from './question'
import { SharedSettings } from './settings'
import { sinceLastVisit } from './since'

/** The student page's own script. It reads what it needs from the page and never makes markup from text. */

document.documentElement.classList.add('scripted')
const sections = all(document, 'section.question')
keptByIds(sections)
const settings = new SharedSettings()
const views = sections.map(section => new QuestionView(section, settings))
const front = new Front(views)

for (const view of views) {
  view.onPlay = () => {
    for (const other of views) if (other !== view) other.replay?.pause()
    lockScreen(view)
  }
  explain(view)
  countPlays(view)
  one(view.section, '.link').addEventListener('click', () => {
    const address = `${location.href.split('#')[0]}#q-${view.id}&t=${((view.replay?.time ?? 0) / 1000).toFixed(1)}`
    void copy(address).then(done =>
      view.say(done ? 'The link to this moment is copied.' : `The link to this moment: ${address}`),
    )
  })
}
// Search, practice and the like come after the lessons (aids.ts).
window.orthograph = { views, front }
keys(front, settings)
look(settings)
let isCleared = false
mine(() => {
  isCleared = true
  for (const view of views) view.replay?.pause()
})
sinceLastVisit(
  views.map(({ section, progress }) => ({
    number: section.dataset.number ?? '',
    changed: section.dataset.changed,
    hasSeen: progress.state !== 'unseen',
  })),
)
// Moments in her own time.
for (const time of all<HTMLTimeElement>(document, 'time[datetime]'))
  time.textContent = new Date(time.dateTime).toLocaleString('en-GB', { dateStyle: 'long', timeStyle: 'short' })

// A page that goes while it plays is not paused first.
addEventListener('pagehide', () => {
  if (!isCleared && front.current?.replay) front.current.keepPlace()
})
addEventListener('beforeprint', () => {
  for (const view of views) view.print()
})
addEventListener('afterprint', () => {
  for (const view of views) view.printed(view === front.current)
})

// A menu closes when something else is pressed.
document.addEventListener('pointerdown', e => {
  for (const menu of all<HTMLDetailsElement>(document, 'details.menu[open]'))
    if (!menu.contains(e.target as Node)) menu.open = false
})

/** Where she stopped last time; the question as it was, and the moment one press away. */
function lastPlace(): { view: QuestionView; t: number } | null {
  try {
    const [id, t] = JSON.parse(kept('place') ?? '[]') as [string?, number?]
    const view = views.find(v => v.id === id || v.place === id)
    return view && t ? { view, t } : null
  } catch {
    forget('place')
    return null
  }
}

/** A place that is worth going back to, ms. */
const WORTH = 3000
if (!front.follow()) {
  const last = lastPlace()
  front.show(last?.view.place ?? document.querySelector<HTMLElement>('.strip a')?.dataset.of ?? 'q1', false)
  if (last && last.t >= WORTH) {
    const button = one<HTMLButtonElement>(document, '#go-on')
    button.textContent = `Go on with question ${last.view.section.dataset.number} where you stopped`
    button.hidden = false
    button.addEventListener('click', () => {
      button.hidden = true
      front.goTo(last.view, last.t, true)
    })
  }
}
