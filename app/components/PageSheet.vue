<script setup lang="ts">
import { boxBetween, clamp, type Box, type Page, type Question } from '#core/folio'
import { pictureOfPage } from '../pdf/pageStore'

/** A page with the regions of its questions; regions are drawn, moved and resized on it. */
const props = defineProps<{ page: Page, number: number, width: number, questions: readonly Question[], selected: string | null, readOnly: boolean }>()
const emit = defineEmits<{ draw: [box: Box], place: [questionId: string, regionId: string, box: Box], select: [questionId: string], dropRegion: [questionId: string, regionId: string] }>()
const store = useFolio()
const notices = useNotices()
const sheet = ref<HTMLElement>()
const holder = ref<HTMLElement>()
const scale = computed(() => props.width / props.page.width)
const seen = ref(false)
const drawn = ref<Box | null>(null)
let painted = 0

useIntersectionObserver(sheet, ([entry]) => { seen.value = entry!.isIntersecting }, { rootMargin: '600px' })
watch([seen, scale, () => props.page.id], async () => {
  if (!seen.value || !store.folio || painted === scale.value) return
  painted = scale.value
  try {
    const { page } = props
    const canvas = await pictureOfPage(page, store.folio, { x: 0, y: 0, w: page.width, h: page.height }, scale.value * Math.min(2, devicePixelRatio))
    canvas.className = 'size-full'
    holder.value?.replaceChildren(canvas)
  }
  catch (error) {
    painted = 0
    notices.tell(error, `showing page ${props.number}`)
  }
}, { immediate: true, flush: 'post' })

const regions = computed(() => props.questions.flatMap(q => q.regions.filter(r => r.pageId === props.page.id).map(region => ({ question: q, region }))))

type Grip = 'move' | 'n' | 's' | 'w' | 'e' | 'nw' | 'ne' | 'sw' | 'se'
const GRIPS: Grip[] = ['n', 's', 'w', 'e', 'nw', 'ne', 'sw', 'se']
const held = ref<{ questionId: string, regionId: string, grip: Grip, from: { x: number, y: number }, start: Box, box: Box } | null>(null)
let origin: { x: number, y: number } | null = null

function at(event: PointerEvent) {
  const rect = sheet.value!.getBoundingClientRect()
  return { x: (event.clientX - rect.left) / scale.value, y: (event.clientY - rect.top) / scale.value }
}
function begin(event: PointerEvent) {
  if (props.readOnly || event.button !== 0) return
  sheet.value!.setPointerCapture(event.pointerId)
  origin = at(event)
}
function take(event: PointerEvent, questionId: string, regionId: string, grip: Grip, box: Box) {
  emit('select', questionId)
  if (props.readOnly || event.button !== 0) return
  event.stopPropagation()
  sheet.value!.setPointerCapture(event.pointerId)
  held.value = { questionId, regionId, grip, from: at(event), start: box, box }
}
function move(event: PointerEvent) {
  const p = at(event)
  if (held.value) held.value = { ...held.value, box: moved(held.value, p) }
  else if (origin) drawn.value = boxBetween(origin, p, props.page, 4)
}
function end(event: PointerEvent) {
  const p = at(event)
  if (held.value) {
    const { questionId, regionId, start } = held.value
    const box = moved(held.value, p)
    if (box.x !== start.x || box.y !== start.y || box.w !== start.w || box.h !== start.h) emit('place', questionId, regionId, box)
  }
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
}
function moved({ grip, from, start }: NonNullable<typeof held.value>, p: { x: number, y: number }): Box {
  const dx = p.x - from.x, dy = p.y - from.y
  const { width, height } = props.page
  if (grip === 'move') return { ...start, x: clamp(start.x + dx, 0, width - start.w), y: clamp(start.y + dy, 0, height - start.h) }
  const a = { x: start.x + (grip.includes('w') ? dx : 0), y: start.y + (grip.includes('n') ? dy : 0) }
  const b = { x: start.x + start.w + (grip.includes('e') ? dx : 0), y: start.y + start.h + (grip.includes('s') ? dy : 0) }
  return boxBetween(a, b, props.page) ?? start
}
const style = (box: Box) => ({ left: `${box.x * scale.value}px`, top: `${box.y * scale.value}px`, width: `${box.w * scale.value}px`, height: `${box.h * scale.value}px` })
const boxOf = (regionId: string, box: Box) => held.value?.regionId === regionId ? held.value.box : box
</script>

<template>
  <figure class="mx-auto mb-7 w-max">
    <div
      ref="sheet"
      class="sheet relative border border-(--rule) bg-white"
      :class="{ 'cursor-crosshair': !readOnly }"
      :style="{ width: `${width}px`, height: `${page.height * scale}px` }"
      data-part="page"
      @pointerdown="begin"
      @pointermove="move"
      @pointerup="end"
      @pointercancel="forget"
    >
      <div
        ref="holder"
        class="absolute inset-0"
      />
      <div
        v-for="{ question, region } in regions"
        :key="region.id"
        class="region absolute"
        :class="{ selected: question.id === selected }"
        :style="style(boxOf(region.id, region.box))"
        data-part="region"
        @pointerdown="take($event, question.id, region.id, 'move', region.box)"
      >
        <span class="tag serif">{{ question.number }}</span>
        <template v-if="question.id === selected && !readOnly">
          <span
            v-for="grip in GRIPS"
            :key="grip"
            class="grip"
            :class="grip"
            @pointerdown="take($event, question.id, region.id, grip, region.box)"
          />
          <button
            v-if="question.regions.length > 1"
            type="button"
            class="drop"
            :aria-label="`Remove this region of question ${question.number}`"
            title="Remove this region; undo brings it back"
            @pointerdown.stop
            @click="emit('dropRegion', question.id, region.id)"
          >
            <UIcon name="i-lucide-x" />
          </button>
        </template>
      </div>
      <div
        v-if="drawn"
        class="region selected absolute"
        :style="style(drawn)"
      />
    </div>
    <figcaption class="mt-1.5 text-center text-xs text-toned">
      Page {{ number }}
    </figcaption>
  </figure>
</template>

<style scoped>
.sheet { touch-action: pan-y; }
.region { border: 1.5px solid #3c67b5; background: rgb(60 103 181 / 0.05); cursor: move; }
.region.selected { border-width: 2px; border-color: #1f3f80; background: rgb(60 103 181 / 0.1); }
.tag { position: absolute; left: -1.5px; top: -1.5px; min-width: 1.75rem; padding: 0 0.4rem; background: #1f3f80; color: #fff; text-align: center; font-size: 1rem; line-height: 1.6rem; }

.drop { position: absolute; right: 8px; top: 8px; display: grid; place-items: center; width: 28px; height: 28px; background: #fff; color: #1f3f80; border: 1.5px solid #1f3f80; cursor: pointer; }
.grip { position: absolute; width: 13px; height: 13px; background: #fff; border: 2px solid #1f3f80; }
.grip.n, .grip.s { left: calc(50% - 6px); cursor: ns-resize; } .grip.w, .grip.e { top: calc(50% - 6px); cursor: ew-resize; }
.grip.n, .grip.nw, .grip.ne { top: -7px; } .grip.s, .grip.sw, .grip.se { bottom: -7px; }
.grip.w, .grip.nw, .grip.sw { left: -7px; } .grip.e, .grip.ne, .grip.se { right: -7px; }
.grip.nw, .grip.se { cursor: nwse-resize; } .grip.ne, .grip.sw { cursor: nesw-resize; }
</style>
