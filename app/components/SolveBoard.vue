<script setup lang="ts">
import type { Box, Frame, LineThing, Page, Spot } from '#core/folio'
import { boxPath, ellipsePath, polyline, ROLE_STYLES, shapeMeasure, shapeMarks, Steady, straighten, type InkTool, type Mark, type Shape } from '#core/ink'
import { BoardIndex, type PenSample, type TakeEvent } from '#core/take'
import { drawThing, wordsBetween } from '#core/things'
import { BoardSurface } from '../board/surface'
import { itemAt, ringed, swept, sweptPieces } from '../board/selection'
import { between, isPen } from '../board/tools'
import { listenToPen, type PenListener, type PenState } from '../devices/pen'

/**
 * The page with its frame, to be written on. While a take runs, what is written goes into it; at rest the pen can be
 * tried, and that is not kept.
 */
const props = defineProps<{ page: Page, frame: Frame, traySide: 'left' | 'right', shown: readonly TakeEvent[], first: Frame | null }>()
const folio = useFolio()
const recording = useRecording()
const settings = useSettings()
const notices = useNotices()
const bench = useBench()
const guides = useGuides()
const area = ref<HTMLElement>()
const base = ref<HTMLCanvasElement>()
const top = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(area)

const TRAY = 98
/** Room for the tools below the frame, pixels. */
const BELOW = 118
const WIDEST = 6, NARROWEST = 0.4
/** Her own view: moved and grown with two fingers; students see the frame all the same. */
const pan = ref({ dx: 0, dy: 0, grow: 1 })
const fitted = computed(() => Math.max(0.2, Math.min((width.value - TRAY - 46) / props.frame.box.w, (height.value - 40 - BELOW) / props.frame.box.h)))
const scale = computed(() => fitted.value * pan.value.grow)
const view = computed<Box>(() => {
  const w = width.value / scale.value, h = height.value / scale.value
  const { box } = props.frame
  const shift = ((props.traySide === 'right' ? 1 : -1) * TRAY) / 2 / scale.value
  return { x: box.x + box.w / 2 - w / 2 + shift - pan.value.dx / scale.value, y: box.y + box.h / 2 - h / 2 + (BELOW / 2 - 8) / scale.value - pan.value.dy / scale.value, w, h }
})
/** What students see: the frame, or the piece that they have gone closer to. */
const seen = computed(() => {
  void recording.changes
  return recording.desk.board.last(props.page.id).look ?? props.frame.box
})
const toPx = (b: Box) => ({ left: (b.x - view.value.x) * scale.value, top: (b.y - view.value.y) * scale.value, width: b.w * scale.value, height: b.h * scale.value })
const framePx = computed(() => toPx(props.frame.box))
const seenPx = computed(() => toPx(seen.value))
const chosenPx = computed(() => bench.chosenBox && toPx(bench.chosenBox))
const cellPx = computed(() => {
  const guide = guides.active, { cell } = guides
  return bench.tool === 'guide' && guide && cell ? toPx({ x: guide.thing.at.x + cell.col * guide.thing.cell, y: guide.thing.at.y + cell.row * guide.thing.cell, w: guide.thing.cell, h: guide.thing.cell }) : null
})
let surface: BoardSurface | null = null
let shownBoard = new BoardIndex(props.shown, [], props.first ?? undefined)
let live: string | null = null
let dirty = false
const tried = ref(false)
/** What is told beside the pen while a straight line is drawn. */
const measure = ref<{ text: string, x: number, y: number } | null>(null)

function draw() {
  if (!surface) return
  const board = recording.desk.board.at(recording.desk.time(performance.now()), props.page.id)
  const under = recording.recorder ? { strokes: [], things: [] } : shownBoard.last(props.page.id)
  // Things of an older take lie below everything that is new.
  const below = <I extends { n: number }>(items: I[]) => items.map(i => ({ ...i, n: i.n - 1e6 }))
  const moves = surface.show({ ...board, strokes: [...below(under.strokes), ...board.strokes], things: [...below(under.things), ...board.things] }, live ?? undefined)
  if (!dirty) drawLive()
  if (moves) requestAnimationFrame(draw)
}
function drawLive() {
  dirty = false
  const growing = recording.desk.growing
  const straightened = growing && straightening() ? straighten(growing.points) : null
  tell(straightened)
  const hints = [...ghosts(), ...gesture()]
  if (straightened && growing) surface?.showLive(null, [...hints, ...shapeMarks({ ...straightened, role: growing.role, width: ROLE_STYLES[growing.role].width * (growing.size ?? 1) })])
  else surface?.showLive(live && growing?.id === live ? growing : null, hints)
}
function soon() {
  if (dirty) return
  dirty = true
  requestAnimationFrame(drawLive)
}

/** Held lines that wait for the take, light, for her eyes only. */
function ghosts(): Mark[] {
  if (recording.recorder) return []
  return bench.waiting.filter(h => h.pageId === props.page.id).flatMap(h => drawThing({ ...h.thing, ...(h.thing.kind === 'line' ? { hand: undefined } : {}) } as typeof h.thing, h.id).marks.map(m => ({ ...m, alpha: (m.alpha ?? 1) * 0.4 })))
}

const CENTIMETRE = 28.3465
function tell(shape: Shape | null) {
  if (!shape) { measure.value = null; return }
  const { length, angle } = shapeMeasure(shape)
  const at = shape.handles[1]!
  const round = ['line', 'arrow'].includes(shape.shape)
  measure.value = { text: `${(length / CENTIMETRE).toFixed(1)} cm${round ? `, ${Math.round(angle)}°` : ''}`, x: (at.x - view.value.x) * scale.value + 14, y: (at.y - view.value.y) * scale.value - 26 }
}

const onPage = (s: PenSample): PenSample => ({ ...s, x: view.value.x + s.x / scale.value, y: view.value.y + s.y / scale.value })
/** What the hand is doing between down and up, with its places on the page. */
let doing: { what: 'erase' | 'ring' | 'drag' | 'grow' | 'mark' | 'light' | 'closer' | 'trail' | 'handle', path: Spot[], handle?: number } | null = null
let pen: PenState = { barrel: false, tilt: 0, shift: false }
let steady = new Steady(0)
const straightening = () => bench.straight || pen.shift || (pen.barrel && settings.remembered.penButton === 'straight')
const canAct = () => recording.state !== 'paused' && recording.state !== 'counting' && recording.state !== 'settling'

const listener: PenListener = {
  down(tool: InkTool, sample: PenSample, eraserEnd: boolean, state?: PenState) {
    const at = onPage(sample)
    pen = state ?? { barrel: false, tilt: 0, shift: false }
    if (!canAct()) return
    const button = pen.barrel ? settings.remembered.penButton : null
    if (button === 'step') return recording.markStep()
    if (bench.tool === 'eraser' || eraserEnd || button === 'eraser') {
      doing = { what: 'erase', path: [at] }
      return sweep(at)
    }
    if (bench.tool === 'pointer' || button === 'pointer') {
      doing = { what: 'trail', path: [at] }
      recording.desk.trailDown(at)
      return draw()
    }
    if (isPen(bench.tool)) {
      steady = new Steady(tool === 'pen' ? 0 : settings.remembered.steady)
      // A pen held flat writes broad, as a pencil does.
      const size = settings.remembered.penSize * (pen.tilt > 50 ? 1.6 : 1)
      live = recording.desk.penDown(bench.tool, tool, steady.next(at), Math.round(size * 100) / 100)
      tried.value = !recording.recorder
      if (live) soon()
      return
    }
    begin(at)
  },
  move(samples, state) {
    if (state) pen = state
    if (live) {
      recording.desk.penMove(samples.map(s => steady.next(onPage(s))))
      return soon()
    }
    if (!doing) return
    const places = samples.map(onPage)
    if (doing.what === 'trail') {
      recording.desk.penMove(places)
      return draw()
    }
    for (const p of places) {
      if (doing.what === 'erase') sweep(p)
      doing.path.push(p)
    }
    soon()
  },
  up() {
    if (live) finishStroke()
    else if (doing) finish(doing)
    doing = null
    draw()
  },
  cancel() {
    if (live) {
      recording.desk.penUp()
      recording.undo()
      live = null
    }
    doing = null
    draw()
  },
  pinch(grow, at, dx, dy) {
    const next = Math.min(WIDEST, Math.max(NARROWEST, pan.value.grow * grow))
    const g = next / pan.value.grow
    const middle = { x: width.value / 2, y: height.value / 2 }
    // What is under the fingers stays under them.
    pan.value = { grow: next, dx: pan.value.dx * g + (1 - g) * (at.x - middle.x) + dx, dy: pan.value.dy * g + (1 - g) * (at.y - middle.y) + dy }
  },
}
const backToFrame = () => { pan.value = { dx: 0, dy: 0, grow: 1 } }
function wheel(e: WheelEvent) {
  if (e.ctrlKey) listener.pinch!(Math.exp(-e.deltaY / 300), { x: e.offsetX, y: e.offsetY }, 0, 0)
  else listener.pinch!(1, { x: 0, y: 0 }, -e.deltaX, -e.deltaY)
}
defineExpose({ framePx, scale, listener, backToFrame })

function finishStroke() {
  const growing = recording.desk.growing
  recording.desk.penUp()
  const id = live!
  live = null
  const shape = growing && straightening() ? straighten(growing.points) : null
  if (shape && growing) {
    bench.act('straightening', () => recording.desk.place({ kind: 'shape', ...shape, role: growing.role, width: ROLE_STYLES[growing.role].width * (growing.size ?? 1) }, performance.now(), 0, { instead: [id] }))
  }
  else if (growing) guides.follow(id, growing)
  if (recording.recorder) recording.changes++
}

function begin(at: PenSample) {
  switch (bench.tool) {
    case 'choose': return beginChoosing(at)
    case 'mark': case 'light': case 'closer': doing = { what: bench.tool, path: [at] }; break
    case 'line': return tapLine(at)
    case 'guide': if (!guides.cellAt(at)) void guides.placeGuide(at); break
    case 'figure': void guides.placeFigure(settings.remembered.figure, guides.textOf(`figure:${settings.remembered.figure}`, ''), at); break
    case 'option': {
      const option = guides.optionAt(at)
      if (option) void guides.setOption(option.label, guides.stateOf(option.label) === 'open' ? 'out' : 'answer')
      break
    }
    case 'tally': bench.addToTally(at); break
  }
}

/** A tap on a line opens it, elsewhere a new one is begun. */
function tapLine(at: Spot) {
  const id = itemAt(bench.board, at)
  const hit = bench.board.things.find(t => t.id === id)
  if (hit?.thing.kind === 'line') bench.editLine(hit.id, hit.thing)
  else bench.startLine({ x: at.x, y: at.y + settings.remembered.letters * 0.35 })
}

function beginChoosing(at: PenSample) {
  const box = bench.chosenBox
  const shape = chosenShape()
  const handle = shape?.thing.kind === 'shape' ? shape.thing.handles.findIndex(h => Math.hypot(h.x - at.x, h.y - at.y) < 10 / scale.value) : -1
  if (handle >= 0) doing = { what: 'handle', path: [at], handle }
  else if (box && Math.hypot(box.x + box.w - at.x, box.y + box.h - at.y) < 16 / scale.value) doing = { what: 'grow', path: [at] }
  else if (box && at.x > box.x - 4 && at.x < box.x + box.w + 4 && at.y > box.y - 4 && at.y < box.y + box.h + 4) doing = { what: 'drag', path: [at] }
  else doing = { what: 'ring', path: [at] }
}
const chosenShape = () => bench.selection.length === 1 ? bench.board.things.find(t => t.id === bench.selection[0] && t.thing.kind === 'shape') : undefined

function finish({ what, path, handle }: NonNullable<typeof doing>) {
  const from = path[0]!, to = path[path.length - 1]!
  const moved = path.some(p => Math.hypot(p.x - from.x, p.y - from.y) > 5 / scale.value)
  const now = performance.now()
  if (what === 'trail') recording.desk.penUp()
  else if (what === 'ring') {
    const tapped = itemAt(bench.board, from)
    bench.selection = moved ? ringed(bench.board, path) : tapped ? [tapped] : []
  }
  else if (what === 'drag' && moved) bench.nudge(to.x - from.x, to.y - from.y)
  else if (what === 'drag') openChosen()
  else if (what === 'grow' && bench.chosenBox) {
    const { x, y, w, h } = bench.chosenBox
    bench.grow(Math.max(0.1, Math.min(10, Math.hypot(to.x - x, to.y - y) / Math.hypot(w, h))))
  }
  else if (what === 'handle') {
    const shape = chosenShape()
    if (shape?.thing.kind === 'shape') bench.act('changing the shape', () => recording.desk.change(shape.id, { ...shape.thing, handles: (shape.thing as { handles: Spot[] }).handles.map((h, i) => i === handle ? to : h) } as typeof shape.thing, now))
  }
  else if (what === 'mark') markWords(from, to, moved)
  else if (what === 'light') bench.act('the light', () => recording.desk.spot(moved ? between(from, to) : null, now))
  else if (what === 'closer') bench.act('going closer', () => recording.desk.look(moved ? closerTo(between(from, to)) : null, now, settings.remembered.calm ? 0 : 700))
}

/** A second tap on a chosen line opens it. */
function openChosen() {
  const hit = bench.board.things.find(t => t.id === bench.selection[0])
  if (hit?.thing.kind === 'line') bench.editLine(hit.id, hit.thing as LineThing)
}

/** 16:9 round a piece of the page; never so near that a single letter fills the picture. */
function closerTo(box: Box): Box {
  const w = Math.max(box.w, (box.h * 16) / 9, props.frame.box.w / 6)
  const h = (w * 9) / 16
  return { x: box.x + box.w / 2 - w / 2, y: box.y + box.h / 2 - h / 2, w, h }
}

function markWords(a: Spot, b: Spot, moved: boolean) {
  const boxes = wordsBetween(bench.words, a, b)
  const mark = settings.remembered.textMark
  if (!boxes.length && moved) boxes.push(['underline', 'strike'].includes(mark) ? { ...between(a, { x: b.x, y: a.y }), h: 1 } : between(a, b))
  if (!boxes.length) return
  const role = mark === 'band' && bench.role === 'working' ? 'given' as const : bench.role
  tried.value = !recording.recorder
  bench.act('marking words', () => recording.desk.place({ kind: 'mark', mark, role, boxes: mark === 'ring' || mark === 'box' ? [boxes.reduce((u, x) => ({ x: Math.min(u.x, x.x), y: Math.min(u.y, x.y), w: Math.max(u.x + u.w, x.x + x.w) - Math.min(u.x, x.x), h: Math.max(u.y + u.h, x.y + x.h) - Math.min(u.y, x.y) }))] : boxes }, performance.now(), 200))
}

/** What is seen of a gesture while it is made. */
function gesture(): Mark[] {
  if (!doing || doing.path.length < 2) return []
  const from = doing.path[0]!, to = doing.path[doing.path.length - 1]!
  const line = { stroke: '#1d3f8f', width: 1.2 / scale.value, dash: [5 / scale.value, 4 / scale.value] }
  if (doing.what === 'ring') return [{ d: polyline(doing.path, true), ...line }]
  if (doing.what === 'drag' && bench.chosenBox) return [{ d: boxPath({ ...bench.chosenBox, x: bench.chosenBox.x + to.x - from.x, y: bench.chosenBox.y + to.y - from.y }), ...line }]
  if (doing.what === 'grow' && bench.chosenBox) return [{ d: boxPath(between(bench.chosenBox, to)), ...line }]
  if (doing.what === 'handle') return [{ d: ellipsePath(to.x, to.y, 5 / scale.value), ...line }]
  if (doing.what === 'closer') return [{ d: boxPath(closerTo(between(from, to))), ...line }]
  if (doing.what === 'light') return [{ d: boxPath(between(from, to)), ...line }]
  if (doing.what === 'mark') {
    const boxes = wordsBetween(bench.words, from, to)
    return boxes.length ? boxes.map(b => ({ d: boxPath(b), fill: '#e0a526', alpha: 0.25 })) : [{ d: boxPath(between(from, to)), ...line }]
  }
  return []
}

function sweep(to: PenSample) {
  const from = doing?.path[doing.path.length - 1] ?? to
  const board = recording.desk.board.last(props.page.id)
  if (settings.remembered.eraser === 'pieces') {
    const left = sweptPieces(board, from, to, 4)
    if (left.length) bench.act('rubbing out', () => recording.desk.cut(left, to.now))
    return
  }
  const hit = swept(board, from, to, 4)
  if (hit.length) bench.act('rubbing out', () => recording.desk.erase(hit, to.now))
}

onMounted(() => {
  surface = new BoardSurface(base.value!, top.value!, error => notices.tell(error, 'showing the page'))
  const device = listenToPen(top.value!, listener)
  onBeforeUnmount(device.close)
})
watch([() => props.page, () => props.frame], () => {
  bench.page = props.page
  bench.frameBox = props.frame.box
}, { immediate: true })
watch([width, height, view, () => props.page.id], () => {
  if (folio.folio && width.value > 0) surface?.place(props.page, folio.folio, props.frame, view.value, width.value, height.value)
  draw()
}, { flush: 'post' })
watch(() => props.shown, (events) => {
  shownBoard = new BoardIndex(events, [], props.first ?? undefined)
  draw()
})
watch(() => recording.recorder, () => {
  recording.clearRehearsal()
  tried.value = false
  live = null
  draw()
})
watch([() => recording.changes, () => bench.held, () => bench.selection], () => draw())
watch(() => props.frame, () => {
  recording.clearRehearsal()
  tried.value = false
  backToFrame()
  if (recording.state === 'running' && live) listener.up()
})
const cursor = computed(() => bench.tool === 'eraser' ? 'cursor-cell' : bench.tool === 'line' ? 'cursor-text' : bench.tool === 'choose' && bench.chosenBox ? 'cursor-move' : 'cursor-crosshair')
const box = (b: { left: number, top: number, width: number, height: number }) => ({ left: `${b.left}px`, top: `${b.top}px`, width: `${b.width}px`, height: `${b.height}px` })
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
      :class="cursor"
      aria-label="The page to write on"
      @wheel.prevent="wheel"
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
      :style="box({ left: chosenPx.left - 5, top: chosenPx.top - 5, width: chosenPx.width + 10, height: chosenPx.height + 10 })"
      data-part="chosen"
    >
      <span class="absolute -right-1.5 -bottom-1.5 size-3 border border-(--frame) bg-default" />
    </div>
    <p
      v-if="measure"
      class="pointer-events-none absolute border border-(--rule) bg-default px-2 text-sm"
      :style="{ left: `${measure.x}px`, top: `${measure.y}px` }"
      data-part="measure"
    >
      {{ measure.text }}
    </p>
    <p
      v-if="tried && recording.state === 'rest'"
      class="pointer-events-none absolute left-1/2 -translate-x-1/2 border border-default bg-default px-3 py-1 text-sm"
      :style="{ top: `${Math.max(4, framePx.top - 30)}px` }"
    >
      Trying the pen. This is cleared when the take begins.
    </p>
    <LineEditor
      v-if="bench.draft"
      :key="`${bench.draft.at.x},${bench.draft.at.y}`"
      :draft="bench.draft"
      :left="(bench.draft.at.x - view.x) * scale"
      :top="(bench.draft.at.y - view.y) * scale"
      :scale="scale"
      :room="{ width, height }"
    />
    <SpokenLines :board="bench.board" />
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
