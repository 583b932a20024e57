import type { InkTool, PenSample } from '#core/recording'

/** What a pen, of whatever make, does to the board. Positions are in CSS pixels of the writing area. */
export interface PenListener {
  /** `held`: what the pen tells beside its place. */
  down(tool: InkTool, sample: PenSample, eraser: boolean, held?: PenState): void
  move(samples: PenSample[], held?: PenState): void
  up(): void
  /** What was begun was not meant: a second finger came, or the palm was taken for a finger. */
  cancel?(): void
  /** A second finger touched while the first had been drawing for a while: this line is meant straight. */
  straighten?(): void
  /** Two fingers moved by (dx, dy) and apart by `grow` about `at`, all in CSS pixels. */
  pinch?(grow: number, at: { x: number; y: number }, dx: number, dy: number): void
}

/** Barrel button, angle off the upright in degrees, Shift key. */
export interface PenState {
  barrel: boolean
  tilt: number
  shift: boolean
}

/** A pen in use. */
export interface Pen {
  close(): void
}

export const PENS = [
  { id: 'pen', label: 'Pen, finger or mouse', simulated: false },
  { id: 'sim:pen', label: 'Simulated: a hand that writes what you type', simulated: true },
  { id: 'sim:taps', label: 'Simulated: taps along with the simulated clicks', simulated: true },
] as const
export type PenId = (typeof PENS)[number]['id']

/** A touch this soon after the pen was near is the palm, ms. */
const PALM_MS = 800
/** A second finger within this time means that the first did not write, ms. */
const SECOND_FINGER_MS = 250

/**
 * Listens to pen, finger and mouse on an element. All samples between two frames are taken, each with its own time.
 * While a pen is near,
 * touches are the palm and do nothing; two fingers move and grow the view.
 */
export function listenToPen(element: HTMLElement, listener: PenListener): Pen {
  let active: { id: number; type: string; since: number } | null = null
  let penSeen = Number.NEGATIVE_INFINITY
  const fingers = new Map<number, { x: number; y: number }>()
  const place = (e: PointerEvent) => {
    const rect = element.getBoundingClientRect()
    return { x: e.clientX - rect.left, y: e.clientY - rect.top }
  }
  const sampleOf = (e: PointerEvent): PenSample => ({
    ...place(e),
    pressure: e.pointerType === 'pen' ? e.pressure : 0.5,
    now: e.timeStamp,
  })
  const heldOf = (e: PointerEvent): PenState => ({
    barrel: (e.buttons & 2) !== 0,
    tilt: Math.max(Math.abs(e.tiltX || 0), Math.abs(e.tiltY || 0)),
    shift: e.shiftKey,
  })
  const isPalm = (e: PointerEvent) =>
    e.pointerType === 'touch' && (e.timeStamp - penSeen < PALM_MS || active?.type === 'pen')

  const down = (e: PointerEvent) => {
    if (e.pointerType === 'pen') {
      penSeen = e.timeStamp
      // The palm came first and has begun a line: that was not meant.
      if (active?.type === 'touch') abandon()
      fingers.clear()
    }
    if (isPalm(e)) return
    if (e.pointerType === 'touch') {
      fingers.set(e.pointerId, place(e))
      if (fingers.size === 2 && active?.type === 'touch') {
        if (e.timeStamp - active.since < SECOND_FINGER_MS) abandon()
        else listener.straighten?.()
      }
      if (fingers.size > 1) return
    }
    // Buttons: 0 tip, finger or left; 2 a pen's barrel; 5 the eraser end of a pen. Others do not write.
    if (active !== null || (e.button !== 0 && e.button !== 5 && !(e.button === 2 && e.pointerType === 'pen'))) return
    active = { id: e.pointerId, type: e.pointerType, since: e.timeStamp }
    element.setPointerCapture(e.pointerId)
    e.preventDefault()
    listener.down(toolOf(e), sampleOf(e), e.button === 5, heldOf(e))
  }
  const abandon = () => {
    active = null
    if (listener.cancel) listener.cancel()
    else listener.up()
  }
  const move = (e: PointerEvent) => {
    if (e.pointerType === 'pen') penSeen = e.timeStamp
    if (e.pointerType === 'touch' && fingers.has(e.pointerId)) {
      const before = [...fingers.values()]
      fingers.set(e.pointerId, place(e))
      if (fingers.size === 2 && !active)
        return pinched(listener, before as [Spot, Spot], [...fingers.values()] as [Spot, Spot])
    }
    if (e.pointerId !== active?.id) return
    const all = e.getCoalescedEvents?.() ?? []
    listener.move((all.length ? all : [e]).map(sampleOf), heldOf(e))
  }
  const up = (e: PointerEvent) => {
    fingers.delete(e.pointerId)
    if (e.pointerType === 'pen') penSeen = e.timeStamp
    if (e.pointerId !== active?.id) return
    active = null
    listener.up()
  }
  const cancel = (e: PointerEvent) => {
    fingers.delete(e.pointerId)
    // A pen or mouse that is taken away keeps what it wrote; a touch that the system takes for itself was no writing.
    if (e.pointerId !== active?.id) return
    if (e.pointerType === 'touch') abandon()
    else up(e)
  }
  const menu = (e: Event) => e.preventDefault()
  const on = { pointerdown: down, pointermove: move, pointerup: up, pointercancel: cancel, contextmenu: menu }
  for (const [name, handler] of Object.entries(on)) element.addEventListener(name, handler as EventListener)
  return {
    close: () => {
      for (const [name, handler] of Object.entries(on)) element.removeEventListener(name, handler as EventListener)
    },
  }
}

/** Two fingers that moved: how far they went apart, and where their middle went. */
function pinched(listener: PenListener, before: [Spot, Spot], after: [Spot, Spot]) {
  const mid = ([a, b]: [Spot, Spot]) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 })
  const apart = ([a, b]: [Spot, Spot]) => Math.max(1, Math.hypot(a.x - b.x, a.y - b.y))
  const from = mid(before),
    to = mid(after)
  listener.pinch?.(apart(after) / apart(before), to, to.x - from.x, to.y - from.y)
}

interface Spot {
  x: number
  y: number
}

function toolOf(e: PointerEvent): InkTool {
  return e.pointerType === 'pen' ? 'pen' : e.pointerType === 'touch' ? 'touch' : 'mouse'
}
