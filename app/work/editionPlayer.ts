import type { SoundPiece } from '#core/edition'
import { SOUND_RATE } from '#core/sound'
import { newListenRunner } from './workers'

/** Sound is made so far ahead of what is heard, ms of listening; the first stretch is short, so that it begins soon. */
const AHEAD_MS = 3000
const STRETCH_MS = 1000
const FIRST_MS = 250
/** What is made anew is heard so long after it was asked for at most, ms. */
const LEAD_MS = 60

/**
 * Plays the sound of an edition on lesson time, at any speed and at the same pitch. It is made in a worker, in
 * stretches ahead of the playhead, so that what was taken out leaves no gap; where there is no sound, the clock goes on
 * in silence.
 */
export class EditionPlayer {
  private readonly runner = newListenRunner()
  private context: AudioContext | null = null
  private plan: readonly SoundPiece[] = []
  private duration = 0
  /** Goes up with each beginning, so that sound for an earlier one is not heard. */
  private runs = 0
  private sources: AudioBufferSourceNode[] = []
  private began: { at: number; t: number; speed: number } | null = null
  private readonly opened: Promise<unknown>

  /** @param sounds of the takes, by their ids */
  constructor(private readonly sounds: Readonly<Record<string, Blob>>) {
    this.opened = Object.keys(sounds).length ? this.runner.run('open', { sounds }) : Promise.resolve()
    // Who plays is told; closed before that, nobody is.
    this.opened.catch(() => {})
  }

  /** What is played from now on. @param plan of an edition of `duration` ms */
  load(plan: readonly SoundPiece[], duration: number): void {
    this.plan = plan
    this.duration = duration
  }

  get playing(): boolean {
    return this.began !== null
  }

  /** Lesson time that is heard now, ms; meaningful while it plays. */
  get time(): number {
    if (!this.began) return 0
    const { at, t, speed } = this.began
    return Math.min(this.duration, t + Math.max(0, this.clock() - at) * speed)
  }

  /** Plays from lesson time `t` on, whatever it played before. */
  async play(t: number, speed: number): Promise<void> {
    this.stop()
    const run = ++this.runs
    const heard = typeof AudioContext !== 'undefined' && Object.keys(this.sounds).length > 0
    if (heard) {
      this.context ??= new AudioContext({ sampleRate: SOUND_RATE })
      await Promise.all([this.opened, this.context.resume()]).catch(this.unless(run))
    }
    const first = heard ? await this.made(t, FIRST_MS, speed).catch(this.unless(run)) : null
    if (run !== this.runs) return
    const at = this.clock() + (heard ? LEAD_MS : 0)
    this.began = { at, t, speed }
    if (!first) return
    this.schedule(first, at)
    void this.goOn(run, t + FIRST_MS * speed, at + FIRST_MS, speed)
  }

  pause(): void {
    this.runs++
    this.stop()
  }

  close(): void {
    this.pause()
    void this.context?.close()
    this.runner.close()
  }

  /** What goes wrong after it was stopped is of no account. */
  private unless(run: number) {
    return (error: unknown) => {
      if (run === this.runs) throw error
      return null
    }
  }

  private stop() {
    this.began = null
    for (const source of this.sources) source.stop()
    this.sources = []
  }

  /** Machine time of what is heard, ms. */
  private clock(): number {
    const { context } = this
    return context ? (context.currentTime - context.outputLatency) * 1000 : performance.now()
  }

  private async goOn(run: number, from: number, at: number, speed: number) {
    let t = from
    let when = at
    while (run === this.runs && t < this.duration) {
      if (when - this.clock() > AHEAD_MS) {
        await new Promise(r => setTimeout(r, STRETCH_MS / 2))
        continue
      }
      const pcm = await this.made(t, STRETCH_MS, speed).catch(() => null)
      if (run !== this.runs) return
      // What follows cannot be made: it stops where it is.
      if (!pcm) return this.pause()
      this.schedule(pcm, when)
      t += STRETCH_MS * speed
      when += STRETCH_MS
    }
  }

  private async made(t: number, ms: number, speed: number): Promise<Float32Array<ArrayBuffer>> {
    const to = Math.min(this.duration, t + ms * speed)
    return (await this.runner.run('stretch', { plan: this.plan, from: t, to, speed })) as Float32Array<ArrayBuffer>
  }

  private schedule(pcm: Float32Array<ArrayBuffer>, at: number) {
    const { context } = this
    if (!context || !pcm.length) return
    const buffer = context.createBuffer(1, pcm.length, SOUND_RATE)
    buffer.copyToChannel(pcm, 0)
    const source = context.createBufferSource()
    source.buffer = buffer
    source.connect(context.destination)
    source.start(Math.max(0, at / 1000 + context.outputLatency))
    source.onended = () => {
      this.sources = this.sources.filter(s => s !== source)
    }
    this.sources.push(source)
  }
}
