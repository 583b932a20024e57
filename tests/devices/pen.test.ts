import { describe, expect, it } from 'vitest'
import { listenToPen, type PenListener } from '../../app/devices/pen'
import { tapAlong, writeWithSimulatedPen } from '../../app/devices/simulatedPen'
import { clickSignal } from '../../app/devices/simulatedMicrophone'
import { microphoneTrouble } from '../../app/devices/microphone'
import type { PenSample } from '../../core/recording'

/** Writes down what a pen does. */
function notebook() {
  const strokes: { tool: string; eraser: boolean; samples: PenSample[]; up: boolean }[] = []
  const listener: PenListener = {
    down: (tool, sample, eraser) => strokes.push({ tool, eraser, samples: [sample], up: false }),
    move: samples => strokes.at(-1)?.samples.push(...samples),
    up: () => {
      strokes.at(-1)!.up = true
    },
  }
  return { strokes, listener }
}

describe('the simulated pen', () => {
  it('writes what is asked, in time, through the listener of a real pen', async () => {
    const { strokes, listener } = notebook()
    await writeWithSimulatedPen('x=7', { x: 100, y: 200 }, 'working', listener, new AbortController().signal, 4)
    expect(strokes.length).toBeGreaterThanOrEqual(5)
    expect(strokes.every(s => s.up && s.tool === 'pen' && !s.eraser)).toBe(true)
    const times = strokes.flatMap(s => s.samples.map(p => p.now))
    expect(times.every((t, i) => i === 0 || t >= times[i - 1]!)).toBe(true)
    // In real time: the last sample is written when its moment has come, and not long after.
    expect(performance.now()).toBeGreaterThanOrEqual(times.at(-1)!)
    expect(performance.now() - times.at(-1)!).toBeLessThan(500)
    const xs = strokes.flatMap(s => s.samples.map(p => p.x))
    expect(Math.min(...xs)).toBeGreaterThan(95)
    expect(Math.max(...xs)).toBeLessThan(200)
    const pressures = strokes.flatMap(s => s.samples.map(p => p.pressure))
    expect(Math.max(...pressures) - Math.min(...pressures)).toBeGreaterThan(0.15)
  })
  it('starts a new line below, and stops at once when asked to', async () => {
    const { strokes, listener } = notebook()
    const stop = new AbortController()
    const look = setInterval(() => {
      if ((strokes.at(-1)?.samples.at(-1)!.y as number) > 115) stop.abort()
    }, 5)
    await writeWithSimulatedPen(
      '1\n1 and much more that is never written',
      { x: 0, y: 100 },
      'working',
      listener,
      stop.signal,
      4,
    )
    clearInterval(look)
    expect(strokes.length).toBeLessThan(12)
    expect(strokes.at(-1)!.up).toBe(true)
    expect(Math.max(...strokes.flatMap(s => s.samples.map(p => p.y)))).toBeGreaterThan(115)
  })
  it('taps along with the simulated clicks, at their times', () => {
    const { strokes, listener } = notebook()
    const stop = tapAlong({ x: 10, y: 20 }, listener)
    for (const at of [1000.5, 2000.5]) clickSignal.dispatchEvent(new CustomEvent('click', { detail: at }))
    stop()
    clickSignal.dispatchEvent(new CustomEvent('click', { detail: 3000 }))
    expect(strokes.map(s => s.samples[0]!.now)).toEqual([1000.5, 2000.5])
    expect(strokes.every(s => s.up)).toBe(true)
  })
})

describe('pen, finger and mouse', () => {
  /** An element that hands on events, as a browser's would. */
  class Sheet extends EventTarget {
    captured: number[] = []
    setPointerCapture(id: number) {
      this.captured.push(id)
    }
    getBoundingClientRect() {
      return { left: 100, top: 50 }
    }
  }
  const event = (type: string, values: Record<string, unknown> = {}) =>
    Object.defineProperties(
      new Event(type),
      Object.fromEntries(
        Object.entries({
          pointerId: 1,
          pointerType: 'pen',
          button: 0,
          clientX: 110,
          clientY: 60,
          pressure: 0.7,
          ...values,
        }).map(([k, value]) => [k, { value }]),
      ),
    )
  function setUp() {
    const sheet = new Sheet()
    const book = notebook()
    const pen = listenToPen(sheet as unknown as HTMLElement, book.listener)
    return { sheet, pen, ...book }
  }
  it('are told apart, and only a pen has pressure', () => {
    const { sheet, strokes } = setUp()
    for (const pointerType of ['touch', 'mouse', 'pen']) {
      sheet.dispatchEvent(event('pointerdown', { pointerType }))
      sheet.dispatchEvent(event('pointerup', { pointerType }))
    }
    expect(strokes.map(s => [s.tool, s.samples[0]!.pressure])).toEqual([
      ['touch', 0.5],
      ['mouse', 0.5],
      ['pen', 0.7],
    ])
    expect(strokes[0]!.samples[0]).toMatchObject({ x: 10, y: 10 })
  })
  it('give every sample between two frames', () => {
    const { sheet, strokes } = setUp()
    sheet.dispatchEvent(event('pointerdown'))
    sheet.dispatchEvent(
      event('pointermove', {
        getCoalescedEvents: () => [
          event('pointermove', { clientX: 111 }),
          event('pointermove', { clientX: 112 }),
          event('pointermove', { clientX: 113 }),
        ],
      }),
    )
    sheet.dispatchEvent(event('pointermove', { clientX: 120, getCoalescedEvents: () => [] }))
    expect(strokes[0]!.samples.map(s => s.x)).toEqual([10, 11, 12, 13, 20])
  })
  it('leave out a second finger and other buttons; the eraser end erases', () => {
    const { sheet, strokes } = setUp()
    sheet.dispatchEvent(event('pointerdown', { button: 2, pointerType: 'mouse' }))
    expect(strokes).toHaveLength(0)
    sheet.dispatchEvent(event('pointerdown', { button: 5 }))
    sheet.dispatchEvent(event('pointerdown', { pointerId: 2 }))
    sheet.dispatchEvent(event('pointermove', { pointerId: 2 }))
    sheet.dispatchEvent(event('pointerup', { pointerId: 2 }))
    expect(strokes).toHaveLength(1)
    expect(strokes[0]).toMatchObject({ eraser: true, up: false })
    sheet.dispatchEvent(event('pointercancel'))
    expect(strokes[0]!.up).toBe(true)
  })
  it('while a pen is near, touches are the palm; one that had begun a line takes it back', () => {
    const { sheet, strokes, listener } = setUp()
    let cancelled = 0
    listener.cancel = () => cancelled++
    sheet.dispatchEvent(event('pointerdown', { pointerId: 7, pointerType: 'touch', timeStamp: 1000 }))
    expect(strokes).toHaveLength(1)
    sheet.dispatchEvent(event('pointerdown', { pointerId: 1, timeStamp: 1050 }))
    expect([cancelled, strokes.map(s => s.tool).join()]).toEqual([1, 'touch,pen'])
    sheet.dispatchEvent(event('pointerdown', { pointerId: 8, pointerType: 'touch', timeStamp: 1100 }))
    sheet.dispatchEvent(event('pointermove', { pointerId: 8, pointerType: 'touch', timeStamp: 1110 }))
    sheet.dispatchEvent(event('pointerup', { pointerId: 1, timeStamp: 1200 }))
    sheet.dispatchEvent(event('pointerdown', { pointerId: 9, pointerType: 'touch', timeStamp: 1900 }))
    expect(strokes).toHaveLength(2)
    sheet.dispatchEvent(event('pointerdown', { pointerId: 10, pointerType: 'touch', timeStamp: 2100 }))
    expect(strokes).toHaveLength(3)
  })
  it('two fingers move and grow the view, and take back what the first had begun', () => {
    const { sheet, strokes, listener } = setUp()
    const moves: number[][] = []
    let cancelled = 0
    listener.cancel = () => cancelled++
    listener.pinch = (grow, at, dx, dy) => moves.push([grow, at.x, at.y, dx, dy])
    const finger = (type: string, pointerId: number, clientX: number, timeStamp: number) =>
      sheet.dispatchEvent(event(type, { pointerId, pointerType: 'touch', clientX, timeStamp }))
    finger('pointerdown', 1, 110, 5000)
    finger('pointerdown', 2, 150, 5100)
    expect([strokes.length, cancelled]).toEqual([1, 1])
    finger('pointermove', 2, 190, 5120)
    expect(moves[0]).toEqual([2, 50, 10, 20, 0])
    finger('pointerup', 2, 190, 5200)
    finger('pointermove', 1, 120, 5220)
    expect(moves).toHaveLength(1)
  })
  it('a second finger on a line that has been drawn for a while asks for it to be straight, and the line goes on', () => {
    const { sheet, strokes, listener } = setUp()
    let asked = 0
    listener.straighten = () => asked++
    const finger = (type: string, pointerId: number, timeStamp: number) =>
      sheet.dispatchEvent(event(type, { pointerId, pointerType: 'touch', timeStamp }))
    finger('pointerdown', 1, 5000)
    finger('pointermove', 1, 5300)
    finger('pointerdown', 2, 5600)
    finger('pointermove', 1, 5620)
    expect([asked, strokes.length, strokes[0]!.samples.length, strokes[0]!.up]).toEqual([1, 1, 3, false])
    finger('pointerup', 2, 5700)
    finger('pointerup', 1, 5800)
    expect(strokes[0]!.up).toBe(true)
  })
  it('tell of the barrel button, the tilt and Shift; a pen taken away in mid-stroke keeps it', () => {
    const { sheet, strokes, listener } = setUp()
    const held: unknown[] = []
    const { down } = listener
    listener.down = (tool, sample, eraser, state) => {
      held.push(state)
      down(tool, sample, eraser, state)
    }
    sheet.dispatchEvent(event('pointerdown', { button: 2, buttons: 2, tiltX: -62, tiltY: 10, shiftKey: true }))
    expect(held).toEqual([{ barrel: true, tilt: 62, shift: true }])
    sheet.dispatchEvent(event('pointercancel'))
    expect(strokes[0]!.up).toBe(true)
  })
  it('are let go of when the board goes away', () => {
    const { sheet, strokes, pen } = setUp()
    pen.close()
    sheet.dispatchEvent(event('pointerdown'))
    expect(strokes).toEqual([])
  })
})

describe('microphones that fail to open', () => {
  it.each([
    ['NotAllowedError', 'microphone-refused'],
    ['SecurityError', 'microphone-refused'],
    ['NotFoundError', 'microphone-absent'],
    ['OverconstrainedError', 'microphone-absent'],
    ['NotReadableError', 'microphone-busy'],
    ['', 'microphone-busy'],
  ])('%s: %s, with what is safe and what to do', (name, code) => {
    const trouble = microphoneTrouble(name)
    expect(trouble.code).toBe(code)
    expect(trouble.safe).toContain('nothing is lost')
    expect(trouble.next.length).toBeGreaterThan(20)
  })
})
