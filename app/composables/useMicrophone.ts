import { levelOf } from '#core/sound'
import {
  listMicrophones,
  NO_MICROPHONE,
  openMicrophone,
  type Microphone,
  type MicrophoneChoice,
} from '../devices/microphone'

/**
 * The microphone of a take: which ones there are, which she chose, and the sound it hands over.
 * @param onSound mono samples, their rate (Hz), machine time of the first (ms) and their level (dBFS)
 */
export function useMicrophone(
  onSound: (pcm: Int16Array, rate: number, at: number, level: number) => void,
  onLost: () => void,
) {
  const settings = useSettings()
  const microphones = ref<MicrophoneChoice[]>([])
  /** Level of what comes in, dBFS. */
  const level = ref(-100)
  let microphone: Microphone | null = null

  /**
   * The microphone she chose; without a choice the first real one, else the simulated one. One that is gone stays
   * chosen, so that she is told.
   */
  const chosen = computed<MicrophoneChoice>(() => {
    const id = settings.remembered.microphone
    if (!id)
      return (
        microphones.value.find(m => m.id.startsWith('device:')) ??
        microphones.value.find(m => m.id === 'sim:voice') ??
        NO_MICROPHONE
      )
    return (
      microphones.value.find(m => m.id === id) ?? {
        id,
        label: 'The microphone of last time',
        simulated: id.startsWith('sim:'),
      }
    )
  })

  async function findMicrophones() {
    microphones.value = await listMicrophones()
  }

  async function plugIn() {
    microphone = await openMicrophone(chosen.value, (pcm, rate, at) => {
      level.value = levelOf(pcm)
      onSound(pcm, rate, at, level.value)
    })
    microphone.onLost(onLost)
  }

  /** Opens what she chose, where it is not open already. @throws Trouble of the microphone */
  async function plugInChosen() {
    if (!microphones.value.length) await findMicrophones()
    if (chosen.value.id !== NO_MICROPHONE.id && !microphone) await plugIn()
  }

  function unplug() {
    microphone?.close()
    microphone = null
    level.value = -100
  }

  return {
    microphones,
    chosen,
    level,
    findMicrophones,
    plugIn,
    plugInChosen,
    unplug,
    isOpen: () => microphone !== null,
  }
}
