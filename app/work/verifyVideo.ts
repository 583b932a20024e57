import { reasonOf, type Folio } from '#core/folio'
import { unlikeness } from '#core/publish'
import type { SiteCut } from './package'
import type { SiteReport } from './verify'
import { momentsOf, MOST_UNLIKE, pixelsOf, wantedAt, WIDTH } from './verifyMoments'
import { soundFaults } from './verifySound'
import type { newListenRunner } from './workers'

/** How much longer or shorter than the edition a video may be, s: its last picture stands a while. */
const MOST_LONGER = 0.12
/** A video is coded anew: its edges are softer than what was drawn. */
const SOFTER = 2.5

/** Decodes a video whole, and compares its length, chapters, sound and some pictures with the edition. */
export async function verifyVideo(
  cut: SiteCut,
  files: ReadonlyMap<string, Blob>,
  folio: Folio,
  runner: ReturnType<typeof newListenRunner>,
  report: SiteReport,
) {
  const { path } = cut.published.video!
  const of = cut.video!
  const { ALL_FORMATS, BlobSource, Input, VideoSampleSink } = await import('mediabunny')
  const fault = (what: string) =>
    report.faults.push({ file: path, what, next: 'Render this video again, then publish.' })
  const file = files.get(path)
  if (!file) return
  report.videos++
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS })
  try {
    const track = await input.getPrimaryVideoTrack()
    if (!track) return void fault('has no pictures')
    const plain = !cut.lesson.question.clips.opening && !cut.lesson.question.clips.end
    const asked = plain ? momentsOf(cut, 2).filter(t => !inTurn(cut, t)) : []
    let pictures = 0
    let end = 0
    const sink = new VideoSampleSink(track)
    for await (const sample of sink.samples()) {
      pictures++
      end = sample.timestamp + sample.duration
      const [next] = asked
      if (next !== undefined && end * 1000 > next) {
        asked.shift()
        const seen = pixelsOf(sample.toCanvasImageSource())
        const wanted = await wantedAt(cut, Math.min(next, sample.timestamp * 1000 + 1), folio)
        report.pictures++
        if (unlikeness(seen, wanted, WIDTH) > SOFTER * MOST_UNLIKE)
          fault(`does not look as its solution does at ${Math.round(next / 1000)} s`)
      }
      sample.close()
    }
    // Not every container says how long its last picture stands: the sound tells, too.
    end = Math.max(end, await input.computeDuration())
    if (!pictures) fault('has no picture that can be decoded')
    else if (Math.abs(end - of.durationMs / 1000) > MOST_LONGER)
      fault(`is ${end.toFixed(1)} s long; it was made ${(of.durationMs / 1000).toFixed(1)} s long`)
    if (
      !(await holdsTitles(
        file,
        of.chapters.map(c => c.title),
      ))
    )
      fault('has not all of its chapters')
    // Behind a clip of hers, the solution begins later.
    if (plain && cut.lesson.lesson.sound) {
      const heard = await soundFaults(cut, file, runner)
      report.sounds += heard.compared
      for (const what of heard.faults) fault(what)
    }
  } catch (error) {
    fault(`of question ${cut.published.number} cannot be read (${reasonOf(error)})`)
  } finally {
    input.dispose()
  }
}

const inTurn = ({ lesson }: SiteCut, t: number) => lesson.edition.turns().some(u => t > u.t - 300 && t < u.to + 300)

/** Chapters stand at the beginning or the end of a file: their titles are looked for there. */
async function holdsTitles(file: Blob, titles: readonly string[]): Promise<boolean> {
  const MB = 1024 ** 2
  const parts = [file.slice(0, 2 * MB), file.slice(Math.max(0, file.size - 2 * MB))]
  const text = (await Promise.all(parts.map(p => p.text()))).join('')
  return titles.every(title => text.includes(title.slice(0, 60)))
}
