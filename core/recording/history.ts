import { kindOf, type TakeEvent } from './events'
import { pathOf } from './journal'

/**
 * What undo and redo would act on, worked out from the log alone, so that they still work after a crash or a pause.
 * A new operation forgets what could be redone; going back brings the history of that moment back.
 */
export class History {
  private done: string[] = []
  private undone: string[] = []
  private readonly log: TakeEvent[] = []

  /** Takes note of the next event. */
  append(event: TakeEvent): void {
    this.log.push(event)
    if (event.type !== 'back') return this.note(event)
    this.done = []
    this.undone = []
    for (const before of pathOf(this.log)) this.note(before)
  }

  private note(event: TakeEvent): void {
    if (event.type === 'undo') move(event.target, this.done, this.undone)
    else if (event.type === 'redo') move(event.target, this.undone, this.done)
    else if (kindOf(event).undoable) {
      const { id } = event as Extract<TakeEvent, { id: string }>
      if (this.done[this.done.length - 1] !== id) this.done.push(id)
      this.undone = []
    }
  }

  /** The operation that undo would take back, if any. */
  get undoTarget(): string | undefined {
    return this.done[this.done.length - 1]
  }
  /** The operation that redo would bring back, if any. */
  get redoTarget(): string | undefined {
    return this.undone[this.undone.length - 1]
  }
}

function move(id: string, from: string[], to: string[]) {
  const i = from.lastIndexOf(id)
  if (i < 0) return
  from.splice(i, 1)
  to.push(id)
}
