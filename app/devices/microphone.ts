import { Trouble } from '#core/folio'
import { captureSound, placing, type SoundListener } from './capture'
import { openSimulatedMicrophone, SIMULATED_MICROPHONES } from './simulatedMicrophone'

/** A microphone that can be chosen, real or simulated, or none at all. */
export interface MicrophoneChoice {
  id: string
  label: string
  simulated: boolean
}

/** A microphone in use. */
export interface Microphone {
  label: string
  onLost(listener: () => void): void
  close(): void
}

export const NO_MICROPHONE: MicrophoneChoice = { id: 'none', label: 'No sound, ink only', simulated: false }

/** The microphones of this machine (named once the browser has been allowed to), then the simulated ones. */
export async function listMicrophones(): Promise<MicrophoneChoice[]> {
  const devices = (await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? []
  const real = devices
    .filter(d => d.kind === 'audioinput')
    .map((d, i) => ({
      id: `device:${d.deviceId || 'default'}`,
      label: d.label || `Microphone ${i + 1}`,
      simulated: false,
    }))
  return [...real, NO_MICROPHONE, ...SIMULATED_MICROPHONES.map(({ id, label }) => ({ id, label, simulated: true }))]
}

/**
 * Opens a microphone and hands its sound to `listen`.
 * @throws Trouble `microphone-refused`, `microphone-absent`, `microphone-busy`
 */
export async function openMicrophone(choice: MicrophoneChoice, listen: SoundListener): Promise<Microphone> {
  return choice.simulated ? openSimulatedMicrophone(choice.id, placing(listen)) : openDevice(choice, listen)
}

async function openDevice(choice: MicrophoneChoice, listen: SoundListener): Promise<Microphone> {
  const deviceId = choice.id.replace(/^device:/, '')
  // These treatments would change the voice and hide faults; speech is treated afterwards, where it can be heard.
  const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 }
  if (!navigator.mediaDevices?.getUserMedia) throw microphoneTrouble('NotFoundError')
  const stream = await navigator.mediaDevices
    .getUserMedia({ audio: { ...plain, ...(deviceId === 'default' ? {} : { deviceId: { exact: deviceId } }) } })
    .catch((error: unknown) => {
      throw microphoneTrouble(error instanceof Error ? error.name : '', error)
    })
  const track = stream.getAudioTracks()[0]!
  const stop = await captureSound(stream, listen)
  return {
    label: track.label || choice.label,
    onLost: listener => {
      // It may be gone by the time that somebody listens.
      if (track.readyState === 'ended') listener()
      else track.addEventListener('ended', () => listener(), { once: true })
    },
    close() {
      stop()
      stream.getTracks().forEach(t => t.stop())
    },
  }
}

/** A teacher's sentence for each way in which a microphone can fail to open. */
export function microphoneTrouble(name: string, cause?: unknown): Trouble {
  const safe = 'Nothing was recorded yet, and nothing is lost.'
  if (name === 'NotAllowedError' || name === 'SecurityError') {
    return new Trouble(
      'microphone-refused',
      'The browser was not allowed to use the microphone.',
      safe,
      'Allow the microphone for this page in the browser’s address bar, or choose “No sound, ink only”.',
      cause,
    )
  }
  if (name === 'NotFoundError' || name === 'OverconstrainedError') {
    return new Trouble(
      'microphone-absent',
      'No such microphone is connected.',
      safe,
      'Plug it in and press Record again, or choose another one.',
      cause,
    )
  }
  return new Trouble(
    'microphone-busy',
    'The microphone could not be started; another program may be using it.',
    safe,
    'Close that program and press Record again, or choose another microphone.',
    cause,
  )
}
