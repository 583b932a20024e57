import { asTrouble, Trouble, type TroubleData } from '../core/folio/trouble'
import { z } from 'zod'

// Parsers that are made of text may not run under the application's policy; looking whether they may is a fault of its
// own there.
z.config({ jitless: true })

/**
 * How the interface and its workers talk: a request starts a job; the worker answers with progress, then with a result
 * or
 * with trouble. A job can be cancelled.
 */
const Reply = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), job: z.number(), value: z.unknown() }),
  z.object({ kind: z.literal('done'), job: z.number(), value: z.unknown() }),
  z.object({
    kind: z.literal('trouble'),
    job: z.number(),
    value: z.object({ code: z.string(), what: z.string(), safe: z.string(), next: z.string() }),
  }),
])
const Request = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('start'), job: z.number(), name: z.string(), value: z.unknown() }),
  z.object({ kind: z.literal('cancel'), job: z.number() }),
])

/** What a job gets beside its request. */
export interface JobContext {
  progress(value: unknown): void
  signal: AbortSignal
}
export type JobHandler = (value: unknown, context: JobContext) => Promise<unknown>

interface Endpoint {
  postMessage(message: unknown, transfer?: Transferable[]): void
  addEventListener(type: 'message', listener: (event: MessageEvent) => void): void
}

/** Worker side: answers jobs by name. */
export function serveJobs(self: Endpoint, handlers: Record<string, JobHandler>): void {
  const running = new Map<number, AbortController>()
  self.addEventListener('message', async event => {
    const request = Request.safeParse(event.data)
    if (!request.success) return
    if (request.data.kind === 'cancel') return running.get(request.data.job)?.abort(cancelled())
    const { job, name, value } = request.data
    const abort = new AbortController()
    running.set(job, abort)
    try {
      const handler = handlers[name]
      if (!handler) throw new Error(`no job is called ${name}`)
      const result = await handler(value, {
        signal: abort.signal,
        progress: v => self.postMessage({ kind: 'progress', job, value: v }),
      })
      self.postMessage({ kind: 'done', job, value: result })
    } catch (error) {
      const trouble: TroubleData = (
        abort.signal.aborted ? cancelled() : asTrouble(error, 'working in the background')
      ).toJSON()
      self.postMessage({ kind: 'trouble', job, value: trouble })
    }
    running.delete(job)
  })
}

/** What a cancelled job ends with. */
export function cancelled(): Trouble {
  return new Trouble(
    'cancelled',
    'Stopped as you asked.',
    'Nothing half done was left behind.',
    'Start it again whenever you like.',
  )
}

export interface JobOptions {
  onProgress?: (value: unknown) => void
  signal?: AbortSignal
  transfer?: Transferable[]
}

/**
 * Interface side: runs jobs in one worker, started when the first comes. A worker that dies ends its jobs with trouble,
 * and the next job
 * starts another.
 */
export class JobRunner {
  private next = 1
  private worker: Worker | null = null
  private readonly open = new Map<
    number,
    { done: (v: unknown) => void; fail: (e: Trouble) => void; progress?: (v: unknown) => void }
  >()

  constructor(private readonly make: () => Worker) {}

  /** Starts a job. @throws Trouble, also `cancelled`, and `worker-died` when it can be tried again */
  run(name: string, value: unknown, { onProgress, signal, transfer = [] }: JobOptions = {}): Promise<unknown> {
    if (signal?.aborted) return Promise.reject(cancelled())
    const job = this.next++
    const worker = (this.worker ??= this.start())
    const cancel = () => worker.postMessage({ kind: 'cancel', job })
    const result = new Promise<unknown>((done, fail) => this.open.set(job, { done, fail, progress: onProgress }))
    try {
      worker.postMessage({ kind: 'start', job, name, value }, transfer)
    } catch (error) {
      this.open.delete(job)
      return Promise.reject(asTrouble(error, 'working in the background'))
    }
    signal?.addEventListener('abort', cancel, { once: true })
    return result.finally(() => signal?.removeEventListener('abort', cancel))
  }

  close(): void {
    this.end(cancelled())
  }

  private start(): Worker {
    const worker = this.make()
    worker.addEventListener('message', event => this.receive(event.data))
    const died = (why: unknown) => {
      if (this.worker === worker) this.end(workerDied(why))
    }
    worker.addEventListener('error', event => died(event.message))
    worker.addEventListener('messageerror', () => died('a message could not be read'))
    return worker
  }

  private receive(data: unknown) {
    const reply = Reply.safeParse(data)
    if (!reply.success) return
    const waiting = this.open.get(reply.data.job)
    if (reply.data.kind === 'progress') return waiting?.progress?.(reply.data.value)
    this.open.delete(reply.data.job)
    if (reply.data.kind === 'done') waiting?.done(reply.data.value)
    else waiting?.fail(asTrouble(reply.data.value, 'working'))
  }

  /** Lets go of the worker; what it was doing ends with `why`. */
  private end(why: Trouble) {
    this.worker?.terminate()
    this.worker = null
    const waiting = [...this.open.values()]
    this.open.clear()
    for (const job of waiting) job.fail(why)
  }
}

function workerDied(cause: unknown): Trouble {
  return new Trouble(
    'worker-died',
    'A part of the application that works in the background has stopped.',
    'Everything that was stored is safe.',
    'Try once more; it is started again by itself.',
    cause,
  )
}
