import type { Ledger, Pace, Step, Strike, Turn } from '../folio/model'
import type { Stretch } from '../recording/stretches'
import type { CutStep, Piece, Segment } from './cut'

type Shown = Pick<Piece, 'take' | 'from' | 'speed' | 'sound'>
const near = (x: number, y: number) => Math.abs(x - y) < 1e-6

/** Whether a piece goes on as the one before it does, in picture and sound. */
export function follows(a: Piece, b: Shown): boolean {
  if (a.take !== b.take || a.speed !== b.speed || !near(a.from + a.ms * a.speed, b.from)) return false
  if (!a.sound || !b.sound) return a.sound === b.sound
  return a.sound.take === b.sound.take && near(a.sound.from + a.ms, b.sound.from)
}

/** A piece of a step between two edges of what was done to it, on the time of the stretch it is of. */
interface Part extends Stretch {
  out: Segment['out']
  /** Times as fast, before it is fitted to a voice. */
  fast: number
  /** Where the student is asked to try before it. */
  turns: readonly Turn[]
}

/** Puts the stretches of steps one behind another. */
export class Maker {
  readonly segments: Segment[] = []
  readonly pieces: Piece[] = []
  readonly steps: CutStep[] = []
  at = 0

  private readonly strikes: ReadonlyMap<Step, Strike[]>
  private readonly paces: ReadonlyMap<Step, Pace[]>

  constructor(private readonly ledger: Ledger) {
    this.strikes = byStep(ledger, ledger.strikes ?? [])
    this.paces = byStep(ledger, ledger.paces ?? [])
  }

  /** Puts a step behind what is there. @param own its stretch of the ledger's take; @param copy how often it came before */
  add(step: Step, own: Stretch, copy: number) {
    const { anew, voice } = step
    // What was written over the step's own sound goes on as that does.
    const lane = anew && !anew.over ? anew : own
    const parts = this.partsOf(step, lane, lane === own)
    const take = anew?.takeId ?? this.ledger.takeId
    const along = anew?.over && own.to > own.from ? Math.max(1, (anew.to - anew.from) / (own.to - own.from)) : 1
    /** What is shown is so much later than the time of the lane. */
    const later = anew?.over ? anew.from - own.from * along : 0
    const heard = lane === own ? this.ledger.takeId : take
    const whole = parts.reduce((n, p) => n + (p.out ? 0 : (p.to - p.from) / p.fast), 0)
    const fit = voice && whole > 0 ? (voice.to - voice.from) / whole : 1
    /** Of the voice, or of the parts, how much has gone by. */
    let gone = 0
    let ends = 0
    for (const part of parts) {
      if (!part.out) for (const turn of part.turns) this.hold(turn, take, part.from * along + later)
      const from = part.from * along + later
      const to = part.to * along + later
      const segment = { take, from, to, at: this.at, out: part.out, copy, voiced: Boolean(voice ?? anew?.over) }
      if (part.out) {
        this.segments.push({ ...segment, speed: 1 })
        continue
      }
      ends += ((part.to - part.from) / part.fast) * fit
      // Whole milliseconds of the cut, however fast it goes by.
      const plain = part.fast === 1 && !voice
      const ms = plain ? part.to - part.from : Math.max(1, Math.round(ends - gone))
      const sound = voice
        ? { take: voice.takeId, from: voice.from + gone }
        : part.fast === 1
          ? { take: heard, from: part.from }
          : null
      gone += ms
      if (!voice) ends = gone
      this.show({ ...segment, speed: (to - from) / ms }, ms, sound)
    }
  }

  /** A step between the edges of what was struck, goes by faster and asks to try. */
  private partsOf(step: Step, stretch: Stretch, own: boolean): Part[] {
    const strikes = (own && this.strikes.get(step)) || []
    const paces = (own && this.paces.get(step)) || []
    const turns = own ? this.ledger.turns.filter(t => t.hold > 0 && t.t >= stretch.from && t.t < stretch.to) : []
    const cuts = edgesOf(stretch, strikes, paces, turns)
    const striking = new Sweep(strikes)
    const pacing = new Sweep(paces)
    const parts: Part[] = []
    for (let i = 0; i + 1 < cuts.length; i++) {
      const from = cuts[i]!
      const over = striking.at(from)
      let stays = !step.struck || step.inkStays
      for (const strike of over) stays &&= strike.inkStays
      let fast = 1
      for (const pace of pacing.at(from)) fast = Math.max(fast, pace.speed)
      const out = step.struck || over.length ? (stays ? 'ink stays' : 'ink goes') : null
      parts.push({ from, to: cuts[i + 1]!, out, fast, turns: turns.length ? turns.filter(t => t.t === from) : [] })
    }
    return parts
  }

  private hold(turn: Turn, take: string, from: number) {
    this.pieces.push({ at: this.at, ms: turn.hold * 1000, take, from, speed: 1, sound: null, turn })
    this.at += turn.hold * 1000
  }

  private show(segment: Segment, ms: number, sound: Piece['sound']) {
    this.segments.push(segment)
    const { take, from, speed } = segment
    const last = this.pieces[this.pieces.length - 1]
    if (last && !last.turn && follows(last, { take, from, speed, sound })) last.ms += ms
    else this.pieces.push({ at: this.at, ms, take, from, speed, sound })
    this.at += ms
  }
}

/** Where something that was done to a stretch begins or ends, with its own ends, ascending. */
function edgesOf(
  { from, to }: Stretch,
  strikes: readonly Stretch[],
  paces: readonly Stretch[],
  turns: readonly Turn[],
): number[] {
  const edges = [from, to]
  for (const all of [strikes, paces])
    for (const s of all) {
      if (s.from > from && s.from < to) edges.push(s.from)
      if (s.to > from && s.to < to) edges.push(s.to)
    }
  for (const turn of turns) if (turn.t > from && turn.t < to) edges.push(turn.t)
  edges.sort((a, b) => a - b)
  return edges.filter((t, i) => i === 0 || t > edges[i - 1]!)
}

/** Of stretches, those that hold a moment, for moments that come in ascending order. */
class Sweep<S extends Stretch> {
  private readonly coming: S[]
  private here: S[] = []

  constructor(stretches: readonly S[]) {
    this.coming = [...stretches].sort((a, b) => b.from - a.from)
  }

  at(t: number): readonly S[] {
    while (this.coming.length && this.coming[this.coming.length - 1]!.from <= t) this.here.push(this.coming.pop()!)
    if (this.here.some(s => s.to <= t)) this.here = this.here.filter(s => s.to > t)
    return this.here
  }
}

/** The steps that stretches lie over, with those. */
function byStep<S extends Stretch>({ steps }: Ledger, stretches: readonly S[]): Map<Step, S[]> {
  const out = new Map<Step, S[]>()
  for (const s of stretches) {
    if (s.from >= s.to) continue
    for (let i = indexAt(steps, s.from, x => x.t); i < steps.length && steps[i]!.t < s.to; i++) {
      const here = out.get(steps[i]!)
      if (here) here.push(s)
      else out.set(steps[i]!, [s])
    }
  }
  return out
}

/** The index of the last one that begins at or before `t`; 0 before the first. */
export function indexAt<T>(all: readonly T[], t: number, beginOf: (one: T) => number): number {
  let low = 0
  let high = all.length - 1
  while (low < high) {
    const mid = (low + high + 1) >> 1
    if (beginOf(all[mid]!) <= t) low = mid
    else high = mid - 1
  }
  return low
}
