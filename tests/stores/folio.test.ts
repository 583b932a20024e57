import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useFolio } from '../../app/stores/folio'
import { useNotices } from '../../app/stores/notices'
import { loadFolio, saveFolio } from '../../app/data/folios'
import { folio, question } from '../support/make'

const { put } = IDBObjectStore.prototype
beforeEach(async () => {
  IDBObjectStore.prototype.put = put
  await saveFolio(folio({ questions: [question('q1', '1'), question('q2', '2')] }))
})

describe('a folio that is open', () => {
  it('is changed, taken back and brought back, and stored each time; what did not change is shared', async () => {
    const store = useFolio()
    expect(await store.open('nowhere')).toBe(false)
    expect(await store.open('f1')).toBe(true)
    const before = store.folio!
    store.changeQuestion('q1', 'name it', q => {
      q.title = 'Rates'
    })
    expect(store.folio!.questions[1]).toBe(before.questions[1])
    expect([before.questions[0]!.title, store.folio!.questions[0]!.title]).toEqual(['', 'Rates'])
    await store.stored()
    expect((await loadFolio('f1'))!.questions[0]!.title).toBe('Rates')
    store.undo()
    await store.stored()
    expect((await loadFolio('f1'))!.questions[0]!.title).toBe('')
    store.redo()
    store.removeQuestion('q2')
    expect(store.questions.map(q => q.title)).toEqual(['Rates'])
    store.undo()
    expect(store.questions).toHaveLength(2)
    expect(store.future).toHaveLength(1)
    store.removeQuestion('q1')
    expect(store.future).toHaveLength(0)
    await store.stored()
  })
  it('that cannot be stored says so once, and is stored when there is room', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    try {
      const store = useFolio()
      await store.open('f1')
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('full', 'QuotaExceededError')
      }
      store.changeQuestion('q1', 'name it', q => {
        q.title = 'Kept'
      })
      await store.stored()
      await vi.advanceTimersByTimeAsync(3100)
      await store.stored()
      expect([store.saving, useNotices().troubles.length]).toEqual(['failed', 1])
      IDBObjectStore.prototype.put = put
      await vi.advanceTimersByTimeAsync(3100)
      await store.stored()
      expect([store.saving, (await loadFolio('f1'))!.questions[0]!.title]).toEqual(['saved', 'Kept'])
    } finally {
      vi.useRealTimers()
    }
  })
  it('is only read in a second tab, until it is taken over there', async () => {
    const first = useFolio()
    await first.open('f1')
    setActivePinia(createPinia())
    const second = useFolio()
    await second.open('f1')
    expect([first.readOnly, second.readOnly]).toEqual([false, true])
    second.changeQuestion('q1', 'name it', q => {
      q.title = 'No'
    })
    expect(second.questions[0]!.title).toBe('')
    await second.takeOver()
    await vi.waitFor(() => expect([first.readOnly, second.readOnly]).toEqual([true, false]))
    second.changeQuestion('q1', 'name it', q => {
      q.title = 'Yes'
    })
    await second.stored()
    expect((await loadFolio('f1'))!.questions[0]!.title).toBe('Yes')
  })
})
