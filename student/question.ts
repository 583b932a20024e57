import { LessonTrouble, type Lesson } from '../core/lesson/form'
import { Choice } from './choice'
import { Controls } from './controls'
import { all, one, placeOf, press, put } from './dom'
import type { Place } from './follow'
import { keep, kept } from './kept'
import { lessonIn } from './lessonOf'
import { Progress } from './progress'
import { Replay } from './replay'
import type { SharedSettings } from './settings'
import { gestures } from './stage'
import { keepInSight, Marks, StepPictures } from './steps'
import { Turn } from './turn'

const TROUBLES = {
  newer: 'This page was made by a newer version than its player knows. Load it again from where you got it.',
  damaged: 'This question’s data cannot be read; the file may be damaged. Load the page again, or ask your teacher.',
}

/** While it plays, what stands round the picture is told the time so often, ms. */
const TELL_EVERY = 100
/** A step back from within so much of its beginning leads to the one before, ms. */
const STEP_BEGINS = 1500

/** A question on the page: its replay, what stands round it, and what the student does with it. */
export class QuestionView {
  replay: Replay | null = null
  /** Its place on the page, "q1". */
  readonly place: string
  /** Its id; what she makes and chooses is kept by it. */
  readonly id: string
  readonly steps: HTMLElement[]
  readonly progress: Progress
  private readonly places: Place[]
  private readonly said: HTMLElement[]
  private readonly tellings: HTMLElement[]
  private readonly marks: { steps: Marks; said: Marks }
  private readonly choice: Choice
  private readonly controls: Controls
  private pictures: StepPictures | null = null
  private turn: Turn | null = null
  private isBroken = false
  private isFront = false
  private told = -TELL_EVERY
  private revealed = ''
  /** Told when it begins to play, and when more of it has been seen. */
  onPlay: () => void = () => {}
  onProgress: () => void = () => {}
  /** Told when it has been seen to its end, and what she says of it. */
  onEnded: () => void = () => {}
  onGot: (how: 'got it' | 'not yet') => void = () => {}

  constructor(
    readonly section: HTMLElement,
    private readonly settings: SharedSettings,
  ) {
    this.place = section.id
    this.id = section.dataset.question ?? this.place
    this.steps = all(section, '.steps button')
    this.places = this.steps.map(placeOf)
    this.said = all(section, '.said')
    this.tellings = all(section, '.told-step')
    this.marks = { steps: new Marks(this.steps), said: new Marks(this.said) }
    this.progress = new Progress(this.id, Number(one<HTMLInputElement>(section, '.at').max))
    this.choice = new Choice(section, this.id)
    for (const button of [...this.steps, ...this.said, ...all(section, '.to-moment')])
      button.addEventListener('click', () => void this.goTo(placeOf(button).from, true))
    this.controls = new Controls(this, settings)
    this.gotIt()
    // Where there is room below the picture, what is said stands there, and the sentence that is heard is marked.
    one<HTMLDetailsElement>(section, '.transcript').open = matchMedia(ROOMY).matches
    settings.watch(({ speed, stops, follows }) => {
      if (this.replay) Object.assign(this.replay, { speed, stopsAtSteps: stops })
      if (this.replay) this.replay.stage.follows = follows
      this.caption(this.marks.said.at(this.replay?.time ?? 0))
      this.reveal()
    })
  }

  /** Reads the lesson and shows its beginning; done once. Null where it cannot be read. */
  open(): Replay | null {
    if (this.replay || this.isBroken) return this.replay
    try {
      return this.begin(lessonIn(this.place))
    } catch (error) {
      this.isBroken = true
      this.say(error instanceof LessonTrouble ? TROUBLES[error.code] : TROUBLES.damaged)
      return null
    }
  }

  private begin(lesson: Lesson): Replay {
    const { section } = this
    one(section, '.stage').hidden = false
    const canvas = one<HTMLCanvasElement>(section, 'canvas.board')
    const replay = (this.replay = new Replay(lesson, canvas, one<HTMLCanvasElement>(section, 'canvas.live')))
    replay.speed = this.settings.now.speed
    replay.stopsAtSteps = this.settings.now.stops
    replay.stage.follows = this.settings.now.follows
    replay.stage.onZoom = zoomed => {
      one(section, '.whole').hidden = !zoomed
    }
    const turn = (this.turn = new Turn(section, this.id, replay, () => {
      if (!this.isToComeBackTo) this.got('not yet')
    }))
    replay.watch({
      time: t => this.tell(t),
      playing: on => {
        this.controls.playing(on)
        section.classList.remove('waiting')
        if (on) this.onPlay()
        else this.keepPlace()
      },
      turn: index => turn.ask(index),
      trouble: what => this.say(what),
    })
    gestures(replay.stage, canvas, () => void this.toggle())
    this.pictures = new StepPictures(lesson, replay.stage, this.steps)
    this.choice.of(lesson)
    this.revealAnew()
    this.tell(0)
    return replay
  }

  /** Remembers where she is, for the next time. */
  keepPlace(): void {
    this.progress.store()
    if (this.replay) keep('place', JSON.stringify([this.id, Math.round(this.replay.time)]))
  }

  private tell(t: number) {
    const { section, replay } = this
    const now = performance.now()
    const before = this.progress.state
    if (this.progress.reach(t)) {
      this.reveal()
      if (before !== 'done' && this.progress.state === 'done') this.onEnded()
    }
    if (replay?.playing && now - this.told < TELL_EVERY) return
    this.told = now
    section.dataset.ms = String(Math.round(t))
    const step = this.marks.steps.at(t)
    this.controls.tell(t, replay?.playing ?? false)
    if (replay?.playing) keepInSight(this.steps[step], one(section, '.side'))
    const said = this.marks.said.at(t)
    if (replay?.playing) keepInSight(this.said[said], one(section, '.transcript .telling'))
    this.caption(said)
    this.choice.tell(t)
  }

  /** How far what is told may go, ms: as far as she has been, or all of it. */
  private get shownTo(): number {
    const isOpen = this.settings.now.showsAll || this.progress.state === 'done'
    return isOpen ? Number.POSITIVE_INFINITY : this.progress.reached
  }
  /** Whether a step has been reached, or everything is shown. */
  isReached(i: number): boolean {
    return this.places[i]!.from <= this.shownTo
  }

  /** Shows names of steps that were reached, and the pictures of those that were played past. */
  private reveal(): void {
    const to = this.shownTo
    const reached = this.places.filter(p => p.from <= to).length
    const passed = this.places.filter(p => p.to <= to).length
    const key = `${reached} ${passed} ${this.progress.state}`
    if (key === this.revealed) return
    this.revealed = key
    this.steps.forEach((s, i) => s.classList.toggle('unreached', i >= reached))
    for (const told of [...this.tellings, ...this.said]) told.classList.toggle('unreached', Number(told.dataset.t) > to)
    one(this.section, '.got').hidden = this.progress.state !== 'done'
    // What is not in front has let go of its pictures.
    if (this.isFront) for (let i = 0; i < passed; i++) this.pictures?.show(i)
    this.onProgress()
  }
  private revealAnew(): void {
    this.revealed = ''
    this.reveal()
  }

  /** Captions stand below the picture; their room stays while nobody speaks. */
  private caption(i: number) {
    const line = one(this.section, '.cc')
    const { captions } = this.settings.now
    line.hidden = !captions || !this.said.length
    put(line, captions && i >= 0 ? (this.said[i]!.textContent ?? '').trim() : '')
  }

  async toggle(): Promise<void> {
    const replay = this.open()
    if (!replay) return
    if (replay.playing) return replay.pause()
    this.section.classList.add('waiting')
    await replay.play()
    this.section.classList.remove('waiting')
  }

  /** Goes to a moment, ms. @param play whether it plays from there */
  async goTo(t: number, play: boolean): Promise<void> {
    const replay = this.open()
    replay?.seek(t)
    if (play) await replay?.play()
  }
  jump(by: number): void {
    void this.goTo((this.replay?.time ?? 0) + by, this.replay?.playing ?? false)
  }

  /** Steps on, or back: to the beginning of this step, or of the one before where it has just begun. */
  async toStep(by: 1 | -1): Promise<void> {
    const replay = this.open()
    if (!replay) return
    const { step, time, lesson, playing } = replay
    const isIn = by < 0 && time - (lesson.steps[step]?.t ?? 0) > STEP_BEGINS
    const next = lesson.steps[isIn ? step : step + by]
    if (next) await this.goTo(next.t, playing)
  }

  /** This step again, from its beginning. */
  async again(): Promise<void> {
    const replay = this.open()
    const step = replay?.lesson.steps[replay.step]
    if (step) await this.goTo(step.t, true)
  }

  private gotIt() {
    const { section } = this
    one(section, '.have-it').addEventListener('click', () => this.got('got it'))
    one(section, '.not-yet').addEventListener('click', () => this.got('not yet'))
    this.showGot()
  }
  /** How it went, as she says; pressed again it is taken back. */
  private got(how: 'got it' | 'not yet') {
    const isTakenBack = kept(`got ${this.id}`) === how
    keep(`got ${this.id}`, isTakenBack ? '' : how)
    if (!isTakenBack) this.onGot(how)
    this.showGot()
    this.onProgress()
  }
  private showGot() {
    const how = kept(`got ${this.id}`)
    press(one(this.section, '.have-it'), how === 'got it')
    press(one(this.section, '.not-yet'), how === 'not yet')
  }
  get isToComeBackTo(): boolean {
    return kept(`got ${this.id}`) === 'not yet'
  }

  /** The picture as large as the screen; where a browser has no such thing, as large as the window. */
  full(): void {
    const screen = one(this.section, '.screen')
    if (document.fullscreenElement) return void document.exitFullscreen()
    if (screen.classList.contains('filling')) return screen.classList.remove('filling')
    if (screen.requestFullscreen) void screen.requestFullscreen().catch(() => screen.classList.add('filling'))
    else screen.classList.add('filling')
  }

  /** It comes to the front. */
  enter(): void {
    this.isFront = true
    this.open()?.stage.restore()
    this.revealAnew()
  }
  /** It goes from the front, and lets go of what takes memory. */
  leave(): void {
    this.isFront = false
    if (!this.replay) return
    this.replay.pause()
    this.keepPlace()
    this.pictures?.release()
    this.turn?.release()
    this.replay.stage.release()
  }

  /** All of it on paper: the finished board, and the pictures of all steps. */
  print(): void {
    const replay = this.open()
    if (!replay) return
    replay.stage.restore(PRINT_WIDTH)
    replay.stage.draw(replay.lesson.duration)
    this.pictures?.showAll()
  }
  printed(isFront: boolean): void {
    const { replay } = this
    if (!replay) return
    if (isFront) {
      replay.stage.restore()
      replay.stage.draw(replay.time)
    } else this.leave()
  }

  /** What she wrote at the pause that is open, or was last. */
  get own(): number[][] {
    return this.turn?.ink ?? []
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

const ROOMY = '(min-width: 75rem) and (min-height: 40rem)'
/** Pixels across of a board on paper. */
const PRINT_WIDTH = 1200
