import type { PenRole } from './roles'
import type { Stroke } from './stroke'
import { quantise } from './quantise'

/** A line of the pen in page points: flat x, y pairs, without time. */
export type Path = number[]

/**
 * Single-stroke letters: for each character its pen lines on a grid with the baseline at 22 and capitals 21 high, and
 * half its width.
 */
export interface HandFont {
  glyph(char: string): { d: string; o: number } | undefined
}

/** Signs that the single-stroke fonts lack, drawn on the same grid. */
const SIGNS: Record<string, { d: string; o: number }> = {
  '×': { d: 'M5,8 L17,20 M17,8 L5,20', o: 11 },
  '÷': { d: 'M4,14 L20,14 M12,8 L12,9 M12,19 L12,20', o: 12 },
  '−': { d: 'M4,14 L20,14', o: 12 },
  '·': { d: 'M5,14 L6,14', o: 6 },
  '√': { d: 'M2,14 L5,12 9,22 15,-1 24,-1', o: 12 },
  '°': { d: 'M8,1 L6,2 5,4 6,6 8,7 10,6 11,4 10,2 8,1', o: 8 },
  'π': { d: 'M3,10 L5,8 19,8 M8,8 L7,16 5,22 M15,8 L15,16 16,20 18,22', o: 11 },
  '≈': { d: 'M4,11 L7,9 10,10 14,12 17,11 19,9 M4,18 L7,16 10,17 14,19 17,18 19,16', o: 12 },
  '≤': { d: 'M20,4 L4,11 20,18 M4,22 L20,22', o: 12 },
  '≥': { d: 'M4,4 L20,11 4,18 M4,22 L20,22', o: 12 },
  '→': { d: 'M2,14 L22,14 M16,9 L22,14 16,19', o: 12 },
  '✓': { d: 'M3,14 L8,22 19,2', o: 11 },
  'Δ': { d: 'M10,1 L2,22 18,22 10,1', o: 10 },
}
const SUPER: Record<string, string> = { '²': '2', '³': '3', '⁻': '-', '¹': '1' }
const UNITS_HIGH = 21
const BASELINE = 22

/** Takes the letters of a single-stroke font as the registry package keeps them: from "!" on, in ASCII order. */
export function handFont(chars: readonly { d: string; o: number }[]): HandFont {
  return { glyph: char => SIGNS[char] ?? chars[char.charCodeAt(0) - 33] }
}

/**
 * Lays text out as pen lines. `^2` or `²` raises what follows; unknown characters leave a space.
 * @param at baseline start in points; @param size height of capitals in points
 * @returns the lines in writing order, and where the line of text ends
 */
export function layText(
  font: HandFont,
  text: string,
  at: { x: number; y: number },
  size: number,
): { paths: Path[]; endX: number } {
  const paths: Path[] = []
  let x = at.x
  let raised = false
  for (const raw of text) {
    if (raw === '^') {
      raised = true
      continue
    }
    const char = SUPER[raw] ?? raw
    const up = raised || raw in SUPER
    const scale = (size / UNITS_HIGH) * (up ? 0.62 : 1)
    const glyph = char === ' ' ? undefined : font.glyph(char)
    const y = up ? at.y - size * 0.55 : at.y
    if (glyph)
      for (const line of parse(glyph.d))
        paths.push(line.map((n, i) => (i % 2 ? y + (n - BASELINE) * scale : x + n * scale)))
    x += (glyph ? glyph.o * 2 : 13) * scale
    raised = false
  }
  return { paths, endX: x }
}

/** Reads "M x,y L x,y x,y … M …" into lines. */
function parse(d: string): number[][] {
  return d
    .split('M')
    .filter(s => s.trim())
    .map(s => (s.match(/-?\d+(\.\d+)?/g) ?? []).map(Number))
}

export interface Handwriting {
  role: PenRole
  /** Take time of the first pen down, ms. */
  t0: number
  /** Points a second along the line; a quick hand writes at about 90. */
  speed?: number
  /** Samples a second. */
  rate?: number
  /** How far the hand strays, points. */
  jitter?: number
  random: () => number
}

/**
 * Gives pen lines a human hand: slower at the ends and in bends, pressure that swells and fades, a little stray, a
 * short
 * lift between lines.
 * @returns strokes with ids from `newId`, and the take time at which the last one ends
 */
export function writeByHand(
  paths: readonly Path[],
  hand: Handwriting,
  newId: () => string,
): { strokes: Stroke[]; end: number } {
  const { role, random, speed = 90, rate = 120, jitter = 0.22 } = hand
  let t = hand.t0
  let from: { x: number; y: number } | null = null
  const strokes: Stroke[] = []
  for (const path of paths) {
    if (path.length < 2) continue
    const start = { x: path[0]!, y: path[1]! }
    if (from) t += 45 + random() * 40 + Math.hypot(start.x - from.x, start.y - from.y) * 4
    const line = rounded(path)
    const length = lengthOf(line)
    const lasts = Math.max(40, (length / speed) * 1000 * (0.85 + random() * 0.3))
    const n = Math.max(2, Math.round((lasts / 1000) * rate))
    const stray = { x: random() * 6.28, y: random() * 6.28, f: 1.5 + random() }
    const points: number[] = []
    for (let i = 0; i <= n; i++) {
      const f = i / n
      // Minimum-jerk travel: a hand starts and ends at rest.
      const s = f * f * f * (10 - 15 * f + 6 * f * f)
      const p = pointAlong(line, s * length)
      const press = 0.34 + 0.36 * Math.sin(Math.PI * Math.min(1, f * 1.15 + 0.08)) + (random() - 0.5) * 0.05
      const wobble = (phase: number) => jitter * Math.sin(phase + f * stray.f * 4) + (random() - 0.5) * jitter * 0.25
      points.push(...quantise(p.x + wobble(stray.x), p.y + wobble(stray.y), press, t + f * lasts))
    }
    strokes.push({ id: newId(), role, tool: 'pen', points })
    t += lasts
    from = { x: line[line.length - 2]!, y: line[line.length - 1]! }
  }
  return { strokes, end: Math.round(t) }
}

/** Corner cutting (Chaikin, twice), which turns the fonts' straight pieces into pen curves; the ends stay. */
function rounded(path: Path): Path {
  let line = path
  for (let pass = 0; pass < 2 && line.length > 4; pass++) {
    const next: number[] = [line[0]!, line[1]!]
    for (let i = 0; i + 3 < line.length; i += 2) {
      const [ax, ay, bx, by] = [line[i]!, line[i + 1]!, line[i + 2]!, line[i + 3]!]
      next.push(ax * 0.75 + bx * 0.25, ay * 0.75 + by * 0.25, ax * 0.25 + bx * 0.75, ay * 0.25 + by * 0.75)
    }
    next.push(line[line.length - 2]!, line[line.length - 1]!)
    line = next
  }
  return line
}

function lengthOf(path: Path): number {
  let sum = 0
  for (let i = 2; i < path.length; i += 2) sum += Math.hypot(path[i]! - path[i - 2]!, path[i + 1]! - path[i - 1]!)
  return sum
}

function pointAlong(path: Path, distance: number): { x: number; y: number } {
  let left = distance
  for (let i = 2; i < path.length; i += 2) {
    const dx = path[i]! - path[i - 2]!,
      dy = path[i + 1]! - path[i - 1]!
    const span = Math.hypot(dx, dy)
    if (span >= left && span > 0) return { x: path[i - 2]! + (dx * left) / span, y: path[i - 1]! + (dy * left) / span }
    left -= span
  }
  return { x: path[path.length - 2]!, y: path[path.length - 1]! }
}

/** A repeatable source of numbers in [0, 1) (mulberry32), so that simulated hands write the same thing twice. */
export function seededRandom(seed: number): () => number {
  let a = seed >>> 0
  return () => {
    a = (a + 0x6d2b79f5) >>> 0
    let x = Math.imul(a ^ (a >>> 15), 1 | a)
    x = (x + Math.imul(x ^ (x >>> 7), 61 | x)) ^ x
    return ((x ^ (x >>> 14)) >>> 0) / 4294967296
  }
}
