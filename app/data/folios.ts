import { asTrouble, faultsOf, migrateFolio, Take, Trouble, type Folio } from '#core/folio'
import type { WholeFolio } from '#core/publish'
import { db } from './db'
import { forgetMadeSounds } from './madeSounds'
import { loadCamera, readLog } from './takes'
import { removeFile } from './files'

/** The folios in this browser, the one changed last first. One that cannot be read does not hide the others. */
export async function listFolios(): Promise<{ folios: Folio[]; unreadable: string[] }> {
  const rows = await db.folios.orderBy('updatedAt').reverse().toArray()
  const folios: Folio[] = []
  const unreadable: string[] = []
  for (const row of rows) {
    try {
      folios.push(migrateFolio(row.doc, 'A folio in this browser'))
    } catch {
      unreadable.push(row.id)
    }
  }
  return { folios, unreadable }
}

/** @throws Trouble when it is not here or cannot be read */
export async function loadFolio(id: string): Promise<Folio | null> {
  const row = await db.folios.get(id)
  return row ? migrateFolio(row.doc, 'The folio') : null
}

/** What is stored is what can be opened again. @throws Trouble `folio-unwritable` */
function refuseUnreadable(folio: Folio): void {
  const { others } = faultsOf(folio)
  if (others.length)
    throw new Trouble(
      'folio-unwritable',
      'The last change cannot be stored: the folio could not be opened again with it.',
      'What was stored before is untouched.',
      'Take the change back with Undo.',
      others,
    )
}

/** Stores a folio's document. @throws Trouble `storage-full`, `folio-unwritable` */
export async function saveFolio(folio: Folio): Promise<void> {
  refuseUnreadable(folio)
  await guarded('saving the folio', () => db.folios.put({ id: folio.id, updatedAt: folio.updatedAt, doc: folio }))
}

/** Stores a folio together with new page files, all or nothing. */
export async function saveFolioWithDocuments(folio: Folio, documents: ReadonlyMap<string, Blob>): Promise<void> {
  refuseUnreadable(folio)
  await guarded('saving the pages', () =>
    db.transaction('rw', db.folios, db.documents, async () => {
      for (const [id, blob] of documents) await db.documents.put({ id, folioId: folio.id, blob })
      await db.folios.put({ id: folio.id, updatedAt: folio.updatedAt, doc: folio })
    }),
  )
}

export async function loadDocument(id: string): Promise<Blob | null> {
  return (await db.documents.get(id))?.blob ?? null
}

/** Everything of a folio, as it goes into a folio file. */
export async function loadWholeFolio(folio: Folio): Promise<WholeFolio> {
  const documents = new Map((await db.documents.where('folioId').equals(folio.id).toArray()).map(d => [d.id, d.blob]))
  const rows = await db.takes.where('folioId').equals(folio.id).toArray()
  const clips = new Set(
    [folio, ...folio.questions].flatMap(of => Object.values(of.clips).flatMap(c => (c ? [c.takeId] : []))),
  )
  const takes = []
  for (const row of rows) {
    const read = Take.safeParse(row.doc)
    if (!read.success)
      throw new Trouble(
        'take-damaged',
        'A take of this folio cannot be read by this version, so a file of it would not be whole.',
        'It is left as it is in this browser.',
        'Update the application, then save the folio as a file.',
        read.error,
      )
    const take = read.data
    // A clip that was recorded anew or taken out stays for undo, but does not travel.
    if (take.state === 'recording' || (take.clip && !clips.has(take.id))) continue
    takes.push({
      take,
      events: await readLog(take.id),
      sound: (await db.sounds.get(take.id))?.blob ?? null,
      camera: await loadCamera(take.id),
    })
  }
  return { folio, documents, takes }
}

/** Whether anything of a folio from a file has an id that something here has already. */
export async function hasTakenIds({ folio, documents, takes }: WholeFolio): Promise<boolean> {
  const takeIds = takes.map(t => t.take.id)
  const found = await Promise.all([
    db.folios.where('id').equals(folio.id).count(),
    db.documents
      .where('id')
      .anyOf([...documents.keys()])
      .count(),
    db.publications.where('folioId').equals(folio.id).count(),
    ...[
      db.takes.where('id'),
      db.journal.where('takeId'),
      db.chunks.where('takeId'),
      db.sounds.where('takeId'),
      db.pictures.where('takeId'),
      db.cameras.where('takeId'),
    ].map(t => t.anyOf(takeIds).count()),
    db.takes.where('folioId').equals(folio.id).count(),
    db.documents.where('folioId').equals(folio.id).count(),
  ])
  return found.some(n => n > 0)
}

/**
 * Stores a folio read from a file, all or nothing; nothing that is here is overwritten.
 * @param peaks the drawn sound of each take
 */
export async function storeWholeFolio(
  whole: WholeFolio,
  peaks: ReadonlyMap<string, Uint8Array<ArrayBuffer>>,
): Promise<void> {
  await guarded('storing the folio', () =>
    db.transaction('rw', [db.folios, db.documents, db.takes, db.journal, db.sounds, db.cameras], async () => {
      for (const [id, blob] of whole.documents) await db.documents.add({ id, folioId: whole.folio.id, blob })
      for (const { take, events, sound, camera } of whole.takes) {
        await db.takes.add({
          id: take.id,
          folioId: take.folioId,
          questionId: take.questionId,
          state: take.state,
          doc: take,
        })
        await db.journal.add({ takeId: take.id, seq: 0, entries: events })
        if (sound)
          await db.sounds.add({
            takeId: take.id,
            folioId: take.folioId,
            blob: sound,
            peaks: (peaks.get(take.id) ?? new Uint8Array()).buffer,
            gaps: take.gaps,
          })
        if (camera) await db.cameras.add({ takeId: take.id, folioId: take.folioId, blob: camera })
      }
      await db.folios.add({ id: whole.folio.id, updatedAt: whole.folio.updatedAt, doc: whole.folio })
    }),
  )
}

/** Removes a folio and all that belongs to it. */
export async function removeFolio(id: string): Promise<void> {
  const takes = await db.takes.where('folioId').equals(id).primaryKeys()
  const publications = await db.publications.where('folioId').equals(id).toArray()
  await db.transaction('rw', db.tables, async () => {
    await db.folios.delete(id)
    await db.documents.where('folioId').equals(id).delete()
    await db.takes.bulkDelete(takes)
    await db.journal.where('takeId').anyOf(takes).delete()
    await db.chunks.where('takeId').anyOf(takes).delete()
    await db.sounds.bulkDelete(takes)
    await db.pictures.where('takeId').anyOf(takes).delete()
    await db.cameras.bulkDelete(takes)
    await db.publications.where('folioId').equals(id).delete()
    await forgetMadeSounds(id)
  })
  for (const row of publications) {
    const file = (row.doc as { file?: unknown }).file
    if (typeof file === 'string') await removeFile(file)
  }
}

async function guarded<T>(doing: string, work: () => PromiseLike<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    throw asTrouble(error, doing)
  }
}
