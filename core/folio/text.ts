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
