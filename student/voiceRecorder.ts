/** What browsers record a voice as; the first that one can is taken. */
const KINDS = ['audio/webm;codecs=opus', 'audio/mp4', 'audio/ogg;codecs=opus']
const BITRATE = 32_000

/**
 * The clock of a recording, and her voice where there is a microphone. Times are ms since it began, without rests; machine
 * times are those of events (`performance.now()`).
 */
export class VoiceRecorder {
  private began = performance.now()
  private rested = 0
  private restedAt: number | null = null
  private readonly parts: Blob[] = []

  private constructor(private readonly recorder: MediaRecorder | null) {
    recorder?.addEventListener('dataavailable', e => this.parts.push(e.data))
  }

  /** @returns a recorder that runs, without a voice where the microphone was refused or is not there */
  static async open(): Promise<{ voice: VoiceRecorder; refused: boolean }> {
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: { channelCount: 1 } })
      const mimeType = KINDS.find(k => MediaRecorder.isTypeSupported(k))
      const recorder = new MediaRecorder(stream, { ...(mimeType ? { mimeType } : {}), audioBitsPerSecond: BITRATE })
      const voice = new VoiceRecorder(recorder)
      // What sounds from here on is in it; that it has begun is told some 70 ms later, measured in Chromium.
      voice.began = performance.now()
      recorder.start(1000)
      return { voice, refused: false }
    } catch {
      return { voice: new VoiceRecorder(null), refused: true }
    }
  }

  get resting(): boolean {
    return this.restedAt !== null
  }

  /** Recording time of a machine time. */
  time(at = performance.now()): number {
    return Math.max(0, Math.round((this.restedAt ?? at) - this.began - this.rested))
  }

  /** Rests, or goes on. */
  rest(): void {
    const now = performance.now()
    if (this.restedAt === null) {
      this.restedAt = now
      this.recorder?.pause()
    } else {
      this.rested += now - this.restedAt
      this.restedAt = null
      this.recorder?.resume()
    }
  }

  /** Ends it, and lets go of the microphone. */
  stop(): Promise<Blob | null> {
    const { recorder } = this
    if (!recorder) return Promise.resolve(null)
    return new Promise(done => {
      const end = () => {
        recorder.stream.getTracks().forEach(t => t.stop())
        done(new Blob(this.parts, { type: recorder.mimeType }))
      }
      // It ends by itself when the microphone is pulled out.
      if (recorder.state === 'inactive') return end()
      recorder.addEventListener('stop', end)
      recorder.stop()
    })
  }
}
