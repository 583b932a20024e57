import type { Table } from 'dexie'
import { z } from 'zod'
import { asTrouble, Take, Trouble, type Gap } from '#core/folio'
import { checksum } from '#core/sound'
import {
  JournalEntry,
  logDuration,
  settleJournal,
  type Picture,
  type SoundChunk,
  type TakeEvent,
  type TakeSink,
} from '#core/recording'
import { db, type ChunkRow, type PictureRow, type TakeRow } from './db'

/** Writes a running take to disk. Rows are only ever added. */
export function takeSink(takeId: string): TakeSink {
  return {
    async journal(seq, entries) {
      // What is stored is what can be read again.
      await db.journal.put({ takeId, seq, entries: readable(entries) })
    },
    async sound(chunks: SoundChunk[]) {
      await db.chunks.bulkPut(
        chunks.map(c => ({
          takeId,
          seq: c.seq,
          t0: c.t0,
          rate: c.rate,
          pcm: c.pcm.buffer as ArrayBuffer,
          sum: checksum(c.pcm),
        })),
      )
    },
    async pictures(seq, pictures) {
      await db.pictures.put(pictureRow(takeId, seq, pictures))
    },
  }
}

/** Entries as their schema asks for them. @throws Trouble `log-unwritable`; what is not stored stays in memory */
function readable(entries: readonly JournalEntry[]): JournalEntry[] {
  const read = z.array(JournalEntry).safeParse(entries)
  if (read.success) return read.data
  throw new Trouble(
    'log-unwritable',
    'Something of the take is not written in a way that could be read again.',
    'It is kept in this tab as long as it stays open.',
    'Save the take to a file, then go on with a new one.',
    read.error,
  )
}

function pictureRow(takeId: string, seq: number, pictures: readonly Picture[]): PictureRow {
  const data = new Uint8Array(pictures.reduce((sum, p) => sum + p.data.length, 0))
  let at = 0
  for (const p of pictures) {
    data.set(p.data, at)
    at += p.data.length
  }
  return {
    takeId,
    seq,
    pictures: pictures.map(({ data, ...p }) => ({ ...p, bytes: data.length })),
    data: data.buffer,
    sum: checksum(data),
  }
}

/**
 * Reads the pieces of a camera's track in order, one at a time. After a damaged one, nothing is given out until a
 * picture that stands on its own.
 */
export async function* cameraPictures(takeId: string): AsyncGenerator<Picture[]> {
  let broken = false
  for await (const [row] of piecesInOrder(db.pictures, takeId, 1)) {
    const data = new Uint8Array(row.data)
    if (row.sum !== checksum(data)) {
      broken = true
      continue
    }
    let at = 0
    const pictures = row.pictures.map(({ bytes, ...p }) => ({ ...p, data: data.subarray(at, (at += bytes)) }))
    const start = broken ? pictures.findIndex(p => p.key) : 0
    if (start >= 0) {
      broken = false
      yield pictures.slice(start)
    }
  }
}

export async function loadCamera(takeId: string): Promise<Blob | null> {
  return (await db.cameras.get(takeId))?.blob ?? null
}

export async function putTake(take: Take): Promise<void> {
  try {
    await db.takes.put({
      id: take.id,
      folioId: take.folioId,
      questionId: take.questionId,
      state: take.state,
      doc: take,
    })
  } catch (error) {
    throw asTrouble(error, 'storing the take')
  }
}

/** The takes of a folio. One that cannot be read does not hide the others; it is left as it is. */
export async function takesOfFolio(folioId: string): Promise<Take[]> {
  return readableTakes(await db.takes.where('folioId').equals(folioId).toArray())
}

/** How many takes of a folio cannot be read by this version. */
export async function unreadableTakes(folioId: string): Promise<number> {
  const rows = await db.takes.where('folioId').equals(folioId).toArray()
  return rows.length - readableTakes(rows).length
}

const readableTakes = (rows: readonly TakeRow[]) =>
  rows
    .map(row => Take.safeParse(row.doc))
    .filter(r => r.success)
    .map(r => r.data)

/**
 * A take's row is `recording` while it is recorded, and `settled` from when it is put together until it is its
 * question's.
 */
const UNFINISHED = ['recording', 'settled']

/** Whether a take is still not its question's. */
export async function isUnfinished(takeId: string): Promise<boolean> {
  return UNFINISHED.includes((await db.takes.get(takeId))?.state ?? '')
}

/** Notes that a take is its question's, or that she knows that it is not. */
export async function noteFinished(take: Pick<Take, 'id' | 'state'>): Promise<void> {
  try {
    await db.takes.update(take.id, { state: take.state })
  } catch (error) {
    throw asTrouble(error, 'storing the take')
  }
}

/** Takes that were never finished, of all folios. Whether their tab is still alive is for the caller to find out. */
export async function unfinishedTakes(): Promise<Take[]> {
  return readableTakes(await db.takes.where('state').anyOf(UNFINISHED).toArray())
}

/** The settled log of a take, from its journal. */
export async function readLog(takeId: string): Promise<TakeEvent[]> {
  const rows = await db.journal.where('[takeId+seq]').between([takeId, -Infinity], [takeId, Infinity]).toArray()
  return settleJournal(
    rows.flatMap(row => {
      const entries = z.array(JournalEntry).safeParse(row.entries)
      if (!entries.success)
        throw new Trouble(
          'log-damaged',
          'The log of a take cannot be read: it is damaged, or a newer version of Orthograph wrote it.',
          'It is left as it is, and everything else can be opened.',
          'Update the application, or put another take of the question in use.',
          entries.error,
        )
      return entries.data
    }),
  )
}

/** How long an unfinished take is by what is on disk, ms. */
export async function storedDuration(takeId: string): Promise<number> {
  const last = await db.chunks.where('[takeId+seq]').between([takeId, -Infinity], [takeId, Infinity]).last()
  const sound = last ? last.t0 + (last.pcm.byteLength / 2 / last.rate) * 1000 : 0
  const seen = await db.pictures.where('[takeId+seq]').between([takeId, -Infinity], [takeId, Infinity]).last()
  return Math.round(Math.max(sound, seen?.pictures.at(-1)?.t ?? 0, logDuration(await readLog(takeId))))
}

/** Reads a take's sound pieces in order, some at a time, so that memory stays flat. */
export async function* soundChunks(takeId: string, atOnce = 40): AsyncGenerator<ChunkRow[]> {
  // A damaged piece is left out: its time becomes silence and is reported like any loss.
  for await (const rows of piecesInOrder(db.chunks, takeId, atOnce))
    yield rows.filter(r => r.sum === undefined || r.sum === checksum(new Int16Array(r.pcm)))
}

/** The stored pieces of a take in order, at most `atOnce` in memory. */
async function* piecesInOrder<T extends { seq: number }>(
  table: Table<T, [string, number]>,
  takeId: string,
  atOnce: number,
): AsyncGenerator<[T, ...T[]]> {
  for (let from = -1; ; ) {
    const rows = await table
      .where('[takeId+seq]')
      .between([takeId, from], [takeId, Infinity], false)
      .limit(atOnce)
      .toArray()
    if (!rows.length) return
    yield rows as [T, ...T[]]
    from = rows[rows.length - 1]!.seq
  }
}

/**
 * Stores a take's finished sound, and the camera's track where there is one; only then are the recorded pieces swept.
 */
export async function storeSettled(
  take: Take,
  blob: Blob,
  peaks: Uint8Array<ArrayBuffer>,
  camera: Blob | null,
): Promise<void> {
  try {
    await db.transaction('rw', db.sounds, db.cameras, db.takes, async () => {
      if (camera) await db.cameras.put({ takeId: take.id, folioId: take.folioId, blob: camera })
      await db.sounds.put({ takeId: take.id, folioId: take.folioId, blob, peaks: peaks.buffer, gaps: take.gaps })
      await db.takes.put({
        id: take.id,
        folioId: take.folioId,
        questionId: take.questionId,
        state: 'settled',
        doc: take,
      })
    })
    await db.chunks.where('takeId').equals(take.id).delete()
    await db.pictures.where('takeId').equals(take.id).delete()
  } catch (error) {
    throw asTrouble(error, 'storing the sound of the take')
  }
}

export async function loadSound(takeId: string): Promise<{ blob: Blob; peaks: Uint8Array; gaps: Gap[] } | null> {
  const row = await db.sounds.get(takeId)
  return row ? { blob: row.blob, peaks: new Uint8Array(row.peaks), gaps: row.gaps } : null
}

/** Removes a take and everything recorded in it. */
export async function removeTake(takeId: string): Promise<void> {
  await db.transaction('rw', [db.takes, db.journal, db.chunks, db.sounds, db.pictures, db.cameras], async () => {
    await db.takes.delete(takeId)
    await db.journal.where('takeId').equals(takeId).delete()
    await db.chunks.where('takeId').equals(takeId).delete()
    await db.sounds.delete(takeId)
    await db.pictures.where('takeId').equals(takeId).delete()
    await db.cameras.delete(takeId)
  })
}
