import { all, one, put, stoodAt } from './dom'
import { readAddress, SAID_OF_STATE } from './follow'
import { isLessonThere } from './lessonOf'
import type { QuestionView } from './question'

/** Names the question in the address; a page that is shown inside another has none of its own. */
function setAddress(hash: string): void {
  try {
    history.replaceState(null, '', hash)
  } catch {
    /* It is shown all the same. */
  }
}

/**
 * Which question is in front: one at a time, chosen in the strip, by an address or by search. What is not a question
 * (practice, a question that is not open yet) comes to the front in the same way.
 */
export class Front {
  current: QuestionView | undefined
  private shown: HTMLElement | null = null
  private readonly sections = all(document, 'section.question, section.closed, section.practice')
  private readonly links = all<HTMLAnchorElement>(document, '.strip a')

  constructor(private readonly views: readonly QuestionView[]) {
    for (const link of this.links)
      link.addEventListener('click', e => {
        e.preventDefault()
        setAddress(link.hash)
        this.show(link.dataset.of!)
      })
    for (const view of views) view.onProgress = () => this.mark(view)
    for (const view of views) this.mark(view)
    addEventListener('hashchange', () => this.follow())
  }

  /** All that can be brought to the front, in the order of the strip. */
  get places(): string[] {
    return this.links.map(link => link.dataset.of!)
  }

  /** Brings a place to the front. @param place "q1", "practice" @param top whether its beginning is gone to */
  show(place: string, top = true): void {
    const section = this.sections.find(s => s.id === place)
    if (!section) return
    if (section !== this.shown) {
      this.current?.leave()
      this.shown?.classList.remove('front')
      this.shown = section
      section.classList.add('front')
      this.current = this.views.find(v => v.section === section)
      for (const link of this.links)
        if (link.dataset.of === place) link.setAttribute('aria-current', 'true')
        else link.removeAttribute('aria-current')
      const link = this.links.find(l => l.dataset.of === place)
      link?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
      this.enter(this.current)
    }
    if (top) this.toTop(section)
  }

  /** The lessons of a page come after its script; one that has not come yet is opened when it has. */
  private enter(view: QuestionView | undefined): void {
    if (!view || isLessonThere(view.place) || document.readyState !== 'loading') view?.enter()
    else document.addEventListener('DOMContentLoaded', () => view === this.current && view.enter(), { once: true })
  }

  /** The top of the page where its picture and controls fit below it, else the picture itself. */
  private toTop(section: HTMLElement): void {
    scrollTo({ top: 0, behavior: 'instant' })
    const screen = section.querySelector('.screen')
    if (screen && screen.getBoundingClientRect().bottom > innerHeight + 1)
      section.scrollIntoView({ block: 'start', behavior: 'instant' })
  }

  /** Goes to a moment of a question. */
  goTo(view: QuestionView, t: number, play: boolean): void {
    this.show(view.place)
    void view.goTo(t, play)
  }

  /** Goes where the address leads. @returns whether it leads anywhere */
  follow(): boolean {
    const { name, t } = readAddress(location.hash)
    const place = this.placeOf(name)
    if (!place) return false
    this.show(place)
    const view = this.current
    if (t === null || !view) return true
    if (document.readyState !== 'loading') void view.goTo(t, false)
    else document.addEventListener('DOMContentLoaded', () => void view.goTo(t, false), { once: true })
    return true
  }

  /** What an address names: a question by its id; by its place, as addresses were before, what stood there then. */
  private placeOf(name: string): string | undefined {
    if (!name) return undefined
    const byId = this.sections.find(s => `q-${s.dataset.question}` === name || (s.id === name && !/^q\d+$/.test(name)))
    if (byId) return byId.id
    const number = /^q(\d+)$/.exec(name)?.[1]
    return number === undefined ? undefined : stoodAt(this.sections, number)?.id
  }

  /** Marks in the strip how far she is with a question. */
  private mark(view: QuestionView): void {
    const link = this.links.find(l => l.dataset.of === view.place)
    if (!link) return
    const { state } = view.progress
    link.dataset.state = state
    link.classList.toggle('come-back', view.isToComeBackTo)
    put(one(link, '.state'), `${SAID_OF_STATE[state]}${view.isToComeBackTo ? ', to come back to' : ''}`)
  }
}
