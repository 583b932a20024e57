import type { Thing } from '../folio/thing'
import type { Stroke } from '../ink/stroke'

/** Something done to the board that can be taken back: in force after an even number of toggles. */
export class Operation {
  private readonly toggles: number[] = []
  constructor(
    readonly id: string,
    readonly t: number,
  ) {}

  /** Takes it back, or brings it back, at `t` ms; toggles come in the order of the log. */
  toggle(t: number): void {
    this.toggles.push(t)
  }

  /** Whether it is in force after the whole log so far. */
  get inForce(): boolean {
    return this.toggles.length % 2 === 0
  }

  /** Puts it, at `t` ms, in the state that it had at `to`; at the very beginning there was nothing. */
  goBack(to: number, t: number): void {
    if ((to > 0 && this.at(to)) !== this.inForce) this.toggle(t)
  }

  /** The moments at which its state changes, ms. */
  get changes(): readonly number[] {
    return [this.t, ...this.toggles]
  }

  at(t: number): boolean {
    if (this.t > t) return false
    let passed = 0
    while (passed < this.toggles.length && this.toggles[passed]! <= t) passed++
    return passed % 2 === 0
  }
}

/** What an item is from an operation on: what comes of what it was before. */
type Version<V> = { by: Operation; make: (before: V) => V }

/**
 * An item of the board, with the operation that brought it, those that change it and those that take it off. What it is
 * at a moment is what
 * the changes in force by then make of it; the last answer is kept, as most questions are about the same state.
 */
export class Item<V> {
  private readonly versions: Version<V>[] = []
  /** How many of the versions, the last ones, always were so. */
  private always = 0
  private readonly erasers: Operation[] = []
  private kept: { key: string; value: V } | null = null
  /** The events that brought what it says, by their ids. */
  readonly sources: string[]

  constructor(
    readonly id: string,
    readonly by: Operation,
    private readonly first: V,
    readonly pageId: string | undefined,
    readonly n: number,
  ) {
    this.sources = [id]
  }

  /** @param always done to what all the others make of it, whenever they come */
  change(by: Operation, make: (before: V) => V, always = false): void {
    if (always) this.versions.push({ by, make })
    else this.versions.splice(this.versions.length - this.always, 0, { by, make })
    if (always) this.always++
  }
  erase(by: Operation): void {
    this.erasers.push(by)
  }

  shownAt(t: number): boolean {
    return this.by.at(t) && !this.erasers.some(e => e.at(t))
  }

  /** Whether something was done to it that always was so. */
  get isMended(): boolean {
    return this.always > 0
  }

  /** What it was when it was brought. */
  get original(): V {
    return this.first
  }

  /** Everything that it is, one after another; what is over in the moment in which it begins is left out. */
  history(): ItemState<V>[] {
    const operations = [this.by, ...this.versions.map(v => v.by), ...this.erasers]
    const times = [...new Set(operations.flatMap(o => o.changes))].sort((a, b) => a - b)
    const out: (ItemState<V> & { key: string | null })[] = []
    for (const from of times) {
      const key = this.shownAt(from) ? this.keyAt(from) : null
      if (out.length ? out[out.length - 1]!.key !== key : key !== null)
        out.push({ from, key, value: key === null ? null : this.valueAt(from) })
    }
    return out.map(({ from, value }) => ({ from, value }))
  }

  private keyAt(t: number): string {
    return this.versions.flatMap(v => (v.by.at(t) ? [v.by.id] : [])).join()
  }

  valueAt(t: number): V {
    if (!this.versions.length) return this.first
    const due = this.versions.filter(v => v.by.at(t))
    const key = due.map(v => v.by.id).join()
    if (this.kept?.key !== key) this.kept = { key, value: due.reduce((value, v) => v.make(value), this.first) }
    return this.kept.value
  }
}

/** What an item is from a moment on, ms; null while it is not on the board. */
export interface ItemState<V> {
  from: number
  value: V | null
}

/** What an item can be: a stroke, the pieces that are left of one, or a thing with the time in which it is drawn. */
export type Ink = { strokes: Stroke[] }
export type Placed = {
  thing: Thing
  version: string
  /** The event that brought what it says: it was placed there, or changed. */
  source: string
}
