<script setup lang="ts">
/** Steps through the frames of a question. */
defineProps<{ at: number; of: number }>()
const emit = defineEmits<{ step: [by: number] }>()
</script>

<template>
  <div
    class="flex items-center gap-1 border border-default bg-default text-sm"
    data-part="frame-step"
  >
    <UButton
      color="neutral"
      variant="ghost"
      icon="i-lucide-arrow-left"
      class="size-11 justify-center"
      :disabled="at === 0"
      aria-label="The frame before"
      title="The frame before (left arrow)"
      @click="emit('step', -1)"
    />
    Frame {{ at + 1 }} of {{ of }}
    <UButton
      color="neutral"
      variant="ghost"
      icon="i-lucide-arrow-right"
      class="size-11 justify-center"
      :disabled="at >= of - 1"
      aria-label="Next frame"
      title="Next frame (right arrow)"
      @click="emit('step', 1)"
    />
  </div>
</template>
