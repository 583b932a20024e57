<script setup lang="ts">
/** Takes back the last change of the folio, or brings it back. */
const store = useFolio()
</script>

<template>
  <div class="flex">
    <UButton
      color="neutral"
      variant="ghost"
      icon="i-lucide-undo-2"
      :disabled="!store.past.length"
      aria-label="Undo"
      :title="`Undo: ${store.past.at(-1)?.label ?? 'nothing to undo'} (Ctrl Z)`"
      @click="store.undo"
    />
    <UButton
      color="neutral"
      variant="ghost"
      icon="i-lucide-redo-2"
      :disabled="!store.future.length"
      aria-label="Redo"
      :title="`Redo: ${store.future.at(-1)?.label ?? 'nothing to redo'} (Ctrl Y)`"
      @click="store.redo"
    />
  </div>
</template>
