import Dexie, { type EntityTable, type Table } from 'dexie'
import type { Gap } from '#core/folio'
import type { Colours } from '#core/recording'

/** Rows as they are stored. What is stored where: docs/decisions/0004. */
export interface FolioRow {
  id: string
  updatedAt: string
  doc: unknown
}
export interface DocumentRow {
  id: string
  folioId: string
  blob: Blob
}
export interface TakeRow {
  id: string
  folioId: string
  questionId: string
  state: string
  doc: unknown
}
export interface JournalRow {
  takeId: string
  seq: number
  entries: unknown
}
export interface ChunkRow {
  takeId: string
  seq: number
  t0: number
  rate: number
  pcm: ArrayBuffer
  /** Of its samples; older rows have none. */ sum?: number
}
export interface SoundRow {
  takeId: string
  folioId: string
  blob: Blob
  peaks: ArrayBuffer
  gaps: Gap[]
}
/** Pictures of the camera as they were coded while the take ran, one after another in `data`. */
export interface PictureRow {
  takeId: string
  seq: number
  pictures: { t: number; key: boolean; bytes: number; colours?: Colours }[]
  data: ArrayBuffer
  sum: number
}
export interface CameraRow {
  takeId: string
  folioId: string
  blob: Blob
}
export interface PublicationRow {
  id: string
  folioId: string
  doc: unknown
}
/** A question's sound as its student page plays it. */
export interface MadeSoundRow {
  /** Of all that it was made from. */
  key: string
  folioId: string
  questionId: string
  blob: Blob
}

/**
 * The browser's store. Its versions are a ladder: a change of tables is a new `version`, never an edit of an old one.
 */
class OrthographStore extends Dexie {
  declare folios: EntityTable<FolioRow, 'id'>
  declare documents: EntityTable<DocumentRow, 'id'>
  declare takes: EntityTable<TakeRow, 'id'>
  declare journal: Table<JournalRow, [string, number]>
  declare chunks: Table<ChunkRow, [string, number]>
  declare sounds: EntityTable<SoundRow, 'takeId'>
  declare pictures: Table<PictureRow, [string, number]>
  declare cameras: EntityTable<CameraRow, 'takeId'>
  declare publications: EntityTable<PublicationRow, 'id'>
  declare madeSounds: EntityTable<MadeSoundRow, 'key'>

  constructor() {
    super('orthograph')
    this.version(1).stores({
      folios: 'id, updatedAt',
      documents: 'id, folioId',
      takes: 'id, folioId, questionId, state',
      journal: '[takeId+seq], takeId',
      chunks: '[takeId+seq], takeId',
      sounds: 'takeId, folioId',
      publications: 'id, folioId',
    })
    this.version(2).stores({ pictures: '[takeId+seq], takeId', cameras: 'takeId, folioId' })
    this.version(3).stores({ madeSounds: 'key, [folioId+questionId], folioId' })
  }
}

export const db = new OrthographStore()
