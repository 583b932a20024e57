import { z } from 'zod'
import { Gap, Trouble, type Take } from '#core/folio'
import { removeFile, useFile } from '../data/files'
import { pictureGaps } from '#core/recording'
import { cameraPictures, loadCamera, loadSound, soundChunks, storeSettled } from '../data/takes'
import { soundRunner, trackRunner } from './workers'

const Settled = z.object({
  sound: z.instanceof(Blob),
  same: z.boolean(),
  peaks: z.instanceof(Uint8Array),
  gaps: z.array(Gap),
  samples: z.number(),
})

const Tracked = z.object({
  camera: z.instanceof(Blob),
  same: z.boolean(),
  size: z.object({ width: z.number(), height: z.number() }).nullable(),
  times: z.array(z.number()),
})

let queue: Promise<unknown> = Promise.resolve()

/**
 * Turns the recorded pieces of a finished take into its sound file and stores it. The pieces go only once that is on
 * disk and, read again, holds the same samples; so it can be done again after a crash.
 * @returns the take with the gaps that were found
 * @throws Trouble `sound-differs` where not even the bare samples can be read again
 */
export function settleTake(take: Take): Promise<Take> {
  const work = queue.then(() => settleNow(take))
  queue = work.catch(() => {})
  return work
}

/** Its files are in use meanwhile: the shelf of another tab leaves them alone. */
async function settleNow(take: Take): Promise<Take> {
  const held = [await useFile(`take-${take.id}`), await useFile(cameraFile(take))]
  try {
    return await settled(take)
  } finally {
    for (const free of held) free()
  }
}

async function settled(take: Take): Promise<Take> {
  // A retake begins with the sound of what it goes on after.
  const before = take.after && (await loadSound(take.after.takeId))
  const temporary = `take-${take.id}`
  const camera = await cameraOf(take)
  // Bare samples take more room, and are there for a browser whose coder cannot be relied on.
  for (const coded of [true, false]) {
    const { any, ...done } = await written(take, before?.blob ?? null, coded, temporary)
    if (!done.same) continue
    // A take that was meant to be silent has no gaps to report.
    const earlier = before ? before.gaps.filter(g => g.from < take.after!.t) : []
    const whole = {
      ...take,
      ...(camera ? { camera: camera.known } : {}),
      gaps: any ? [...earlier, ...done.gaps] : [],
    }
    await storeSettled(whole, done.sound, done.peaks as Uint8Array<ArrayBuffer>, camera?.track ?? null)
    await removeFile(temporary)
    await removeFile(cameraFile(take))
    return whole
  }
  throw new Trouble(
    'sound-differs',
    'The sound of the take could not be read again as it was recorded.',
    'What was recorded is kept, piece by piece.',
    'Close other programs and open the folio again; the take is offered there.',
  )
}

const cameraFile = (take: Take) => `camera-${take.id}`

/** The camera's track of a take as one file, or null when there is none. @throws Trouble `camera-differs` */
async function cameraOf(take: Take): Promise<{ track: Blob; known: NonNullable<Take['camera']> } | null> {
  let begun = false
  const begin = async () => {
    if (!begun) await trackRunner().run('begin', { name: cameraFile(take), durationMs: take.durationMs })
    begun = true
  }
  const before = take.after && (await loadCamera(take.after.takeId))
  if (take.after && before) {
    await begin()
    await trackRunner().run('prefix', { camera: before, until: take.after.t })
  }
  for await (const pictures of cameraPictures(take.id)) {
    await begin()
    await trackRunner().run('pictures', pictures)
  }
  if (!begun) return null
  const { camera, same, size, times } = Tracked.parse(await trackRunner().run('finish', null))
  if (!size) return null
  if (!same)
    throw new Trouble(
      'camera-differs',
      'The camera’s pictures could not be read again as they were recorded.',
      'What was recorded is kept, piece by piece.',
      'Close other programs and open the folio again; the take is offered there.',
    )
  return { track: camera, known: { ...size, gaps: pictureGaps(times, take.durationMs) } }
}

async function written(take: Take, before: Blob | null, coded: boolean, name: string) {
  const runner = soundRunner()
  await runner.run('begin', { name, coded, durationMs: take.durationMs })
  let any = false
  if (before) {
    await runner.run('prefix', { sound: before, until: take.after!.t })
    any = true
  }
  for await (const rows of soundChunks(take.id)) {
    any = true
    await runner.run(
      'chunks',
      rows.map(r => ({ t0: r.t0, rate: r.rate, pcm: new Int16Array(r.pcm) })),
    )
  }
  return { any, ...Settled.parse(await runner.run('finish', null)) }
}
