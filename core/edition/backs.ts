import type { Box, Frame } from '../folio/basics'
import { BoardFollower, kindOf, type OperationRef, type TakeEvent } from '../recording/events'
import { Operation } from '../recording/operation'

/** The state of a log that a going back restores: what is in force, the frame, where students look. */
class State extends BoardFollower {
  readonly operations = new Map<string, Operation>()
  private readonly frames: { t: number; frame: Frame }[]
  private readonly zooms: { t: number; box: Box | null }[] = []
  private readonly spots: { t: number; box: Box | null }[] = []

  constructor(first: Frame) {
    super()
    this.frames = [{ t: 0, frame: first }]
  }

  protected override operation({ id, t }: OperationRef): void {
    if (!this.operations.has(id)) this.operations.set(id, new Operation(id, t))
  }
  override toggle(t: number, target: string, off: boolean): void {
    const operation = this.operations.get(target)
    if (operation?.inForce === off) operation.toggle(t)
  }
  override setFrame(t: number, frame: Frame): void {
    this.frames.push({ t, frame })
    this.zooms.push({ t, box: null })
  }
  override zoom(t: number, box: Box | null): void {
    this.zooms.push({ t, box })
  }
  override spotlight(t: number, box: Box | null): void {
    this.spots.push({ t, box })
  }

  /** A going back as events that bring all to where it was. */
  goBack(to: number, t: number): TakeEvent[] {
    const out: TakeEvent[] = []
    for (const [target, operation] of this.operations) {
      const before = operation.inForce
      operation.goBack(to, t)
      if (operation.inForce !== before) out.push({ type: before ? 'undo' : 'redo', t, target })
    }
    const frame = this.frames.findLast(f => f.t <= to)?.frame
    if (frame && frame !== this.frames[this.frames.length - 1]!.frame) {
      this.frames.push({ t, frame })
      out.push({ type: 'frame', t, frame })
    }
    const at = (all: readonly { t: number; box: Box | null }[]) => all.findLast(s => to > 0 && s.t <= to)?.box ?? null
    const [zoom, spot] = [at(this.zooms), at(this.spots)]
    if (this.zooms.length) out.push({ type: 'look', t, box: zoom, over: 0 })
    if (this.spots.length) out.push({ type: 'spot', t, box: spot })
    this.zooms.push({ t, box: zoom })
    this.spots.push({ t, box: spot })
    return out
  }
}

/**
 * A log in which going back is told by what it takes back and brings back, so that it can lose events: a going back
 * puts whatever is there in the state of its moment. Events without one are the same list.
 */
export function backsResolved(events: readonly TakeEvent[], first: Frame): readonly TakeEvent[] {
  if (!events.some(e => e.type === 'back')) return events
  const state = new State(first)
  return events.flatMap((event): TakeEvent | TakeEvent[] => {
    if (event.type === 'back') return state.goBack(event.to, event.t)
    kindOf(event).apply(event, state)
    return event
  })
}
