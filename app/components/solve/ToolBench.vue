<script setup lang="ts">
import { TOOLS, type ToolId } from '../../board/tools'

/** What the hand can do beside writing: one button and one key each, below the frame. */
const props = defineProps<{ without?: readonly ToolId[] }>()
const bench = useBench()
const tools = computed(() => TOOLS.filter(t => !props.without?.includes(t.id)))
</script>

<template>
  <div
    class="flex border border-(--rule) bg-default"
    role="toolbar"
    aria-label="Tools"
    data-part="bench"
  >
    <button
      type="button"
      class="tool"
      :class="{ chosen: bench.straight }"
      :aria-pressed="bench.straight"
      title="Lines, arrows, circles and polygons come out straight; hold Shift for one stroke"
      @click="bench.straight = !bench.straight"
    >
      <UIcon
        name="i-lucide-ruler"
        class="size-5"
      />
      <span>Straight <kbd class="key">X</kbd></span>
    </button>
    <button
      v-for="tool in tools"
      :key="tool.id"
      type="button"
      class="tool"
      :class="{ chosen: bench.tool === tool.id }"
      :aria-pressed="bench.tool === tool.id"
      :title="tool.use"
      @click="bench.choose(tool.id)"
    >
      <UIcon
        :name="tool.icon"
        class="size-5"
      />
      <span
        >{{ tool.label }} <kbd class="key">{{ tool.key.toUpperCase() }}</kbd></span
      >
    </button>
  </div>
</template>

<style scoped>
.tool {
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 0.2rem;
  min-width: 3.6rem;
  flex: 1 1 0;
  height: 3.1rem;
  padding: 0 0.3rem;
  font-size: 0.75rem;
  white-space: nowrap;
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
}
.tool + .tool {
  border-left: 1px solid var(--rule-fine);
}
.tool:hover {
  background: var(--ui-bg-elevated);
}
.tool.chosen {
  background: var(--ui-bg-elevated);
  border-top-color: var(--frame);
  font-weight: 700;
}
@media (max-width: 1150px) {
  .tool {
    padding: 0 0.1rem;
    font-size: 0.6875rem;
  }
  .tool .key {
    padding: 0 0.2rem;
    min-width: 0;
    font-size: 0.625rem;
  }
}
</style>
