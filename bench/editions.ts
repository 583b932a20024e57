import { editionOf, type EditionSource } from '../core/edition'
import { changed, newId, type Ledger } from '../core/folio'
import { seededRandom } from '../core/ink'
import { makeLesson } from './lesson'

/** A ledger with as much in it as a long question may get: strikes, tightened pauses, mends. */
function edited(ledger: Ledger, durationMs: number, targets: readonly string[]): Ledger {
  const random = seededRandom(14)
  const stretch = (most: number) => {
    const from = Math.floor(random() * (durationMs - most))
    return { id: newId(), from, to: from + 200 + Math.floor(random() * most) }
  }
  return changed(ledger, l => {
    l.strikes = [
      ...Array.from({ length: 200 }, () => ({ ...stretch(4000), inkStays: random() < 0.5 })),
      ...Array.from({ length: 300 }, () => ({ ...stretch(800), inkStays: true, pause: true })),
    ].sort((a, b) => a.from - b.from)
    l.mends = Array.from({ length: 50 }, () => ({
      id: newId(),
      made: '2026-11-27T12:00:00.000Z',
      name: 'moved',
      events: [
        {
          type: 'alter' as const,
          t: 0,
          id: newId(),
          targets: [targets[Math.floor(random() * targets.length)]!],
          matrix: [1, 0, 0, 1, 3, 0],
        },
      ],
    }))
  })
}

/** Compiling the edition of a lesson of 60 minutes, one change to it after that, and its board at random moments; ms. */
export function compiling(rounds = 31): { whole: number[]; change: number[]; boards: number[] } {
  // So much rest spreads 100,000 samples over the hour.
  const lesson = makeLesson(60, 100_000, 3.5)
  const targets = lesson.events.flatMap(e => (e.type === 'stroke' ? [e.id] : []))
  const take = { durationMs: lesson.durationMs, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame: lesson.frame }
  const frame = { pageId: lesson.page.id, box: lesson.frame }
  const source: EditionSource = {
    take: { ...take, frame },
    events: lesson.events,
    ledger: edited(lesson.ledger, lesson.durationMs, targets),
    pages: [],
  }
  const random = seededRandom(3)
  const whole: number[] = [],
    change: number[] = [],
    boards: number[] = []
  const timed = (into: number[], run: () => void) => {
    const began = performance.now()
    run()
    into.push(performance.now() - began)
  }
  for (let n = 0; n < rounds; n++) {
    const edition = editionOf(source)
    timed(whole, () => void [edition.events, edition.board])
    const at = Math.round(random() * (lesson.durationMs - 900))
    const next = changed(source.ledger, l => {
      l.strikes!.push({ id: newId(), from: at, to: at + 900, inkStays: true })
    })
    timed(change, () => void editionOf({ ...source, ledger: next }, edition).boardAt(edition.time.fromTake(at)))
    for (let k = 0; k < 30; k++) timed(boards, () => void edition.boardAt(random() * edition.duration))
  }
  return { whole, change, boards }
}
