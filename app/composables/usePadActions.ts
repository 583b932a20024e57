import { clockTime } from '#core/publish'
import type { SolveActions } from './useSolveKeys'

/** Lets the pad and the pen's button do in Solve what the keys do, and tells the pad what there is to see. */
export function usePadActions(act: Pick<SolveActions, 'record' | 'stop' | 'next' | 'refer'>, name: () => string) {
  const pad = usePad()
  const recording = useRecording()
  const bench = useBench()
  const stop = pad.onPress(press => {
    switch (press) {
      case 'record':
        return act.record()
      case 'stop':
        return act.stop()
      case 'next':
        return act.next()
      case 'refer':
        return act.refer()
      case 'step':
        return recording.markStep()
      case 'back':
        return void recording.goBack()
      case 'turn':
        return recording.yourTurn()
      case 'pause':
        return recording.pauseOrGoOn()
      case 'reveal':
        return bench.reveal()
    }
  })
  const seconds = computed(() => Math.floor(recording.kept / 1000))
  watch(
    [
      () => pad.opened,
      () => recording.state,
      seconds,
      () => recording.warnings[0]?.fault,
      () => recording.cameraWarning?.fault,
      () => recording.steps.length,
      name,
    ],
    () => {
      const { state } = recording
      const step = `step ${recording.steps.length + 1}`
      pad.tell({
        says:
          state === 'rest'
            ? `${name()}. Ready`
            : state === 'counting'
              ? 'Counting down'
              : state === 'settling'
                ? 'Putting the take together'
                : `${state === 'paused' ? 'Paused' : 'Taking'} ${clockTime(recording.kept)}, ${step}`,
        taking: state === 'running',
        warning:
          state !== 'running'
            ? ''
            : recording.warnings.length
              ? 'Look at the sound'
              : recording.cameraWarning
                ? 'Look at the camera'
                : '',
      })
    },
    { immediate: true },
  )
  onBeforeUnmount(stop)
}
