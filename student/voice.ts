import type { Clock } from './clock'

/** What time it is in a recorded voice that is heard: by the sound's own clock. */
export class VoiceClock implements Clock {
  private source: AudioBufferSourceNode | null = null
  /** Where it began to be heard, on the sound's clock, s, and in the voice, ms. */
  private began = 0
  private from = 0
  private rate = 1

  constructor(
    private readonly context: AudioContext,
    private readonly voice: AudioBuffer,
    private readonly duration: number,
  ) {}

  get time(): number {
    const heard = Math.max(0, this.context.currentTime - (this.context.outputLatency || 0) - this.began)
    return this.source ? Math.min(this.duration, this.from + heard * 1000 * this.rate) : this.from
  }
  get playing(): boolean {
    return this.source !== null && this.time < this.duration
  }
  async play(): Promise<void> {
    await this.context.resume()
    this.stop()
    this.source = this.context.createBufferSource()
    this.source.buffer = this.voice
    this.source.playbackRate.value = this.rate
    this.source.connect(this.context.destination)
    this.began = this.context.currentTime
    this.source.start(0, Math.min(this.voice.duration, this.from / 1000))
  }
  pause(): void {
    this.from = this.time
    this.stop()
  }
  seek(t: number): void {
    const on = this.source !== null
    this.stop()
    this.from = t
    if (on) void this.play()
  }
  get speed(): number {
    return this.rate
  }
  set speed(value: number) {
    const on = this.source !== null
    this.pause()
    this.rate = value
    if (on) void this.play()
  }
  private stop() {
    this.source?.stop()
    this.source?.disconnect()
    this.source = null
  }
}

/** The clock of a voice; null where it cannot be heard here. */
export async function voiceClock(sound: ArrayBuffer, duration: number): Promise<Clock | null> {
  try {
    const context = new AudioContext()
    return new VoiceClock(context, await context.decodeAudioData(sound), duration)
  } catch {
    return null
  }
}
