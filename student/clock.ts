/** What time it is in a lesson that plays: by its sound, or, without one, by the machine's clock. Times in ms. */
export interface Clock {
  readonly time: number
  readonly playing: boolean
  play(): Promise<void>
  pause(): void
  seek(t: number): void
  speed: number
}

/**
 * A browser tells the time of a sound in steps; between them it goes on as fast as it is played, by so much at most, ms of
 * the sound: one that stands still, as it has to wait for its data, does not run away from its ink.
 */
const MOST_AHEAD = 40
/** A jump that a host cannot make waits so long for the whole sound, ms. */
const JUMP_WAITS = 10_000

/** The sound is the clock; it keeps its pitch at every speed. */
export class SoundClock implements Clock {
  private told = 0
  private at = 0

  private sought: { t: number; at: number } | null = null

  constructor(private readonly audio: HTMLAudioElement) {
    audio.preservesPitch = true
    audio.addEventListener('loadedmetadata', () => void this.makeSeekable(), { once: true })
  }

  /** Where a host gives files only from their beginning, nothing could be jumped to: the whole sound is held then. */
  private async makeSeekable(): Promise<void> {
    const { audio } = this
    const { seekable, duration } = audio
    if (!/^https?:/.test(audio.src) || (seekable.length && seekable.end(seekable.length - 1) > duration - 1)) return
    try {
      const sound = await (await fetch(audio.src)).blob()
      const { playbackRate, paused } = audio
      // What was asked for lately could not be reached.
      const lately = this.sought && performance.now() - this.sought.at < JUMP_WAITS
      const t = lately ? this.sought!.t : audio.currentTime * 1000
      audio.src = URL.createObjectURL(sound)
      this.speed = playbackRate
      this.seek(t)
      if (!paused) await audio.play()
    } catch {
      // It plays from its beginning as it is.
    }
  }

  get time(): number {
    const told = this.audio.currentTime * 1000
    const now = performance.now()
    if (told !== this.told || !this.playing) {
      this.told = told
      this.at = now
      return told
    }
    return told + Math.min(MOST_AHEAD, (now - this.at) * this.audio.playbackRate)
  }
  get playing(): boolean {
    return !this.audio.paused && !this.audio.ended
  }
  play(): Promise<void> {
    return this.audio.play()
  }
  pause(): void {
    this.audio.pause()
  }
  seek(t: number): void {
    this.audio.currentTime = t / 1000
    this.sought = { t, at: performance.now() }
    this.told = -1
  }
  get speed(): number {
    return this.audio.playbackRate
  }
  set speed(value: number) {
    // Some browsers begin each sound at the default speed.
    this.audio.defaultPlaybackRate = this.audio.playbackRate = value
  }
}

export class SilentClock implements Clock {
  private from = 0
  private began: number | null = null
  private rate = 1

  constructor(private readonly duration: number) {}

  get time(): number {
    const since = this.began === null ? 0 : (performance.now() - this.began) * this.rate
    return Math.min(this.duration, this.from + since)
  }
  get playing(): boolean {
    return this.began !== null && this.time < this.duration
  }
  async play(): Promise<void> {
    this.began ??= performance.now()
  }
  pause(): void {
    this.from = this.time
    this.began = null
  }
  seek(t: number): void {
    this.from = t
    if (this.began !== null) this.began = performance.now()
  }
  get speed(): number {
    return this.rate
  }
  set speed(value: number) {
    this.from = this.time
    if (this.began !== null) this.began = performance.now()
    this.rate = value
  }
}
