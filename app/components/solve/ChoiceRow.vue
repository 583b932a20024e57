<script setup lang="ts" generic="V extends string | number">
/** A row of choices of which one holds, large enough for a finger. */
defineProps<{ items: readonly { value: V; label: string; icon?: string }[]; label: string }>()
const chosen = defineModel<V>({ required: true })
</script>

<template>
  <span
    class="flex border border-default bg-default"
    role="group"
    :aria-label="label"
  >
    <button
      v-for="item in items"
      :key="item.value"
      type="button"
      class="choice"
      :class="{ chosen: chosen === item.value }"
      :aria-pressed="chosen === item.value"
      @click="chosen = item.value"
    >
      <UIcon
        v-if="item.icon"
        :name="item.icon"
      />
      {{ item.label }}
    </button>
  </span>
</template>

<style scoped>
.choice {
  display: flex;
  align-items: center;
  gap: 0.375rem;
  min-height: 2.75rem;
  padding: 0 0.75rem;
  white-space: nowrap;
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
}
.choice + .choice {
  border-left: 1px solid var(--rule-fine);
}
.choice:hover {
  background: var(--ui-bg-elevated);
}
.choice.chosen {
  border-top-color: var(--frame);
  font-weight: 700;
  background: var(--ui-bg-elevated);
}
</style>
