import { pathSteps, type Mark } from '../ink/mark'
import type { Outline } from '../ink/stroke'
import type { Drawing } from '../scene/scene'

/** Ink lies on a grid of this many to a point; a hundredth of a millimetre is seen by nobody. */
const GRID = 20
/** A corner of an outline that lies nearer to the line between its neighbours is left out, grid units. */
const FLAT = 2.2

/** A colour of ink as it is printed: as it is, or, for paper without colours, as dark as it has to be. */
export type PrintColour = 'colour' | 'grey'

/** Red, green and blue, 0…1, of "#rgb", "#rrggbb" or "rgb(…)". */
function channels(colour: string): [number, number, number] {
  const hex = /^#([0-9a-f]{3}|[0-9a-f]{6})$/i.exec(colour)?.[1]
  if (hex) {
    const full = hex.length === 3 ? [...hex].map(c => c + c).join('') : hex
    return [0, 2, 4].map(i => Number.parseInt(full.slice(i, i + 2), 16) / 255) as [number, number, number]
  }
  const of = (colour.match(/\d+(\.\d+)?/g) ?? ['0', '0', '0']).slice(0, 3).map(v => Number(v) / 255)
  return [of[0] ?? 0, of[1] ?? 0, of[2] ?? 0]
}

/** What ink prints in: roles are told by their lines, so that grey need only be dark, and bands pale. */
export function printed(colour: string, alpha: number, as: PrintColour): [number, number, number] {
  const [r, g, b] = channels(colour)
  if (as === 'colour') return [r, g, b]
  // Relative luminance (ITU-R BT.709); thin lines are no paler than a dark grey.
  const light = 0.2126 * r + 0.7152 * g + 0.0722 * b
  const grey = alpha < 0.6 ? Math.max(0.6, light) : Math.min(0.35, light * 0.6)
  return [grey, grey, grey]
}

const n = (v: number) => String(Math.round(v * 100) / 100)

/** What {@link inkOperators} needs of a page: names of transparency by their strength, and of pictures by document. */
export interface InkNames {
  alpha(alpha: number): string
  picture(documentId: string): string | null
}

/**
 * Drawings of a board as the content of a PDF page (ISO 32000-1, 8.5), vector all of it: outlines as polygons on a fine
 * grid, marks as paths, pictures where they lie.
 * @param height of the page, points: PDF counts from its bottom
 * @returns lines of operators, to be put into the page's content
 */
export function inkOperators(drawings: readonly Drawing[], height: number, as: PrintColour, names: InkNames): string {
  const out: string[] = [`q 1 0 0 -1 0 ${n(height)} cm`]
  for (const d of drawings) {
    if (d.kind === 'ink' || d.kind === 'marks') {
      if (d.kind === 'marks') for (const mark of d.marks) out.push(...markOperators(mark, as, names))
      for (const outline of d.outlines) out.push(...outlineOperators(outline, as, names))
    }
    if (d.kind === 'picture') {
      const name = names.picture(d.documentId)
      // Pictures stand on their feet in PDF.
      if (name) out.push(`q ${n(d.box.w)} 0 0 ${n(-d.box.h)} ${n(d.box.x)} ${n(d.box.y + d.box.h)} cm /${name} Do Q`)
    }
  }
  out.push('Q')
  return out.join('\n')
}

function outlineOperators({ rings, colour, alpha }: Outline, as: PrintColour, names: InkNames): string[] {
  const shapes = rings.map(ringPath).filter(Boolean)
  if (!shapes.length) return []
  const [r, g, b] = printed(colour, alpha, as)
  return [
    `q ${1 / GRID} 0 0 ${1 / GRID} 0 0 cm ${n(r)} ${n(g)} ${n(b)} rg${alpha < 1 ? ` /${names.alpha(alpha)} gs` : ''}`,
    ...shapes,
    'f Q',
  ]
}

/** A ring, whose corners its curve leans to, as a polygon of few corners. */
function ringPath(ring: readonly number[]): string {
  const count = ring.length / 2
  if (count < 3) return ''
  const at = (i: number, k: 0 | 1) => ring[2 * ((i + count) % count) + k]!
  const points: [number, number][] = []
  for (let i = 0; i < count; i++) {
    // From half-way to half-way, through a quarter of the corner on each side: the curve's own middle.
    const middle = (k: 0 | 1) => (at(i - 1, k) + 6 * at(i, k) + at(i + 1, k)) / 8
    const half = (k: 0 | 1) => (at(i, k) + at(i + 1, k)) / 2
    for (const [x, y] of [
      [middle(0), middle(1)],
      [half(0), half(1)],
    ] as const)
      points.push([Math.round(x * GRID), Math.round(y * GRID)])
  }
  const kept = thinned(points)
  return kept.map(([x, y], i) => `${x} ${y} ${i ? 'l' : 'm'}`).join(' ') + ' h'
}

/** Leaves out what lies on the way from one corner to the next (Douglas and Peucker, 1973). */
function thinned(points: readonly [number, number][]): [number, number][] {
  const last = points.length - 1
  const keep = new Uint8Array(points.length)
  keep[0] = keep[last] = 1
  // A ring ends where it begins: it is cut in two at its farthest point.
  const stack: [number, number][] = [[0, last]]
  for (let next = stack.pop(); next; next = stack.pop()) {
    const [from, to] = next
    const [ax, ay] = points[from]!
    const [bx, by] = points[to]!
    const length = Math.hypot(bx - ax, by - ay)
    let most = FLAT,
      at = -1
    for (let i = from + 1; i < to; i++) {
      const [x, y] = points[i]!
      const off =
        length < 1 ? Math.hypot(x - ax, y - ay) : Math.abs((bx - ax) * (ay - y) - (ax - x) * (by - ay)) / length
      if (off > most) {
        most = off
        at = i
      }
    }
    if (at < 0) continue
    keep[at] = 1
    stack.push([from, at], [at, to])
  }
  return points.filter((_, i) => keep[i])
}

function markOperators(mark: Mark, as: PrintColour, names: InkNames): string[] {
  const { x = 0, y = 0, scale = 1, alpha = 1 } = mark
  const colour = (c: string, operator: string) => `${printed(c, alpha, as).map(n).join(' ')} ${operator}`
  const path = pathSteps(mark.d).map(([kind, ...c], i, all) => {
    if (kind === 'M' || kind === 'L') return `${c.map(n).join(' ')} ${kind === 'M' ? 'm' : 'l'}`
    if (kind === 'C') return `${c.map(n).join(' ')} c`
    if (kind === 'Z') return 'h'
    // A curve with one corner as one with two (ISO 32000 has only those).
    const before = all[i - 1]!
    const [px, py] = before.slice(-2) as unknown as [number, number]
    const [qx, qy, ex, ey] = c as unknown as [number, number, number, number]
    const third = (a: number, q: number) => a + (2 * (q - a)) / 3
    return `${[third(px, qx), third(py, qy), third(ex, qx), third(ey, qy), ex, ey].map(n).join(' ')} c`
  })
  const pen = mark.stroke
    ? [
        `${colour(mark.stroke, 'RG')} ${n((mark.width ?? 1) / scale)} w 1 J 1 j`,
        ...(mark.dash ? [`[${mark.dash.map(v => n(v / scale)).join(' ')}] 0 d`] : []),
      ]
    : []
  const paint = mark.fill && mark.stroke ? 'B' : mark.fill ? 'f' : mark.stroke ? 'S' : 'n'
  return [
    `q ${n(scale)} 0 0 ${n(scale)} ${n(x)} ${n(y)} cm`,
    ...(mark.fill ? [colour(mark.fill, 'rg')] : []),
    ...pen,
    ...(alpha < 1 ? [`/${names.alpha(alpha)} gs`] : []),
    ...path,
    `${paint} Q`,
  ]
}
