<script setup lang="ts">
import { placeOf } from '#core/folio'

/** Takes back the last change of the folio, or brings it back. */
const store = useFolio()
/** What is taken back or brought back, with its place where that is not in view. */
function named(next: typeof store.nextUndo, none: string): string {
  if (!next) return none
  return next.elsewhere ? `${next.change.label}, in ${placeOf(next.change)}` : next.change.label
}
</script>

<template>
  <div class="flex">
    <UButton
      color="neutral"
      variant="ghost"
      icon="i-lucide-undo-2"
      :disabled="!store.past.length"
      aria-label="Undo"
      :title="`Undo: ${named(store.nextUndo, 'nothing to undo')} (Ctrl Z)`"
      @click="store.undo"
    />
    <UButton
      color="neutral"
      variant="ghost"
      icon="i-lucide-redo-2"
      :disabled="!store.future.length"
      aria-label="Redo"
      :title="`Redo: ${named(store.nextRedo, 'nothing to redo')} (Ctrl Y)`"
      @click="store.redo"
    />
  </div>
</template>
