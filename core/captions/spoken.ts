import type { Cue } from './vtt'

/** A stretch in which somebody speaks, ms. */
export interface Spoken {
  from: number
  to: number
}

/** The end of a cue goes to a pause that is so near to it in what is spoken, ms. */
const NEAR = 900
/** A cue stays so long after its words where nothing follows, ms, so that it can be read. */
const STAYS = 700

/**
 * Cues that were spread over a stretch, spread over what is spoken in it instead: the words keep their shares, no cue
 * begins in silence, and one ends where a pause is heard when there is one near.
 * @param cues one after another, over all of the stretch @param spoken ascending, of anywhere
 * @returns the cues as they were where nobody speaks in the stretch
 */
export function timedToSpeech(cues: readonly Cue[], { from, to }: Spoken, spoken: readonly Spoken[]): Cue[] {
  const parts = spoken
    .filter(s => s.to > from && s.from < to)
    .map(s => ({ from: Math.max(from, s.from), to: Math.min(to, s.to) }))
  const total = parts.reduce((sum, s) => sum + s.to - s.from, 0)
  if (total <= 0 || to <= from) return [...cues]
  const pauses = pausesIn(parts)
  const edges = cues.slice(0, -1).map(c => snapped((total * (c.to - from)) / (to - from), pauses))
  const [starts, ends] = [
    [0, ...edges],
    [...edges, total],
  ]
  const timed = cues.map((cue, i) => ({
    text: cue.text,
    from: Math.round(momentOf(parts, starts[i]!, 'after')),
    to: Math.round(momentOf(parts, ends[i]!, 'before')),
  }))
  return timed
    .map((cue, i) => ({ ...cue, to: Math.min(timed[i + 1]?.from ?? to, cue.to + STAYS) }))
    .filter(cue => cue.to > cue.from)
}

/** Where pauses are, in ms of what is spoken before them. */
function pausesIn(parts: readonly Spoken[]): number[] {
  let said = 0
  return parts.slice(0, -1).map(s => (said += s.to - s.from))
}

const snapped = (said: number, pauses: readonly number[]): number => {
  const nearest = pauses.reduce((best, p) => (Math.abs(p - said) < Math.abs(best - said) ? p : best), Infinity)
  return Math.abs(nearest - said) <= NEAR ? nearest : said
}

/** The moment at which so much has been spoken, ms; at a pause, before or after it. */
function momentOf(parts: readonly Spoken[], said: number, side: 'before' | 'after'): number {
  let left = said
  for (const [i, { from, to }] of parts.entries()) {
    const length = to - from
    const isIn = side === 'before' ? left <= length : left < length
    if (isIn || i === parts.length - 1) return Math.min(to, from + left)
    left -= length
  }
  return 0
}
