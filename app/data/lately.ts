/** Keeps the values that were asked for lately, and lets go of the others; one that is in use stays. */
export class Lately<V> {
  private readonly kept = new Map<string, V>()
  private readonly used = new Map<string, number>()

  /** @param most values kept beside those in use @param leave lets go of one */
  constructor(
    private readonly most: number,
    private readonly leave: (value: V) => void = () => {},
  ) {}

  get size(): number {
    return this.kept.size
  }

  get(key: string): V | undefined {
    const value = this.kept.get(key)
    if (value === undefined) return undefined
    this.kept.delete(key)
    this.kept.set(key, value)
    return value
  }

  set(key: string, value: V): void {
    this.kept.delete(key)
    this.kept.set(key, value)
    this.trim()
  }

  delete(key: string): void {
    this.kept.delete(key)
  }

  /** From here on a value is in use; as often as it is said, {@link free} has to be. */
  use(key: string): void {
    this.used.set(key, (this.used.get(key) ?? 0) + 1)
  }

  free(key: string): void {
    const left = (this.used.get(key) ?? 1) - 1
    if (left) this.used.set(key, left)
    else this.used.delete(key)
    this.trim()
  }

  private trim() {
    for (const [key, value] of this.kept) {
      if (this.kept.size <= this.most) return
      if (this.used.has(key)) continue
      this.kept.delete(key)
      this.leave(value)
    }
  }
}
