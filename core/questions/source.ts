import type { Outline, PageText, TextPiece } from './model'

/**
 * An item of positioned text as pdf.js gives it: `transform` maps letter space to PDF user space, width and height in
 * user space.
 */
export interface PdfTextItem {
  str: string
  transform: number[]
  width: number
  height: number
  fontName: string
}

/** Numbers of the drawing operators that are read, as in `pdfjs.OPS`. */
export interface DrawingOps {
  save: number
  restore: number
  transform: number
  constructPath: number
}

/** Most pieces of text that are read from one page; a page with more is not a worksheet. */
const MOST_PIECES = 20_000

const multiply = (m: readonly number[], n: readonly number[]): number[] => [
  m[0]! * n[0]! + m[2]! * n[1]!,
  m[1]! * n[0]! + m[3]! * n[1]!,
  m[0]! * n[2]! + m[2]! * n[3]!,
  m[1]! * n[2]! + m[3]! * n[3]!,
  m[0]! * n[4]! + m[2]! * n[5]! + m[4]!,
  m[1]! * n[4]! + m[3]! * n[5]! + m[5]!,
]

/**
 * Positioned text from pdf.js's text content.
 * @param view maps PDF user space to points from the top left (the transform of a viewport of scale 1)
 * @param bold whether a font, by its internal name, is a heavy one
 */
export function piecesOf(
  items: readonly PdfTextItem[],
  view: readonly number[],
  bold: (fontName: string) => boolean,
): TextPiece[] {
  const pieces: TextPiece[] = []
  const sameFont = new Map<string, boolean>()
  for (const item of items) {
    if (!item.str || pieces.length >= MOST_PIECES) continue
    const t = multiply(view, item.transform)
    const size = Math.hypot(t[2]!, t[3]!)
    // Text that is not upright is a watermark or a note in the margin, never a question.
    if (!(size > 1) || Math.abs(t[1]!) > 0.1 * Math.abs(t[0]!) || t[0]! <= 0) continue
    if (!sameFont.has(item.fontName)) sameFont.set(item.fontName, bold(item.fontName))
    pieces.push({
      text: item.str,
      x: t[4]!,
      y: t[5]!,
      w: item.width * Math.hypot(view[0]!, view[1]!),
      size,
      bold: sameFont.get(item.fontName)!,
    })
  }
  return pieces
}

/** Whether a font's PostScript name says that it is heavy. */
export function isBoldName(name: string): boolean {
  return /bold|black|heavy|semibold|demi|(^|[+-])(cmbx|lmbx|sfbx|ecbx|LMRoman\d*-Bold)|-b\b|,b\b/i.test(name)
}

/**
 * Small closed outlines (answer boxes and circles) from pdf.js's list of drawing operators.
 * @param args as `getOperatorList` gives them: a path's bounding box in user space is its third argument
 */
export function outlinesOf(
  fns: readonly number[],
  args: readonly unknown[],
  ops: DrawingOps,
  view: readonly number[],
): Outline[] {
  const found: Outline[] = []
  const stack: number[][] = []
  let at = [...view]
  for (let i = 0; i < fns.length && found.length < 2000; i++) {
    if (fns[i] === ops.save) stack.push(at)
    else if (fns[i] === ops.restore) at = stack.pop() ?? at
    else if (fns[i] === ops.transform) at = multiply(at, args[i] as number[])
    else if (fns[i] === ops.constructPath) {
      const bounds = (args[i] as [unknown, unknown, ArrayLike<number> | null])[2]
      if (!bounds || bounds.length < 4) continue
      const xs = [bounds[0]!, bounds[2]!],
        ys = [bounds[1]!, bounds[3]!]
      const corners = xs.flatMap(x =>
        ys.map(y => [at[0]! * x + at[2]! * y + at[4]!, at[1]! * x + at[3]! * y + at[5]!] as const),
      )
      const x = Math.min(...corners.map(c => c[0])),
        y = Math.min(...corners.map(c => c[1]))
      const w = Math.max(...corners.map(c => c[0])) - x,
        h = Math.max(...corners.map(c => c[1])) - y
      if (w >= 5 && w <= 22 && h >= 5 && h <= 22 && Math.abs(w - h) <= 0.2 * Math.max(w, h)) found.push({ x, y, w, h })
    }
  }
  return found.filter(
    (o, i) => !found.slice(Math.max(0, i - 4), i).some(p => Math.abs(p.x - o.x) + Math.abs(p.y - o.y) < 2),
  )
}

/** A page without anything on it, of a size in points. */
export function blankText(width: number, height: number): PageText {
  return { width, height, pieces: [], outlines: [] }
}
