import { randomBytes } from 'node:crypto'
import type { Storage } from 'unstorage'
import { z } from 'zod'
import type { SiteVersion } from '../../core/publish/version'
import { Refusal } from './refusal'

const Counts = z.record(z.string(), z.number().int().nonnegative())
/**
 * How often each question was played (`question`), seen to its end (`question:ended`), said to be got or not yet
 * (`question:got`, `question:not-yet`), and each step gone back to (`question/index`) or left at
 * (`question/index:left`).
 */
export type Counts = z.infer<typeof Counts>
const step = z.number().int().min(0).max(5000)
const question = z.string().max(200)
const Told = z.union([
  z.strictObject({ question, what: z.enum(['ended', 'got', 'not-yet']) }),
  z.strictObject({ question, step, what: z.literal('left') }),
  z.strictObject({ question, step: step.optional() }),
])
/** Counts go to the storage after so long, so that plays do not wait for it, ms. */
const GATHERED_MS = 2000

/**
 * Plays and repeats of steps, counted where the teacher asks for it: sums alone, of nobody. Every server adds to an item
 * of its own, so that none writes over another's.
 */
export class Plays {
  private readonly mine = randomBytes(6).toString('hex')
  private readonly waiting = new Map<string, Counts>()
  private timer: NodeJS.Timeout | null = null

  constructor(private readonly storage: Storage) {}

  /** Counts one. @param counted what the version counts; what is not in it is refused @throws Refusal 400, 404 */
  note(id: string, counted: SiteVersion['counted'], value: unknown): void {
    if (!counted) throw new Refusal(404, 'Nothing is counted here')
    const told = Told.safeParse(value)
    const question = told.success ? counted.find(q => q.id === told.data.question) : undefined
    const { step, what } = { step: undefined, what: undefined, ...told.data }
    if (!question || (step !== undefined && step >= question.steps)) throw new Refusal(400, 'There is nothing to count')
    const counts = this.waiting.get(id) ?? {}
    const name = `${question.id}${step === undefined ? '' : `/${step}`}${what ? `:${what}` : ''}`
    counts[name] = (counts[name] ?? 0) + 1
    this.waiting.set(id, counts)
    this.timer ??= setTimeout(() => void this.settle().catch((e: unknown) => console.error(e)), GATHERED_MS).unref()
  }

  /** Writes what has been counted since. */
  async settle(): Promise<void> {
    this.timer = null
    for (const [id, counts] of [...this.waiting]) {
      this.waiting.delete(id)
      const key = `pub:${id}:c:${this.mine}`
      await this.storage.setItem(key, sum([Counts.parse((await this.storage.getItem(key)) ?? {}), counts]))
    }
  }

  /** All counts of a publication. */
  async of(id: string): Promise<Counts> {
    await this.settle()
    const all: Counts[] = []
    for (const key of await this.storage.getKeys(`pub:${id}:c`))
      all.push(Counts.catch({}).parse(await this.storage.getItem(key)))
    return sum(all)
  }
}

function sum(all: readonly Counts[]): Counts {
  const out: Counts = {}
  for (const counts of all) for (const [name, n] of Object.entries(counts)) out[name] = (out[name] ?? 0) + n
  return out
}
