<script setup lang="ts">
import { area, curveMonotoneY } from 'd3-shape'
import { PEAKS_PER_SECOND } from '#core/sound'

/** The sound of one step, running down like its time; dragging along it moves through the take. */
const props = defineProps<{ peaks: Uint8Array; from: number; to: number; time: number; struck: boolean }>()
const emit = defineEmits<{ seek: [t: number] }>()
const strip = ref<HTMLElement>()
const { height } = useElementSize(strip)
const WIDTH = 56

const path = computed(() => {
  const first = Math.floor((props.from / 1000) * PEAKS_PER_SECOND)
  const last = Math.ceil((props.to / 1000) * PEAKS_PER_SECOND)
  const rows = Math.max(2, Math.round(height.value / 2))
  const values = Array.from({ length: rows }, (_, i) => {
    const a = first + Math.floor((i / rows) * (last - first))
    const b = Math.max(a + 1, first + Math.floor(((i + 1) / rows) * (last - first)))
    let most = 0
    for (let k = a; k < b && k < props.peaks.length; k++) most = Math.max(most, props.peaks[k]!)
    // Stored on a square-root scale; drawn as loudness itself, so that speech shows its shape.
    return (most / 255) ** 2
  })
  const shape = area<number>()
    .y((_, i) => (i / (rows - 1)) * height.value)
    .x0(v => WIDTH / 2 - v * WIDTH * 0.46)
    .x1(v => WIDTH / 2 + v * WIDTH * 0.46 + 0.6)
    .curve(curveMonotoneY)
  return shape(values) ?? ''
})
const inside = computed(() => props.time >= props.from && props.time < props.to)
const y = computed(() => ((props.time - props.from) / Math.max(1, props.to - props.from)) * height.value)

let dragging = false
function at(event: PointerEvent) {
  const rect = strip.value!.getBoundingClientRect()
  const share = (event.clientY - rect.top) / rect.height
  emit('seek', props.from + share * (props.to - props.from))
}
function down(event: PointerEvent) {
  dragging = true
  strip.value!.setPointerCapture(event.pointerId)
  at(event)
}
</script>

<template>
  <div
    ref="strip"
    class="relative w-14 shrink-0 cursor-ns-resize touch-none border-r border-(--rule-fine)"
    data-part="wave"
    @pointerdown="down"
    @pointermove="dragging && at($event)"
    @pointerup="dragging = false"
    @pointercancel="dragging = false"
  >
    <svg
      class="absolute inset-0 size-full"
      :class="struck ? 'text-dimmed opacity-60' : 'text-primary'"
    >
      <path
        :d="path"
        fill="currentColor"
        fill-opacity="0.7"
      />
    </svg>
    <span
      v-if="inside"
      class="pointer-events-none absolute -left-1 right-0 h-0.5 bg-(--lead)"
      :style="{ top: `${y}px` }"
      ><i class="absolute -left-0 -top-1 size-2.5 bg-(--lead)"
    /></span>
  </div>
</template>
