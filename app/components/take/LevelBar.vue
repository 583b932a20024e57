<script setup lang="ts">
/** The sound as it comes in; the ticks mark the range that is right for speech. */
const props = defineProps<{ level: number }>()
const share = computed(() => Math.max(0, Math.min(1, (props.level + 60) / 60)))
</script>

<template>
  <div
    class="bar"
    role="meter"
    aria-label="Sound level"
    aria-valuemin="-60"
    aria-valuemax="0"
    :aria-valuenow="Math.round(Math.max(-60, level))"
    title="The level of speech should stand between the two marks"
  >
    <span :style="{ transform: `scaleX(${share})` }" />
    <i style="left: 45%" /><i style="left: 85%" />
  </div>
</template>

<style scoped>
.bar {
  position: relative;
  flex: none;
  width: clamp(4rem, 8vw, 7rem);
  height: 0.75rem;
  border: 1px solid var(--rule);
  overflow: hidden;
}
.bar span {
  position: absolute;
  inset: 1px;
  background: var(--frame);
  transform-origin: left;
}
.bar i {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--lead);
}
</style>
