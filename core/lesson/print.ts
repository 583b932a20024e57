import type { Box } from '../folio/basics'
import { boxOfPath, isUprightRectangle, pathData, times, type Matrix, type PathCommand } from './path'

/** What is printed in a frame, as shapes: sharp at any size, and small, as each letter's shape is there once. */
export interface Print {
  /** Path data (W3C, SVG 2, 9.3), each in its own units. */
  shapes: string[]
  clips: PrintClip[]
  marks: PrintMark[]
}
export interface PrintClip {
  shape: number
  /** Units of the shape to points of the frame. */
  matrix: Matrix
  even?: true
}
/** Shapes that are painted alike, one after another. */
export interface PrintMark {
  /** How a shape's units are turned and scaled to points. */
  turn: [number, number, number, number]
  paint: PrintPaint
  /** Indexes of clips that hold. */
  clips?: number[]
  /** Shape, x, y; places in fiftieths of a point, each as what it is more than the one before. */
  at: number[]
}
export interface PrintPaint {
  fill?: string
  /** Whether overlapping parts are left out. */
  even?: true
  stroke?: string
  /** Width in the shape's units, and how ends, corners and dashes are. */
  width?: number
  cap?: CanvasLineCap
  join?: CanvasLineJoin
  miter?: number
  dash?: number[]
  alpha?: number
}

/** Something that was drawn: its path in its own units, and what takes those to points of the frame. */
export interface Drawn {
  path: readonly PathCommand[]
  matrix: Matrix
  paint: PrintPaint
  clips: readonly DrawnClip[]
}
export interface DrawnClip {
  path: readonly PathCommand[]
  matrix: Matrix
  even: boolean
}

/** Places are kept to a fiftieth of a point: less than a picture point at the closest view. */
const PLACE = 50

/**
 * What was drawn, as a print; what is outside the frame is left out.
 * @param width of the frame, points @param height of the frame, points
 */
export function printOfDrawn(drawn: readonly Drawn[], width: number, height: number): Print {
  const frame: Box = { x: 0, y: 0, w: width, h: height }
  const print: Print = { shapes: [], clips: [], marks: [] }
  const shapes = new Shapes(print.shapes)
  const clips = new Map<DrawnClip, number | null>()
  const last = { key: '', mark: null as PrintMark | null, x: 0, y: 0 }
  for (const { path, matrix, paint, clips: held } of drawn) {
    const reach = (paint.width ?? 0) * scaleOf(matrix)
    const box = boxOfPath(path, matrix)
    if (!box || !overlap(box, frame, reach)) continue
    const { index, unit } = shapes.of(path, matrix)
    const turn = matrix.slice(0, 4).map(v => short(v * unit)) as PrintMark['turn']
    const scaled = paint.width === undefined ? paint : inUnits(paint, unit)
    const holding = held.flatMap(clip => {
      if (!clips.has(clip)) clips.set(clip, clipIn(clip, frame, shapes, print.clips))
      const at = clips.get(clip)!
      return at === null ? [] : [at]
    })
    const x = Math.round(matrix[4] * PLACE)
    const y = Math.round(matrix[5] * PLACE)
    const key = JSON.stringify([turn, scaled, holding])
    if (last.mark && last.key === key) last.mark.at.push(index, x - last.x, y - last.y)
    else {
      last.mark = { turn, paint: scaled, ...(holding.length ? { clips: holding } : {}), at: [index, x, y] }
      print.marks.push(last.mark)
    }
    Object.assign(last, { key, x, y })
  }
  return print
}

/** A clip's index; null for one that leaves all of the frame. */
function clipIn(clip: DrawnClip, frame: Box, shapes: Shapes, into: PrintClip[]): number | null {
  const { path, matrix, even } = clip
  const box = boxOfPath(path, matrix)
  const whole =
    box &&
    isUprightRectangle(path, matrix) &&
    box.x <= 0 &&
    box.y <= 0 &&
    box.x + box.w >= frame.w &&
    box.y + box.h >= frame.h
  if (whole) return null
  const { index, unit } = shapes.of(path, matrix)
  const [a, b, c, d, e, f] = matrix
  return (
    into.push({
      shape: index,
      matrix: [short(a * unit), short(b * unit), short(c * unit), short(d * unit), short(e), short(f)],
      ...(even ? { even: true } : {}),
    }) - 1
  )
}

/** Shapes, each once, in whole numbers of a unit that is a fiftieth of a point where it is first used. */
class Shapes {
  private readonly known = new Map<readonly PathCommand[], { index: number; unit: number }>()
  private readonly byData = new Map<string, number>()
  constructor(private readonly list: string[]) {}

  of(path: readonly PathCommand[], matrix: Matrix): { index: number; unit: number } {
    const had = this.known.get(path)
    if (had) return had
    const unit = 1 / (PLACE * scaleOf(matrix) || 1)
    const data = pathData(path, unit)
    // Where the same shape is another object, its unit is nearly the same, and so are its numbers.
    const key = `${data} ${short(unit)}`
    const index = this.byData.get(key) ?? this.list.push(data) - 1
    this.byData.set(key, index)
    const made = { index, unit }
    this.known.set(path, made)
    return made
  }
}

const inUnits = (paint: PrintPaint, unit: number): PrintPaint => ({
  ...paint,
  width: short(paint.width! / unit),
  ...(paint.dash ? { dash: paint.dash.map(d => short(d / unit)) } : {}),
})
const scaleOf = ([a, b, c, d]: Matrix) => Math.sqrt(Math.abs(a * d - b * c)) || Math.hypot(a, b, c, d)
const short = (v: number) => Number(v.toPrecision(6))
const overlap = (a: Box, b: Box, by: number) =>
  a.x - by < b.x + b.w && a.x + a.w + by > b.x && a.y - by < b.y + b.h && a.y + a.h + by > b.y

/** What a print is painted on. */
export interface PrintContext<Path> {
  fillStyle: unknown
  strokeStyle: unknown
  globalAlpha: number
  lineWidth: number
  lineCap: unknown
  lineJoin: unknown
  miterLimit: number
  save(): void
  restore(): void
  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void
  setLineDash(dash: number[]): void
  fill(path: Path, rule: 'nonzero' | 'evenodd'): void
  stroke(path: Path): void
  clip(path: Path, rule: 'nonzero' | 'evenodd'): void
}

/** Paints a print. @param scale pixels a point @param pathOf makes a path of path data */
export function paintPrint<Path>(
  context: PrintContext<Path>,
  print: Print,
  scale: number,
  pathOf: (data: string) => Path,
): void {
  const paths: Path[] = []
  const path = (i: number) => (paths[i] ??= pathOf(print.shapes[i] ?? ''))
  const page: Matrix = [scale, 0, 0, scale, 0, 0]
  for (const { turn, paint, clips, at } of print.marks) {
    context.save()
    for (const clip of (clips ?? []).map(i => print.clips[i]!)) {
      context.setTransform(...times(page, clip.matrix))
      context.clip(path(clip.shape), clip.even ? 'evenodd' : 'nonzero')
    }
    context.globalAlpha = paint.alpha ?? 1
    if (paint.fill) context.fillStyle = paint.fill
    if (paint.stroke) {
      context.strokeStyle = paint.stroke
      context.lineWidth = paint.width ?? 1
      context.lineCap = paint.cap ?? 'butt'
      context.lineJoin = paint.join ?? 'miter'
      context.miterLimit = paint.miter ?? 10
      context.setLineDash(paint.dash ?? [])
    }
    let [x, y] = [0, 0]
    for (let k = 0; k < at.length; k += 3) {
      x += at[k + 1]!
      y += at[k + 2]!
      context.setTransform(...times(page, [...turn, x / PLACE, y / PLACE]))
      if (paint.fill) context.fill(path(at[k]!), paint.even ? 'evenodd' : 'nonzero')
      if (paint.stroke) context.stroke(path(at[k]!))
    }
    context.restore()
  }
}
