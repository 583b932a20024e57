<script setup lang="ts">
import type { Box, Frame, Page } from '#core/folio'
import { touches, type InkTool, type PenRole } from '#core/ink'
import { BoardIndex, TakeRecorder, type PenSample, type TakeEvent } from '#core/take'
import { BoardSurface } from '../board/surface'
import { listenToPen, type PenListener } from '../devices/pen'

/**
 * The page with its frame, to be written on. While a take runs, what is written goes into it; at rest the pen can be
 * tried, and that is not kept.
 */
const props = defineProps<{ page: Page, frame: Frame, tool: PenRole | 'eraser', traySide: 'left' | 'right', shown: readonly TakeEvent[], first: Frame | null }>()
const folio = useFolio()
const recording = useRecording()
const notices = useNotices()
const area = ref<HTMLElement>()
const base = ref<HTMLCanvasElement>()
const top = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(area)

const TRAY = 98
const scale = computed(() => Math.max(0.2, Math.min((width.value - TRAY - 46) / props.frame.box.w, (height.value - 56) / props.frame.box.h)))
const view = computed<Box>(() => {
  const w = width.value / scale.value, h = height.value / scale.value
  const { box } = props.frame
  const shift = ((props.traySide === 'right' ? 1 : -1) * TRAY) / 2 / scale.value
  return { x: box.x + box.w / 2 - w / 2 + shift, y: box.y + box.h / 2 - h / 2, w, h }
})
const framePx = computed(() => ({
  left: (props.frame.box.x - view.value.x) * scale.value, top: (props.frame.box.y - view.value.y) * scale.value,
  width: props.frame.box.w * scale.value, height: props.frame.box.h * scale.value,
}))
let surface: BoardSurface | null = null
/** Where trial strokes go: a take that nothing stores. */
let trial = newTrial()
let shownBoard = new BoardIndex(props.shown, [], props.first ?? undefined)
let live: string | null = null
let dirty = false
const tried = ref(false)

function newTrial() {
  const made = new TakeRecorder({ journal: async () => {}, sound: async () => {} })
  made.start(performance.now())
  return made
}
const target = () => recording.recorder ?? trial

function draw(force = false) {
  if (!surface) return
  const board = target().board.last()
  const under = recording.recorder ? [] : shownBoard.last(props.page.id).strokes
  surface.show({ t: 0, strokes: [...under, ...board.strokes] }, live ?? undefined)
  if (force && !live) surface.showLive(null)
}
function drawLive() {
  dirty = false
  const growing = target().growing
  if (live && growing?.id === live) surface?.showLive(growing)
}
function soon() {
  if (dirty) return
  dirty = true
  requestAnimationFrame(drawLive)
}

const onPage = (s: PenSample): PenSample => ({ ...s, x: view.value.x + s.x / scale.value, y: view.value.y + s.y / scale.value })
let erasing: PenSample | null = null
const listener: PenListener = {
  down(tool: InkTool, sample: PenSample, eraserEnd: boolean) {
    const at = onPage(sample)
    if (props.tool === 'eraser' || eraserEnd) {
      erasing = at
      sweep(at)
      return
    }
    live = target().penDown(props.tool, tool, at)
    tried.value = !recording.recorder
    if (live) soon()
  },
  move(samples) {
    if (erasing) return samples.forEach(s => sweep(onPage(s)))
    if (!live) return
    target().penMove(samples.map(onPage))
    soon()
  },
  up() {
    erasing = null
    if (!live) return
    target().penUp()
    live = null
    draw()
    surface?.showLive(null)
    if (recording.recorder) recording.changes++
  },
}
defineExpose({ framePx, scale, listener })

function sweep(to: PenSample) {
  const from = erasing ?? to
  const hit = target().board.last().strokes.filter(({ stroke }) => touches(stroke, from, to, 4)).map(s => s.stroke.id)
  erasing = to
  if (!hit.length) return
  target().erase(hit, to.now)
  draw()
}

onMounted(() => {
  surface = new BoardSurface(base.value!, top.value!, error => notices.tell(error, 'showing the page'))
  const pen = listenToPen(top.value!, listener)
  onBeforeUnmount(pen.close)
})
watch([width, height, view, () => props.page.id], () => {
  if (folio.folio && width.value > 0) surface?.place(props.page, folio.folio, props.frame, view.value, width.value, height.value)
  draw()
}, { flush: 'post' })
watch(() => props.shown, (events) => {
  shownBoard = new BoardIndex(events, [], props.first ?? undefined)
  draw(true)
})
watch(() => recording.recorder, () => {
  trial = newTrial()
  tried.value = false
  live = null
  draw(true)
})
watch(() => recording.changes, () => draw(true))
watch(() => props.frame, () => {
  trial = newTrial()
  tried.value = false
  if (recording.state === 'running' && live) listener.up()
})
</script>

<template>
  <div
    ref="area"
    class="squared relative h-full overflow-hidden"
    data-part="solve-board"
  >
    <canvas
      ref="base"
      class="absolute inset-0 size-full"
    />
    <canvas
      ref="top"
      class="absolute inset-0 size-full touch-none"
      :class="tool === 'eraser' ? 'cursor-cell' : 'cursor-crosshair'"
      aria-label="The page to write on"
    />
    <div
      class="outside pointer-events-none absolute"
      :style="{ left: `${framePx.left}px`, top: `${framePx.top}px`, width: `${framePx.width}px`, height: `${framePx.height}px` }"
    >
      <div
        class="ticks size-full border"
        :class="{ taking: recording.state === 'running' }"
        data-part="frame"
      />
    </div>
    <p
      v-if="tried && recording.state === 'rest'"
      class="pointer-events-none absolute left-1/2 -translate-x-1/2 border border-default bg-default px-3 py-1 text-sm"
      :style="{ top: `${Math.max(4, framePx.top - 30)}px` }"
    >
      Trying the pen. This is cleared when the take begins.
    </p>
    <slot :frame-px="framePx" />
    <div
      v-if="recording.state === 'counting'"
      class="pointer-events-none absolute inset-0 grid place-items-center"
      role="status"
    >
      <span class="serif grid size-40 place-items-center border-2 border-(--taking) bg-default text-8xl text-(--taking)">{{ recording.countdown || 1 }}</span>
    </div>
  </div>
</template>

<style scoped>
.outside { box-shadow: 0 0 0 9999px color-mix(in srgb, var(--paper) 62%, transparent); }
.ticks { border-color: var(--frame); }
.ticks.taking { border-color: var(--taking); --tick: var(--taking); }
</style>
