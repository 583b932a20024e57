import type { OpenedStream } from './microphone'

/** Stand-ins for a microphone; they run through the same capture as a real one. */
export const SIMULATED_MICROPHONES = [
  { id: 'sim:voice', label: 'Simulated: a voice that speaks a lesson', file: 'lesson.ogg' },
  { id: 'sim:clicks', label: 'Simulated: a click every second', file: null },
  { id: 'sim:unplugged', label: 'Simulated: a voice, pulled out after 4 seconds', file: 'lesson.ogg' },
  { id: 'sim:refused', label: 'Simulated: refused by the browser', file: null },
] as const

const UNPLUG_AFTER_MS = 4000

/** Opens a simulated microphone in an audio context. @throws Trouble for the one that is refused */
export async function openSimulatedMicrophone(id: string, context: AudioContext): Promise<OpenedStream> {
  const maker = SIMULATED_MICROPHONES.find(m => m.id === id) ?? SIMULATED_MICROPHONES[0]
  if (maker.id === 'sim:refused') {
    const { microphoneTrouble } = await import('./microphone')
    throw microphoneTrouble('NotAllowedError')
  }
  const out = context.createMediaStreamDestination()
  const source = maker.file ? await voice(context, maker.file) : clicks(context)
  source.connect(out)
  source.start()
  const stopTelling = maker.file ? () => {} : tellClicks(context, context.currentTime)
  const lost: (() => void)[] = []
  const timer = maker.id === 'sim:unplugged'
    ? setTimeout(() => {
        out.stream.getTracks().forEach(t => t.stop())
        lost.forEach(l => l())
      }, UNPLUG_AFTER_MS)
    : undefined
  return {
    stream: out.stream,
    label: maker.label,
    onLost: listener => lost.push(listener),
    close() {
      clearTimeout(timer)
      stopTelling()
      source.stop()
      out.stream.getTracks().forEach(t => t.stop())
    },
  }
}

async function voice(context: AudioContext, file: string): Promise<AudioBufferSourceNode> {
  const bytes = await (await fetch(`/sim/${file}`)).arrayBuffer()
  const source = context.createBufferSource()
  source.buffer = await context.decodeAudioData(bytes)
  source.loop = true
  return source
}

/** A 2 ms click each second; with the pen that taps along it measures how sound and ink lie against each other. */
function clicks(context: AudioContext): AudioBufferSourceNode {
  const rate = context.sampleRate
  const buffer = context.createBuffer(1, rate, rate)
  const data = buffer.getChannelData(0)
  for (let i = 0; i < rate * 0.002; i++) data[i] = 0.9 * Math.sin((2 * Math.PI * 1000 * i) / rate)
  const source = context.createBufferSource()
  source.buffer = buffer
  source.loop = true
  return source
}

/** Tells of each click of the simulated microphone: `detail` is the machine time (ms) at which it sounds. */
export const clickSignal = new EventTarget()

function tellClicks(context: AudioContext, started: number): () => void {
  let told = 0
  const timer = setInterval(() => {
    const sounded = Math.floor(context.currentTime - started)
    if (sounded <= told) return
    told = sounded
    const at = performance.now() - (context.currentTime - started - sounded) * 1000
    clickSignal.dispatchEvent(new CustomEvent('click', { detail: at }))
  }, 4)
  return () => clearInterval(timer)
}
