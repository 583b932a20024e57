import type { Box } from '../folio/basics'
import { POINT_SIZE } from '../ink/stroke'
import type { Stretch } from './stretches'

/**
 * How long a pointer's trail is seen, how long the light takes to come and go, and how often moving pictures move, ms.
 */
export const TRAIL_MS = 1200
export const SPOT_MS = 250
export const TICK_MS = 33
/** How dark the rest is in a spotlight. */
const DARK = 0.55

/** A trail as it is seen at a moment: flat x, y, strength 0…1. */
export interface Trail {
  id: string
  points: number[]
}

/** What is seen at a moment beside the board. */
export interface Seen {
  /** The piece of the page that is gone closer to, while it is. */
  look?: Box
  /** The piece that is in the light, and how dark the rest is, 0…1. */
  spot?: { box: Box; dark: number }
  trails?: Trail[]
}

interface Look {
  t: number
  box: Box | null
  over: number
}

/**
 * Where students look: closer to a piece, at a piece in the light, along a pointer. None of it stays on the board, and
 * none is undone.
 */
export class Looks {
  private readonly looks: Look[] = []
  private readonly spots: { t: number; box: Box | null }[] = []
  private readonly trails = new Map<string, number[]>()

  /** Students see a piece of the page, or the frame again. @returns while the view moves, ms */
  zoom(t: number, box: Box | null, over: number): Stretch {
    this.looks.push({ t, box, over })
    return { from: t, to: t + over }
  }
  /** A piece of the page is put in the light, or none. @returns while the light comes or goes, ms */
  spotlight(t: number, box: Box | null): Stretch {
    this.spots.push({ t, box })
    return { from: t, to: t + SPOT_MS }
  }
  /** A pointer leaves a trail. @returns while that fades, ms; null where there is none yet */
  pointer(id: string, points: readonly number[]): Stretch | null {
    this.trails.set(id, [...points])
    const last = points[points.length - 1]
    return last === undefined ? null : { from: last, to: last + TRAIL_MS }
  }

  /** The view is the whole frame again from `t` ms on. */
  whole(t: number): void {
    this.looks.push({ t, box: null, over: 0 })
  }

  /** Looks, at `t` ms, where it was looked at `to`. */
  goBack(to: number, t: number): void {
    this.looks.push({ t, box: this.looks.findLast(l => to > 0 && l.t <= to)?.box ?? null, over: 0 })
    this.spots.push({ t, box: this.spots.findLast(s => to > 0 && s.t <= to)?.box ?? null })
  }

  /** @returns whether there is such a trail */
  extend(id: string, points: readonly number[]): boolean {
    const trail = this.trails.get(id)
    if (trail) for (const n of points) trail.push(n)
    return trail !== undefined
  }

  /** What is looked at at `t` ms. @param frame the box of the frame at the time */
  at(t: number, frame: Box | undefined): Seen {
    const out: Seen = {}
    const look = frame && this.lookAt(t, frame)
    if (look) out.look = look
    const i = this.spots.findLastIndex(s => s.t <= t)
    const now = this.spots[i],
      before = this.spots[i - 1]
    const share = now ? Math.min(1, (t - now.t) / SPOT_MS) : 0
    if (now?.box) out.spot = { box: now.box, dark: DARK * (before?.box ? 1 : share) }
    else if (before?.box && share < 1) out.spot = { box: before.box, dark: DARK * (1 - share) }
    const trails = Number.isFinite(t) ? [...this.trails].flatMap(([id, points]) => fadingTrail(id, points, t)) : []
    if (trails.length) out.trails = trails
    return out
  }

  /** Between two looks, the view goes evenly in size, slow at both ends. */
  private lookAt(t: number, frame: Box): Box | undefined {
    const i = this.looks.findLastIndex(l => l.t <= t)
    const now = this.looks[i]
    if (!now) return undefined
    const share = now.over > 0 ? Math.min(1, (t - now.t) / now.over) : 1
    if (share >= 1) return now.box ?? undefined
    const from = this.looks[i - 1]?.box ?? frame,
      to = now.box ?? frame
    const s = share * share * (3 - 2 * share)
    const w = from.w * (to.w / from.w) ** s
    const f = from.w === to.w ? s : (w - from.w) / (to.w - from.w)
    const mix = (a: number, b: number) => a + (b - a) * f
    return { x: mix(from.x, to.x), y: mix(from.y, to.y), w, h: mix(from.h, to.h) }
  }
}

function fadingTrail(id: string, points: readonly number[], t: number): Trail[] {
  const out: number[] = []
  for (let i = 0; i < points.length; i += POINT_SIZE) {
    const age = t - points[i + 3]!
    if (age >= 0 && age < TRAIL_MS) out.push(points[i]!, points[i + 1]!, 1 - age / TRAIL_MS)
  }
  return out.length >= 3 ? [{ id, points: out }] : []
}
