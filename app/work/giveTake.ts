import { putInUse } from '#core/cut'
import { putClip, type Folio, type Ledger, type Take } from '#core/folio'
import { loadFolio, saveFolio } from '../data/folios'
import { noteFinished } from '../data/takes'

/**
 * Makes a take that of its question, or a clip that of its place, in a folio that is not open here.
 * @returns what it belongs to, in words; null when the folio is gone
 * @throws Trouble when it cannot be stored
 */
export async function giveTake(take: Take, ledger: Ledger | null): Promise<string | null> {
  const folio = await loadFolio(take.folioId)
  if (!folio) return null
  await putIn(folio, take, ledger)
  await noteFinished(take)
  const question = folio.questions.find(q => q.id === take.questionId)
  return [folio.title, question ? `question ${question.number}` : '', take.clip ?? ''].filter(Boolean).join(', ')
}

/** Stores the folio with the take in use; one whose question is gone stays beside. */
async function putIn(folio: Folio, take: Take, ledger: Ledger | null): Promise<void> {
  const question = folio.questions.find(q => q.id === take.questionId)
  if (take.clip) putClip(folio, take)
  else if (question && ledger) putInUse(question, ledger)
  else return
  await saveFolio({ ...folio, updatedAt: new Date().toISOString() })
}
