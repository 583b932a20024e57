import type { Lesson } from '../core/lesson/form'
import { SilentClock, SoundClock, type Clock } from './clock'
import { placeAt, stepEnded, turnReached } from './follow'
import { Stage } from './stage'

/** The speeds that are offered. */
export const SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 2, 2.5, 3]

/** How often a tab that is not seen looks at its clock, ms. */
const HIDDEN_TICK = 250

/** What of a replay is watched by what stands round it. Times in lesson ms. */
export interface Watcher {
  time?(t: number): void
  playing?(on: boolean): void
  /** The student is asked to try; -1 when that is over. */
  turn?(index: number): void
  trouble?(what: string): void
}

/** Plays a lesson: ink and voice from the log itself, sharp at any size. */
export class Replay {
  readonly stage: Stage
  private clock: Clock
  private readonly watchers: Watcher[] = []
  private frame = 0
  private timer = 0
  private last = 0
  private at = 0
  /** The end of the step at which it waits, ms. */
  private passed = 0
  private isSoundLost = false
  /** The pause that holds it; -1 for none. */
  turn = -1
  /** Whether it waits at the end of each step. */
  stopsAtSteps = false

  constructor(
    readonly lesson: Lesson,
    canvas: HTMLCanvasElement,
    above: HTMLCanvasElement,
    clock?: Clock,
  ) {
    this.stage = new Stage(lesson, canvas, above)
    this.clock = clock ?? this.newClock()
    this.stage.draw(0)
  }

  private newClock(): Clock {
    const { sound, duration } = this.lesson
    if (!sound) return new SilentClock(duration)
    const audio = new Audio()
    audio.preload = 'auto'
    audio.src = sound.path
    audio.addEventListener('error', () => this.silently(), { once: true })
    return new SoundClock(audio)
  }

  private changeClock(clock: Clock): void {
    const { speed } = this.clock
    this.clock = clock
    clock.seek(this.at)
    clock.speed = speed
  }

  /** Without its sound it goes on in silence; the sound is tried again at the next press. */
  private silently() {
    const { playing } = this.clock
    this.isSoundLost = true
    this.changeClock(new SilentClock(this.lesson.duration))
    for (const w of this.watchers)
      w.trouble?.('The sound cannot be played now; the ink goes on without it. Play again to try the sound again.')
    if (playing) void this.clock.play()
  }

  watch(watcher: Watcher): void {
    this.watchers.push(watcher)
  }

  get time(): number {
    return this.at
  }
  get playing(): boolean {
    return this.timer !== 0
  }
  get speed(): number {
    return this.clock.speed
  }
  set speed(value: number) {
    this.clock.speed = value
  }
  /** The step that is shown. */
  get step(): number {
    const { steps } = this.lesson
    const shown = placeAt(
      steps.map(s => ({ from: s.t, to: s.to })),
      this.at,
    )
    return shown >= 0 ? shown : steps.length - 1
  }

  async play(): Promise<void> {
    if (this.playing) return
    if (this.turn >= 0) return this.goOn()
    if (this.at >= this.lesson.duration - 50) this.seek(0)
    if (this.isSoundLost) {
      this.isSoundLost = false
      this.changeClock(this.newClock())
    }
    try {
      await this.clock.play()
    } catch (error) {
      // It was paused before its sound had come: the sound can still be played.
      if (error instanceof DOMException && error.name === 'AbortError') return
      if (!this.isSoundLost) this.silently()
      await this.clock.play()
    }
    if (this.playing) return
    this.last = Math.max(this.at, this.passed)
    // A tab that is not seen draws nothing; it still comes to where the student is to try.
    this.timer = window.setInterval(() => document.hidden && this.tick(), HIDDEN_TICK)
    this.run()
    for (const w of this.watchers) w.playing?.(true)
  }

  pause(): void {
    this.clock.pause()
    if (!this.playing) return
    cancelAnimationFrame(this.frame)
    clearInterval(this.timer)
    this.timer = 0
    for (const w of this.watchers) w.playing?.(false)
  }

  toggle(): void {
    if (this.playing) this.pause()
    else void this.play()
  }

  /** Goes to a moment; a pause for the student that held it is over. */
  seek(t: number): void {
    const to = Math.max(0, Math.min(this.lesson.duration, t))
    this.clock.seek(to)
    this.at = this.last = to
    this.passed = 0
    if (this.turn >= 0) this.held(-1)
    this.show()
  }

  /** Goes on after a pause for the student. */
  async goOn(): Promise<void> {
    const turn = this.lesson.turns[this.turn]
    this.held(-1)
    if (turn) this.seek(turn.to + 1)
    // A hint ends with a pause; nothing follows, and it does not begin again.
    if (this.at < this.lesson.duration - 50) await this.play()
  }

  private held(turn: number) {
    this.turn = turn
    for (const w of this.watchers) w.turn?.(turn)
  }

  private run() {
    this.frame = requestAnimationFrame(() => this.tick())
  }

  /** Shows the moment that is heard; stops where the student is to try, at the end of a step where she wants that, and at the end. */
  private tick(): void {
    cancelAnimationFrame(this.frame)
    const { duration, turns, steps } = this.lesson
    this.at = Math.min(duration, this.clock.time)
    const turn = turnReached(
      turns.map(t => ({ from: t.t, to: t.to })),
      this.last,
      this.at,
    )
    const ended = this.stopsAtSteps ? stepEnded(steps, this.last, this.at) : -1
    if (turn >= 0) {
      this.waitAt(turns[turn]!.t)
      this.held(turn)
    } else if (ended >= 0) {
      this.passed = steps[ended]!.to
      this.waitAt(this.passed - 1)
    } else if (this.at >= duration || !this.clock.playing) {
      // A sound may be some milliseconds shorter than what it belongs to.
      if (duration - this.at < 250) this.at = duration
      this.pause()
    } else this.run()
    // A sound that was sought may tell an earlier time at first; what was gone over is not gone over again.
    this.last = Math.max(this.last, this.at)
    this.show()
  }

  private waitAt(t: number): void {
    this.at = t
    this.pause()
    this.clock.seek(t)
  }

  private show() {
    this.stage.draw(this.at)
    for (const w of this.watchers) w.time?.(this.at)
  }
}
