import { ClockOffset, settleJournal, TakeRecorder, type JournalEntry, type SoundChunk } from '../core/recording'
import { SOUND_RATE, SoundPlacer } from '../core/sound'
import { seededRandom } from '../core/ink'

/**
 * Ink and voice over a long take, with the simulated pen and microphone's tap-and-click signal: the pen taps at
 * the moment a click sounds. Time is handed in, so that half an hour takes some seconds; clock learning, recorder,
 * placing
 * and settling are the product's own and cannot tell.
 */
export interface Fault {
  name: string
  minutes: number
  ppm: number
  lose: (ms: number) => boolean
  lateMs: number
  rebase?: boolean
}
const RATE = 44_100
const BUFFER = 441

/** @returns for each click that was kept, the time of the tap minus the time of the click, ms */
export async function offsets(fault: Fault): Promise<{ at: number; off: number }[]> {
  const random = seededRandom(11)
  const journal: JournalEntry[] = []
  const chunks: SoundChunk[] = []
  const recorder = new TakeRecorder({
    journal: async (_, e) => {
      journal.push(...e)
    },
    sound: async c => {
      chunks.push(...c)
    },
    pictures: async () => {},
  })
  const clock = new ClockOffset()
  const START = 5000
  const real = RATE * (1 + fault.ppm / 1e6)
  recorder.start(START)
  let frame = 0
  let nextFlush = START
  for (let now = START; now < START + fault.minutes * 60_000; frame += BUFFER) {
    // The device fills a buffer by its own crystal; the machine hears of it when the buffer is full, or later.
    const heard = START + (frame / real) * 1000
    now = START + ((frame + BUFFER) / real) * 1000
    const pcm = new Int16Array(BUFFER)
    const second = Math.ceil((heard - START) / 1000 - 1e-9) * 1000
    const into = Math.round(((START + second - heard) / 1000) * real)
    if (into < BUFFER) {
      for (let k = 0; k < 40 && into + k < BUFFER; k++) pcm[into + k] = 28_000
      const tap = { x: 10, y: 10, pressure: 0.5, now: START + second }
      recorder.penDown('working', 'pen', tap)
      recorder.penUp()
    }
    if (fault.lose(now - START)) continue
    const arrived = now + (random() < 0.1 ? random() * fault.lateMs : random())
    const device = fault.rebase && now - START < 60 ? heard + 70_000 : (frame / RATE) * 1000
    const end = device + (BUFFER / RATE) * 1000
    recorder.sound(pcm, RATE, device + clock.place(end, arrived) - end)
    if (now > nextFlush) {
      await recorder.flush()
      nextFlush = now + 250
    }
  }
  const durationMs = await recorder.stop(START + fault.minutes * 60_000)
  const placer = new SoundPlacer(durationMs)
  const clicks: number[] = []
  let at = 0
  const listen = (blocks: Int16Array[]) => {
    for (const b of blocks) {
      for (let i = 0; i < b.length; i++)
        if (b[i]! > 14_000 && (at + i) / SOUND_RATE - (clicks.at(-1) ?? -9) > 0.1) clicks.push((at + i) / SOUND_RATE)
      at += b.length
    }
  }
  for (const c of chunks) listen(placer.push(c))
  listen(placer.finish())
  if (at !== Math.round((durationMs / 1000) * SOUND_RATE)) throw new Error(`${at} samples for ${durationMs} ms`)
  const taps = settleJournal(journal)
    .filter(e => e.type === 'stroke')
    .map(e => e.t)
  return taps.flatMap(tap => {
    const click = clicks.find(c => Math.abs(c * 1000 - tap) < 400)
    return click === undefined ? [] : [{ at: tap, off: tap - click * 1000 }]
  })
}

/** 300 ms lost every 20 s. */
export const often = (ms: number) => ms % 20_000 > 7300 && ms % 20_000 < 7600
