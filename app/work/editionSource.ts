import { takesIn } from '#core/cut'
import type { EditionSource, TakeLog } from '#core/edition'
import { namerOf, parterOf } from '#core/edition/proofing'
import { Trouble, type Ledger, type Page, type Question, type Take } from '#core/folio'
import { speechOf } from '#core/sound'
import { kindOf, type TakeEvent } from '#core/recording'
import { loadSound } from '../data/takes'

/**
 * What an edition is made from: the ledger's take, and those of steps that were recorded anew.
 * @param logOf reads a take's settled log
 * @throws Trouble `take-gone` where a step was recorded anew in a take that is no longer there
 */
export async function sourceOf(
  take: Take,
  question: Pick<Question, 'parts'>,
  ledger: Ledger,
  takes: readonly Take[],
  pages: readonly Page[],
  logOf: (takeId: string) => Promise<TakeEvent[]>,
): Promise<EditionSource> {
  const others: Record<string, TakeLog> = {}
  for (const id of takesIn(ledger)) {
    if (id === take.id) continue
    const other = takes.find(t => t.id === id)
    if (!other)
      throw new Trouble(
        'take-gone',
        'A step was recorded anew in a take that is no longer in this browser.',
        'Everything else of the question is there.',
        'Put the old step back on the Proof screen, or record it once more.',
      )
    others[id] = { take: other, events: await logOf(id) }
  }
  const drawn = Object.entries(await drawnSoundsOf(ledger))
  return {
    take,
    speech: Object.fromEntries(drawn.map(([id, { peaks }]) => [id, speechOf(peaks)])),
    events: await logOf(take.id),
    ledger,
    pages,
    namer: namerOf(question),
    parter: parterOf(question),
    ...(Object.keys(others).length ? { others } : {}),
  }
}

/** The sounds of the takes that a ledger is about, and how they are drawn, by the takes' ids; one without is left out. */
export async function drawnSoundsOf(ledger: Ledger): Promise<Record<string, { blob: Blob; peaks: Uint8Array }>> {
  const sounds: Record<string, { blob: Blob; peaks: Uint8Array }> = {}
  for (const id of takesIn(ledger)) {
    const sound = await loadSound(id)
    if (sound) sounds[id] = sound
  }
  return sounds
}

/** Of drawn sounds, the sounds themselves. */
export const soundsIn = (drawn: Awaited<ReturnType<typeof drawnSoundsOf>>): Record<string, Blob> =>
  Object.fromEntries(Object.entries(drawn).map(([id, { blob }]) => [id, blob]))

/** The documents whose pictures were put on the board. */
export const placedIn = (events: readonly TakeEvent[]): Set<string> =>
  new Set(
    events.flatMap(e =>
      kindOf(e)
        .objects(e)
        .flatMap(({ thing }) => (thing.kind === 'picture' ? [thing.documentId] : [])),
    ),
  )
