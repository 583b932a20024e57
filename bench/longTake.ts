import { takeSink } from '../app/data/takes'
import { ClockOffset, TakeRecorder } from '../core/recording'

/** Bench side in the browser: a long take in time that is handed in; recorder and store are the product's own. */
const RATE = 48_000
const PIECE = RATE / 100
const PEN_HZ = 240
const FLUSH_MS = 250

const recorder = new TakeRecorder(takeSink('long'))
const clock = new ClockOffset()
let now = 1000
let penAt = now
let pictureAt = now
recorder.start(now)

function pieceAt(ms: number): Int16Array {
  return Int16Array.from({ length: PIECE }, (_, i) =>
    Math.round(6000 * Math.sin((ms * 48 + i) / 37) * Math.sin(ms / 700)),
  )
}

/**
 * A second has 240 samples, of which 40 are written: 28 an average over a lesson, where a teacher talks more than she
 * writes.
 */
function pen(until: number) {
  for (; penAt < until; penAt += 1000 / PEN_HZ) {
    const inSecond = Math.floor(penAt % 6000)
    const sample = { x: 60 + ((penAt / 50) % 400), y: 100 + ((penAt / 20_000) % 600), pressure: 0.5, now: penAt }
    if (inSecond < 700) {
      if (recorder.growing) recorder.penMove([sample])
      else recorder.penDown('working', 'pen', sample)
    } else if (recorder.growing) recorder.penUp()
  }
}

async function record(seconds: number): Promise<void> {
  const end = now + seconds * 1000
  let flushAt = now
  for (; now < end; now += 10) {
    recorder.sound(pieceAt(now), RATE, clock.place(now, now + 3))
    pen(now)
    // The camera: 24 pictures a second of 2 kB.
    for (; pictureAt < now; pictureAt += 1000 / 24)
      recorder.picture(
        {
          data: new Uint8Array(2000).fill(pictureAt & 255),
          key: Math.floor(pictureAt / 1000) % 2 === 0 && pictureAt % 1000 < 42,
        },
        pictureAt,
      )
    if (now - flushAt < FLUSH_MS) continue
    flushAt = now
    await recorder.flush()
  }
}

Object.assign(globalThis, { longTake: { record, stop: () => recorder.stop(now) } })
