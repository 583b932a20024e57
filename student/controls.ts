import { clockTime } from '../core/publish/names'
import { all, one, placeOf, press, put } from './dom'
import { canFloat, float } from './float'
import { placeAt, type Place } from './follow'
import { SPEEDS, type SharedSettings } from './settings'
import type { QuestionView } from './question'

/** A jump back, and an arrow key, ms. */
export const JUMP = 5000
/** The pace at which a step is heard again, slower than it was. */
const SLOWER = 0.75

/** The row of controls under the picture, and the ruled timeline above it. */
export class Controls {
  private readonly steps: Place[]
  private readonly slider: HTMLInputElement
  private readonly played: Element
  private readonly duration: number

  constructor(
    private readonly view: QuestionView,
    private readonly settings: SharedSettings,
  ) {
    const { section } = view
    this.steps = view.steps.map(placeOf)
    this.slider = one<HTMLInputElement>(section, '.at')
    this.played = section.querySelector('.ruler .played')!
    this.duration = Number(this.slider.max)
    this.buttons()
    this.timeline()
    settings.watch(({ speed, captions, stops, follows }) => {
      one<HTMLSelectElement>(section, '.speed').value = String(speed)
      press(one(section, '.captions'), captions)
      press(one(section, '.each'), stops)
      press(one(section, '.follow'), follows)
    })
  }

  private buttons() {
    const { view, settings } = this
    const { section } = view
    const on = (name: string, run: () => void) => one(section, name).addEventListener('click', run)
    const select = one<HTMLSelectElement>(section, '.speed')
    for (const s of SPEEDS) select.append(new Option(`${s}×`, String(s)))
    select.addEventListener('change', () => settings.change({ speed: Number(select.value) }))
    on('.play', () => void view.toggle())
    on('.back-5', () => view.jump(-JUMP))
    on('.step-back', () => void view.toStep(-1))
    on('.step-on', () => void view.toStep(1))
    on('.each', () => settings.change({ stops: !settings.now.stops }))
    on('.captions', () => settings.change({ captions: !settings.now.captions }))
    on('.follow', () => settings.change({ follows: !settings.now.follows }))
    on('.wide', () => view.full())
    on('.whole', () => view.replay?.stage.whole())
    const floats = one(section, '.float')
    floats.hidden = !canFloat()
    on('.float', () => {
      const stage = view.open()?.stage
      if (stage) void float(stage).catch(() => view.say('This browser does not let the picture float now.'))
    })
    on('.again', () => void view.again())
    on('.slower', () => {
      settings.change({ speed: Math.max(SPEEDS[0]!, SPEEDS.findLast(s => s < settings.now.speed) ?? SLOWER) })
      void view.again()
    })
    // What was chosen in a menu is done; the menu goes.
    for (const menu of all<HTMLDetailsElement>(section, '.more'))
      menu.addEventListener('click', e => {
        if ((e.target as HTMLElement).closest('button, a')) menu.open = false
      })
  }

  private timeline() {
    const { slider, view } = this
    slider.addEventListener('input', () => void view.goTo(Number(slider.value), view.replay?.playing ?? false))
    slider.addEventListener('keydown', e => {
      const moves: Record<string, () => void> = {
        ArrowRight: () => view.jump(JUMP),
        ArrowUp: () => view.jump(JUMP),
        ArrowLeft: () => view.jump(-JUMP),
        ArrowDown: () => view.jump(-JUMP),
        PageDown: () => void view.toStep(1),
        PageUp: () => void view.toStep(-1),
      }
      const move = e.shiftKey ? undefined : moves[e.key]
      if (!move) return
      e.preventDefault()
      e.stopPropagation()
      move()
    })
    const name = one(view.section, '.name-there')
    slider.addEventListener('pointermove', e => {
      const { left, width } = slider.getBoundingClientRect()
      const share = Math.min(1, Math.max(0, (e.clientX - left) / width))
      name.hidden = false
      put(name, this.nameAt(share * this.duration))
      name.style.left = `${(100 * share).toFixed(2)}%`
    })
    for (const type of ['pointerleave', 'pointercancel'])
      slider.addEventListener(type, () => {
        name.hidden = true
      })
  }

  /** A moment in words: the time, its step, and its name where she has been there. */
  private nameAt(t: number): string {
    const i = placeAt(this.steps, t)
    if (i < 0) return clockTime(t)
    const known = this.view.isReached(i) ? `, ${this.view.steps[i]!.querySelector('.name')!.textContent}` : ''
    return `${clockTime(t)}, step ${i + 1}${known}`
  }

  /** Shows the moment; while it plays, only as often as the second changes, as laying out takes time from the ink. */
  tell(t: number, isPlaying: boolean): void {
    const said = `${clockTime(t)} of ${clockTime(this.duration)}`
    const time = one(this.view.section, '.time')
    if (isPlaying && time.textContent === said) return
    put(time, said)
    this.slider.value = String(Math.round(t))
    this.slider.setAttribute('aria-valuetext', this.nameAt(t))
    this.played.setAttribute('d', `M0 6H${((1000 * t) / Math.max(1, this.duration)).toFixed(1)}`)
  }

  playing(on: boolean): void {
    const { section } = this.view
    section.classList.toggle('playing', on)
    one(section, '.play').setAttribute('aria-label', `${on ? 'Pause' : 'Play'} question ${section.dataset.number}`)
  }
}
