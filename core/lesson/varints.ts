/** Whole numbers as bytes: small ones, of either sign, in one (zigzag, seven bits a byte, the lowest first). */
export class NumberWriter {
  private bytes = new Uint8Array(1024)
  private at = 0

  push(value: number): void {
    let rest = value < 0 ? -2 * value - 1 : 2 * value
    if (this.at + 8 > this.bytes.length) {
      const more = new Uint8Array(this.bytes.length * 2)
      more.set(this.bytes)
      this.bytes = more
    }
    while (rest > 127) {
      this.bytes[this.at++] = rest % 128 | 128
      rest = Math.floor(rest / 128)
    }
    this.bytes[this.at++] = rest
  }

  finish(): Uint8Array<ArrayBuffer> {
    return this.bytes.slice(0, this.at)
  }
}

/** Reads what {@link NumberWriter} wrote. */
export class NumberReader {
  private at = 0
  constructor(private readonly bytes: Uint8Array) {}

  /** @throws RangeError where there are no more, or what is there is no number */
  next(): number {
    let value = 0
    for (let scale = 1; scale < 2 ** 49; scale *= 128) {
      const byte = this.bytes[this.at++]
      if (byte === undefined) break
      value += (byte & 127) * scale
      if (byte < 128) return value % 2 ? -(value + 1) / 2 : value / 2
    }
    throw new RangeError('the numbers end early')
  }
}
