/**
 * A checksum of samples or bytes that goes on from piece to piece (Fletcher, 1982, in 32 bits): damage and order both
 * show.
 * @param before the checksum of what came before
 */
export function checksum(pcm: Int16Array | Uint8Array, before = 0): number {
  let a = before & 0xffff,
    b = before >>> 16
  for (let i = 0; i < pcm.length; ) {
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

/** Samples in one block of a {@link SoundSeal}. */
const BLOCK = 4096

/** What a sound was, block by block, so that a coded copy of it can be checked without keeping its samples. */
export class SoundSeal {
  private readonly sums: number[] = []
  private readonly block = new Int16Array(BLOCK)
  private filled = 0

  push(pcm: Int16Array): void {
    for (let at = 0; at < pcm.length; ) {
      const some = pcm.subarray(at, at + BLOCK - this.filled)
      this.block.set(some, this.filled)
      this.filled += some.length
      at += some.length
      if (this.filled < BLOCK) continue
      this.sums.push(checksum(this.block))
      this.filled = 0
    }
  }

  private get rest(): Int16Array {
    return this.block.subarray(0, this.filled)
  }
  private get even(): boolean {
    return this.rest.every(v => v === this.block[0])
  }

  /**
   * Whether `read`, the coded copy, is this sound to the last sample. A last part block of one value may be missing in
   * it: a FLAC frame of it is
   * shorter than the reader's shortest (RFC 9639 allows 10 bytes, it asks for 16), and a player is silent there anyway.
   */
  sameAs(read: SoundSeal): boolean {
    if (this.sums.length !== read.sums.length || this.sums.some((sum, i) => sum !== read.sums[i])) return false
    return (
      (read.filled === 0 && this.even) || (read.filled === this.filled && checksum(read.rest) === checksum(this.rest))
    )
  }
}
