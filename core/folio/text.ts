/** The beginning of a text in at most so many bytes of UTF-8, cut between what a reader sees as characters. */
export function cutTo(text: string, bytes: number): string {
  let out = '',
    left = bytes
  for (const { segment } of new Intl.Segmenter(undefined, { granularity: 'grapheme' }).segment(text)) {
    left -= new TextEncoder().encode(segment).length
    if (left < 0) break
    out += segment
  }
  return out
}

/** File systems take names of 255 bytes; what is added to one (a number, an ending) has room. */
export const MOST_NAME_BYTES = 200

/**
 * A short name of a text, to tell whether it is still the same; nothing that keeps anyone out.
 * @example fingerprint('') // '00000000811c9dc5'
 */
export function fingerprint(text: string): string {
  // FNV-1a over UTF-16, and once more with the letters' places, so that 64 bits are there.
  let a = 0x811c9dc5
  let b = 0
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    a = Math.imul(a ^ c, 0x01000193)
    b = Math.imul(b ^ (c + i), 0x85ebca6b) ^ (b >>> 13)
  }
  return [b, a].map(n => (n >>> 0).toString(16).padStart(8, '0')).join('')
}
