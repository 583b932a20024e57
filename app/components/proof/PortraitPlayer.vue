<script setup lang="ts">
import type { Portrait } from '#core/folio'
import { PORTRAIT_EDGE, PORTRAIT_ROUND } from '#core/scene'

/** The camera's track beside what is played: it follows the time it is given. Without a portrait it fills its place. */
const props = defineProps<{
  track: Blob
  time: number
  playing: boolean
  speed: number
  portrait?: Portrait
  box?: { x: number; y: number; w: number; h: number }
}>()
const video = ref<HTMLVideoElement>()
const url = useObjectUrl(() => props.track)
/** Farther off than this it leaps, s. */
const OFF = 0.12

function follow() {
  const element = video.value
  if (!element || element.readyState === 0) return
  const at = props.time / 1000
  if (props.playing) {
    element.playbackRate = props.speed
    if (Math.abs(element.currentTime - at) > OFF) element.currentTime = at
    if (element.paused && at < element.duration) void element.play().catch(() => {})
  } else {
    element.pause()
    if (Math.abs(element.currentTime - at) > 0.01) element.currentTime = at
  }
}
watch([() => props.time, () => props.playing, () => props.speed], follow)
const share = (n: number) => `${n * 100}%`
const style = computed(() => {
  const { box, portrait } = props
  if (!box || !portrait) return { inset: '0', width: '100%', height: '100%' }
  // Roundness in percent is of each side's own length.
  const round =
    portrait.shape === 'circle'
      ? '50%'
      : `${share((PORTRAIT_ROUND * box.h * 9) / (box.w * 16))} / ${share(PORTRAIT_ROUND)}`
  return {
    left: share(box.x),
    top: share(box.y),
    width: share(box.w),
    height: share(box.h),
    borderRadius: round,
    border: `2px solid ${PORTRAIT_EDGE}`,
  }
})
</script>

<template>
  <video
    ref="video"
    :src="url"
    muted
    playsinline
    preload="auto"
    class="pointer-events-none absolute object-cover"
    :style="style"
    aria-label="The camera’s picture"
    data-part="portrait-player"
    @loadeddata="follow"
  />
</template>
