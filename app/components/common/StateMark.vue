<script setup lang="ts">
import type { Stage } from '#core/folio'

/** The state of a question as a shape, so that it can be told without colour. */
defineProps<{ stage: Stage }>()
</script>

<template>
  <svg
    viewBox="0 0 14 14"
    class="size-3.5 shrink-0"
    role="img"
    :aria-label="stage"
    fill="none"
    stroke="currentColor"
    stroke-width="1.5"
  >
    <circle
      cx="7"
      cy="7"
      r="5"
      :stroke-dasharray="stage === 'not started' ? '2 2' : undefined"
    />
    <path
      v-if="stage === 'recorded'"
      d="M7 2a5 5 0 0 0 0 10z"
      fill="currentColor"
      stroke="none"
    />
    <path
      v-if="stage === 'proofed'"
      d="M4.2 7.2 6.2 9.4 10 4.8"
    />
    <path
      v-if="stage === 'rendered'"
      d="M5.4 4.3v5.4l4.6-2.7z"
      fill="currentColor"
      stroke="none"
    />
    <g v-if="stage === 'published'">
      <circle
        cx="7"
        cy="7"
        r="5.5"
        fill="currentColor"
        stroke="none"
      />
      <path
        d="M4.2 7.2 6.2 9.4 10 4.8"
        stroke="var(--sheet)"
      />
    </g>
  </svg>
</template>
