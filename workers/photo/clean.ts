import type cvModule from '@techstark/opencv-js'
import { inOrder, isSheet, refineCorners, straightSize, type Grey, type Quad, type SheetFormat } from '../../core/photo'

export type Cv = typeof cvModule
type Mat = InstanceType<Cv['Mat']>

/** What is known of a picture's pixels: RGBA, row by row. */
export interface Pixels {
  width: number
  height: number
  data: Uint8ClampedArray
}

/** Longer side in which a sheet is looked for, pixels. */
const SEARCH = 900

/** Runs with a set of matrices that are all freed afterwards. */
function withMats<T>(run: (keep: <M extends { delete(): void }>(m: M) => M) => T): T {
  const kept: { delete(): void }[] = []
  try {
    return run(m => {
      kept.push(m)
      return m
    })
  } finally {
    kept.forEach(m => m.delete())
  }
}

/**
 * The corners of a sheet of paper in a photo, to a fraction of a pixel, or null when there is none that fills at least
 * an eighth of it.
 */
export function findSheet(cv: Cv, pixels: Pixels): Quad | null {
  return withMats(keep => {
    const whole = keep(cv.matFromImageData(pixels as unknown as ImageData))
    const grey = keep(new cv.Mat())
    cv.cvtColor(whole, grey, cv.COLOR_RGBA2GRAY)
    const scale = Math.min(1, SEARCH / Math.max(pixels.width, pixels.height))
    const small = keep(new cv.Mat())
    cv.resize(
      grey,
      small,
      new cv.Size(Math.round(pixels.width * scale), Math.round(pixels.height * scale)),
      0,
      0,
      cv.INTER_AREA,
    )
    cv.GaussianBlur(small, small, new cv.Size(5, 5), 0)
    const rough = largestQuad(cv, small, keep)
    if (!rough) return null
    const full = rough.map(p => ({ x: (p.x + 0.5) / scale, y: (p.y + 0.5) / scale })) as Quad
    const picture: Grey = { width: pixels.width, height: pixels.height, data: grey.data }
    return refineCorners(picture, refineCorners(picture, full, Math.ceil(6 / scale)), Math.ceil(2.5 / scale) + 2)
  })
}

function largestQuad(cv: Cv, grey: Mat, keep: <M extends { delete(): void }>(m: M) => M): Quad | null {
  const area = grey.rows * grey.cols
  let best: { quad: Quad; area: number } | null = null
  const kernel = keep(cv.getStructuringElement(cv.MORPH_RECT, new cv.Size(5, 5)))
  const masks = [
    (m: Mat) => cv.threshold(grey, m, 0, 255, cv.THRESH_BINARY + cv.THRESH_OTSU),
    (m: Mat) => {
      cv.Canny(grey, m, 40, 120)
      cv.dilate(m, m, kernel)
    },
    (m: Mat) => cv.adaptiveThreshold(grey, m, 255, cv.ADAPTIVE_THRESH_MEAN_C, cv.THRESH_BINARY, 151, -4),
  ]
  for (const make of masks) {
    const mask = keep(new cv.Mat())
    make(mask)
    cv.morphologyEx(mask, mask, cv.MORPH_CLOSE, kernel)
    const contours = keep(new cv.MatVector()),
      tree = keep(new cv.Mat())
    cv.findContours(mask, contours, tree, cv.RETR_LIST, cv.CHAIN_APPROX_SIMPLE)
    for (let i = 0; i < (contours.size() as unknown as number); i++) {
      const contour = keep(contours.get(i))
      if (cv.contourArea(contour) < area / 8) continue
      const hull = keep(new cv.Mat())
      cv.convexHull(contour, hull)
      const around = cv.arcLength(hull, true)
      for (const slack of [0.02, 0.035, 0.06]) {
        const corners = keep(new cv.Mat())
        cv.approxPolyDP(hull, corners, slack * around, true)
        if (corners.rows !== 4) continue
        const quad = inOrder([0, 1, 2, 3].map(k => ({ x: corners.data32S[2 * k]!, y: corners.data32S[2 * k + 1]! })))
        const size = cv.contourArea(corners)
        // The picture's own border is no sheet.
        const border = quad.filter(p => p.x < 3 || p.y < 3 || p.x > grey.cols - 4 || p.y > grey.rows - 4).length
        if (isSheet(quad) && border < 3 && size > (best?.area ?? area / 8)) best = { quad, area: size }
        break
      }
    }
    if (best) return best.quad
  }
  return null
}

/**
 * A sheet cut out of a photo, straightened, and with its light evened out if wanted: the paper becomes white, and what
 * is written on it
 * keeps its shades.
 */
export function cleanPhoto(
  cv: Cv,
  pixels: Pixels,
  corners: Quad,
  even: boolean,
  format: SheetFormat = 'guess',
): Pixels {
  return withMats(keep => {
    const source = keep(cv.matFromImageData(pixels as unknown as ImageData))
    const { width, height } = straightSize(corners, pixels, format)
    const from = keep(
      cv.matFromArray(
        4,
        1,
        cv.CV_32FC2,
        corners.flatMap(p => [p.x, p.y]),
      ),
    )
    const to = keep(cv.matFromArray(4, 1, cv.CV_32FC2, [0, 0, width, 0, width, height, 0, height]))
    const turn = keep(cv.getPerspectiveTransform(from, to))
    const straight = keep(new cv.Mat())
    cv.warpPerspective(source, straight, turn, new cv.Size(width, height), cv.INTER_LINEAR, cv.BORDER_REPLICATE)
    if (even) evenOut(cv, straight, keep)
    return { width, height, data: new Uint8ClampedArray(straight.data) }
  })
}

/** Divides a picture by its own paper: the brightest of each neighbourhood, smoothed. */
function evenOut(cv: Cv, picture: Mat, keep: <M extends { delete(): void }>(m: M) => M) {
  const scale = Math.min(1, 400 / Math.max(picture.rows, picture.cols))
  const paper = keep(new cv.Mat())
  cv.resize(
    picture,
    paper,
    new cv.Size(Math.max(8, Math.round(picture.cols * scale)), Math.max(8, Math.round(picture.rows * scale))),
    0,
    0,
    cv.INTER_AREA,
  )
  const kernel = keep(cv.getStructuringElement(cv.MORPH_ELLIPSE, new cv.Size(15, 15)))
  cv.morphologyEx(paper, paper, cv.MORPH_CLOSE, kernel)
  cv.GaussianBlur(paper, paper, new cv.Size(21, 21), 0)
  cv.resize(paper, paper, new cv.Size(picture.cols, picture.rows), 0, 0, cv.INTER_LINEAR)
  // A little more than the paper's own brightness, so that grain of the paper is white, too.
  cv.divide(picture, paper, picture, 262)
  const data = picture.data
  for (let i = 3; i < data.length; i += 4) data[i] = 255
}

/**
 * Calls back with the library once its WebAssembly is ready. Not a promise of the library itself: it has a `then` of
 * its own that
 * gives itself, which a promise would follow for ever.
 */
export function whenReady(of: unknown, ready: () => void): void {
  const library = of as { Mat?: unknown; onRuntimeInitialized?: () => void }
  if (library.Mat) ready()
  else library.onRuntimeInitialized = ready
}
