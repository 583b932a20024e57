<script setup lang="ts">
/** A cell of the title block that can be written in. */
const props = defineProps<{ label: string; value: string }>()
const emit = defineEmits<{ change: [value: string] }>()
function done(event: Event) {
  const value = (event.target as HTMLInputElement).value.trim()
  if (value !== props.value) emit('change', value)
}
</script>

<template>
  <label class="flex min-w-0 flex-col justify-center gap-1 border-l border-(--rule-fine) px-3.5">
    <span class="cell-label">{{ label }}</span>
    <input
      :value="value"
      :placeholder="'not named'"
      maxlength="300"
      class="w-full truncate bg-transparent outline-none placeholder:text-dimmed focus-visible:outline-2"
      @change="done"
    />
  </label>
</template>
