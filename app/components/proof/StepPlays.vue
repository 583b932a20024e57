<script setup lang="ts">
import { max } from 'd3-array'
import { scaleLinear } from 'd3-scale'

/** How often students went back to a step, and left in it, beside the other steps of its question; where that is counted. */
const props = defineProps<{ questionId: string; step: number; of: number }>()
const site = useClassSite()
const counts = computed(() => site.state?.counts ?? {})
const at = (step: number) => ({
  repeats: counts.value[`${props.questionId}/${step}`] ?? 0,
  left: counts.value[`${props.questionId}/${step}:left`] ?? 0,
})
const own = computed(() => at(props.step))
/** Px; the widest bar of the question is this wide. */
const WIDE = 96
const x = computed(() => {
  const all = Array.from({ length: props.of }, (_, i) => at(i))
  return scaleLinear([0, max(all, s => Math.max(s.repeats, s.left)) || 1], [0, WIDE])
})
</script>

<template>
  <p
    v-if="own.repeats + own.left"
    class="flex items-center gap-2 text-sm text-toned"
    data-part="step-plays"
  >
    <svg
      :viewBox="`0 0 ${WIDE} 12`"
      :width="WIDE"
      height="12"
      aria-hidden="true"
    >
      <rect
        :width="x(own.repeats)"
        height="5"
        fill="var(--frame)"
      />
      <rect
        y="7"
        :width="x(own.left)"
        height="5"
        fill="var(--lead-soft)"
      />
    </svg>
    <span
      ><template v-if="own.repeats">gone back to {{ own.repeats }} ×</template
      ><template v-if="own.repeats && own.left">, </template
      ><template v-if="own.left">left at {{ own.left }} ×</template></span
    >
  </p>
</template>
