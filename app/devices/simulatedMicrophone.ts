import type { Piece } from './capture'
import { DRIFT, spoiled, UNPLUG_AFTER_MS, type MicrophoneFault } from './faults'

/** Stand-ins for a microphone; their sound is laid on the clock as that of a real one is. Some fail on purpose. */
export const SIMULATED_MICROPHONES: readonly {
  id: string
  label: string
  file: string | null
  fault: MicrophoneFault | null
}[] = [
  { id: 'sim:voice', label: 'Simulated: a voice that speaks a lesson', file: 'lesson.ogg', fault: null },
  { id: 'sim:clicks', label: 'Simulated: a click every second', file: null, fault: null },
  {
    id: 'sim:unplugged',
    label: 'Simulated: a voice, pulled out after 2 seconds',
    file: 'lesson.ogg',
    fault: 'unplugged',
  },
  { id: 'sim:drops', label: 'Simulated: a voice that drops out every 3 seconds', file: 'lesson.ogg', fault: 'drops' },
  { id: 'sim:silent', label: 'Simulated: muted', file: 'lesson.ogg', fault: 'silent' },
  { id: 'sim:clipping', label: 'Simulated: a voice that is too loud', file: 'lesson.ogg', fault: 'clipping' },
  { id: 'sim:hum', label: 'Simulated: a voice with hum of 50 Hz', file: 'lesson.ogg', fault: 'hum' },
  {
    id: 'sim:drifting',
    label: 'Simulated: a voice whose clock is 200 ppm fast',
    file: 'lesson.ogg',
    fault: 'drifting',
  },
  { id: 'sim:refused', label: 'Simulated: refused by the browser', file: null, fault: null },
]

const RATE = 48_000
/** Length of the pieces it gives out, as real devices do: 10 ms. */
const PIECE = RATE / 100
const PIECE_MS = 10
/** How often it looks whether a piece is due, ms. */
const EVERY_MS = 5

/** Tells of each click of the simulated microphone: `detail` is the machine time (ms) at which it sounds. */
export const clickSignal = new EventTarget()

/** A simulated device in use. */
export interface SimulatedMicrophone {
  label: string
  onLost(listener: () => void): void
  close(): void
}

/**
 * Opens a simulated microphone. It makes its samples by the machine's clock, not by the browser's audio, so that a busy
 * machine makes it late, as it does a real device, but never makes it lose sound.
 * @param give is handed each piece when it is due
 * @throws Trouble for the one that is refused
 */
export async function openSimulatedMicrophone(id: string, give: (piece: Piece) => void): Promise<SimulatedMicrophone> {
  const maker = SIMULATED_MICROPHONES.find(m => m.id === id) ?? SIMULATED_MICROPHONES[0]!
  if (maker.id === 'sim:refused') {
    const { microphoneTrouble } = await import('./microphone')
    throw microphoneTrouble('NotAllowedError')
  }
  const loop = maker.file ? await voice(maker.file) : oneClick()
  const started = performance.now()
  const lost: (() => void)[] = []
  let given = 0
  const timer = setInterval(() => {
    const elapsed = performance.now() - started
    if (maker.fault === 'unplugged' && elapsed > UNPLUG_AFTER_MS) {
      clearInterval(timer)
      return lost.forEach(l => l())
    }
    // A clock that is too fast counts more time than has passed.
    const counted = maker.fault === 'drifting' ? elapsed * (1 + DRIFT) : elapsed
    for (; (given + 1) * PIECE_MS <= counted; given++) {
      if (!maker.file && given > 0 && given % 100 === 0)
        clickSignal.dispatchEvent(new CustomEvent('click', { detail: started + given * PIECE_MS }))
      const pcm = spoiled(maker.fault, pieceOf(loop, given), given * PIECE_MS, RATE)
      if (pcm) give({ pcm, rate: RATE, device: given * PIECE_MS, arrived: performance.timeOrigin + performance.now() })
    }
  }, EVERY_MS)
  return { label: maker.label, onLost: listener => lost.push(listener), close: () => clearInterval(timer) }
}

/** The piece with this number of a sound that goes round. */
function pieceOf(loop: Int16Array, number: number): Int16Array {
  return Int16Array.from({ length: PIECE }, (_, i) => loop[(number * PIECE + i) % loop.length]!)
}

async function voice(file: string): Promise<Int16Array> {
  const bytes = await (await fetch(`/sim/${file}`)).arrayBuffer()
  const sound = await new OfflineAudioContext(1, 1, RATE).decodeAudioData(bytes)
  return Int16Array.from(sound.getChannelData(0), v => Math.round(Math.max(-1, Math.min(1, v)) * 32767))
}

/**
 * A second that begins with a 2 ms click; with the pen that taps along it measures how sound and ink lie against each
 * other.
 */
function oneClick(): Int16Array {
  const second = new Int16Array(RATE)
  for (let i = 0; i < RATE * 0.002; i++) second[i] = Math.round(29_000 * Math.sin((2 * Math.PI * 1000 * i) / RATE))
  return second
}
