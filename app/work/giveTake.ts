import { placingOf, putInUse } from '#core/cut'
import { putClip, type Folio } from '#core/folio'
import { loadFolio, saveFolio } from '../data/folios'
import { noteFinished } from '../data/takes'
import type { FinishedTake } from './liveTake'

/**
 * Makes a take that of its question, or a clip that of its place, in a folio that is not open here; beside another one
 * that is in use it is kept for her to choose.
 * @returns what it belongs to, in words; null when the folio is gone
 * @throws Trouble when it cannot be stored
 */
export async function giveTake(done: FinishedTake): Promise<string | null> {
  const { take } = done
  const folio = await loadFolio(take.folioId)
  if (!folio) return null
  const used = await putIn(folio, done)
  await noteFinished(take)
  const question = folio.questions.find(q => q.id === take.questionId)
  const beside = used ? '' : question?.ledger ? 'beside the one in use' : 'not in use, for nothing was written in it'
  return [folio.title, question ? `question ${question.number}` : '', take.clip ?? '', beside]
    .filter(Boolean)
    .join(', ')
}

/** Stores the folio with the take in use; one whose question is gone stays beside. @returns whether it is in use */
async function putIn(folio: Folio, { take, brought, overWritten, ledgerFor }: FinishedTake): Promise<boolean> {
  const question = folio.questions.find(q => q.id === take.questionId)
  if (take.clip) putClip(folio, take)
  else {
    const ledger = question && placingOf(take, question, brought, overWritten) === 'use' && ledgerFor(question)
    if (!ledger) return false
    putInUse(question, ledger)
  }
  await saveFolio({ ...folio, updatedAt: new Date().toISOString() })
  return true
}
