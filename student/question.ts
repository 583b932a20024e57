import { LessonTrouble, type Lesson } from '../core/lesson/form'
import { clockTime } from '../core/publish/names'
import { Attempt } from './attempt'
import { placeAt, type Place } from './follow'
import { keep, kept } from './kept'
import { lessonIn } from './lessonOf'
import { Replay, SPEEDS } from './replay'
import { gestures } from './stage'
import { stepPictures } from './steps'

export const all = <E extends HTMLElement>(within: ParentNode, selector: string) => [
  ...within.querySelectorAll<E>(selector),
]
/** What the page is known to have. */
export const one = <E extends HTMLElement>(within: ParentNode, selector: string) => within.querySelector<E>(selector)!
export const placeOf = ({ dataset }: HTMLElement): Place => ({ from: Number(dataset.t), to: Number(dataset.to) })

const TROUBLES = {
  newer: 'This page was made by a newer version than its player knows. Load it again from where you got it.',
  damaged: 'This question’s data cannot be read; the file may be damaged. Load the page again, or ask your teacher.',
}

/** While it plays, what stands round the picture is told the time so often, ms. */
const TELL_EVERY = 100

/** Marks, among buttons, the one that holds the moment; only what changes is touched, as this happens while ink grows. */
class Marks {
  private readonly places: Place[]
  private here = -1

  constructor(private readonly buttons: readonly HTMLElement[]) {
    this.places = buttons.map(placeOf)
  }

  /** The index of the one that holds the moment; -1 for none. */
  at(ms: number): number {
    const here = placeAt(this.places, ms)
    if (here === this.here) return here
    this.buttons[this.here]?.removeAttribute('aria-current')
    this.buttons[here]?.setAttribute('aria-current', 'true')
    return (this.here = here)
  }
}

/** A question on the page: its replay, what stands round it, and what the student does with it. */
export class QuestionView {
  replay: Replay | null = null
  private opening: Promise<Replay | null> | null = null
  private attempt: Attempt | null = null
  private closeAttempt: (() => void) | null = null
  readonly name: string
  readonly steps: HTMLElement[]
  private readonly said: HTMLElement[]
  private readonly marks: { steps: Marks; said: Marks }
  private told = -TELL_EVERY
  /** Told when it begins to play. */
  onPlay: () => void = () => {}

  constructor(readonly section: HTMLElement) {
    this.name = section.id
    this.steps = all(section, '.steps button')
    this.said = all(section, '.said')
    this.marks = { steps: new Marks(this.steps), said: new Marks(this.said) }
    for (const button of [...this.steps, ...this.said, ...all(section, '.to-moment')])
      button.addEventListener('click', () => void this.goTo(placeOf(button).from, true))
    one(section, '.play').addEventListener('click', () => void this.toggle())
    one<HTMLInputElement>(section, '.at').addEventListener('input', e => {
      void this.goTo(Number((e.target as HTMLInputElement).value), false)
    })
    one(section, '.whole').addEventListener('click', () => this.replay?.stage.whole())
    one(section, '.wide').addEventListener('click', () => this.full())
    this.choices()
  }

  /** Reads the lesson and shows its beginning; done once, when the question comes near. */
  open(): Promise<Replay | null> {
    return (this.opening ??= lessonIn(this.section).then(
      lesson => this.begin(lesson),
      (error: unknown) => {
        this.say(error instanceof LessonTrouble ? TROUBLES[error.code] : TROUBLES.damaged)
        return null
      },
    ))
  }

  private begin(lesson: Lesson): Replay {
    const { section } = this
    one(section, '.stage').hidden = false
    const poster = section.querySelector<HTMLElement>('.poster')
    if (poster) poster.hidden = true
    const canvas = one<HTMLCanvasElement>(section, 'canvas.board')
    const replay = (this.replay = new Replay(lesson, canvas, one<HTMLCanvasElement>(section, 'canvas.live')))
    replay.speed = Number(one<HTMLSelectElement>(section, '.speed').value)
    replay.stage.follows = kept('follow') !== 'off'
    replay.stage.onZoom = zoomed => {
      one(section, '.whole').hidden = !zoomed
    }
    replay.stage.onDraw = view => this.attempt?.see(view)
    replay.watch({
      time: t => this.tell(t),
      playing: on => {
        one(section, '.play').textContent = on ? 'Pause' : 'Play'
        section.classList.toggle('playing', on)
        if (on) this.onPlay()
        else this.keepPlace()
      },
      turn: index => this.turn(index),
      trouble: what => this.say(what),
    })
    gestures(replay.stage, canvas, () => replay.toggle())
    stepPictures(lesson, replay.stage, this.steps)
    this.tell(0)
    return replay
  }

  /** Remembers where she is, for the next time. */
  keepPlace(): void {
    if (this.replay) keep('place', JSON.stringify([this.name, Math.round(this.replay.time)]))
  }

  private tell(t: number) {
    const { section } = this
    const now = performance.now()
    if (this.replay?.playing && now - this.told < TELL_EVERY) return
    this.told = now
    this.slide(t)
    section.dataset.ms = String(Math.round(t))
    this.marks.steps.at(t)
    this.caption(this.marks.said.at(t))
    this.tellChoice(t)
  }

  /** Moves the slider; while it plays, only as often as the second changes, as laying out takes time from the ink. */
  private slide(t: number) {
    const at = one<HTMLInputElement>(this.section, '.at')
    const said = `${clockTime(t)} of ${clockTime(Number(at.max))}`
    const time = one(this.section, '.time')
    if (this.replay?.playing && time.textContent === said) return
    time.textContent = said
    at.value = String(Math.round(t))
    at.setAttribute('aria-valuetext', said)
  }

  /** What she chose before the teacher showed the answer is told when that is shown. */
  private tellChoice(t: number) {
    const field = this.section.querySelector<HTMLElement>('.choice')
    if (!field || !this.replay) return
    const chosen = field.querySelector<HTMLInputElement>('input:checked')?.value
    const answer = field.dataset.answer ?? ''
    const told = one(field, '.told')
    const said = !chosen
      ? ''
      : t < this.reveal
        ? 'You will be told when the answer is shown.'
        : chosen === answer
          ? `${chosen} is right.`
          : `You chose ${chosen}; the answer is ${answer}.`
    if (told.textContent !== said) told.textContent = said
  }
  /** When the teacher shows the answer, ms; the end where it is not marked. */
  private get reveal(): number {
    const { events, duration } = this.replay!.lesson
    const shows = events.find(
      e => (e.type === 'place' || e.type === 'change') && e.thing.kind === 'option' && e.thing.state === 'answer',
    )
    return shows?.t ?? duration - 100
  }

  private caption(i: number) {
    const line = one(this.section, '.cc')
    const shown = i >= 0 && one<HTMLInputElement>(this.section, '.captions').checked
    const text = shown ? (this.said[i]!.textContent ?? '') : ''
    if (line.textContent !== text) line.textContent = text
    line.hidden = !text
  }

  async toggle(): Promise<void> {
    ;(await this.open())?.toggle()
  }

  /** Goes to a moment. @param play whether it plays from there */
  async goTo(t: number, play: boolean): Promise<void> {
    const replay = await this.open()
    replay?.seek(t)
    if (play) await replay?.play()
  }

  /** Steps on, or back. */
  async toStep(by: 1 | -1): Promise<void> {
    const replay = await this.open()
    const next = replay?.lesson.steps[replay.step + by]
    if (next) replay!.seek(next.t)
  }

  /** Shows, or takes away, what asks her to try. */
  private turn(index: number) {
    const card = one(this.section, '.turn')
    card.hidden = index < 0
    this.endAttempt()
    if (index < 0 || !this.replay) return
    const turn = this.replay.lesson.turns[index]!
    one(card, '.about').textContent = `about ${suggested(turn.seconds)}`
    const page = this.replay.lesson.views[0]!.page
    const canvas = one<HTMLCanvasElement>(this.section, 'canvas.own')
    const attempt = (this.attempt = new Attempt(`attempt ${this.name} ${index}`, canvas, page.dark === true))
    attempt.onChange = () => this.tools()
    one(this.section, '.own-tools').hidden = false
    this.closeAttempt = attempt.open()
    this.replay.stage.draw(this.replay.time)
    this.tools()
    one(card, '.go').focus({ preventScroll: true })
  }

  /** Her ink stays beside the teacher's, or hidden; it is written no more. */
  private endAttempt() {
    this.closeAttempt?.()
    this.closeAttempt = null
    this.tools()
  }

  private tools() {
    const { attempt, section } = this
    const open = this.closeAttempt !== null
    const set = (name: string, hidden: boolean, disabled = false) => {
      const button = one<HTMLButtonElement>(section, `.own-tools .${name}`)
      button.hidden = hidden
      button.disabled = disabled
    }
    one(section, '.own-tools').hidden = !attempt || (!open && attempt.isEmpty)
    set('undo', !open, !attempt?.canUndo)
    set('redo', !open, !attempt?.canRedo)
    set('erase', !open)
    set('clear', attempt?.isEmpty ?? true)
    set('show', open || (attempt?.isEmpty ?? true))
    one(section, '.own-tools .show').textContent = attempt?.shown ? 'Hide mine' : 'Show mine'
    one(section, '.own-tools .erase').setAttribute('aria-pressed', String(attempt?.erasing ?? false))
  }

  private choices() {
    const { section } = this
    const speed = one<HTMLSelectElement>(section, '.speed')
    for (const s of SPEEDS) speed.append(new Option(`${s} ×`, String(s)))
    const wanted = kept('speed') ?? '1'
    speed.value = SPEEDS.includes(Number(wanted)) ? wanted : '1'
    speed.addEventListener('change', () => {
      keep('speed', speed.value)
      if (this.replay) this.replay.speed = Number(speed.value)
    })
    const captions = one<HTMLInputElement>(section, '.captions')
    captions.checked = kept('captions') === 'on'
    captions.addEventListener('change', () => {
      keep('captions', captions.checked ? 'on' : 'off')
      this.caption(this.marks.said.at(this.replay?.time ?? 0))
    })
    const on = (name: string, run: (attempt: Attempt) => void) =>
      one(section, name).addEventListener('click', () => {
        if (this.attempt) run(this.attempt)
        this.tools()
      })
    on('.own-tools .undo', a => a.undo())
    on('.own-tools .redo', a => a.redo())
    on('.own-tools .erase', a => {
      a.erasing = !a.erasing
    })
    on('.own-tools .clear', a => a.clear())
    on('.own-tools .show', a => {
      a.shown = !a.shown
      a.draw()
    })
    for (const radio of all<HTMLInputElement>(section, '.choice input')) {
      radio.checked = kept(`choice ${this.name}`) === radio.value
      radio.addEventListener('change', () => {
        keep(`choice ${this.name}`, radio.value)
        this.tellChoice(this.replay?.time ?? 0)
      })
    }
    one(section, '.turn .go').addEventListener('click', () => void this.replay?.goOn())
  }

  /** The picture as large as the screen; where a browser has no such thing, as large as the window. */
  private full() {
    const screen = one(this.section, '.screen')
    if (document.fullscreenElement) return void document.exitFullscreen()
    if (screen.classList.contains('filling')) return screen.classList.remove('filling')
    if (screen.requestFullscreen) void screen.requestFullscreen().catch(() => screen.classList.add('filling'))
    else screen.classList.add('filling')
  }

  /** What she wrote at the pause that is open, or was last. */
  get own(): number[][] {
    return this.attempt?.strokes ?? []
  }

  /** What it is called in what she hands in. */
  get named() {
    const { question = '', number = '' } = this.section.dataset
    return { lesson: document.documentElement.dataset.lesson ?? '', question, number }
  }

  say(what: string): void {
    const line = one(this.section, '.word')
    line.textContent = what
    line.hidden = false
  }
}

const suggested = (seconds: number) =>
  seconds < 60 ? `${seconds} seconds` : seconds === 60 ? 'a minute' : `${Math.round(seconds / 60)} minutes`
