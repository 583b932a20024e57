import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { db } from '../../app/data/db'
import { listFolios, loadFolio, loadWholeFolio, removeFolio, saveFolio, saveFolioWithDocuments, storeWholeFolio } from '../../app/data/folios'
import { cameraPictures, loadCamera, loadSound, putTake, readLog, removeTake, soundChunks, storedDuration, storeSettled, takesOfFolio, takeSink, unfinishedTakes } from '../../app/data/takes'
import { TakeRecorder } from '../../core/take'
import type { Take } from '../../core/folio'
import { folio, question } from '../support/make'

const take = (id: string, state: Take['state'] = 'recording'): Take => ({ id, folioId: 'f1', questionId: 'q1', startedAt: '2026-10-01T08:00:00.000Z', durationMs: 1000, state, frame: { pageId: 'p1', box: { x: 0, y: 0, w: 16, h: 9 } }, microphone: '', pen: '', gaps: [] })

beforeEach(async () => { await Promise.all(db.tables.map(t => t.clear())) })

/** Records a little with the real recorder into the real store. */
async function record(id: string, ms: number, stop = false) {
  const r = new TakeRecorder(takeSink(id))
  r.start(0)
  r.penDown('working', 'pen', { x: 1, y: 1, pressure: 0.5, now: 10 })
  for (let t = 0; t < ms; t += 10) {
    r.sound(new Int16Array(480).fill(7), 48_000, t)
    if (t % 100 === 0) r.penMove([{ x: t, y: 2, pressure: 0.5, now: t + 11 }])
    if (t % 250 === 0) await r.flush()
  }
  if (stop) await r.stop(ms)
  return r
}

describe('folios in the store', () => {
  it('are kept, listed by change, and removed with all that is theirs', async () => {
    await saveFolio(folio({ id: 'old', updatedAt: '2026-01-01T00:00:00.000Z' }))
    await saveFolioWithDocuments(folio({ questions: [question('q1', '1')] }), new Map([['d1', new Blob(['%PDF'])]]))
    expect((await listFolios()).folios.map(f => f.id)).toEqual(['f1', 'old'])
    expect(await loadFolio('f1')).toMatchObject({ title: 'Test folio' })
    expect(await loadFolio('none')).toBeNull()
    await putTake(take('t1'))
    await record('t1', 600)
    await removeFolio('f1')
    expect((await listFolios()).folios.map(f => f.id)).toEqual(['old'])
    expect(await db.chunks.count() + await db.journal.count() + await db.takes.count() + await db.documents.count()).toBe(0)
  })
  it('that cannot be read do not hide the others', async () => {
    await saveFolio(folio())
    await db.folios.put({ id: 'bad', updatedAt: '2030', doc: { schema: 1 } })
    await db.folios.put({ id: 'later', updatedAt: '2031', doc: { ...folio(), schema: 99 } })
    expect(await listFolios()).toMatchObject({ folios: [{ id: 'f1' }], unreadable: ['later', 'bad'] })
    expect(await db.folios.count()).toBe(3)
  })
  it('come back whole from a file, and go whole into one', async () => {
    await storeWholeFolio({ folio: folio(), documents: new Map([['d1', new Blob(['x'])]]), takes: [{ take: take('t1', 'whole'), events: [{ type: 'step', t: 5, id: 's' }], sound: new Blob(['snd']), camera: new Blob(['cam']) }] }, new Map([['t1', new Uint8Array([9])]]))
    const back = await loadWholeFolio((await loadFolio('f1'))!)
    expect(back.takes.map(t => [t.take.id, t.events])).toEqual([['t1', [{ type: 'step', t: 5, id: 's' }]]])
    expect([...(await loadSound('t1'))!.peaks]).toEqual([9])
    expect((await loadCamera('t1'))!.size).toBe(3)
  })
})

describe('takes in the store', () => {
  it('are there up to the last flush when the tab goes away', async () => {
    await putTake(take('t1'))
    const r = await record('t1', 3000)
    const lost = await unfinishedTakes()
    expect(lost.map(t => t.id)).toEqual(['t1'])
    const log = await readLog('t1')
    expect(log).toHaveLength(1)
    expect((log[0] as { points: number[] }).points.length).toBeGreaterThan(4 * 25)
    expect(await storedDuration('t1')).toBeGreaterThanOrEqual(3000 - 750)
    expect(r.unsaved.chunks).toBeLessThan(4)
  })
  it('give their sound in order, some pieces at a time', async () => {
    await record('t1', 6000, true)
    const seqs: number[] = []
    let most = 0
    for await (const rows of soundChunks('t1', 5)) { seqs.push(...rows.map(r => r.seq)); most = Math.max(most, rows.length) }
    expect(seqs).toEqual(seqs.map((_, i) => i))
    expect(seqs.length).toBeGreaterThan(20)
    expect(most).toBe(5)
  })
  it('leave out a piece that was damaged on disk; the others stay', async () => {
    await record('t1', 3000, true)
    const row = (await db.chunks.get(['t1', 4]))!
    new Int16Array(row.pcm)[17]! ^= 5
    await db.chunks.put(row)
    const seqs: number[] = []
    for await (const rows of soundChunks('t1')) seqs.push(...rows.map(r => r.seq))
    expect(seqs).not.toContain(4)
    expect(seqs.length).toBe(await db.chunks.count() - 1)
  })
  it('keep the recorded pieces until their finished sound is stored', async () => {
    await putTake(take('t1'))
    await record('t1', 1000, true)
    expect(await db.chunks.count()).toBeGreaterThan(0)
    await storeSettled({ ...take('t1', 'whole'), gaps: [{ from: 1, to: 90 }] }, new Blob(['flac']), new Uint8Array([1, 2]), null)
    expect(await db.chunks.count()).toBe(0)
    expect(await takesOfFolio('f1')).toMatchObject([{ state: 'whole', gaps: [{ from: 1, to: 90 }] }])
    expect(await unfinishedTakes()).toEqual([])
    await removeTake('t1')
    expect(await loadSound('t1')).toBeNull()
  })
  it('keep the pictures of a camera in order; after a damaged piece they go on where one stands on its own', async () => {
    const sink = takeSink('t1')
    const picture = (t: number, key = false) => ({ t, key, data: new Uint8Array([t / 40, 7, t % 3]) })
    for (let seq = 0; seq < 4; seq++) await sink.pictures(seq, [0, 40, 80].map(ms => picture(seq * 120 + ms, seq !== 2 ? ms === 40 : false)))
    const seen = async () => {
      const times: number[] = []
      for await (const pictures of cameraPictures('t1')) {
        for (const p of pictures) expect([...p.data]).toEqual([...picture(p.t).data])
        times.push(...pictures.map(p => p.t))
      }
      return times
    }
    expect(await seen()).toEqual(Array.from({ length: 12 }, (_, i) => i * 40))
    const row = (await db.pictures.get(['t1', 1]))!
    new Uint8Array(row.data)[4]! ^= 1
    await db.pictures.put(row)
    expect(await seen()).toEqual([0, 40, 80, 400, 440])
    expect(await storedDuration('t1')).toBe(440)
    await putTake(take('t1'))
    await storeSettled(take('t1', 'whole'), new Blob(['flac']), new Uint8Array(), new Blob(['webm']))
    expect([await db.pictures.count(), (await loadCamera('t1'))!.size]).toEqual([0, 4])
    await removeTake('t1')
    expect(await loadCamera('t1')).toBeNull()
  })
  it('without anything recorded have no length', async () => {
    expect(await storedDuration('none')).toBe(0)
    expect(await readLog('none')).toEqual([])
  })
})
