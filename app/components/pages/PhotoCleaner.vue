<script setup lang="ts">
import { newId } from '#core/folio'
import { isSheet, straightSize, wholePicture, type Quad, type SheetFormat } from '#core/photo'

/** A photo being straightened: its corners are found, can be dragged or moved by keys, and the original stays. */
const props = defineProps<{ pageId: string }>()
const emit = defineEmits<{ close: [] }>()
const store = useFolio()
const photos = usePhotos()
const notices = useNotices()
const page = computed(() => store.folio?.pages.find(p => p.id === props.pageId))
const open = computed({ get: () => true, set: () => emit('close') })
const area = ref<HTMLElement>()
const address = ref('')
const size = ref({ width: 1, height: 1 })
const corners = ref<Quad>(wholePicture(1, 1))
const thing = ref(false)
const even = ref(true)
const format = ref<SheetFormat>('guess')
const FORMATS = [
  { label: 'As it is seen, A4 or Letter if near', value: 'guess' },
  { label: 'A4', value: 'a4' },
  { label: 'Letter', value: 'letter' },
  { label: 'Square', value: 'square' },
  { label: 'Free: just as it is seen', value: 'free' },
]
/** The shape that it will have, in words. */
const shape = computed(() => {
  if (!good.value) return ''
  const { width, height } = straightSize(corners.value, size.value, format.value)
  return `${(Math.max(width, height) / Math.min(width, height)).toFixed(2)} to 1, ${height >= width ? 'upright' : 'across'}`
})
const busy = ref('')
const found = ref<boolean | null>(null)
const { width: wide, height: high } = useElementSize(area)
const scale = computed(() => Math.min(wide.value / size.value.width, high.value / size.value.height) || 0.1)
const good = computed(() => isSheet(corners.value))

onMounted(async () => {
  if (page.value?.kind !== 'image') return
  busy.value = 'Looking for the sheet'
  try {
    const original = await photos.original(page.value)
    address.value = URL.createObjectURL(original.blob)
    size.value = { width: original.width, height: original.height }
    corners.value = page.value.cleaning
      ? (JSON.parse(JSON.stringify(page.value.cleaning.corners)) as Quad)
      : wholePicture(original.width, original.height)
    if (page.value.cleaning) even.value = page.value.cleaning.even
    else {
      const quad = await photos.findCorners(original.blob)
      found.value = quad !== null
      if (quad) corners.value = quad
      else thing.value = true
    }
  } catch (error) {
    notices.tell(error, 'looking for the sheet')
  }
  busy.value = ''
})
onBeforeUnmount(() => URL.revokeObjectURL(address.value))

let held = -1
function at(event: PointerEvent) {
  const rect = area.value!.querySelector('img')!.getBoundingClientRect()
  return {
    x: Math.max(0, Math.min(size.value.width, (event.clientX - rect.left) / scale.value)),
    y: Math.max(0, Math.min(size.value.height, (event.clientY - rect.top) / scale.value)),
  }
}
function grab(i: number, event: PointerEvent) {
  held = i
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent) {
  if (held >= 0) moveCorner(held, at(event))
}
/** A thing is cropped square to the picture: its neighbours follow a corner. */
function moveCorner(i: number, to: { x: number; y: number }) {
  const next = corners.value.map(p => ({ ...p })) as Quad
  next[i] = to
  if (thing.value) {
    const across = i ^ 1,
      down = 3 - i
    next[across]!.y = to.y
    next[down]!.x = to.x
  }
  corners.value = next
}
function nudge(i: number, event: KeyboardEvent) {
  const by = (event.shiftKey ? 20 : 2) / scale.value
  const d = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key]
  if (!d) return
  event.preventDefault()
  const p = corners.value[i]!
  moveCorner(i, {
    x: Math.max(0, Math.min(size.value.width, p.x + d[0]!)),
    y: Math.max(0, Math.min(size.value.height, p.y + d[1]!)),
  })
}
watch(thing, value => {
  if (!value) return
  const xs = corners.value.map(p => p.x),
    ys = corners.value.map(p => p.y)
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  corners.value = [
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ]
})
async function apply() {
  if (page.value?.kind !== 'image') return
  busy.value = thing.value ? 'Cropping' : 'Straightening'
  try {
    await photos.clean(
      page.value,
      corners.value,
      even.value && !thing.value,
      newId(),
      thing.value ? 'free' : format.value,
    )
    emit('close')
  } catch (error) {
    notices.tell(error, 'straightening the photo')
  }
  busy.value = ''
}
async function asItWas() {
  if (page.value?.kind === 'image') await photos.restore(page.value)
  emit('close')
}
</script>

<template>
  <UModal
    v-model:open="open"
    fullscreen
    title="Straighten the photo"
    description="Put the four corners on the corners of the sheet. The photo itself stays as it is."
  >
    <template #body>
      <div class="grid h-full grid-cols-[1fr_16rem] gap-5">
        <div
          ref="area"
          class="relative grid min-h-0 place-items-center overflow-hidden bg-(--paper)"
          data-part="photo"
          @pointermove="drag"
          @pointerup="held = -1"
        >
          <div
            v-if="address"
            class="relative"
            :style="{ width: `${size.width * scale}px`, height: `${size.height * scale}px` }"
          >
            <img
              :src="address"
              alt="The photo as it was taken"
              class="size-full"
              draggable="false"
            />
            <svg
              class="pointer-events-none absolute inset-0 size-full"
              :viewBox="`0 0 ${size.width} ${size.height}`"
              preserveAspectRatio="none"
            >
              <path
                :d="`M0 0H${size.width}V${size.height}H0ZM${corners.map(p => `${p.x} ${p.y}`).join('L')}Z`"
                fill="rgb(20 20 20 / 0.45)"
                fill-rule="evenodd"
              />
              <polygon
                :points="corners.map(p => `${p.x},${p.y}`).join(' ')"
                fill="none"
                :stroke="good ? '#3c67b5' : '#d2452a'"
                stroke-width="2.5"
                vector-effect="non-scaling-stroke"
              />
            </svg>
            <button
              v-for="(corner, i) in corners"
              :key="i"
              type="button"
              class="corner"
              :style="{ left: `${corner.x * scale}px`, top: `${corner.y * scale}px` }"
              :aria-label="['Top left corner', 'Top right corner', 'Bottom right corner', 'Bottom left corner'][i]"
              @pointerdown="grab(i, $event)"
              @keydown="nudge(i, $event)"
            />
          </div>
        </div>
        <div class="flex flex-col gap-4">
          <p
            v-if="busy"
            role="status"
          >
            {{ busy }}
            <UProgress class="mt-2" />
          </p>
          <p
            v-else-if="found === false"
            class="text-toned"
            role="status"
          >
            No sheet of paper was found in it. Set the corners by hand, or only crop it.
          </p>
          <URadioGroup
            :model-value="thing ? 'thing' : 'sheet'"
            :items="[
              { label: 'A sheet of paper', value: 'sheet', description: 'Straightened at its corners' },
              { label: 'A thing', value: 'thing', description: 'Only cropped' },
            ]"
            legend="What it shows"
            @update:model-value="
              value => {
                thing = value === 'thing'
              }
            "
          />
          <UFormField
            v-if="!thing"
            label="Format of the sheet"
            :help="shape"
          >
            <USelect
              v-model="format"
              :items="FORMATS"
              class="w-full"
              aria-label="Format of the sheet"
            />
          </UFormField>
          <UCheckbox
            v-model="even"
            :disabled="thing"
            label="Even out the light"
            description="Shadow gone, paper white, pencil kept"
          />
          <p
            v-if="!good"
            class="text-(--taking)"
          >
            The corners cross each other.
          </p>
          <UButton
            size="lg"
            :disabled="Boolean(busy) || !good"
            @click="apply"
          >
            {{ thing ? 'Crop it' : 'Straighten it' }}
          </UButton>
          <UButton
            v-if="page?.kind === 'image' && page.original"
            color="neutral"
            variant="outline"
            :disabled="Boolean(busy)"
            @click="asItWas"
          >
            As it was taken
          </UButton>
        </div>
      </div>
    </template>
  </UModal>
</template>

<style scoped>
.corner {
  position: absolute;
  width: 30px;
  height: 30px;
  margin: -15px;
  border: 3px solid #1f3f80;
  background: rgb(255 255 255 / 0.55);
  border-radius: 50%;
  cursor: grab;
  touch-action: none;
}
</style>
