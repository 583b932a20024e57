import { z } from 'zod'
import { Gap, type Take } from '#core/folio'
import { removeFile } from '../data/files'
import { loadSound, soundChunks, storeSound } from '../data/takes'
import { soundRunner } from './workers'

const Settled = z.object({ sound: z.instanceof(Blob), peaks: z.instanceof(Uint8Array), gaps: z.array(Gap), samples: z.number() })

let queue: Promise<unknown> = Promise.resolve()

/**
 * Turns the recorded pieces of a finished take into its sound file and stores it. The pieces go only once that is on
 * disk, so it can be done again after a crash.
 * @returns the take with the gaps that were found
 */
export function settleTake(take: Take): Promise<Take> {
  const work = queue.then(() => settleNow(take))
  queue = work.catch(() => {})
  return work
}

async function settleNow(take: Take): Promise<Take> {
  const runner = soundRunner()
  const temporary = `take-${take.id}.flac`
  await runner.run('begin', { name: temporary, durationMs: take.durationMs })
  let any = false
  // A retake begins with the sound of what it goes on after.
  const before = take.after && await loadSound(take.after.takeId)
  if (take.after && before) {
    await runner.run('prefix', { sound: before.blob, until: take.after.t })
    any = true
  }
  for await (const rows of soundChunks(take.id)) {
    any = true
    await runner.run('chunks', rows.map(r => ({ t0: r.t0, rate: r.rate, pcm: new Int16Array(r.pcm) })))
  }
  const done = Settled.parse(await runner.run('finish', null))
  // A take that was meant to be silent has no gaps to report.
  const earlier = before ? before.gaps.filter(g => g.from < take.after!.t) : []
  const settled = { ...take, gaps: any ? [...earlier, ...done.gaps] : [] }
  await storeSound(settled, done.sound, done.peaks as Uint8Array<ArrayBuffer>)
  await removeFile(temporary)
  return settled
}
