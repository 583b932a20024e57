import 'fake-indexeddb/auto'
import { editionOf } from '../core/edition'
import { archiveBlob, framesOf, newId, openArchive, Trouble, whatSwells, type ArchiveFile } from '../core/folio'
import { seededRandom } from '../core/ink'
import { folioFiles, readFolioFile, withNewIds, type WholeFolio } from '../core/publish'
import { sceneOf } from '../core/scene'
import { db } from '../app/data/db'
import { hasTakenIds, storeWholeFolio } from '../app/data/folios'
import { makeDemoFolio } from '../demo/make'

type Random = () => number
/** What damage and malice put in the place of a value. */
const ODD: unknown[] = [
  null,
  '',
  0,
  -1,
  4.5,
  -3,
  1e15,
  1e300,
  -1e308,
  1e308,
  true,
  [],
  {},
  'constructor',
  '__proto__',
  'toString',
  '../x',
  'x'.repeat(5000),
  '\u0000',
  '💥'.repeat(40),
  '<script>',
  [[[[[[]]]]]],
  { __proto__: 1 },
]
const pick = <T>(random: Random, from: readonly T[]): T => from[Math.floor(random() * from.length)]!

/** Changes one value somewhere inside of a JSON value, or takes it away, or doubles it. */
function changedJson(value: unknown, random: Random): unknown {
  const copy = structuredClone(value)
  let at = copy as Record<string, unknown> | unknown[]
  for (;;) {
    const keys = Object.keys(at)
    if (!keys.length) return copy
    const key = pick(random, keys) as keyof typeof at
    const inner = at[key] as unknown
    if (typeof inner === 'object' && inner !== null && Object.keys(inner).length && random() < 0.9) {
      at = inner as typeof at
      continue
    }
    const way = random()
    if (way < 0.12) delete at[key]
    else if (way < 0.24 && Array.isArray(at)) at.push(structuredClone(pick(random, at)))
    else if (way < 0.4 && typeof inner === 'number')
      at[key] = (inner * pick(random, [-1, 1000, 1e9, 0.5, 1e-9])) as never
    else at[key] = pick(random, ODD) as never
    return copy
  }
}

function changedXml(xml: string, random: Random): string {
  const at = Math.floor(random() * xml.length),
    way = random()
  if (way < 0.2) return xml.slice(0, at)
  if (way < 0.35) return xml.slice(0, at) + '<a>'.repeat(20_000) + xml.slice(at)
  if (way < 0.5)
    return xml.replace(
      '<definitions>',
      `<${pick(random, ['__proto__', 'constructor', 'trace', 'definitions', 'toString'])}>x</${pick(random, ['__proto__', 'constructor', 'trace', 'definitions'])}><definitions>`,
    )
  if (way < 0.75)
    return (
      xml.slice(0, at) +
      xml.slice(at).replace(/-?\d+(\.\d+)?/, String(pick(random, [1e300, -1e308, 'NaN', 'Infinity', '', '1,2', -7])))
    )
  return xml.slice(0, at) + String.fromCharCode(32 + Math.floor(random() * 90)) + xml.slice(at + 1)
}

function changedBytes(bytes: Uint8Array, random: Random): Uint8Array {
  const way = random()
  if (way < 0.2) return bytes.slice(0, Math.floor(random() * bytes.length))
  const copy = bytes.slice()
  if (way < 0.3)
    return copy.copyWithin(
      Math.floor(random() * copy.length),
      Math.floor(random() * copy.length),
      Math.floor(random() * copy.length),
    )
  // The directory at the end is what a zip is read by.
  for (let i = 0, n = 1 + Math.floor(random() * 8); i < n; i++)
    copy[Math.floor(random() < 0.5 ? random() * copy.length : copy.length - random() * 2000)] = Math.floor(
      random() * 256,
    )
  return copy
}

/** The files of a small folio with guides, options, typed lines and ink in it. */
async function smallFolio(): Promise<{ path: string; data: Blob | string; store?: boolean }[]> {
  const whole = await makeDemoFolio()
  const takes = whole.takes
    .filter((_, i) => i !== 1 && i !== 4)
    .map(t => ({ ...t, sound: new Blob([new Uint8Array(400)], { type: 'audio/ogg' }) }))
  return folioFiles({ ...whole, takes })
}

async function changedFile(files: readonly ArchiveFile[], packed: Uint8Array, random: Random): Promise<Blob> {
  const way = random()
  if (way < 0.3) return new Blob([changedBytes(packed, random) as Uint8Array<ArrayBuffer>])
  const ending = way < 0.6 ? 'folio.json' : way < 0.82 ? 'log.json' : 'ink.inkml'
  const chosen = pick(
    random,
    files.filter(f => f.path.endsWith(ending)),
  )
  const data = String(chosen.data)
  const changed =
    ending === 'ink.inkml' ? changedXml(data, random) : JSON.stringify(changedJson(JSON.parse(data), random))
  return archiveBlob(files.map(f => (f === chosen ? { ...f, data: changed } : f)))
}

/** Does with an opened folio what its screens do first. */
async function looked({ folio, takes, documents }: WholeFolio) {
  for (const doc of folio.documents) await whatSwells(documents.get(doc.id)!, doc.mime)
  for (const question of folio.questions) {
    framesOf(question, folio.pages)
    const whole = takes.find(t => t.take.id === question.ledger?.takeId)
    if (!whole || !question.ledger) continue
    const edition = editionOf({ ...whole, ledger: question.ledger, pages: folio.pages })
    edition.chapters()
    edition.captions()
    edition.board.changes()
    for (const share of [0, 0.3, 0.7, 1]) {
      const board = edition.boardInTake(whole.take.durationMs * share),
        { first } = edition
      const page = folio.pages.find(p => p.id === (board.frame ?? first).pageId)
      if (page) sceneOf(board, page, board.look ?? (board.frame ?? first).box)
    }
  }
}

export interface Mutated {
  files: number
  opened: number
  refused: number
  unclear: number
  changed: number
  slowestMs: number
  codes: Record<string, number>
}

/**
 * Opens so many folio files that were changed at random, beside a folio that must stay as it is.
 * @param seed for another set
 */
export async function mutated(count: number, seed = 1): Promise<Mutated> {
  const files = await smallFolio()
  const packed = new Uint8Array(await (await archiveBlob(files)).arrayBuffer())
  const neighbour = await readFolioFile(new Blob([packed]), 'neighbour.folio')
  await storeWholeFolio(neighbour, new Map())
  const state = async () =>
    JSON.stringify([
      await db.folios.get(neighbour.folio.id),
      await db.takes.where('folioId').equals(neighbour.folio.id).toArray(),
      await db.journal
        .where('takeId')
        .anyOf(neighbour.takes.map(t => t.take.id))
        .toArray(),
      await db.documents.where('folioId').equals(neighbour.folio.id).primaryKeys(),
    ])
  const before = await state()
  const out: Mutated = { files: count, opened: 0, refused: 0, unclear: 0, changed: 0, slowestMs: 0, codes: {} }
  for (let n = 0; n < count; n++) {
    const random = seededRandom(seed * 1_000_003 + n)
    const file = await changedFile(files, packed, random)
    const name = `changed-${n}.folio`
    const began = performance.now()
    try {
      let whole = await readFolioFile(file, name)
      await looked(whole)
      out.opened++
      if (n % 10 === 0) {
        if (await hasTakenIds(whole)) whole = withNewIds(whole, newId)
        await storeWholeFolio(whole, new Map())
        if ((await state()) !== before) out.changed++
        await Promise.all(
          [db.folios, db.takes, db.journal, db.documents, db.sounds].map(async t =>
            (t as typeof db.folios)
              .filter(
                r =>
                  !before.includes(
                    JSON.stringify((r as { id?: string; takeId?: string }).id ?? (r as { takeId?: string }).takeId),
                  ),
              )
              .delete(),
          ),
        )
      }
    } catch (error) {
      out.refused++
      const code = error instanceof Trouble ? error.code : 'crash'
      out.codes[code] = (out.codes[code] ?? 0) + 1
      if (
        !(error instanceof Trouble) ||
        code === 'unexpected' ||
        !error.message.includes(name) ||
        !error.safe ||
        !error.next
      ) {
        out.unclear++
        if (out.unclear <= 5) console.error(`file ${n}:`, error)
      }
    }
    out.slowestMs = Math.max(out.slowestMs, performance.now() - began)
    if (performance.now() - began > 5000) console.error(`file ${n} took ${Math.round(performance.now() - began)} ms`)
  }
  await openArchive(new Blob([packed]), 'whole.folio')
  return out
}
