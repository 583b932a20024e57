import type { Desk } from '#core/recording'

/**
 * What is taken back and brought back: of the take, or of what was tried before it; at rest, what was tried comes
 * first, then what was
 * changed in the question.
 * @param take the desk of the running take @param changes goes up with every change of the log
 */
export function useTakeUndo(desk: Ref<Desk>, take: Ref<Desk | null>, changes: Ref<number>) {
  const folios = useFolio()
  function undo() {
    if (!take.value && !desk.value.canUndo) return folios.undo()
    desk.value.undo()
    changes.value++
  }
  function redo() {
    if (!take.value && !desk.value.canRedo) return folios.redo()
    desk.value.redo()
    changes.value++
  }
  const canUndo = computed(() => changes.value >= 0 && (desk.value.canUndo || (!take.value && folios.past.length > 0)))
  const canRedo = computed(
    () => changes.value >= 0 && (desk.value.canRedo || (!take.value && folios.future.length > 0)),
  )
  return { undo, redo, canUndo, canRedo }
}
