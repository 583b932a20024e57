import { SoundPlacer } from '../../core/sound'
import { RenderJob } from '../../workers/render/job'
import { durationOf } from '../../workers/render/piece'

/**
 * Workers as the stores see them: they take jobs and answer; the sound is placed as in earnest, and coded as bare
 * samples.
 */
class Runner {
  private placer: SoundPlacer | null = null
  private samples = 0
  async run(job: string, value: unknown): Promise<unknown> {
    if (failing.has(job)) throw new Error(`${job} failed`)
    if (job === 'begin') {
      this.placer = new SoundPlacer((value as { durationMs: number }).durationMs)
      this.samples = 0
    }
    if (job === 'chunks')
      for (const c of value as { t0: number; rate: number; pcm: Int16Array }[])
        this.samples += this.placer!.push(c).reduce((n, p) => n + p.length, 0)
    if (job === 'containers') return ['mp4', 'webm']
    if (job === 'render') {
      const { file, parts } = RenderJob.parse(value)
      const durationMs = parts.flatMap(p => p.pieces).reduce((sum, p) => sum + durationOf(p), 0)
      return { file, bytes: 9, durationMs, pictures: 1, drawn: 1, tookMs: 1, codecs: 'none' }
    }
    if (job !== 'finish') return null
    this.samples += this.placer!.finish().reduce((n, p) => n + p.length, 0)
    return {
      sound: new Blob([new Uint8Array(8)], { type: 'audio/wav' }),
      same: true,
      peaks: new Uint8Array(4),
      gaps: this.placer!.gaps,
      samples: this.samples,
    }
  }

  close() {}
}

/** Jobs that fail. */
export const failing = new Set<string>()
const runner = new Runner()
export const soundRunner = () => runner
export const trackRunner = () => runner
export const photoRunner = () => runner
export const filesRunner = () => runner
export const typesetRunner = () => runner
export const questionsRunner = () => runner
export const newFilesRunner = () => new Runner()
export const newSoundRunner = () => new Runner()
export const newListenRunner = () => new Runner()
export const newRenderRunner = () => new Runner()
