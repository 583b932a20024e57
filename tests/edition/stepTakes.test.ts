import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { ledgerFor, ledgerOf, putInUse, strikeStretch } from '../../core/cut'
import { editionOf, type EditionSource, type TakeLog } from '../../core/edition'
import { stepStart } from '../../core/edition/proofing'
import { archiveBlob, changed, Ledger, newId, STEP_TAKES, Take, type Question, type StepTake } from '../../core/folio'
import { seededRandom } from '../../core/ink'
import { decodeLesson, encodeLesson, lessonOf, type Lesson } from '../../core/lesson'
import { folioFiles, readFolioFile } from '../../core/publish'
import { MoreInk, settleJournal, storable, TakeEvent, TakeRecorder, type JournalEntry } from '../../core/recording'
import { folio, question } from '../support/make'

const FRAME = { pageId: 'p1', box: { x: 0, y: 0, w: 320, h: 180 } }
const at = '2026-11-27T10:00:00.000Z'
/** An entry as its schema asks for it, without anything that mends it on the way in. */
const Entries = z.array(z.union([TakeEvent, MoreInk]))

/** Records as the application does: over a log, with ink at random moments. @returns what the journal holds of it */
async function recorded(
  random: () => number,
  before?: { events: TakeEvent[]; t: number; sealed?: boolean },
): Promise<{ events: TakeEvent[]; durationMs: number }> {
  const journal: JournalEntry[] = []
  const sink = {
    journal: async (_: number, entries: readonly JournalEntry[]) =>
      void journal.push(...(JSON.parse(JSON.stringify(entries)) as JournalEntry[])),
    sound: async () => {},
    pictures: async () => {},
  }
  const recorder = new TakeRecorder(sink, FRAME, before)
  recorder.start(1000.5)
  let now = 1000.5
  for (let n = 0; n < 3; n++) {
    now += 100 + random() * 700
    recorder.penDown('working', 'pen', { x: random() * 300, y: random() * 160, pressure: 0.5, now })
    recorder.penMove([{ x: random() * 300, y: 60, pressure: 0.6, now: now + 40.25 }])
    recorder.penUp()
    if (random() < 0.4) recorder.markStep(now + 60)
    if (random() < 0.15) recorder.undo(now + 70)
    if (random() < 0.1) recorder.yourTurn(30, 2, now + 80)
  }
  const durationMs = await recorder.stop(now + 400)
  return { events: settleJournal(Entries.parse(journal)), durationMs }
}

interface Recorded {
  q: Question
  takes: Record<string, TakeLog & { take: Take }>
}
const sourceOf = ({ q, takes }: Recorded): EditionSource => {
  const { [q.ledger!.takeId]: own, ...others } = takes
  return { ...own!, ledger: q.ledger!, pages: [], others }
}
const takeOf = (id: string, durationMs: number, more: Partial<Take> = {}) =>
  Take.parse({
    ...{ id, folioId: 'f1', questionId: 'q1', startedAt: at, durationMs, state: 'whole', frame: FRAME },
    ...{ microphone: '', pen: '', ...more },
  })

/** A question with a take, its ledger struck and mended at random. */
async function begun(random: () => number): Promise<Recorded> {
  const { events, durationMs } = await recorded(random)
  const id = newId()
  const q = question('q1', '1')
  putInUse(q, ledgerOf(id, events, durationMs))
  return { q, takes: { [id]: { take: takeOf(id, durationMs), events } } }
}

/** Records one of its steps once more, as that is done now. */
async function again(of: Recorded, as: StepTake, random: () => number): Promise<void> {
  const { steps } = of.q.ledger!
  const step = steps[Math.floor(random() * steps.length)]!
  const start = stepStart(sourceOf(of), step.id, as)
  if (!start) return
  const { t, events } = start
  const before =
    t === undefined ? { events: storable(events), t: 0, sealed: true } : { events: events.filter(e => e.t <= t), t }
  const made = await recorded(random, before)
  const id = newId()
  const take = takeOf(id, made.durationMs, {
    step: { id: step.id, as },
    ...(t === undefined ? {} : { after: { takeId: of.q.ledger!.takeId, t } }),
  })
  of.takes[id] = { take, events: made.events }
  of.q = { ...of.q, ledger: ledgerFor(take, made.events, of.q) }
}

/** Strikes a stretch, or mends what is seen. */
function edit(of: Recorded, random: () => number): void {
  const edition = editionOf(sourceOf(of))
  const ink = edition.board.last().strokes[0]
  of.q = {
    ...of.q,
    ledger: changed(of.q.ledger!, l => {
      if (random() < 0.5) {
        const from = random() * edition.take.durationMs
        strikeStretch(l, { from, to: from + 300 }, random() < 0.5)
      } else if (ink)
        l.mends = [
          ...(l.mends ?? []),
          {
            id: newId(),
            made: at,
            name: 'move',
            events: [
              { type: 'alter', t: 0, id: newId(), targets: [ink.of.replace(/~.*/, '')], matrix: [1, 0, 0, 1, 3, 3] },
            ],
          },
        ]
    }),
  }
}

describe('a step that is recorded once more, and once more', () => {
  it('is stored, read, put together and given out, whatever was recorded over what (2,000 sequences)', async () => {
    const counts = new Map<StepTake, number>()
    for (let seed = 0; seed < 2000; seed++) {
      const random = seededRandom(seed + 1)
      const of = await begun(random)
      for (let n = 0; n < 3; n++) {
        const as = STEP_TAKES[Math.floor(random() * STEP_TAKES.length)]!
        await again(of, as, random)
        counts.set(as, (counts.get(as) ?? 0) + 1)
        if (random() < 0.4) edit(of, random)
      }
      expect(Ledger.safeParse(of.q.ledger).success, `ledger of ${seed}`).toBe(true)
      const edition = editionOf(sourceOf(of))
      const lesson = lessonOf(edition, { views: [], documents: [], sound: null })
      const read = decodeLesson(encodeLesson({ ...lesson, views: [{}] as unknown as Lesson['views'] }))
      expect(read.events.length, `lesson of ${seed}`).toBe(lesson.events.length)
      if (seed % 40 === 0) {
        const whole = {
          folio: folio({ questions: [of.q] }),
          documents: new Map([['d1', new Blob(['%PDF'])]]),
          takes: Object.values(of.takes).map(t => ({ take: t.take, events: [...t.events], sound: null })),
        }
        const back = await readFolioFile(await archiveBlob(folioFiles(whole)), 'again.folio')
        expect(back.folio.questions[0]!.ledger, `file of ${seed}`).toEqual(of.q.ledger)
        expect(back.takes.map(t => t.events)).toEqual(whole.takes.map(t => t.events))
      }
    }
    expect([...counts.values()].every(n => n > 1000)).toBe(true)
  }, 240_000)
  it('that was stored with times that are no whole numbers is read all the same', async () => {
    const { JournalEntry } = await import('../../core/recording')
    const stroke = { type: 'stroke', t: 10.5, id: 'a', role: 'working', tool: 'pen', points: [1, 2, 0.5, 10.5] }
    expect(JournalEntry.parse(stroke)).toMatchObject({ t: 11, points: [1, 2, 0.5, 11] })
    expect(JournalEntry.safeParse({ ...stroke, t: 'soon' }).success).toBe(false)
  })
})
