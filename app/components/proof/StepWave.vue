<script setup lang="ts">
import { area, curveMonotoneY } from 'd3-shape'
import type { Pace, Strike } from '#core/folio'
import { PEAKS_PER_SECOND } from '#core/sound'
import type { Stretch } from '#core/recording'

/**
 * The sound of one step, running down like its time. A tap goes to a moment; dragging down along it marks a stretch to
 * be taken out, whose edges snap to pauses in the voice unless Alt is held.
 */
const props = defineProps<{
  peaks: Uint8Array
  from: number
  to: number
  time: number
  struck: boolean
  strikes: readonly Strike[]
  paces: readonly Pace[]
  guards: readonly Stretch[]
  marked: Stretch | null
  snap: (t: number) => number
}>()
const emit = defineEmits<{ seek: [t: number]; mark: [stretch: Stretch] }>()
const strip = ref<HTMLElement>()
const { height } = useElementSize(strip)
const WIDTH = 56
/** Farther than this a press is a drag, px. */
const DRAG = 5

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
const share = (t: number) => Math.max(0, Math.min(1, (t - props.from) / Math.max(1, props.to - props.from)))
const inside = computed(() => props.time >= props.from && props.time < props.to)
const band = (s: Stretch) => ({ top: `${share(s.from) * 100}%`, height: `${(share(s.to) - share(s.from)) * 100}%` })
const here = (s: Stretch) => s.from < props.to && s.to > props.from

let began: { y: number; t: number } | null = null
function at(event: PointerEvent) {
  const rect = strip.value!.getBoundingClientRect()
  return props.from + ((event.clientY - rect.top) / rect.height) * (props.to - props.from)
}
function down(event: PointerEvent) {
  strip.value!.setPointerCapture(event.pointerId)
  began = { y: event.clientY, t: at(event) }
}
function move(event: PointerEvent) {
  if (!began || Math.abs(event.clientY - began.y) < DRAG) return
  const edge = event.altKey ? (t: number) => t : props.snap
  const [a, b] = [edge(began.t), edge(at(event))]
  emit('mark', { from: Math.max(0, Math.min(a, b)), to: Math.max(a, b) })
}
function up(event: PointerEvent) {
  if (began && Math.abs(event.clientY - began.y) < DRAG) emit('seek', began.t)
  began = null
}
</script>

<template>
  <div
    ref="strip"
    class="relative w-14 shrink-0 cursor-ns-resize touch-none border-r border-(--rule-fine)"
    data-part="wave"
    title="Tap to go there; drag down to mark what is to be taken out"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="began = null"
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
      v-for="s in strikes.filter(here)"
      :key="s.id"
      class="out pointer-events-none absolute inset-x-0 border-y border-(--lead-soft)"
      :style="band(s)"
    />
    <span
      v-for="p in paces.filter(here)"
      :key="p.id"
      class="fast pointer-events-none absolute right-0 w-1.5"
      :style="band(p)"
    />
    <span
      v-for="g in guards.filter(here)"
      :key="g.from"
      class="pointer-events-none absolute left-0 w-1.5 border-y border-(--frame) bg-(--frame)/40"
      data-part="guard"
      :style="band(g)"
    />
    <span
      v-if="marked && here(marked)"
      class="pointer-events-none absolute inset-x-0 border-y-2 border-(--frame) bg-(--frame)/20"
      data-part="marked"
      :style="band(marked)"
    />
    <span
      v-if="inside"
      class="pointer-events-none absolute -left-1 right-0 h-0.5 bg-(--lead)"
      :style="{ top: `${share(time) * 100}%` }"
      ><i class="absolute -left-0 -top-1 size-2.5 bg-(--lead)"
    /></span>
  </div>
</template>

<style scoped>
.out {
  background:
    repeating-linear-gradient(135deg, transparent 0 4px, var(--lead-soft) 4px 5px),
    color-mix(in srgb, var(--paper) 70%, transparent);
}
.fast {
  background: repeating-linear-gradient(180deg, var(--frame) 0 3px, transparent 3px 6px);
}
</style>
