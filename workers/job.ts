import { asTrouble, Trouble, type TroubleData } from '../core/folio/trouble'
import { z } from 'zod'

/**
 * How the interface and its workers talk: a request starts a job; the worker answers with progress, then with a result or
 * with trouble. A job can be cancelled.
 */
const Reply = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), job: z.number(), value: z.unknown() }),
  z.object({ kind: z.literal('done'), job: z.number(), value: z.unknown() }),
  z.object({ kind: z.literal('trouble'), job: z.number(), value: z.object({ code: z.string(), what: z.string(), safe: z.string(), next: z.string() }) }),
])
const Request = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('start'), job: z.number(), name: z.string(), value: z.unknown() }),
  z.object({ kind: z.literal('cancel'), job: z.number() }),
])

/** What a job gets beside its request. */
export interface JobContext { progress(value: unknown): void, signal: AbortSignal }
export type JobHandler = (value: unknown, context: JobContext) => Promise<unknown>

interface Endpoint {
  postMessage(message: unknown, transfer?: Transferable[]): void
  addEventListener(type: 'message', listener: (event: MessageEvent) => void): void
}

/** Worker side: answers jobs by name. */
export function serveJobs(self: Endpoint, handlers: Record<string, JobHandler>): void {
  const running = new Map<number, AbortController>()
  self.addEventListener('message', async (event) => {
    const request = Request.safeParse(event.data)
    if (!request.success) return
    if (request.data.kind === 'cancel') return running.get(request.data.job)?.abort(cancelled())
    const { job, name, value } = request.data
    const abort = new AbortController()
    running.set(job, abort)
    try {
      const handler = handlers[name]
      if (!handler) throw new Error(`no job is called ${name}`)
      const result = await handler(value, { signal: abort.signal, progress: v => self.postMessage({ kind: 'progress', job, value: v }) })
      self.postMessage({ kind: 'done', job, value: result })
    }
    catch (error) {
      const trouble: TroubleData = (abort.signal.aborted ? cancelled() : asTrouble(error, 'working in the background')).toJSON()
      self.postMessage({ kind: 'trouble', job, value: trouble })
    }
    running.delete(job)
  })
}

/** What a cancelled job ends with. */
export function cancelled(): Trouble {
  return new Trouble('cancelled', 'Stopped as you asked.', 'Nothing half done was left behind.', 'Start it again whenever you like.')
}

export interface JobOptions { onProgress?: (value: unknown) => void, signal?: AbortSignal, transfer?: Transferable[] }

/** Interface side: runs jobs in one worker. */
export class JobRunner {
  private next = 1
  private readonly open = new Map<number, { done: (v: unknown) => void, fail: (e: Trouble) => void, progress?: (v: unknown) => void }>()

  constructor(private readonly worker: Worker) {
    worker.addEventListener('message', event => this.receive(event.data))
    worker.addEventListener('error', event => this.failAll(event.message))
  }

  /** Starts a job. @throws Trouble, also `cancelled` */
  run(name: string, value: unknown, { onProgress, signal, transfer = [] }: JobOptions = {}): Promise<unknown> {
    if (signal?.aborted) return Promise.reject(cancelled())
    const job = this.next++
    const result = new Promise<unknown>((done, fail) => this.open.set(job, { done, fail, progress: onProgress }))
    this.worker.postMessage({ kind: 'start', job, name, value }, transfer)
    signal?.addEventListener('abort', () => this.worker.postMessage({ kind: 'cancel', job }), { once: true })
    return result
  }

  close(): void {
    this.failAll('the worker was closed')
    this.worker.terminate()
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

  private failAll(why: string) {
    for (const waiting of this.open.values()) waiting.fail(asTrouble(new Error(why), 'working in the background'))
    this.open.clear()
  }
}
