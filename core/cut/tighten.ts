import { newId } from '../folio/known'
import type { Ledger, Pace, Strike } from '../folio/model'
import { without, type Stretch } from '../recording/stretches'
import { kindOf, type TakeEvent } from '../recording/events'
import { Cut } from './cut'

/** How strongly it is tightened: from so long on a pause is too long, what it becomes, and how fast slow writing goes. */
export interface Tightness {
  /** ms */
  pauseFrom: number
  /** ms */
  pauseTo: number
  /** times as fast, 1 for as it was */
  writing: number
}

/** A pause or a stretch of slow writing that could be shorter. */
export interface Proposal {
  id: string
  kind: 'pause' | 'writing' | 'start' | 'end'
  /** Where it is, take ms. */
  stretch: Stretch
  /** How much shorter the edition gets, ms. */
  saves: number
}

/** Writing that waits no longer than this is one stretch, ms. */
const PEN_REST = 600
/** Slow writing is worth it from so long on, ms. */
const LEAST_WRITING = 1500
/** Before the first and after the last word or mark so much stays, ms. */
const EDGE = 600
/** Where "wait for it" was asked for, and where the student is to try, nothing is tightened so near, ms. */
const NEAR_TURN = 1500

/** @param strength 0…1: at 0 only long pauses become shorter, at 1 all of them and all silent writing goes faster */
export function tightnessOf(strength: number): Tightness {
  const s = Math.max(0, Math.min(1, strength))
  return {
    pauseFrom: Math.round(2400 - 1800 * s),
    pauseTo: 400,
    writing: s < 0.2 ? 1 : Math.round((1.5 + 2.5 * ((s - 0.2) / 0.8)) * 10) / 10,
  }
}

/**
 * What would tighten an edition: pauses in which nobody speaks or writes become short, what is written in silence goes
 * by faster, dead time at the start and end goes. Never touches a voice, a pause for the student, or what is protected.
 * @param voice stretches in which somebody speaks, take ms, ascending
 * @param events of the take
 */
export function tighten(
  ledger: Ledger,
  takeDuration: number,
  voice: readonly Stretch[],
  events: readonly TakeEvent[],
  { pauseFrom, pauseTo, writing }: Tightness,
): Proposal[] {
  // What was tightened before is proposed anew.
  const plain: Ledger = { ...ledger, strikes: ledger.strikes?.filter(s => !s.pause), paces: [] }
  const kept = new Cut(plain, takeDuration).kept
  const ink = busy(events)
  const stays = [...(ledger.guards ?? []), ...ledger.turns.map(t => ({ from: t.t - NEAR_TURN, to: t.t + NEAR_TURN }))]
  const out: Proposal[] = []
  const propose = (kind: Proposal['kind'], stretch: Stretch, saves: number) => {
    if (saves >= 100 && !stays.some(g => g.from < stretch.to && g.to > stretch.from))
      out.push({ id: newId(), kind, stretch: { from: Math.round(stretch.from), to: Math.round(stretch.to) }, saves })
  }
  const first = kept[0]
  const last = kept[kept.length - 1]
  for (const stretch of kept)
    for (const silent of without(stretch, voice)) {
      for (const rest of without(silent, ink)) {
        const long = rest.to - rest.from
        const atStart = stretch === first && rest.from === stretch.from
        const atEnd = stretch === last && rest.to === stretch.to
        if (atStart && atEnd) continue
        if (atStart) propose('start', { from: rest.from, to: rest.to - EDGE }, long - EDGE)
        else if (atEnd) propose('end', { from: rest.from + EDGE, to: rest.to }, long - EDGE)
        else if (long > pauseFrom)
          propose('pause', { from: rest.from + pauseTo / 2, to: rest.to - pauseTo / 2 }, long - pauseTo)
      }
      if (writing > 1)
        for (const pen of within(silent, ink))
          if (pen.to - pen.from >= LEAST_WRITING) propose('writing', pen, (pen.to - pen.from) * (1 - 1 / writing))
    }
  return out.sort((a, b) => a.stretch.from - b.stretch.from)
}

/** What proposals put into the ledger. @param speed of writing */
export function tightened(proposals: readonly Proposal[], speed: number): { strikes: Strike[]; paces: Pace[] } {
  return {
    strikes: proposals
      .filter(p => p.kind !== 'writing')
      .map(p => ({ id: p.id, ...p.stretch, inkStays: true, pause: true })),
    paces: proposals.filter(p => p.kind === 'writing').map(p => ({ id: p.id, ...p.stretch, speed })),
  }
}

/** Stretches in which something is written or moves, joined where the pen rests a moment only. */
function busy(events: readonly TakeEvent[]): Stretch[] {
  const all = events.flatMap(e => kindOf(e).busy(e) ?? []).sort((a, b) => a.from - b.from)
  const out: Stretch[] = []
  for (const s of all) {
    const last = out[out.length - 1]
    if (last && s.from - last.to < PEN_REST) last.to = Math.max(last.to, s.to)
    else out.push({ ...s })
  }
  return out
}

/** What of some others lies in a stretch. */
const within = (whole: Stretch, others: readonly Stretch[]): Stretch[] =>
  others
    .filter(o => o.from < whole.to && o.to > whole.from)
    .map(o => ({ from: Math.max(o.from, whole.from), to: Math.min(o.to, whole.to) }))
