<script setup lang="ts">
import type { Box, Frame, Page } from '#core/folio'
import { ROLE_STYLES, shapeMarks, shapeMeasure, straighten, thinned, type Mark, type Shape } from '#core/ink'
import { BoardIndex, type TakeEvent } from '#core/recording'
import { drawThing } from '#core/things'
import { BoardSurface } from '../../board/surface'
import { usePen, type PenListener } from '../../composables/usePen'

/**
 * The page with its frame, to be written on. While a take runs, what is written goes into it; at rest the pen can be
 * tried, and that is not kept.
 */
const props = defineProps<{
  page: Page
  frame: Frame
  traySide: 'left' | 'right'
  shown: readonly TakeEvent[]
  first: Frame | null
}>()
const folio = useFolio()
const recording = useRecording()
const notices = useNotices()
const bench = useBench()
const lines = useLines()
const cells = useCells()
const guides = useGuides()
const area = ref<HTMLElement>()
const base = ref<HTMLCanvasElement>()
const top = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(area)

const TRAY = 98
/** Room for the tools below the frame, pixels. */
const BELOW = 172
const WIDEST = 6,
  NARROWEST = 0.4
/** Her own view: moved and grown with two fingers; students see the frame all the same. */
const pan = ref({ dx: 0, dy: 0, grow: 1 })
/** What students see: the frame, or the piece that they have gone closer to. She goes there with them. */
const seen = computed(() => {
  void recording.changes
  // Ink that is talked over goes its course.
  const board = recording.desk.sealed
    ? recording.desk.board.at(recording.elapsed, props.page.id)
    : recording.desk.board.last(props.page.id)
  return board.look ?? props.frame.box
})
const closer = computed(() => seen.value !== props.frame.box)
const fitted = computed(() =>
  Math.max(0.2, Math.min((width.value - TRAY - 46) / seen.value.w, (height.value - 40 - BELOW) / seen.value.h)),
)
const scale = computed(() => fitted.value * pan.value.grow)
const view = computed<Box>(() => {
  const w = width.value / scale.value,
    h = height.value / scale.value
  const box = seen.value
  const shift = ((props.traySide === 'right' ? 1 : -1) * TRAY) / 2 / scale.value
  return {
    x: box.x + box.w / 2 - w / 2 + shift - pan.value.dx / scale.value,
    y: box.y + box.h / 2 - h / 2 + (BELOW / 2 - 8) / scale.value - pan.value.dy / scale.value,
    w,
    h,
  }
})
const toPx = (b: Box) => ({
  left: (b.x - view.value.x) * scale.value,
  top: (b.y - view.value.y) * scale.value,
  width: b.w * scale.value,
  height: b.h * scale.value,
})
const seenPx = computed(() => toPx(seen.value))
const chosenPx = computed(() => bench.chosenBox && toPx(bench.chosenBox))
const cellPx = computed(() => {
  const guide = guides.active,
    cell = cells.inCell ? cells.cell : null
  return bench.tool === 'guide' && guide && cell
    ? toPx({
        x: guide.thing.at.x + cell.col * guide.thing.cell,
        y: guide.thing.at.y + cell.row * guide.thing.cell,
        w: guide.thing.cell,
        h: guide.thing.cell,
      })
    : null
})
let surface: BoardSurface | null = null
let shownBoard = new BoardIndex(props.shown, props.first ?? undefined)
let dirty = false
let following = false
/** What is told beside the pen while a straight line is drawn. */
const measure = ref<{ text: string; x: number; y: number } | null>(null)

function draw() {
  if (!surface) return
  const board = recording.desk.now(props.page.id)
  const under = recording.lasting ? { strokes: [], things: [] } : shownBoard.last(props.page.id)
  // Things of an older take lie below everything that is new.
  const below = <I extends { n: number }>(items: I[]) => items.map(i => ({ ...i, n: i.n - 1e6 }))
  const moves = surface.show(
    {
      ...board,
      strokes: [...below(under.strokes), ...board.strokes],
      things: [...below(under.things), ...board.things],
    },
    hand.live() ?? undefined,
  )
  if (!dirty) drawLive()
  // What writes itself lifts its pen between strokes; it is followed to its end.
  if ((moves || recording.desk.busyMs > 0) && !following) {
    following = true
    requestAnimationFrame(() => {
      following = false
      draw()
    })
  }
}
function drawLive() {
  dirty = false
  const whole = recording.desk.growing
  const growing = whole && { ...whole, points: thinned(whole.points) as number[] }
  const straightened = growing && hand.straightening() ? straighten(growing.points) : null
  tell(straightened)
  const hints = [...ghosts(), ...hand.gesture()]
  if (straightened && growing)
    surface?.showLive(null, [
      ...hints,
      ...shapeMarks({
        ...straightened,
        role: growing.role,
        width: ROLE_STYLES[growing.role].width * (growing.size ?? 1),
      }),
    ])
  else surface?.showLive(growing && growing.id === hand.live() ? growing : null, hints)
}
function soon() {
  if (dirty) return
  dirty = true
  requestAnimationFrame(drawLive)
}

/** Held lines that wait for the take, light, for her eyes only. */
function ghosts(): Mark[] {
  if (recording.lasting) return []
  return bench.waiting
    .filter(h => h.pageId === props.page.id)
    .flatMap(h =>
      drawThing(
        { ...h.thing, ...(h.thing.kind === 'line' ? { hand: undefined } : {}) } as typeof h.thing,
        h.id,
      ).marks.map(m => ({ ...m, alpha: (m.alpha ?? 1) * 0.4 })),
    )
}

const CENTIMETRE = 28.3465
function tell(shape: Shape | null) {
  if (!shape) {
    measure.value = null
    return
  }
  const { length, angle } = shapeMeasure(shape)
  const at = shape.handles[1]!
  const round = ['line', 'arrow'].includes(shape.shape)
  measure.value = {
    text: `${(length / CENTIMETRE).toFixed(1)} cm${round ? `, ${Math.round(angle)}°` : ''}`,
    x: (at.x - view.value.x) * scale.value + 14,
    y: (at.y - view.value.y) * scale.value - 26,
  }
}

const hand = useHand(
  computed(() => props.page),
  computed(() => props.frame),
  scale,
  view,
  draw,
  soon,
)
const listener: PenListener = {
  ...hand.listener,
  pinch(grow, at, dx, dy) {
    const next = Math.min(WIDEST, Math.max(NARROWEST, pan.value.grow * grow))
    const g = next / pan.value.grow
    const middle = { x: width.value / 2, y: height.value / 2 }
    // What is under the fingers stays under them.
    pan.value = {
      grow: next,
      dx: pan.value.dx * g + (1 - g) * (at.x - middle.x) + dx,
      dy: pan.value.dy * g + (1 - g) * (at.y - middle.y) + dy,
    }
  },
}
const backToFrame = () => {
  pan.value = { dx: 0, dy: 0, grow: 1 }
}
const cross = useBoardCursor(listener, view, scale)
const crossPx = computed(() => bench.cursor && toPx({ ...bench.cursor, w: 0, h: 0 }))
function wheel(e: WheelEvent) {
  if (e.ctrlKey) listener.pinch!(Math.exp(-e.deltaY / 300), { x: e.offsetX, y: e.offsetY }, 0, 0)
  else listener.pinch!(1, { x: 0, y: 0 }, -e.deltaX, -e.deltaY)
}
/** What is done on the board leaves the keys to the board: no field keeps them. */
function toBoard() {
  const { activeElement } = document
  if (activeElement instanceof HTMLElement && !lines.draft) activeElement.blur()
}
function dropped(e: DragEvent) {
  const id = e.dataTransfer?.getData('text/x-held')
  if (id) bench.dropHeld(id, { x: view.value.x + e.offsetX / scale.value, y: view.value.y + e.offsetY / scale.value })
}
defineExpose({ seenPx, listener, backToFrame })

onMounted(() => {
  surface = new BoardSurface(base.value!, top.value!, error => notices.tell(error, 'showing the page'))
})
usePen(top, listener)
watch(
  [() => props.page, () => props.frame],
  () => {
    bench.page = props.page
    bench.frameBox = props.frame.box
  },
  { immediate: true },
)
watch(
  [width, height, view, () => props.page.id],
  () => {
    if (folio.folio && width.value > 0)
      surface?.place(props.page, folio.folio, props.frame, view.value, width.value, height.value)
    draw()
  },
  { flush: 'post' },
)
// A view of her own ends where students go closer, or back.
watch(closer, backToFrame)
watch(
  () => props.shown,
  events => {
    shownBoard = new BoardIndex(events, props.first ?? undefined)
    draw()
  },
)
watch(
  () => recording.takeDesk,
  () => {
    recording.clearRehearsal()
    hand.forget()
    draw()
  },
)
watch([() => recording.changes, () => bench.held, () => bench.selection], () => draw())
watch(
  () => props.frame,
  () => {
    recording.clearRehearsal()
    if (recording.state === 'running' && hand.live()) listener.up()
    hand.forget()
    backToFrame()
  },
)
const cursor = computed(() =>
  bench.tool === 'eraser'
    ? 'cursor-cell'
    : bench.tool === 'line'
      ? 'cursor-text'
      : bench.tool === 'choose' && bench.chosenBox
        ? 'cursor-move'
        : 'cursor-crosshair',
)
const box = (b: { left: number; top: number; width: number; height: number }) => ({
  left: `${b.left}px`,
  top: `${b.top}px`,
  width: `${b.width}px`,
  height: `${b.height}px`,
})
</script>

<template>
  <div
    ref="area"
    class="squared relative h-full overflow-hidden"
    data-part="solve-board"
    :data-closer="closer"
  >
    <canvas
      ref="base"
      class="absolute inset-0 size-full"
    />
    <canvas
      ref="top"
      class="absolute inset-0 size-full touch-none"
      :class="cursor"
      aria-label="The page to write on"
      @wheel.prevent="wheel"
      @pointerdown="toBoard"
      @pointermove="bench.cursor && cross.leave()"
      @dragover.prevent
      @drop.prevent="dropped"
    />
    <div
      class="outside pointer-events-none absolute"
      :style="box(seenPx)"
    >
      <div
        class="ticks size-full border"
        :class="{ taking: recording.state === 'running' }"
        data-part="frame"
      />
    </div>
    <div
      v-if="cellPx"
      class="pointer-events-none absolute border-2 border-(--frame) bg-(--frame)/10"
      :style="box(cellPx)"
      data-part="cell"
    />
    <div
      v-if="chosenPx"
      class="pointer-events-none absolute border border-dashed border-(--frame)"
      :style="
        box({
          left: chosenPx.left - 5,
          top: chosenPx.top - 5,
          width: chosenPx.width + 10,
          height: chosenPx.height + 10,
        })
      "
      data-part="chosen"
    >
      <span class="absolute -right-1.5 -bottom-1.5 size-3 border border-(--frame) bg-default" />
    </div>
    <span
      v-if="crossPx"
      class="pointer-events-none absolute size-6 -translate-x-1/2 -translate-y-1/2 border-2 border-(--frame) bg-(--frame)/15"
      :style="{ left: `${crossPx.left}px`, top: `${crossPx.top}px` }"
      data-part="cursor"
    />
    <p
      v-if="measure"
      class="pointer-events-none absolute border border-(--rule) bg-default px-2 text-sm"
      :style="{ left: `${measure.x}px`, top: `${measure.y}px` }"
      data-part="measure"
    >
      {{ measure.text }}
    </p>
    <p
      v-if="hand.tried.value && recording.state === 'rest'"
      class="pointer-events-none absolute left-1/2 -translate-x-1/2 border border-default bg-default px-3 py-1 text-sm"
      :style="{ top: `${Math.max(4, seenPx.top - 30)}px` }"
    >
      Trying the pen. This is cleared when the take begins.
    </p>
    <LineEditor
      v-if="lines.draft"
      :key="`${lines.draft.at.x},${lines.draft.at.y}`"
      :draft="lines.draft"
      :left="(lines.draft.at.x - view.x) * scale"
      :top="(lines.draft.at.y - view.y) * scale"
      :scale="scale"
      :room="{ width: Math.min(width, seenPx.left + seenPx.width + 10), height }"
    />
    <SpokenLines :board="bench.board" />
    <UButton
      v-if="pan.grow !== 1 || pan.dx || pan.dy"
      color="neutral"
      variant="outline"
      class="absolute top-2 right-2 z-10 h-11 bg-default"
      icon="i-lucide-scan"
      @click="backToFrame"
    >
      Whole frame <kbd class="key">0</kbd>
    </UButton>
    <slot :seen-px="seenPx" />
    <div
      v-if="recording.state === 'counting'"
      class="pointer-events-none absolute inset-0 grid place-items-center"
      role="status"
    >
      <span
        class="serif grid size-40 place-items-center border-2 border-(--taking) bg-default text-8xl text-(--taking)"
        >{{ recording.countdown || 1 }}</span
      >
    </div>
  </div>
</template>

<style scoped>
.outside {
  box-shadow: 0 0 0 9999px color-mix(in srgb, var(--paper) 62%, transparent);
}
.ticks {
  border-color: var(--frame);
}
.ticks.taking {
  border-color: var(--taking);
  --tick: var(--taking);
}
</style>
