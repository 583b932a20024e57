<script setup lang="ts">
import type { Frame } from '#core/folio'
import {
  PORTRAIT_EDGE,
  PORTRAIT_EDGE_WIDTH,
  PORTRAIT_MOVE_MS,
  PORTRAIT_ROUND,
  PortraitPath,
  portraitBox,
} from '#core/scene'
import { POINT_SIZE } from '#core/ink'

/** The camera's picture where it will stand in the video, out of the way of the ink. Ink goes through it. */
const props = defineProps<{ frame: Frame; place: { left: number; top: number; width: number; height: number } }>()
const camera = useCamera()
const recording = useRecording()
const video = ref<HTMLVideoElement>()
const corner = ref(camera.portrait.corner)
/** How often it looks where the ink is, ms. */
const LOOK_MS = 100

let path = newPath()
/** The stroke that grew when it was last looked, and how many of its numbers the path has seen. */
let part: { points: readonly number[]; seen: number } | null = null
function newPath() {
  return new PortraitPath(camera.portrait, recording.takeDesk?.board.frameAt(0) ?? props.frame)
}
function look() {
  const { desk } = recording
  if (part)
    for (let i = part.seen; i + 3 < part.points.length; i += POINT_SIZE)
      path.wrote(part.points[i + 3]!, part.points[i]!, part.points[i + 1]!)
  path.follow(desk.events)
  part = desk.growing ? { points: desk.growing.points, seen: desk.growing.points.length } : null
  corner.value = path.moves[path.moves.length - 1]!.corner
}
watch([() => recording.desk, () => camera.portrait], () => {
  path = newPath()
  part = null
  look()
})
useIntervalFn(look, LOOK_MS)
watch(
  [video, () => camera.camera],
  () => {
    if (video.value) video.value.srcObject = camera.camera?.stream ?? null
  },
  { immediate: true, flush: 'post' },
)
const box = computed(() =>
  portraitBox(camera.portrait, corner.value, {
    x: props.place.left,
    y: props.place.top,
    w: props.place.width,
    h: props.place.height,
  }),
)
</script>

<template>
  <video
    ref="video"
    autoplay
    muted
    playsinline
    class="pointer-events-none absolute z-5 object-cover motion-safe:transition-[left,top]"
    :style="{
      left: `${box.x}px`,
      top: `${box.y}px`,
      width: `${box.w}px`,
      height: `${box.h}px`,
      borderRadius: camera.portrait.shape === 'circle' ? '50%' : `${box.h * PORTRAIT_ROUND}px`,
      border: `${Math.max(1, box.h * PORTRAIT_EDGE_WIDTH)}px solid ${PORTRAIT_EDGE}`,
      transitionDuration: `${PORTRAIT_MOVE_MS}ms`,
      transform: 'scaleX(-1)',
    }"
    aria-label="Your picture"
    data-part="portrait"
    :data-corner="corner"
  />
</template>
