import { layText, LETTERS, seededRandom, writeByHand, type PenRole } from '#core/ink'
import { newId } from '#core/folio'
import type { PenListener } from './pen'
import { clickSignal } from './simulatedMicrophone'

/** Size of the simulated hand's capitals, in CSS pixels of the writing area. */
const CAPITALS = 22
const LINE = 40

/**
 * A pen that writes given text and maths in single-stroke letters at human speed, in real time, through the same
 * listener
 * as a real pen. Positions are in CSS pixels.
 * @param speed times human speed
 */
export async function writeWithSimulatedPen(
  text: string,
  at: { x: number; y: number },
  role: PenRole,
  listener: PenListener,
  signal: AbortSignal,
  speed = 1,
): Promise<void> {
  const paths = text
    .split('\n')
    .flatMap((line, i) => layText(LETTERS, line, { x: at.x, y: at.y + i * LINE }, CAPITALS).paths)
  const { strokes } = writeByHand(
    paths,
    { role, t0: 0, speed: 190, jitter: 0.4, random: seededRandom(text.length + 7) },
    newId,
  )
  const start = performance.now()
  for (const stroke of strokes) {
    const samples = Array.from({ length: stroke.points.length / 4 }, (_, i) => ({
      x: stroke.points[4 * i]!,
      y: stroke.points[4 * i + 1]!,
      pressure: stroke.points[4 * i + 2]!,
      now: start + stroke.points[4 * i + 3]! / speed,
    }))
    await until(samples[0]!.now)
    if (signal.aborted) return
    listener.down('pen', samples[0]!, false)
    for (let i = 1; i < samples.length && !signal.aborted; ) {
      await nextFrame()
      const now = performance.now()
      const due = i
      while (i < samples.length && samples[i]!.now <= now) i++
      if (i > due) listener.move(samples.slice(due, i))
    }
    listener.up()
    if (signal.aborted) return
  }
}

async function until(time: number) {
  const left = time - performance.now()
  if (left > 0) await new Promise(r => setTimeout(r, left))
}

/** A short wait that goes on in a hidden tab, too. */
function nextFrame() {
  return new Promise<void>(r => setTimeout(r, 8))
}

/** A pen that taps at the moment of each simulated click. @returns stops it */
export function tapAlong(at: { x: number; y: number }, listener: PenListener): () => void {
  let taps = 0
  const tap = (event: Event) => {
    listener.down(
      'pen',
      { x: at.x + 6 * (taps++ % 60), y: at.y, pressure: 0.6, now: (event as CustomEvent<number>).detail },
      false,
    )
    listener.up()
  }
  clickSignal.addEventListener('click', tap)
  return () => clickSignal.removeEventListener('click', tap)
}
