import { z } from 'zod'
import { asTrouble } from '#core/folio'
import { db } from './db'
import { removeFile } from './files'

const ms = z.number().nonnegative()

/** A rendered video and what stands beside it. `questionId` is null for the video of the whole folio. */
export const Publication = z.object({
  id: z.string(),
  folioId: z.string(),
  questionId: z.string().nullable(),
  createdAt: z.string(),
  file: z.string(),
  name: z.string(),
  mime: z.string(),
  bytes: z.number(),
  durationMs: ms,
  size: z.string(),
  codecs: z.string(),
  /** The part of the question that it is of, where it is not of all. */
  part: z.string().optional(),
  chapters: z.array(z.object({ t: ms, title: z.string(), part: z.string().optional() })),
  captions: z.array(z.object({ from: ms, to: ms, text: z.string() })),
  turns: z.array(z.object({ t: ms, to: ms, seconds: z.number().positive() })).default([]),
  /** The ledgers it was made from, to tell whether it is still what the folio says. */
  made: z.string(),
  /** The pages it shows, as they were; older ones do not know. */
  pages: z.record(z.string(), z.string()).optional(),
  /** When students got it on the class site. */
  publishedAt: z.string().optional(),
})
export type Publication = z.infer<typeof Publication>

export async function publicationsOf(folioId: string): Promise<Publication[]> {
  const rows = await db.publications.where('folioId').equals(folioId).toArray()
  return rows
    .map(r => Publication.safeParse(r.doc))
    .filter(r => r.success)
    .map(r => r.data)
}

/** Stores a publication in place of an earlier one of the same question and container, whose file is removed. */
export async function storePublication(publication: Publication): Promise<void> {
  const old = (await publicationsOf(publication.folioId)).filter(
    p =>
      p.questionId === publication.questionId &&
      p.part === publication.part &&
      p.mime === publication.mime &&
      p.id !== publication.id,
  )
  try {
    await db.publications.put({ id: publication.id, folioId: publication.folioId, doc: publication })
  } catch (error) {
    throw asTrouble(error, 'storing the video')
  }
  for (const p of old) await removePublication(p)
}

/** Notes that students have these videos now. */
export async function notePublished(publications: readonly Publication[], at: string): Promise<void> {
  try {
    await db.publications.bulkPut(
      publications.map(p => ({ id: p.id, folioId: p.folioId, doc: { ...p, publishedAt: at } })),
    )
  } catch (error) {
    throw asTrouble(error, 'noting what was published')
  }
}

export async function removePublication(publication: Publication): Promise<void> {
  await db.publications.delete(publication.id)
  await removeFile(publication.file)
}

/** Names of all files that publications refer to. */
export async function publishedFiles(): Promise<Set<string>> {
  const rows = await db.publications.toArray()
  return new Set(rows.map(r => (r.doc as { file?: unknown }).file).filter(f => typeof f === 'string'))
}
