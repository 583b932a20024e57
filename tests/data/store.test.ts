import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { db } from '../../app/data/db'
import {
  hasTakenIds,
  listFolios,
  loadFolio,
  loadWholeFolio,
  removeFolio,
  saveFolio,
  saveFolioWithDocuments,
  storeWholeFolio,
} from '../../app/data/folios'
import {
  cameraPictures,
  isUnfinished,
  loadCamera,
  loadSound,
  noteFinished,
  putTake,
  readLog,
  removeTake,
  soundChunks,
  storedDuration,
  storeSettled,
  takesOfFolio,
  takeSink,
  unfinishedTakes,
  unreadableTakes,
} from '../../app/data/takes'
import { TakeRecorder } from '../../core/recording'
import { Lately } from '../../app/data/lately'
import type { Take } from '../../core/folio'
import type { WholeFolio } from '../../core/publish'
import { folio, question } from '../support/make'

const take = (id: string, state: Take['state'] = 'recording'): Take => ({
  id,
  folioId: 'f1',
  questionId: 'q1',
  startedAt: '2026-10-01T08:00:00.000Z',
  durationMs: 1000,
  state,
  frame: { pageId: 'p1', box: { x: 0, y: 0, w: 16, h: 9 } },
  microphone: '',
  pen: '',
  gaps: [],
})

beforeEach(async () => {
  await Promise.all(db.tables.map(t => t.clear()))
})

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
    expect(
      (await db.chunks.count()) + (await db.journal.count()) + (await db.takes.count()) + (await db.documents.count()),
    ).toBe(0)
  })
  it('that cannot be read do not hide the others', async () => {
    await saveFolio(folio())
    await db.folios.put({ id: 'bad', updatedAt: '2030', doc: { schema: 1 } })
    await db.folios.put({ id: 'later', updatedAt: '2031', doc: { ...folio(), schema: 99 } })
    expect(await listFolios()).toMatchObject({ folios: [{ id: 'f1' }], unreadable: ['later', 'bad'] })
    expect(await db.folios.count()).toBe(3)
  })
  it('come back whole from a file, and go whole into one', async () => {
    await storeWholeFolio(
      {
        folio: folio(),
        documents: new Map([['d1', new Blob(['x'])]]),
        takes: [
          {
            take: take('t1', 'whole'),
            events: [{ type: 'step', t: 5, id: 's' }],
            sound: new Blob(['snd']),
            camera: new Blob(['cam']),
          },
        ],
      },
      new Map([['t1', new Uint8Array([9])]]),
    )
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
    for await (const rows of soundChunks('t1', 5)) {
      seqs.push(...rows.map(r => r.seq))
      most = Math.max(most, rows.length)
    }
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
    expect(seqs.length).toBe((await db.chunks.count()) - 1)
  })
  it('keep the recorded pieces until their finished sound is stored', async () => {
    await putTake(take('t1'))
    await record('t1', 1000, true)
    expect(await db.chunks.count()).toBeGreaterThan(0)
    await storeSettled(
      { ...take('t1', 'whole'), gaps: [{ from: 1, to: 90 }] },
      new Blob(['flac']),
      new Uint8Array([1, 2]),
      null,
    )
    expect(await db.chunks.count()).toBe(0)
    expect(await takesOfFolio('f1')).toMatchObject([{ state: 'whole', gaps: [{ from: 1, to: 90 }] }])
    await noteFinished(take('t1', 'whole'))
    expect(await unfinishedTakes()).toEqual([])
    await removeTake('t1')
    expect(await loadSound('t1')).toBeNull()
  })
  it('keep the pictures of a camera in order; after a damaged piece they go on where one stands on its own', async () => {
    const sink = takeSink('t1')
    const picture = (t: number, key = false) => ({ t, key, data: new Uint8Array([t / 40, 7, t % 3]) })
    for (let seq = 0; seq < 4; seq++)
      await sink.pictures(
        seq,
        [0, 40, 80].map(ms => picture(seq * 120 + ms, seq !== 2 ? ms === 40 : false)),
      )
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

describe('folios from files', () => {
  const whole = (folioId: string, takeId: string, docId = 'd1'): WholeFolio => ({
    folio: folio({ id: folioId, questions: [question('q1', '1')] }),
    documents: new Map([[docId, new Blob(['%PDF'])]]),
    takes: [
      { take: { ...take(takeId, 'whole'), folioId }, events: [], sound: new Blob(['x'], { type: 'audio/flac' }) },
    ],
  })
  const state = async () =>
    JSON.stringify(
      await Promise.all(
        [db.folios, db.documents, db.takes, db.journal, db.sounds].map(t =>
          (t as typeof db.folios).toCollection().primaryKeys(),
        ),
      ),
    )
  it.each([
    ['folio', whole('f1', 't9', 'd9')],
    ['document', whole('f9', 't9')],
    ['take', whole('f9', 't1', 'd9')],
  ])('that share a %s’s id with another are noticed, and overwrite nothing', async (_, other) => {
    await storeWholeFolio(whole('f1', 't1'), new Map())
    const before = await state()
    expect(await hasTakenIds(other)).toBe(true)
    await expect(storeWholeFolio(other, new Map())).rejects.toThrow()
    expect(await state()).toBe(before)
    expect(await hasTakenIds(whole('f8', 't8', 'd8'))).toBe(false)
  })
  it('whose take has left a log behind are noticed, too', async () => {
    await db.journal.put({ takeId: 't7', seq: 0, entries: [] })
    expect(await hasTakenIds(whole('f7', 't7', 'd7'))).toBe(true)
  })
})

describe('rows that cannot be read', () => {
  it('hide nothing else, are counted, and are left as they are', async () => {
    await putTake(take('good', 'whole'))
    await db.takes.put({
      id: 'bad',
      folioId: 'f1',
      questionId: 'q1',
      state: 'recording',
      doc: { id: 'bad', newer: true },
    })
    await db.folios.bulkPut([
      { id: 'f1', updatedAt: '2026', doc: folio() },
      { id: 'new', updatedAt: '2027', doc: { schema: 99 } },
    ])
    expect((await takesOfFolio('f1')).map(t => t.id)).toEqual(['good'])
    expect([await unreadableTakes('f1'), await unfinishedTakes(), (await listFolios()).unreadable]).toEqual([
      1,
      [],
      ['new'],
    ])
    await expect(loadFolio('new')).rejects.toMatchObject({ code: 'folio-newer' })
    await expect(loadWholeFolio(folio())).rejects.toMatchObject({ code: 'take-damaged' })
    expect(await hasTakenIds({ folio: folio({ id: 'new' }), documents: new Map(), takes: [] })).toBe(true)
    expect((await db.takes.get('bad'))!.doc).toEqual({ id: 'bad', newer: true })
  })
  it('in a log are told in three sentences', async () => {
    await db.journal.put({ takeId: 'odd', seq: 0, entries: [{ type: 'from the future', t: 1 }] })
    await expect(readLog('odd')).rejects.toMatchObject({
      code: 'log-damaged',
      safe: expect.stringContaining('left as it is') as string,
    })
  })
})

describe('values that are kept lately', () => {
  it('are let go of in the order in which they were asked for; what is in use stays', () => {
    const gone: string[] = []
    const lately = new Lately<string>(2, v => gone.push(v))
    for (const key of ['a', 'b']) lately.set(key, key)
    lately.get('a')
    lately.set('c', 'c')
    expect(gone).toEqual(['b'])
    lately.use('a')
    lately.set('d', 'd')
    lately.set('e', 'e')
    expect([gone, lately.get('a'), lately.size]).toEqual([['b', 'c', 'd'], 'a', 2])
    lately.set('f', 'f')
    lately.free('a')
    expect([gone, lately.size]).toEqual([['b', 'c', 'd', 'e'], 2])
  })
})

describe('a take that is put together', () => {
  it('is offered after a crash until it is its question’s', async () => {
    await putTake(take('t1'))
    const settled = take('t1', 'whole')
    await storeSettled(settled, new Blob(['flac']), new Uint8Array(), null)
    expect([await isUnfinished('t1'), (await unfinishedTakes()).map(t => t.state)]).toEqual([true, ['whole']])
    await noteFinished(settled)
    expect([await isUnfinished('t1'), await unfinishedTakes(), (await takesOfFolio('f1')).length]).toEqual([
      false,
      [],
      1,
    ])
  })
})
