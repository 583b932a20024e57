/** A microphone that hands over a piece of 20 ms as often as it is told. */
export const sound = { refused: false, push: (_at: number) => {}, lose: () => {} }

export const NO_MICROPHONE = { id: 'none', label: 'No sound', simulated: false }
export const listMicrophones = async () => [{ id: 'sim:voice', label: 'A voice', simulated: true }]

export async function openMicrophone(_: unknown, listen: (pcm: Int16Array, rate: number, at: number) => void) {
  if (sound.refused) throw new Error('refused')
  sound.push = at => listen(new Int16Array(960).fill(900), 48_000, at)
  return {
    onLost(told: () => void) {
      sound.lose = told
    },
    close() {
      sound.push = () => {}
    },
  }
}
