import type { Box } from '../folio/model'

/** Coefficients of ITU-R BT.709-6 (table 3, full range), in 1/65536. */
const [YR, YG, YB] = [13_933, 46_871, 4732]
const [UR, UG, UB] = [-7509, -25_259, 32_768]
const [VR, VG, VB] = [32_768, -29_763, -3005]
const HALF = 1 << 15

/** How the planes are to be understood: as a browser understands a canvas that it encodes. */
export const PLANES_COLOUR = {
  matrix: 'bt709',
  primaries: 'bt709',
  transfer: 'iec61966-2-1',
  fullRange: true,
} as const

/**
 * A picture as encoders take it in (I420: all of Y, then U and V for each two by two pixels), kept up to date by the
 * parts of it that change: of handwriting, little does from one picture to the next.
 */
export class Planes {
  /** Y, U and V, one behind another. */
  readonly bytes: Uint8Array<ArrayBuffer>

  /** @param width, height even, pixels */
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.bytes = new Uint8Array((width * height * 3) / 2)
  }

  /** The pixels that have to be given so that what changed in a box is whole: even edges, inside the picture. */
  around({ x, y, w, h }: Box): Box {
    const [left, top] = [Math.max(0, x & ~1), Math.max(0, y & ~1)]
    const right = Math.min(this.width, (Math.ceil(x + w) + 1) & ~1)
    const bottom = Math.min(this.height, (Math.ceil(y + h) + 1) & ~1)
    return { x: left, y: top, w: Math.max(0, right - left), h: Math.max(0, bottom - top) }
  }

  /**
   * Takes in a part of the picture.
   * @param rgba its pixels, four bytes each, opaque
   * @param box where it lies, with even edges
   */
  put(rgba: Uint8ClampedArray, { x, y, w, h }: Box): void {
    const { bytes, width, height } = this
    const chroma = width >> 1
    const u = width * height
    const v = u + (u >> 2)
    for (let row = 0; row < h; row += 2) {
      let at = (y + row) * width + x
      let c = ((y + row) >> 1) * chroma + (x >> 1)
      for (let k = row * w * 4, end = k + w * 4; k < end; k += 8, at += 2, c++) {
        const below = k + w * 4
        bytes[at] = luma(rgba, k)
        bytes[at + 1] = luma(rgba, k + 4)
        bytes[at + width] = luma(rgba, below)
        bytes[at + width + 1] = luma(rgba, below + 4)
        const r = rgba[k]! + rgba[k + 4]! + rgba[below]! + rgba[below + 4]!
        const g = rgba[k + 1]! + rgba[k + 5]! + rgba[below + 1]! + rgba[below + 5]!
        const b = rgba[k + 2]! + rgba[k + 6]! + rgba[below + 2]! + rgba[below + 6]!
        bytes[u + c] = within(128 + ((UR * r + UG * g + UB * b + 4 * HALF) >> 18))
        bytes[v + c] = within(128 + ((VR * r + VG * g + VB * b + 4 * HALF) >> 18))
      }
    }
  }
}

const luma = (rgba: Uint8ClampedArray, k: number) =>
  (YR * rgba[k]! + YG * rgba[k + 1]! + YB * rgba[k + 2]! + HALF) >> 16
const within = (value: number) => Math.max(0, Math.min(255, value))
