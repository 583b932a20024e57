import type { Box } from '../folio/basics'

/** a b c d e f, as a canvas takes them: x' = a x + c y + e, y' = b x + d y + f. */
export type Matrix = [number, number, number, number, number, number]

/** A piece of a path: how it goes on, and its points, absolute. */
export type PathCommand = readonly ['M' | 'L' | 'Q' | 'C' | 'Z', ...number[]]

/** First the second matrix, then the first. */
export const times = ([a, b, c, d, e, f]: Matrix, [p, q, r, s, t, u]: Matrix): Matrix => [
  a * p + c * q,
  b * p + d * q,
  a * r + c * s,
  b * r + d * s,
  a * t + c * u + e,
  b * t + d * u + f,
]

/** A point taken by a matrix. */
export const applied = ([a, b, c, d, e, f]: Matrix, x: number, y: number): [number, number] => [
  a * x + c * y + e,
  b * x + d * y + f,
]

/** A path taken by a matrix. */
export const moved = (path: readonly PathCommand[], matrix: Matrix): PathCommand[] =>
  path.map(([kind, ...points]) => [kind, ...pairs(points).flatMap(([x, y]) => applied(matrix, x, y))])

const pairs = (points: readonly number[]): [number, number][] =>
  Array.from({ length: points.length / 2 }, (_, i) => [points[2 * i]!, points[2 * i + 1]!])

/** The box round a path's points (also those that curves only lean to), taken by a matrix; null for an empty path. */
export function boxOfPath(path: readonly PathCommand[], matrix: Matrix): Box | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const [, ...points] of path)
    for (const [px, py] of pairs(points)) {
      const [x, y] = applied(matrix, px, py)
      left = Math.min(left, x)
      right = Math.max(right, x)
      top = Math.min(top, y)
      bottom = Math.max(bottom, y)
    }
  return left > right ? null : { x: left, y: top, w: right - left, h: bottom - top }
}

/** Whether a path is one rectangle that stands upright where the matrix takes it. */
export function isUprightRectangle(path: readonly PathCommand[], matrix: Matrix): boolean {
  if (path.filter(([kind]) => kind === 'M').length !== 1 || path.some(([kind]) => kind === 'Q' || kind === 'C'))
    return false
  const corners = path.flatMap(([, ...points]) => pairs(points).map(([x, y]) => applied(matrix, x, y)))
  const box = boxOfPath(path, matrix)
  if (!box || corners.length < 4 || corners.length > 5) return false
  const near = (a: number, b: number) => Math.abs(a - b) < 1e-3
  const onCorner = ([x, y]: [number, number]) =>
    (near(x, box.x) || near(x, box.x + box.w)) && (near(y, box.y) || near(y, box.y + box.h))
  const along = corners.slice(1).every(([x, y], i) => near(x, corners[i]![0]) !== near(y, corners[i]![1]))
  return corners.every(onCorner) && (along || corners.length === 5)
}

/** Path data as in SVG (W3C, SVG 2, 9.3), relative, in whole numbers of a unit. */
export function pathData(path: readonly PathCommand[], unit: number): string {
  let [x, y, fromX, fromY] = [0, 0, 0, 0]
  let data = ''
  let last = ''
  for (const [kind, ...points] of path) {
    if (kind === 'Z') {
      data += last = 'z'
      ;[x, y] = [fromX, fromY]
      continue
    }
    const whole = pairs(points).map(([px, py]) => [Math.round(px / unit), Math.round(py / unit)] as const)
    const numbers = whole.flatMap(([px, py]) => [px - x, py - y])
    const letter = kind.toLowerCase()
    // What goes on in the same way needs no letter again, but a second "m" would be a line.
    data += (letter === last && letter !== 'm' ? '' : letter) + joined(numbers, letter === last && letter !== 'm')
    last = letter
    ;[x, y] = whole.at(-1) ?? [x, y]
    if (kind === 'M') [fromX, fromY] = [x, y]
  }
  return data
}

/** Numbers with as little between them as can be. */
const joined = (numbers: readonly number[], goesOn: boolean) =>
  numbers.map((n, i) => (n < 0 || (i === 0 && !goesOn) ? String(n) : ` ${n}`)).join('')
