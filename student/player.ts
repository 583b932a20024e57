import { explain } from './explain'
import { copy, saveFile } from './files'
import { holdsWords, readAddress, saidOfSearch } from './follow'
import { allKept, forget, keep, kept, onRefused } from './kept'
import { practice } from './practice'
import { all, one, QuestionView } from './question'
import { countPlays } from './plays'
import { stuck } from './stuck'

/** The student page's own script. It reads what it needs from the page and never makes markup from text. */

const views = all(document, 'section.question').map(section => new QuestionView(section))
/** The question that keys are for: the one that was played or seen last. */
let current: QuestionView | undefined = views[0]

onRefused(() => {
  const line = one(document, '#kept-word')
  line.textContent = 'This browser keeps nothing for this page: what you write here is gone when you leave it.'
  line.hidden = false
})

for (const view of views) {
  view.onPlay = () => {
    current = view
    for (const other of views) if (other !== view) other.replay?.pause()
  }
  stuck(view)
  explain(view)
  countPlays(view)
}
practice()
// Moments in her own time.
for (const time of all<HTMLTimeElement>(document, 'time[datetime]'))
  time.textContent = new Date(time.dateTime).toLocaleString('en-GB', { dateStyle: 'long', timeStyle: 'short' })

// Questions are read when they come near, the first at once.
const near = new IntersectionObserver(
  entries => {
    for (const { target, isIntersecting } of entries)
      if (isIntersecting) {
        near.unobserve(target)
        void views.find(v => v.section === target)?.open()
      }
  },
  { rootMargin: '600px' },
)
for (const view of views) near.observe(view.section)
void views[0]?.open()
addEventListener('beforeprint', () => {
  for (const view of views) void view.open()
})

// A link to a moment: #q2 or #q2&t=43.5
function followLink() {
  const { name, t } = readAddress(location.hash)
  const view = views.find(v => v.name === name)
  if (!view) return
  current = view
  if (t !== null) {
    view.section.scrollIntoView()
    void view.goTo(t, false)
  }
}
addEventListener('hashchange', followLink)
followLink()

for (const view of views)
  one(view.section, '.link').addEventListener('click', () => {
    const address = `${location.href.split('#')[0]}#${view.name}&t=${((view.replay?.time ?? 0) / 1000).toFixed(1)}`
    void copy(address).then(done =>
      view.say(done ? 'The link to this moment is copied.' : `The link to this moment: ${address}`),
    )
  })

// A page that goes while it plays is not paused first.
addEventListener('pagehide', () => {
  if (current?.replay?.playing) current.keepPlace()
})

// Where she stopped last time.
function offerLast() {
  if (location.hash) return
  try {
    const [name, t] = JSON.parse(kept('place') ?? '[]') as [string?, number?]
    const view = views.find(v => v.name === name)
    if (!view || !t || t < 3000) return
    const button = one<HTMLButtonElement>(document, '#go-on')
    button.textContent = `Go on with question ${view.section.dataset.number} where you stopped`
    button.hidden = false
    button.addEventListener('click', () => {
      button.hidden = true
      view.section.scrollIntoView()
      void view.goTo(t, true)
    })
  } catch {
    forget('place')
  }
}
offerLast()

/** Keys of what plays; not in a field, and not where they mean something else. */
document.addEventListener('keydown', e => {
  const target = e.target as HTMLElement
  if (e.ctrlKey || e.metaKey || e.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) return
  if (e.key === ' ' && /^(BUTTON|A|SUMMARY)$/.test(target.tagName)) return
  const view = current
  if (!view) return
  const t = view.replay?.time ?? 0
  const keys: Record<string, () => void> = {
    ' ': () => void view.toggle(),
    'ArrowRight': () => void view.goTo(t + 5000, view.replay?.playing ?? false),
    'ArrowLeft': () => void view.goTo(t - 5000, view.replay?.playing ?? false),
    'ArrowDown': () => void view.toStep(1),
    'ArrowUp': () => void view.toStep(-1),
    'f': () => one(view.section, '.wide').click(),
    '/': () => find.focus(),
  }
  const run = keys[e.key]
  if (!run || (e.key.startsWith('Arrow') && !view.section.contains(target) && target !== document.body)) return
  e.preventDefault()
  run()
})

// Search over all that is said, written, printed and typed.
const find = one<HTMLInputElement>(document, '#find')
find.addEventListener('input', () => {
  const words = find.value
  const searched = words.trim() !== ''
  const list = one(document, '#hits')
  list.replaceChildren()
  let hits = 0
  for (const view of views) {
    const { section } = view
    const places = all(section, '.steps button, .said, h2, .print p, .reply p').map(place => {
      // Number, name and time of a step are elements of their own; their words stay apart.
      const text = [...place.childNodes]
        .map(n => n.textContent ?? '')
        .join(' ')
        .replace(/\s+/g, ' ')
        .trim()
      return { place, text, hit: holdsWords(`${text} ${place.dataset.also ?? ''}`, words) }
    })
    for (const { place, text, hit } of places) {
      place.classList.toggle('hit', hit)
      if (!hit || ++hits > 40) continue
      const button = document.createElement('button')
      button.type = 'button'
      button.textContent = `${section.dataset.number}: ${text.slice(0, 90)}`
      button.addEventListener('click', () => {
        section.scrollIntoView()
        void view.goTo(Number(place.dataset.t ?? 0), false)
      })
      const item = document.createElement('li')
      item.append(button)
      list.append(item)
    }
  }
  list.hidden = !searched || !hits
  one(document, '#found').textContent = saidOfSearch(words, hits)
})

// What she made here is hers: to be saved, and to be cleared.
one(document, '#save-mine').addEventListener('click', () => {
  saveFile('my-work.json', { form: 'orthograph-own', of: document.title, kept: allKept() })
})
one(document, '#clear-mine').addEventListener('click', e => {
  const button = e.target as HTMLButtonElement
  if (button.dataset.sure) {
    // What plays would remember its place again on the way out.
    for (const view of views) view.replay?.pause()
    for (const name of Object.keys(allKept())) forget(name)
    location.reload()
    return
  }
  button.dataset.sure = 'yes'
  button.textContent = 'Really clear it all'
})

// Light and dark, as she chose; else as her machine is.
const theme = one<HTMLSelectElement>(document, '#theme')
const wear = () => {
  if (theme.value === 'auto') delete document.documentElement.dataset.theme
  else document.documentElement.dataset.theme = theme.value
}
theme.value = kept('theme') ?? 'auto'
if (!theme.value) theme.value = 'auto'
wear()
theme.addEventListener('change', () => {
  keep('theme', theme.value)
  wear()
})
document.documentElement.classList.add('scripted')
