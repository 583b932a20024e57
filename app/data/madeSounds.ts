import { db } from './db'

/** Sounds as student pages play them, made ahead or kept from the last time. They can always be made again. */

/** @returns the sound that was made of exactly this; null where it was not */
export async function madeSound(key: string): Promise<Blob | null> {
  const row = await db.madeSounds.get(key).catch(() => undefined)
  return row?.blob ?? null
}

/** Forgets what was made for a folio, so that it is made anew. */
export async function forgetMadeSounds(folioId: string): Promise<void> {
  await db.madeSounds.where('folioId').equals(folioId).delete()
}

/** Keeps a made sound in place of the earlier one of its question; where there is no room, it is not kept. */
export async function keepMadeSound(key: string, folioId: string, questionId: string, blob: Blob): Promise<void> {
  try {
    await db.transaction('rw', db.madeSounds, async () => {
      await db.madeSounds.where('[folioId+questionId]').equals([folioId, questionId]).delete()
      await db.madeSounds.put({ key, folioId, questionId, blob })
    })
  } catch {
    // It is made again when it is asked for.
  }
}
