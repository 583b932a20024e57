import { tapAlong, writeWithSimulatedPen } from '../devices/simulatedPen'
import type { PenListener } from '../devices/pen'

/** Where the simulated pen writes: the listener of the real one, and what students see there, pixels. */
export interface WritingArea {
  listener: PenListener
  seenPx: { left: number; top: number; width: number; height: number }
}

/** The pen that writes by itself: what is typed for it, or taps along while a take runs, as she chose. */
export function useSimulatedPen(area: () => WritingArea | undefined) {
  const recording = useRecording()
  const settings = useSettings()
  const notices = useNotices()
  const bench = useBench()
  const writing = ref(false)
  let hand: AbortController | null = null
  let stopTaps = () => {}

  async function write() {
    const on = area()
    if (!on || writing.value) return
    writing.value = true
    const { role, simulatedText } = settings.remembered
    bench.choose(role)
    hand = new AbortController()
    const { left, top, width, height } = on.seenPx
    try {
      await writeWithSimulatedPen(
        simulatedText,
        { x: left + width * 0.12, y: top + height * 0.48 },
        role,
        on.listener,
        hand.signal,
      )
    } catch (error) {
      notices.tell(error, 'writing with the simulated pen')
    }
    writing.value = false
  }
  function stop() {
    hand?.abort()
    stopTaps()
  }
  watch(
    () => recording.state,
    (state, before) => {
      if (state === 'settling' || state === 'rest') stop()
      const on = area()
      if (state === 'running' && before === 'counting' && settings.remembered.pen === 'sim:taps' && on) {
        const { left, top, height } = on.seenPx
        stopTaps = tapAlong({ x: left + 40, y: top + height * 0.6 }, on.listener)
      }
    },
  )
  onBeforeUnmount(stop)
  return { writing, write }
}
