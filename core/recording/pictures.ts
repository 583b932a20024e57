import type { Gap } from '../folio/model'
import type { TakeClock } from './clock'

/** How a coded picture stands for colours, in the words of WebCodecs; browsers differ, and a file has to say so. */
export interface Colours {
  fullRange: boolean
  matrix: string
  primaries: string
  transfer: string
}

/**
 * A picture as the camera's coder gives it: a `key` picture stands on its own and tells its colours; others hang on
 * those before.
 */
export interface CodedPicture {
  key: boolean
  data: Uint8Array
  colours?: Colours
}
/** A coded picture of the camera on the take's clock, ms (fractional). */
export interface Picture extends CodedPicture {
  t: number
}

/** Without a picture for so long, the camera's picture is not shown, ms. */
export const PICTURE_STAYS_MS = 1000

/**
 * Lays the camera's pictures on a take's clock. What was captured while it stood still is left out, and so is all that
 * hangs on it.
 */
export class PictureTrack {
  private waitsForKey = true
  private last = Number.NEGATIVE_INFINITY

  constructor(private readonly clock: TakeClock) {}

  /** @param capturedAt machine time, ms. @returns null where it is no part of the take */
  push({ data, key, colours }: CodedPicture, capturedAt: number): Picture | null {
    const runs = this.clock.runningPieces(capturedAt, capturedAt + 1e-3).length > 0
    if (!runs || (this.waitsForKey && !key)) {
      this.waitsForKey = true
      return null
    }
    this.waitsForKey = false
    // Pictures follow one another, also where the camera's clock is corrected backwards.
    const t = Math.max(this.clock.at(capturedAt), this.last + 1)
    this.last = t
    return { t, key, data, ...(key && colours ? { colours } : {}) }
  }
}

/** Where a camera's track has no picture to show. @param times when its pictures come, take ms, ascending */
export function pictureGaps(times: readonly number[], durationMs: number): Gap[] {
  return [...times, durationMs].flatMap((t, i) => {
    // The first picture stands for the moment before it, too.
    const from = i === 0 ? 0 : times[i - 1]! + PICTURE_STAYS_MS
    return t - from > (i === 0 ? PICTURE_STAYS_MS : 0) ? [{ from: Math.round(from), to: Math.round(t) }] : []
  })
}

/** What can go wrong with the camera of a running take. */
export type CameraFault = 'camera-lost' | 'camera-still' | 'camera-dark'
export interface CameraWarning {
  fault: CameraFault
  /** Machine time at which it began, ms. */ since: number
}

/** No picture for this long is told, and so is one as dark as this (0…255) for this long, ms. */
const STILL_MS = 1200
const DARK = 14
const DARK_MS = 1500

/** Watches the camera of a take. Times are the machine's, ms. */
export class CameraWatch {
  private lastAt: number
  private darkSince: number | null = null

  constructor(began: number) {
    this.lastAt = began
  }

  /** A picture came. @param light its mean brightness, 0…255 */
  push(light: number, now: number): void {
    this.lastAt = now
    this.darkSince = light > DARK ? null : (this.darkSince ?? now)
  }

  warnings(now: number): CameraWarning[] {
    if (now - this.lastAt > STILL_MS) return [{ fault: 'camera-still', since: this.lastAt }]
    return this.darkSince !== null && now - this.darkSince > DARK_MS
      ? [{ fault: 'camera-dark', since: this.darkSince }]
      : []
  }
}

/** The size in pixels that a VP8 key picture is coded for (RFC 6386, 9.1), or null when it is none. */
export function keyPictureSize(data: Uint8Array): { width: number; height: number } | null {
  const [tag, , , a, b, c] = data
  if (data.length < 10 || (tag! & 1) !== 0 || a !== 0x9d || b !== 0x01 || c !== 0x2a) return null
  const size = (i: number) => (data[i]! | (data[i + 1]! << 8)) & 0x3fff
  return { width: size(6), height: size(8) }
}
