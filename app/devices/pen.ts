import type { InkTool, PenSample } from '#core/take'

/** What a pen, of whatever make, does to the board. Positions are in CSS pixels of the writing area. */
export interface PenListener {
  down(tool: InkTool, sample: PenSample, eraser: boolean): void
  move(samples: PenSample[]): void
  up(): void
}

/** A pen in use. */
export interface Pen { close(): void }

export const PENS = [
  { id: 'pen', label: 'Pen, finger or mouse', simulated: false },
  { id: 'sim:pen', label: 'Simulated: a hand that writes what you type', simulated: true },
  { id: 'sim:taps', label: 'Simulated: taps along with the simulated clicks', simulated: true },
] as const
export type PenId = typeof PENS[number]['id']

/**
 * Listens to pen, finger and mouse on an element. All samples between two frames are taken, each with its own time.
 */
export function listenToPen(element: HTMLElement, listener: PenListener): Pen {
  let active: number | null = null
  const sampleOf = (e: PointerEvent): PenSample => {
    const rect = element.getBoundingClientRect()
    return { x: e.clientX - rect.left, y: e.clientY - rect.top, pressure: e.pointerType === 'pen' ? e.pressure : 0.5, now: e.timeStamp }
  }
  const down = (e: PointerEvent) => {
    // Buttons: 0 tip, finger or left; 5 the eraser end of a pen. The second finger and other buttons do not write.
    if (active !== null || (e.button !== 0 && e.button !== 5)) return
    active = e.pointerId
    element.setPointerCapture(e.pointerId)
    e.preventDefault()
    listener.down(toolOf(e), sampleOf(e), e.button === 5)
  }
  const move = (e: PointerEvent) => {
    if (e.pointerId !== active) return
    const all = e.getCoalescedEvents?.() ?? []
    listener.move((all.length ? all : [e]).map(sampleOf))
  }
  const up = (e: PointerEvent) => {
    if (e.pointerId !== active) return
    active = null
    listener.up()
  }
  const on = { pointerdown: down, pointermove: move, pointerup: up, pointercancel: up }
  for (const [name, handler] of Object.entries(on)) element.addEventListener(name, handler as EventListener)
  return { close: () => { for (const [name, handler] of Object.entries(on)) element.removeEventListener(name, handler as EventListener) } }
}

function toolOf(e: PointerEvent): InkTool {
  return e.pointerType === 'pen' ? 'pen' : e.pointerType === 'touch' ? 'touch' : 'mouse'
}
