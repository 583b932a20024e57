/** Boxes that hold others, and boxes that say when they were made (ISO/IEC 14496-12, 8.1 to 8.4). */
const HOLDERS = new Set(['moov', 'trak', 'mdia'])
const DATED = new Set(['mvhd', 'tkhd', 'mdhd'])
const HEAD = 8

/**
 * Takes out of an MP4 when it was made, so that the same content is the same bytes, whenever it is made.
 * @param file is changed in place
 */
export function timeless(file: Uint8Array): void {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength)
  const walk = (from: number, to: number) => {
    for (let at = from; at + HEAD <= to; ) {
      const size = view.getUint32(at)
      // A box of 64 bits of length, or up to the end, is media, and the last that matters.
      if (size < HEAD || at + size > to) return
      const kind = String.fromCharCode(...file.subarray(at + 4, at + HEAD))
      if (HOLDERS.has(kind)) walk(at + HEAD, at + size)
      // After one byte of version and three of flags: when made, when changed; twice as long in version 1.
      if (DATED.has(kind)) file.fill(0, at + HEAD + 4, at + HEAD + 4 + (file[at + HEAD] === 1 ? 16 : 8))
      at += size
    }
  }
  walk(0, file.length)
}
