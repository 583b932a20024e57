<script setup lang="ts">
import { boxBetween, clamp, type Box, type Page } from '#core/folio'

/**
 * Something with a place on the page: a question's region, a frame, a patch. `keep` holds its shape when it is resized.
 */
export interface SheetItem {
  id: string
  kind: 'region' | 'frame' | 'patch'
  box: Box
  label: string
  selected: boolean
  proposed?: boolean
  keep?: boolean
  droppable?: boolean
}
/** A small sign inside a selected region: a part or an option. */
export interface SheetSign {
  id: string
  box: Box
  label: string
}

/**
 * A page with what has a place on it. `draw` lets rectangles be drawn, `split` shows a line where a region would be split,
 * `room` a line where room would be made, dragged down for as much as is wanted.
 */
const props = defineProps<{
  page: Page
  number: number
  width: number
  items: readonly SheetItem[]
  signs: readonly SheetSign[]
  mode: 'draw' | 'split' | 'room'
  readOnly: boolean
}>()
const emit = defineEmits<{
  draw: [box: Box]
  place: [item: SheetItem, box: Box]
  select: [item: SheetItem]
  drop: [item: SheetItem]
  line: [y: number, size: number]
}>()
const notices = useNotices()
const sheet = ref<HTMLElement>()
const holder = ref<HTMLElement>()
const scale = computed(() => props.width / props.page.width)
const drawn = ref<Box | null>(null)
const line = ref<{ y: number; size: number } | null>(null)
usePagePicture(
  holder,
  () => props.page,
  () => scale.value,
  { near: '600px', css: 'size-full', failed: error => notices.tell(error, `showing page ${props.number}`) },
)

type Grip = 'move' | 'n' | 's' | 'w' | 'e' | 'nw' | 'ne' | 'sw' | 'se'
const GRIPS: Grip[] = ['n', 's', 'w', 'e', 'nw', 'ne', 'sw', 'se']
const held = ref<{ item: SheetItem; grip: Grip; from: { x: number; y: number }; box: Box } | null>(null)
let origin: { x: number; y: number } | null = null

function at(event: PointerEvent) {
  const rect = sheet.value!.getBoundingClientRect()
  return { x: (event.clientX - rect.left) / scale.value, y: (event.clientY - rect.top) / scale.value }
}
function begin(event: PointerEvent) {
  if (props.readOnly || event.button !== 0) return
  sheet.value!.setPointerCapture(event.pointerId)
  origin = at(event)
  if (props.mode !== 'draw') line.value = { y: origin.y, size: 0 }
}
function take(event: PointerEvent, item: SheetItem, grip: Grip) {
  if (props.mode !== 'draw') return
  emit('select', item)
  if (props.readOnly || event.button !== 0) return
  event.stopPropagation()
  sheet.value!.setPointerCapture(event.pointerId)
  held.value = { item, grip, from: at(event), box: item.box }
}
function move(event: PointerEvent) {
  const p = at(event)
  if (held.value) held.value = { ...held.value, box: moved(held.value, p) }
  else if (props.mode !== 'draw')
    line.value =
      origin && props.mode === 'room' ? { y: origin.y, size: Math.max(0, p.y - origin.y) } : { y: p.y, size: 0 }
  else if (origin) drawn.value = boxBetween(origin, p, props.page, 4)
}
function end(event: PointerEvent) {
  const p = at(event)
  if (held.value) {
    const { item } = held.value,
      box = moved(held.value, p)
    if (box.x !== item.box.x || box.y !== item.box.y || box.w !== item.box.w || box.h !== item.box.h)
      emit('place', item, box)
  } else if (origin && props.mode !== 'draw') emit('line', origin.y, p.y - origin.y)
  else if (origin) {
    const box = boxBetween(origin, p, props.page)
    if (box) emit('draw', box)
  }
  forget()
}
function forget() {
  origin = null
  held.value = null
  drawn.value = null
  line.value = null
}
function moved({ item, grip, from }: NonNullable<typeof held.value>, p: { x: number; y: number }): Box {
  const dx = p.x - from.x,
    dy = p.y - from.y
  const { width, height } = props.page
  const start = item.box
  if (grip === 'move')
    return item.keep
      ? { ...start, x: start.x + dx, y: start.y + dy }
      : {
          ...start,
          x: clamp(start.x + dx, 0, Math.max(0, width - start.w)),
          y: clamp(start.y + dy, 0, Math.max(0, height - start.h)),
        }
  const a = { x: start.x + (grip.includes('w') ? dx : 0), y: start.y + (grip.includes('n') ? dy : 0) }
  const b = {
    x: start.x + start.w + (grip.includes('e') ? dx : 0),
    y: start.y + start.h + (grip.includes('s') ? dy : 0),
  }
  if (!item.keep) return boxBetween(a, b, props.page) ?? start
  // A frame keeps 16:9: the side that is pulled leads, the opposite corner stays.
  const ratio = start.w / start.h
  const w = Math.max(120, grip === 'n' || grip === 's' ? (b.y - a.y) * ratio : b.x - a.x),
    h = w / ratio
  return {
    x: grip.includes('w') ? start.x + start.w - w : start.x,
    y: grip.includes('n') ? start.y + start.h - h : start.y,
    w,
    h,
  }
}
const style = (box: Box) => ({
  left: `${box.x * scale.value}px`,
  top: `${box.y * scale.value}px`,
  width: `${box.w * scale.value}px`,
  height: `${box.h * scale.value}px`,
})
const boxOf = (item: SheetItem) => (held.value?.item.id === item.id ? held.value.box : item.box)
</script>

<template>
  <figure class="mx-auto mb-7 w-max">
    <div
      ref="sheet"
      class="sheet relative border border-(--rule) bg-white"
      :class="readOnly ? '' : mode === 'draw' ? 'cursor-crosshair' : 'lining cursor-row-resize'"
      :style="{ width: `${width}px`, height: `${page.height * scale}px` }"
      data-part="page"
      @pointerdown="begin"
      @pointermove="move"
      @pointerup="end"
      @pointercancel="forget"
      @pointerleave="mode !== 'draw' && !origin && (line = null)"
    >
      <div
        ref="holder"
        class="absolute inset-0"
      />
      <div
        v-for="item in items"
        :key="item.id"
        class="item absolute"
        :class="[item.kind, { selected: item.selected, proposed: item.proposed }]"
        :style="style(boxOf(item))"
        :data-part="item.kind"
        @pointerdown="take($event, item, 'move')"
      >
        <span
          v-if="item.label"
          class="tag serif"
          >{{ item.label }}</span
        >
        <template v-if="item.selected && !readOnly && mode === 'draw'">
          <span
            v-for="grip in GRIPS"
            :key="grip"
            class="grip"
            :class="grip"
            @pointerdown="take($event, item, grip)"
          />
          <button
            v-if="item.droppable"
            type="button"
            class="drop"
            :aria-label="`Remove this ${item.kind}${item.kind === 'region' ? ` of question ${item.label}` : ''}`"
            title="Remove it; undo brings it back"
            @pointerdown.stop
            @click="emit('drop', item)"
          >
            <UIcon name="i-lucide-x" />
          </button>
        </template>
      </div>
      <span
        v-for="sign in signs"
        :key="sign.id"
        class="sign serif"
        :style="{ left: `${sign.box.x * scale - 4}px`, top: `${sign.box.y * scale}px` }"
        >{{ sign.label }}</span
      >
      <div
        v-if="drawn"
        class="item region selected absolute"
        :style="style(drawn)"
      />
      <div
        v-if="line"
        class="line pointer-events-none absolute inset-x-0"
        :style="{ top: `${line.y * scale}px`, height: `${line.size * scale}px` }"
      />
    </div>
    <figcaption class="mt-1.5 text-center text-xs text-toned">
      Page {{ number }}{{ page.sheet ? `, reference sheet “${page.sheet}”` : '' }}
    </figcaption>
  </figure>
</template>

<style scoped>
.sheet {
  touch-action: pan-y;
}
.lining .item {
  pointer-events: none;
}
.item {
  border: 1.5px solid #3c67b5;
  background: rgb(60 103 181 / 0.05);
  cursor: move;
}
.item.selected {
  border-width: 2px;
  border-color: #1f3f80;
  background: rgb(60 103 181 / 0.1);
}
.item.proposed {
  border-style: dashed;
  background: none;
}
.item.proposed.selected {
  background: rgb(60 103 181 / 0.08);
}
.item.proposed .tag {
  background: #fff;
  color: #1f3f80;
  border: 1.5px dashed #1f3f80;
}
.item.frame,
.item.frame.selected {
  border: 2px solid #1f3f80;
  background: none;
  outline: 1px solid #fff;
}
.item.patch {
  border: 1.5px dotted #b93618;
  background: none;
}
.tag {
  position: absolute;
  right: calc(100% + 1px);
  top: -1.5px;
  min-width: 1.75rem;
  padding: 0 0.4rem;
  background: #1f3f80;
  color: #fff;
  text-align: center;
  font-size: 1rem;
  line-height: 1.6rem;
}
.frame .tag {
  right: auto;
  left: -1.5px;
}
.sign {
  position: absolute;
  transform: translateX(-100%);
  padding: 0 0.3rem;
  background: #dbe6f6;
  color: #16294d;
  font-size: 0.8rem;
  line-height: 1.15rem;
  pointer-events: none;
}
.line {
  border-top: 2px solid #1f3f80;
  background: repeating-linear-gradient(135deg, rgb(60 103 181 / 0.16) 0 6px, transparent 6px 12px);
}
.drop {
  position: absolute;
  right: 8px;
  top: 8px;
  display: grid;
  place-items: center;
  width: 28px;
  height: 28px;
  background: #fff;
  color: #1f3f80;
  border: 1.5px solid #1f3f80;
  cursor: pointer;
}
.grip {
  position: absolute;
  width: 13px;
  height: 13px;
  background: #fff;
  border: 2px solid #1f3f80;
}
.grip.n,
.grip.s {
  left: calc(50% - 6px);
  cursor: ns-resize;
}
.grip.w,
.grip.e {
  top: calc(50% - 6px);
  cursor: ew-resize;
}
.grip.n,
.grip.nw,
.grip.ne {
  top: -7px;
}
.grip.s,
.grip.sw,
.grip.se {
  bottom: -7px;
}
.grip.w,
.grip.nw,
.grip.sw {
  left: -7px;
}
.grip.e,
.grip.ne,
.grip.se {
  right: -7px;
}
.grip.nw,
.grip.se {
  cursor: nwse-resize;
}
.grip.ne,
.grip.sw {
  cursor: nesw-resize;
}
</style>
