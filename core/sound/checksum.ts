/**
 * A checksum of samples that goes on from piece to piece (Fletcher, 1982, in 32 bits): damage and order both show.
 * @param before the checksum of what came before
 */
export function checksum(pcm: Int16Array, before = 0): number {
  let a = before & 0xffff, b = before >>> 16
  for (let i = 0; i < pcm.length;) {
    // So many sums stay below 2³².
    for (const end = Math.min(pcm.length, i + 256); i < end; i++) {
      a += pcm[i]! & 0xffff
      b += a
    }
    a %= 65_535
    b %= 65_535
  }
  return ((b << 16) | a) >>> 0
}
