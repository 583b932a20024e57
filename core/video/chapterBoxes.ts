import { cutTo } from '../folio/text'
import type { Chapter } from '../cut/cut'

/**
 * Chapters inside video files, as bytes. The muxer has no call for them, so they travel as raw metadata.
 */

const text = new TextEncoder()

/**
 * Body of an MP4 `chpl` box: version 1, a count, then for each chapter its start in 100 ns and a title of at most 255
 * bytes (layout as read by ffmpeg's mov demuxer). At most 255 chapters fit.
 */
export function chplBody(chapters: readonly Chapter[]): Uint8Array {
  const entries = chapters
    .slice(0, 255)
    .map(c => ({ start: BigInt(Math.round(c.t)) * 10_000n, title: bytesWithin(c.title, 255) }))
  const out = new Uint8Array(9 + entries.reduce((sum, e) => sum + 9 + e.title.length, 0))
  const view = new DataView(out.buffer)
  out[0] = 1
  view.setUint8(8, entries.length)
  let at = 9
  for (const e of entries) {
    view.setBigUint64(at, e.start)
    out[at + 8] = e.title.length
    out.set(e.title, at + 9)
    at += 9 + e.title.length
  }
  return out
}

/** The first whole characters of a text that fit in `most` bytes of UTF-8. */
function bytesWithin(title: string, most: number): Uint8Array {
  return text.encode(cutTo(title.replace(/\s+/g, ' ').trim(), most))
}

/** EBML identifiers (RFC 9559, section 5). */
const EBML = {
  chapters: 0x1043a770,
  edition: 0x45b9,
  chapter: 0xb6,
  uid: 0x73c4,
  start: 0x91,
  end: 0x92,
  display: 0x80,
  string: 0x85,
  language: 0x437c,
  tags: 0x1254c367,
  tag: 0x7373,
  simpleTag: 0x67c8,
  tagName: 0x45a3,
  tagBinary: 0x4485,
  segment: 0x18538067,
} as const

/** A Matroska `Chapters` element (RFC 9559, section 5.1.7), times in nanoseconds. @param duration of the video, ms */
export function matroskaChapters(chapters: readonly Chapter[], duration: number): Uint8Array {
  return element(
    EBML.chapters,
    element(
      EBML.edition,
      concat(
        chapters.map((c, i) =>
          element(
            EBML.chapter,
            concat([
              element(EBML.uid, uint(BigInt(i + 1))),
              element(EBML.start, uint(BigInt(Math.round(c.t)) * 1_000_000n)),
              element(EBML.end, uint(BigInt(Math.round(chapters[i + 1]?.t ?? duration)) * 1_000_000n)),
              element(
                EBML.display,
                concat([
                  element(EBML.string, text.encode(c.title.replace(/\s+/g, ' ').trim())),
                  element(EBML.language, text.encode('und')),
                ]),
              ),
            ]),
          ),
        ),
      ),
    ),
  )
}

function element(id: number, body: Uint8Array): Uint8Array {
  const idBytes: number[] = []
  for (let rest = id; rest > 0; rest = Math.floor(rest / 256)) idBytes.unshift(rest % 256)
  // Four bytes of size, always: enough for any chapter list.
  const size = [0x10 | (body.length >>> 24), (body.length >>> 16) & 255, (body.length >>> 8) & 255, body.length & 255]
  return concat([Uint8Array.from([...idBytes, ...size]), body])
}

function uint(value: bigint): Uint8Array {
  const out = new Uint8Array(8)
  new DataView(out.buffer).setBigUint64(0, value)
  return out
}

function concat(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0))
  let at = 0
  for (const p of parts) {
    out.set(p, at)
    at += p.length
  }
  return out
}

interface Found {
  id: number
  sizeAt: number
  sizeLength: number
  size: number
  bodyAt: number
}

/**
 * Lifts a `Chapters` element out of the binary tag it was written in. The tag is the last thing in the Tags element, so
 * that shrinking the enclosing elements' sizes by its length leaves it standing behind them, at the level where
 * players look for it. Sizes keep their width in bytes; nothing moves.
 * @param head the first bytes of the file, at least up to the end of the Tags element; changed in place
 * @param length of the Chapters element in bytes
 * @returns false where the file is not laid out as expected (and then nothing is changed)
 */
export function promoteChapters(head: Uint8Array, length: number): boolean {
  const segment = find(head, 0, head.length, EBML.segment)
  const tags = segment && find(head, segment.bodyAt, head.length, EBML.tags)
  const tag = tags && find(head, tags.bodyAt, tags.bodyAt + tags.size, EBML.tag)
  if (!tags || !tag) return false
  let simple: Found | undefined
  for (let at = tag.bodyAt; at < tag.bodyAt + tag.size; ) {
    const e = read(head, at)
    if (!e) return false
    if (e.id === EBML.simpleTag) simple = e
    at = e.bodyAt + e.size
  }
  const binary = simple && find(head, simple.bodyAt, simple.bodyAt + simple.size, EBML.tagBinary)
  if (!simple || !binary || binary.size !== length || read(head, binary.bodyAt)?.id !== EBML.chapters) return false
  for (const e of [tags, tag, simple, binary]) writeSize(head, e, e.size - length)
  return true
}

function find(bytes: Uint8Array, from: number, to: number, id: number): Found | undefined {
  for (let at = from; at < to; ) {
    const e = read(bytes, at)
    if (!e || e.id === id) return e
    at = e.bodyAt + e.size
  }
  return undefined
}

function read(bytes: Uint8Array, at: number): Found | undefined {
  const width = (byte: number | undefined) => (byte ? Math.clz32(byte) - 23 : 9)
  const idLength = width(bytes[at])
  const sizeAt = at + idLength
  const sizeLength = width(bytes[sizeAt])
  if (idLength > 4 || sizeLength > 8 || sizeAt + sizeLength > bytes.length) return undefined
  let id = 0
  for (let i = 0; i < idLength; i++) id = id * 256 + bytes[at + i]!
  let size = bytes[sizeAt]! & (0xff >> sizeLength)
  for (let i = 1; i < sizeLength; i++) size = size * 256 + bytes[sizeAt + i]!
  return { id, sizeAt, sizeLength, size, bodyAt: sizeAt + sizeLength }
}

function writeSize(bytes: Uint8Array, e: Found, size: number) {
  let rest = size
  for (let i = e.sizeLength - 1; i >= 0; i--) {
    bytes[e.sizeAt + i] = rest % 256
    rest = Math.floor(rest / 256)
  }
  bytes[e.sizeAt]! |= 0x80 >> (e.sizeLength - 1)
}
