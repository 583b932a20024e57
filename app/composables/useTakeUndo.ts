import type { TakeRecorder } from '#core/take'

/**
 * What is taken back and brought back: of the take, or of what was tried before it; at rest, what was tried comes first, then what was
 * changed in the question.
 * @param changes goes up with every change of the log
 */
export function useTakeUndo(desk: Ref<TakeRecorder>, recorder: Ref<TakeRecorder | null>, changes: Ref<number>) {
  const folios = useFolio()
  function undo() {
    if (!recorder.value && !desk.value.undoTarget) return folios.undo()
    desk.value.undo(performance.now())
    changes.value++
  }
  function redo() {
    if (!recorder.value && !desk.value.redoTarget) return folios.redo()
    desk.value.redo(performance.now())
    changes.value++
  }
  const canUndo = computed(() => changes.value >= 0 && (desk.value.undoTarget !== undefined || (!recorder.value && folios.past.length > 0)))
  const canRedo = computed(() => changes.value >= 0 && (desk.value.redoTarget !== undefined || (!recorder.value && folios.future.length > 0)))
  return { undo, redo, canUndo, canRedo }
}
