import { z } from 'zod'
import { archiveBlob, newId, withTakeAlone, type Folio, type Portrait } from '#core/folio'
import { ledgerOfTake, withPortrait } from '#core/cut'
import { fileName, folioFiles, withNewIds, type WholeFolio, type WholeTake } from '#core/publish'
import { listFolios, loadWholeFolio, storeWholeFolio } from '../data/folios'
import { openFile, removeFile } from '../data/files'
import { filesRunner, soundRunner } from './workers'

/** Ending of a folio file; it is a zip. */
export const FOLIO_ENDING = '.folio'

/** Packs a folio into one file. @returns the file and its name */
export async function saveFolioFile(folio: Folio, onProgress?: (share: number) => void, signal?: AbortSignal): Promise<{ file: File, name: string }> {
  const whole = await loadWholeFolio(folio)
  const temporary = `folio-${newId()}.zip`
  await filesRunner().run('pack', { name: temporary, files: folioFiles(whole) }, { signal, onProgress: v => onProgress?.(Number(v)) })
  return { file: (await openFile(temporary))!, name: `${fileName(folio.title, 'folio')}${FOLIO_ENDING}` }
}

/**
 * Opens a folio file and stores what is in it. A folio that is here already is not overwritten: a copy is made.
 * @throws Trouble that names the file
 */
export async function openFolioFile(file: Blob, name: string): Promise<Folio> {
  let whole = z.custom<WholeFolio>(v => typeof v === 'object' && v !== null && 'folio' in v).parse(await filesRunner().run('read', { file, name }))
  const { folios } = await listFolios()
  if (folios.some(f => f.id === whole.folio.id)) {
    whole = withNewIds(whole, newId)
    whole.folio.title = `${whole.folio.title} (copy)`
  }
  const peaks = new Map<string, Uint8Array<ArrayBuffer>>()
  for (const { take, sound } of whole.takes) if (sound) peaks.set(take.id, await soundRunner().run('peaks', sound) as Uint8Array<ArrayBuffer>)
  await storeWholeFolio(whole, peaks)
  return whole.folio
}

/** Hands over a folio file with one take in it, made in memory: the way out when nothing can be stored. */
export async function handOverTake(folio: Folio, take: WholeTake, portrait: Portrait): Promise<void> {
  const { documents } = await loadWholeFolio(folio)
  const ledger = withPortrait(ledgerOfTake(take.take, take.events, folio.questions.find(q => q.id === take.take.questionId)), take.take, portrait)
  const file = await archiveBlob(folioFiles({ folio: withTakeAlone(folio, take.take, ledger), documents, takes: [take] }))
  handOver(file, `${fileName(`${folio.title}-take`, 'take')}${FOLIO_ENDING}`)
}

/** Hands a file to the browser's downloads, and removes the temporary it was made in a minute later. */
export function handOver(file: Blob, name: string, temporary?: string): void {
  const url = URL.createObjectURL(file)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => {
    URL.revokeObjectURL(url)
    if (temporary) void removeFile(temporary)
  }, 60_000)
}
