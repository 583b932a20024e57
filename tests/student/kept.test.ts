import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'

/** What is kept in the browser, with a storage that is simulated; modules of the page read its root as they are loaded. */
const held = new Map<string, string>()
let full = false
let kept: typeof import('../../student/kept')
let keptByIds: typeof import('../../student/mine').keptByIds
let Progress: typeof import('../../student/progress').Progress
let SharedSettings: typeof import('../../student/settings').SharedSettings

beforeAll(async () => {
  vi.stubGlobal('document', { documentElement: { dataset: { lesson: 'folio-1' } } })
  const page = new EventTarget()
  vi.stubGlobal('dispatchEvent', page.dispatchEvent.bind(page))
  vi.stubGlobal('addEventListener', page.addEventListener.bind(page))
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => held.get(k) ?? null,
    setItem: (k: string, v: string) => {
      if (full) throw new DOMException('no', 'QuotaExceededError')
      held.set(k, v)
    },
    removeItem: (k: string) => held.delete(k),
    key: (i: number) => [...held.keys()][i] ?? null,
    get length() {
      return held.size
    },
  })
  vi.resetModules()
  kept = await import('../../student/kept')
  ;({ keptByIds } = await import('../../student/mine'))
  ;({ Progress } = await import('../../student/progress'))
  ;({ SharedSettings } = await import('../../student/settings'))
})
afterAll(() => {
  vi.unstubAllGlobals()
  vi.resetModules()
})
beforeEach(() => {
  held.clear()
  full = false
})
const section = (id: string, question: string, places?: string) =>
  ({ id, dataset: { question, ...(places ? { places } : {}) } }) as unknown as HTMLElement

describe('what was kept by places', () => {
  it('moves to the question that stood there, wherever it stands now', () => {
    for (const [name, value] of [
      ['attempt q2 0', 'ink'],
      ['choice q2', 'B'],
      ['attempt q1 1', 'more'],
      ['speed', '1.5'],
    ] as const)
      kept.keep(name, value)
    // A question was recorded later, and stands second now; what was second is third.
    keptByIds([section('q1', 'a', '1'), section('q2', 'new'), section('q3', 'b', '2')])
    expect(kept.allKept()).toEqual({ 'attempt b 0': 'ink', 'choice b': 'B', 'attempt a 1': 'more', 'speed': '1.5' })
  })
  it('goes by the places of today where none are told, never over what she made since, and is not lost where storage is full', () => {
    kept.keep('choice q1', 'A')
    kept.keep('choice a', 'C')
    keptByIds([section('q1', 'a')])
    expect(kept.allKept()).toEqual({ 'choice a': 'C' })
    kept.keep('choice q1', 'A')
    kept.forget('choice a')
    full = true
    keptByIds([section('q1', 'a')])
    expect(kept.allKept()).toEqual({ 'choice q1': 'A' })
  })
})

describe('how far she is', () => {
  it('is the farthest moment, begun from the first, done in the last second; kept when it is stored', () => {
    const progress = new Progress('a', 60_000)
    expect([progress.state, progress.reach(0), progress.state]).toEqual(['unseen', false, 'unseen'])
    expect([progress.reach(4000), progress.reach(2000), progress.reached, progress.state]).toEqual([
      true,
      false,
      4000,
      'begun',
    ])
    expect(kept.allKept()).toEqual({})
    progress.store()
    expect(new Progress('a', 60_000).reached).toBe(4000)
    progress.reach(59_200)
    expect(progress.state).toBe('done')
    expect(new Progress('b', 60_000).state).toBe('unseen')
  })
  it('is not done any more when the solution has grown', () => {
    kept.keep('seen a', '59500')
    expect(new Progress('a', 60_000).state).toBe('done')
    expect(new Progress('a', 90_000).state).toBe('begun')
    kept.keep('seen a', 'soon')
    expect(new Progress('a', 60_000).state).toBe('unseen')
  })
})

describe('what she chose for all questions', () => {
  it('is told to each at once and with each change, and kept', () => {
    const settings = new SharedSettings()
    const told: number[] = []
    settings.watch(s => told.push(s.speed))
    settings.change({ speed: 1.5, captions: true })
    expect(told).toEqual([1, 1.5])
    expect(new SharedSettings().now).toMatchObject({ speed: 1.5, captions: true, follows: true, stops: false })
  })
  it('is the usual where what is kept cannot be meant', () => {
    kept.keep('speed', '17')
    kept.keep('captions', 'perhaps')
    expect(new SharedSettings().now).toMatchObject({ speed: 1, captions: false })
  })
})
