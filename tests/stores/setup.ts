import 'fake-indexeddb/auto'
import * as pinia from 'pinia'
import * as vueuse from '@vueuse/core'
import * as vue from 'vue'
import { afterEach, beforeEach, vi } from 'vitest'

/**
 * Stores name what Nuxt brings them by itself; here those names are globals. What reaches for a browser is simulated:
 * storage, locks, and the
 * workers, which no test of a store is about.
 */
const modules = import.meta.glob<Record<string, unknown>>([
  '../../app/stores/*.ts',
  '../../app/composables/use{TakeUndo,Countdown,StorageRoom,Microphone}.ts',
])
Object.assign(globalThis, vueuse, vue, pinia)

class Locks {
  private readonly held = new Map<string, () => void>()
  async request(name: string, how: { steal?: boolean }, run: (lock: object | null) => unknown) {
    if (this.held.has(name) && !how.steal) return run(null)
    this.held.get(name)?.()
    const lost = new Promise<never>((_, reject) =>
      this.held.set(name, () => reject(new DOMException('stolen', 'AbortError'))),
    )
    const own = this.held.get(name)
    try {
      return await Promise.race([run({ name }), lost])
    } finally {
      if (this.held.get(name) === own) this.held.delete(name)
    }
  }

  query() {
    return Promise.resolve({ held: [...this.held.keys()].map(name => ({ name })) })
  }
}
Object.defineProperty(globalThis, 'navigator', {
  configurable: true,
  value: {
    locks: new Locks(),
    storage: { estimate: async () => ({ usage: 0, quota: 1e12 }), persist: async () => true },
    mediaDevices: { enumerateDevices: async () => [], addEventListener() {} },
  },
})

/** Plays as fast as the clock, without a sound. */
class Silent {
  playbackRate = 1
  preload = ''
  private from = 0
  private began: number | null = null
  constructor(readonly src: string) {}
  get currentTime() {
    return this.from + (this.began === null ? 0 : ((performance.now() - this.began) / 1000) * this.playbackRate)
  }
  set currentTime(s: number) {
    this.from = s
    if (this.began !== null) this.began = performance.now()
  }

  async play() {
    this.began ??= performance.now()
  }
  pause() {
    this.from = this.currentTime
    this.began = null
  }

  removeAttribute() {}
}
Object.assign(globalThis, {
  Audio: Silent,
  requestAnimationFrame: (run: () => void) => setTimeout(run, 5),
  cancelAnimationFrame: clearTimeout,
})

vi.mock('../../app/work/workers', async () => import('./workers'))
vi.mock('../../app/devices/microphone', async () => import('./devices'))
vi.mock('../../app/paper/pageStore', () => ({
  textOfPage: async () => null,
  pictureOfPage: async () => null,
  pictureOfFrame: async () => ({ toBlob: (take: (b: Blob) => void) => take(new Blob(['page'])) }),
}))

for (const load of Object.values(modules))
  for (const [name, value] of Object.entries(await load()))
    if (name.startsWith('use')) (globalThis as Record<string, unknown>)[name] = value

beforeEach(async () => {
  pinia.setActivePinia(pinia.createPinia())
  const { db } = await import('../../app/data/db')
  await Promise.all(db.tables.map(t => t.clear()))
})
// Its lock would keep the next test from writing.
afterEach(async () => (await import('../../app/stores/folio')).useFolio().close())
