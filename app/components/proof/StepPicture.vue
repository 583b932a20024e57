<script setup lang="ts">
import type { StepPicture } from '#core/edition/proofing'
import type { Page } from '#core/folio'
import { paintStep, printOf } from '../../board/stepPicture'

/** What was written in a step, dark, among what was there before, faint; as tall as it needs. */
const props = defineProps<{ picture: () => StepPicture | null; page: Page | null; name: string }>()
const store = useFolio()
const canvas = ref<HTMLCanvasElement>()
const strip = ref<HTMLElement>()
const { width } = useElementSize(strip)
const near = ref(false)
const shown = shallowRef<StepPicture | null>(null)
/** Rows are drawn once they come near; a picture is no larger than it was written, and never very tall. */
const MOST = { scale: 1.1, height: 190 }
useIntersectionObserver(
  strip,
  ([entry]) => {
    near.value ||= entry?.isIntersecting === true
  },
  { rootMargin: '400px' },
)

watch(
  [near, () => props.picture, width],
  () => {
    if (near.value) shown.value = props.picture()
  },
  { immediate: true },
)
const size = computed(() => {
  const box = shown.value?.box
  if (!box || !width.value) return null
  const scale = Math.min(MOST.scale, width.value / box.w, MOST.height / box.h)
  return { scale, width: Math.round(box.w * scale), height: Math.round(box.h * scale) }
})
watch(
  [size, shown, canvas],
  async () => {
    const [of, step, at] = [canvas.value, shown.value, size.value]
    if (!of || !step || !at || !props.page) return
    paintStep(of, step, props.page, at.scale, window.devicePixelRatio, null)
    const { frame } = step.board
    if (!frame || !store.folio) return
    const picture = await printOf(store.folio, frame, props.page).catch(() => null)
    // The row may show another step by now.
    if (picture && shown.value === step && size.value)
      paintStep(of, step, props.page, size.value.scale, window.devicePixelRatio, { picture, box: frame.box })
  },
  { flush: 'post' },
)
</script>

<template>
  <div
    ref="strip"
    class="min-h-4"
    data-part="step-picture"
  >
    <canvas
      v-if="size"
      ref="canvas"
      role="img"
      :aria-label="`What is written in ${name}`"
      :style="{ width: `${size.width}px`, height: `${size.height}px` }"
      class="max-w-full"
    />
  </div>
</template>
