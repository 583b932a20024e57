import type { Edition } from '#core/edition'
import type { Folio, Question } from '#core/folio'
import { digest } from '#core/publish'
import { keepMadeSound, madeSound } from '../data/madeSounds'
import { drawnSoundsOf, soundsIn } from './editionSource'
import { cancelled } from '../../workers/job'
import { newRenderRunner } from './workers'

/** Raised when what is made of the same takes is another sound. */
const MADE_AS = 1

/** Makes sounds in workers, so many at a time; closed by who made it. */
export class SoundMakers {
  private readonly free
  private readonly all
  private closed = false
  private readonly waiting: ((runner: ReturnType<typeof newRenderRunner>) => void)[] = []

  constructor(count = 2) {
    this.all = Array.from({ length: count }, newRenderRunner)
    this.free = [...this.all]
  }

  /** @throws Trouble `no-encoder`, `cancelled` */
  async make(value: unknown, signal: AbortSignal): Promise<Blob> {
    const runner = this.free.pop() ?? (await new Promise<(typeof this.all)[0]>(take => this.waiting.push(take)))
    try {
      if (this.closed) throw cancelled()
      return (await runner.run('lessonSound', value, { signal })) as Blob
    } finally {
      const next = this.waiting.shift()
      if (next) next(runner)
      else this.free.push(runner)
    }
  }
  close(): void {
    this.closed = true
    for (const runner of this.all) runner.close()
  }
}

/**
 * The sound of an edition as a replay plays it: as it was made before, or made now and kept; null where none of its takes
 * has any.
 * @throws Trouble `no-encoder`, `cancelled`
 */
export async function lessonSoundOf(
  folio: Pick<Folio, 'id'>,
  question: Pick<Question, 'id'>,
  edition: Edition,
  makers: SoundMakers,
  signal: AbortSignal,
): Promise<Blob | null> {
  const sounds = soundsIn(await drawnSoundsOf(edition.ledger))
  if (!Object.keys(sounds).length) return null
  const plan = edition.soundPlan()
  const of = Object.entries(sounds).map(([take, { size, type }]) => [take, size, type])
  const key = await digest(JSON.stringify([MADE_AS, plan, of]))
  const known = await madeSound(key)
  if (known) return known
  const made = await makers.make({ plan, sounds }, signal)
  await keepMadeSound(key, folio.id, question.id, made)
  return made
}
