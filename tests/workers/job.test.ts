import { describe, expect, it } from 'vitest'
import { JobRunner, serveJobs, type JobHandler } from '../../workers/job'
import { Trouble } from '../../core/folio'

/** A worker in the same thread: two ends that hand each other copies of messages. */
function pair(handlers: Record<string, JobHandler>) {
  const listeners = { page: [] as ((e: MessageEvent) => void)[], worker: [] as ((e: MessageEvent) => void)[] }
  const deliver = (to: ((e: MessageEvent) => void)[], data: unknown) => {
    const copy = structuredClone(data)
    queueMicrotask(() => to.forEach(l => l({ data: copy } as MessageEvent)))
  }
  serveJobs(
    { postMessage: m => deliver(listeners.page, m), addEventListener: (_, l) => listeners.worker.push(l) },
    handlers,
  )
  const errors: ((e: { message: string }) => void)[] = []
  const worker = {
    terminated: false,
    postMessage: (m: unknown) => deliver(listeners.worker, m),
    addEventListener: (type: string, l: never) => {
      if (type === 'message') listeners.page.push(l)
      else if (type === 'error') errors.push(l)
    },
    terminate() {
      this.terminated = true
    },
  }
  let started = 0
  return {
    runner: new JobRunner(() => {
      started++
      return worker as unknown as Worker
    }),
    started: () => started,
    worker,
    crash: (message: string) => errors.forEach(l => l({ message })),
    send: (data: unknown) => deliver(listeners.worker, data),
  }
}

describe('jobs in workers', () => {
  it('give progress and a result', async () => {
    const { runner } = pair({
      count: async (n, { progress }) => {
        for (let i = 1; i <= Number(n); i++) progress(i)
        return 'counted'
      },
    })
    const seen: unknown[] = []
    expect(await runner.run('count', 3, { onProgress: v => seen.push(v) })).toBe('counted')
    expect(seen).toEqual([1, 2, 3])
  })
  it('run side by side without mixing their answers', async () => {
    const { runner } = pair({
      wait: async ms => {
        await new Promise(r => setTimeout(r, Number(ms)))
        return ms
      },
    })
    expect(await Promise.all([runner.run('wait', 20), runner.run('wait', 1), runner.run('wait', 8)])).toEqual([
      20, 1, 8,
    ])
  })
  it('end with their trouble, its sentences whole', async () => {
    const { runner } = pair({
      fail: async () => {
        throw new Trouble('pdf-empty', 'a.pdf is empty.', 'Nothing changed.', 'Export it again.')
      },
      odd: async () => {
        throw new Error('boom')
      },
    })
    await expect(runner.run('fail', null)).rejects.toMatchObject({
      code: 'pdf-empty',
      message: 'a.pdf is empty.',
      next: 'Export it again.',
    })
    await expect(runner.run('odd', null)).rejects.toMatchObject({
      code: 'unexpected',
      message: expect.stringContaining('boom'),
    })
    await expect(runner.run('unknown', null)).rejects.toMatchObject({ code: 'unexpected' })
  })
  it('can be cancelled, before and in the middle', async () => {
    const { runner } = pair({
      long: async (_, { signal }) => {
        while (!signal.aborted) await new Promise(r => setTimeout(r, 1))
        throw new Error('stopped')
      },
    })
    await expect(runner.run('long', null, { signal: AbortSignal.abort() })).rejects.toMatchObject({ code: 'cancelled' })
    const abort = new AbortController()
    const running = runner.run('long', null, { signal: abort.signal })
    setTimeout(() => abort.abort(), 5)
    await expect(running).rejects.toMatchObject({ code: 'cancelled' })
  })
  it('all end when the worker breaks down or is closed, and the next one starts it again', async () => {
    const { runner, worker, started, crash } = pair({ never: () => new Promise(() => {}), ok: async () => 1 })
    const first = runner.run('never', null)
    crash('out of memory')
    await expect(first).rejects.toMatchObject({ code: 'worker-died', next: expect.stringContaining('Try once more') })
    expect(await runner.run('ok', null)).toBe(1)
    expect(started()).toBe(2)
    const second = runner.run('never', null)
    runner.close()
    await expect(second).rejects.toBeInstanceOf(Trouble)
    expect(worker.terminated).toBe(true)
  })
  it('do not mind messages that are none of theirs', async () => {
    const { runner, send } = pair({ ok: async () => 1 })
    send('hello')
    send({ kind: 'cancel', job: 99 })
    send(null)
    expect(await runner.run('ok', null)).toBe(1)
  })
})
