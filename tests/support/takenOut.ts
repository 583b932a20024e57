import { ledgerOf } from '../../core/cut'
import { changed, type Frame, type Ledger, type LineThing, type Mend } from '../../core/folio'
import { seededRandom } from '../../core/ink'
import type { TakeEvent } from '../../core/recording'
import type { EditionSource } from '../../core/edition'
import { line } from './make'

/** Places at which marker ink lies: item by item, far from each other, so that they are told from everything else. */
export const inkPlace = (i: number) => 1000 + 10 * i
/** Where the piece of a stroke lies that is rubbed out afterwards. */
export const RUBBED = 7000
/** Words of a voice that another one has taken the place of. */
export const UNHEARD = 'UNHEARDEND'
export const word = (i: number) => `MARK${i}END`
export const corrected = (i: number) => `GOOD${i}END`

const FRAME: Frame = { pageId: 'p', box: { x: 0, y: 0, w: 1600, h: 900 } }
export const ELSEWHERE: Frame = { pageId: 'private', box: { x: 0, y: 0, w: 1601, h: 901 } }
const STEP = 1500
const STEPS = 8
const END = STEP * STEPS
const made = '2026-11-27T12:00:00.000Z'

export const typed = (source: string): LineThing => ({
  kind: 'line',
  source,
  notation: 'words',
  at: { x: 20, y: 50 },
  size: 12,
  role: 'working',
  set: { marks: [], width: 4000, height: 700, depth: 200, equals: null, mathml: source },
})

/** A recorded question of which much was taken out in every way there is, and what must not go out of it. */
export interface TakenOut {
  source: EditionSource
  /** Names of items whose ink and words are in nothing that goes out; those of which all is shown, at least for a while. */
  out: Set<number>
  shown: Set<number>
  /** Of these, the first words were corrected, or a piece rubbed out. */
  mended: Set<number>
  elsewhere: boolean
}

export function takenOut(seed: number): TakenOut {
  const random = seededRandom(seed + 1)
  const chance = (p: number) => random() < p
  const events: TakeEvent[] = []
  const times = new Map<number, number>()
  const undone = new Map<number, number>()
  const mends: Mend[] = []
  const erased = new Set<number>()
  const mended = new Set<number>()
  const mend = (...all: TakeEvent[]) => mends.push({ id: `mend${mends.length}`, made, name: '', events: all })
  const isInk = (i: number) => i % 2 === 0
  /** What becomes of an item after it was written. */
  function fateOf(i: number, t: number) {
    const fate = random()
    if (fate < 0.2) undone.set(i, Math.min(END - 10, t + (chance(0.5) ? 150 : 1700)))
    else if (fate < 0.32) {
      mend({ type: 'erase', t: 0, id: `gone${i}`, strokes: [`i${i}`] })
      erased.add(i)
    } else if (fate < 0.48 && !isInk(i)) {
      mend({ type: 'change', t: 0, id: `fix${i}`, target: `i${i}`, thing: typed(corrected(i)) })
      mended.add(i)
    } else if (fate < 0.58) events.push({ type: 'erase', t: t + 250, id: `rubber${i}`, strokes: [`i${i}`] })
    else if (fate < 0.68)
      events.push({ type: 'alter', t: t + 200, id: `move${i}`, targets: [`i${i}`], matrix: [1, 0, 0, 1, 0, 5] })
  }
  for (let i = 0; i < 28; i++) {
    const t = 100 + i * 400
    times.set(i, t)
    if (isInk(i)) {
      const ink = line(`i${i}`, t, { x: inkPlace(i), length: 0, y: 100, ms: 100 })
      if (chance(0.15)) {
        for (let k = 6 * 4; k < ink.points.length; k += 4) ink.points[k] = RUBBED + i
        mend({ type: 'split', t: 0, id: `rub${i}`, strokes: [{ id: `i${i}`, keep: [[0, 6]] }] })
        mended.add(i)
      }
      events.push(ink)
    } else events.push({ type: 'place', t, id: `i${i}`, thing: typed(word(i)), over: 0 })
    fateOf(i, t)
  }
  for (const [i, t] of undone) events.push({ type: 'undo', t, target: `i${i}` })
  for (let k = 1; k < STEPS; k++) events.push({ type: 'step', t: k * STEP, id: `m${k}` })
  /** Step that is gone back over: what comes in it is taken back at its end. */
  const back = chance(0.5) ? 1 + Math.floor(random() * (STEPS - 2)) : -1
  if (back > 0) events.push({ type: 'back', t: (back + 1) * STEP - 1, to: back * STEP })
  const strikes: NonNullable<Ledger['strikes']> = []
  for (let n = 0; n < 3; n++) {
    const from = Math.round(random() * (END - 1000))
    strikes.push({ id: `s${n}`, from, to: from + 200 + Math.round(random() * 1200), inkStays: chance(0.4) })
  }
  // Going back leads to the page on which it was: there is none passed by then.
  const away = strikes.find(s => !s.inkStays && (back < 0 || s.to < back * STEP || s.from > (back + 1) * STEP))
  if (away) {
    events.push({ type: 'frame', t: away.from + 1, frame: ELSEWHERE })
    events.push({ type: 'frame', t: away.to - 1, frame: FRAME })
  }
  const end = chance(0.5) ? Math.round(END * 0.7) : END
  if (end < END) strikes.push({ id: 'end', from: end, to: END, inkStays: false })
  events.sort((a, b) => a.t - b.t)
  const ledger = changed(ledgerOf('t', events, END), l => {
    for (const step of l.steps) if (chance(0.1)) step.struck = true
    for (const step of l.steps) step.unheard = [{ voice: null, words: UNHEARD }]
    l.strikes = strikes
    l.mends = mends
  })
  const goesAt = (t: number) => {
    const step = ledger.steps.findLast(s => s.t <= t)!
    return (step.struck && !step.inkStays) || strikes.some(s => !s.inkStays && t >= s.from && t < s.to) || t >= end
  }
  const isOut = (t: number) =>
    ledger.steps.findLast(s => s.t <= t)!.struck || strikes.some(s => t >= s.from && t < s.to)
  /** The last moment that is shown. */
  let last = END
  while (last > 0 && isOut(--last));
  const isBack = (t: number) => back > 0 && t > back * STEP && t < (back + 1) * STEP
  const isUndone = (i: number) => {
    const at = undone.get(i)
    return at !== undefined && (at <= last || !goesAt(at)) && !(isBack(at) && !isBack(times.get(i)!))
  }
  const elsewhere = (t: number) => away !== undefined && t >= away.from + 1 && t < away.to - 1
  const out = new Set<number>()
  const shown = new Set<number>()
  for (const [i, t] of times) {
    if (isUndone(i) || erased.has(i) || goesAt(t) || elsewhere(t)) out.add(i)
    else if (!isBack(t) && !strikes.some(s => t >= s.from && t < s.to + 300)) shown.add(i)
  }
  const take = { durationMs: END, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame: FRAME }
  return { source: { take, events, ledger, pages: [] }, out, shown, mended, elsewhere: away !== undefined }
}
