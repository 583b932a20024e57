<script setup lang="ts">
import { ELEMENTS, type Element } from '#core/sheets'

/** The elements in their places; one that is pointed at is named. */
const chosen = ref<Element>(ELEMENTS[0]!)
/** Rows: periods 1 to 7, then lanthanoids and actinoids below. */
const place = (e: Element) =>
  e.group
    ? { gridColumn: e.group, gridRow: e.period }
    : { gridColumn: e.z - (e.period === 6 ? 57 : 89) + 3, gridRow: e.period + 2 }
</script>

<template>
  <div>
    <p
      class="serif mb-2 text-lg"
      aria-live="polite"
    >
      <b>{{ chosen.symbol }}</b> {{ chosen.name }}, {{ chosen.z }}, {{ chosen.weight }}
    </p>
    <div class="table">
      <button
        v-for="e in ELEMENTS"
        :key="e.z"
        type="button"
        class="cell serif"
        :class="{ here: e.z === chosen.z }"
        :style="place(e)"
        :aria-label="`${e.name}, ${e.z}, ${e.weight}`"
        @pointerenter="chosen = e"
        @focus="chosen = e"
        @click="chosen = e"
      >
        {{ e.symbol }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.table {
  display: grid;
  grid-template-columns: repeat(18, 1fr);
  gap: 1px;
}
.cell {
  aspect-ratio: 1;
  min-width: 0;
  font-size: 0.62rem;
  line-height: 1;
  background: var(--ui-bg-elevated);
  overflow: hidden;
}
.cell.here {
  background: var(--frame);
  color: var(--sheet);
}
</style>
